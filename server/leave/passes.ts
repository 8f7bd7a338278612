/** Leave that HR lets pass though a limit of its type would stop it: for whom, when, by whom and why. Nothing of it is edited. */
import type { NewPass, PassesView } from '@north-pebble/contract';
import { type PersonId, personName, todayFor } from '@north-pebble/core/people';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import { and, desc, eq, isNull } from 'drizzle-orm';
import { mayKeepLeave, maySeeBalance } from '../access/index.ts';
import { inLedger, inTransaction, tables as t } from '../database/index.ts';
import { type House, rulesFor } from '../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../http/index.ts';

export async function passesOf(house: House, caller: Caller, person: PersonId): Promise<PassesView> {
  const { index, now } = await house.moment(house.db);
  if (!index.person(person) || !maySeeBalance(caller, person, index, todayFor(index, person, now))) throw notFound();
  const rows = await house.db
    .select()
    .from(t.leavePasses)
    .where(and(eq(t.leavePasses.person, person), isNull(t.leavePasses.endedAt)))
    .orderBy(desc(t.leavePasses.id))
    .limit(100);
  return rows.map(row => ({
    id: row.id,
    type: row.type,
    from: row.from as CivilDate,
    to: row.to as CivilDate,
    by: personName(index, row.by as PersonId),
    at: row.at as Instant,
    reason: row.reason,
  }));
}

/** Nobody lets leave of their own pass. */
async function mustKeep(house: House, caller: Caller, person: PersonId): Promise<void> {
  const { index, now } = await house.moment(house.db);
  if (!index.person(person)) throw notFound();
  const today = todayFor(index, person, now);
  if (person === caller.id || !mayKeepLeave(caller, person, index, today))
    throw new ProblemError('not allowed', 'HR operations let leave of others pass.');
}

export async function letPass(house: House, caller: Caller, pass: NewPass): Promise<PassesView> {
  await mustKeep(house, caller, pass.person);
  const { index, now } = await house.moment(house.db);
  const { types } = await rulesFor(house.db, index);
  if (!types.some(type => type.id === pass.type)) throw refusedField('type', 'There is no such leave type.');
  await inTransaction(house.db, async tx => {
    const [{ insertId: id }] = await tx.insert(t.leavePasses).values({ ...pass, by: caller.id, at: now });
    await inLedger(tx, { what: 'leave let pass', keys: [{ id }] });
  });
  return passesOf(house, caller, pass.person);
}

export async function takeBackPass(house: House, caller: Caller, id: number): Promise<void> {
  const [row] = await house.db.select().from(t.leavePasses).where(eq(t.leavePasses.id, id));
  if (!row) throw notFound();
  await mustKeep(house, caller, row.person as PersonId);
  const endedAt = await house.now(house.db);
  await inTransaction(house.db, async tx => {
    await tx
      .update(t.leavePasses)
      .set({ endedAt })
      .where(and(eq(t.leavePasses.id, id), isNull(t.leavePasses.endedAt)));
    await inLedger(tx, { what: 'leave let pass', keys: [{ id }] });
  });
}
