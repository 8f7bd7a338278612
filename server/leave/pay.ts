/** What pay is told of leave: a period by person and day, with what has become of days that it was told of before. */
import type { Writable } from 'node:stream';
import type { NewPayExport, PayExportsView } from '@north-pebble/contract';
import { type PayLine, payLines, typeOn } from '@north-pebble/core/leave';
import { type DirectoryIndex, type PersonId, personName, recordOn, todayFor } from '@north-pebble/core/people';
import { addDays, type CivilDate, type Instant, toDay } from '@north-pebble/core/time';
import { asc, desc, eq, gte } from 'drizzle-orm';
import { inLedger, inTransaction, tables as t } from '../database/index.ts';
import { type House, rulesFor } from '../house/index.ts';
import { type Caller, dayCell, mustHave, notFound, ProblemError, refusedField, writeCsv } from '../http/index.ts';

const mostDays = 400;
/** So many days before a period pay is still told of what has become of days that it was told of: two years. */
const daysBack = 731;

export async function payView(house: House, caller: Caller): Promise<PayExportsView> {
  mustHave(caller, 'keep records');
  const index = await house.directory(house.db);
  const { id, from, to, by, at } = t.payExports;
  const rows = await house.db.select({ id, from, to, by, at }).from(t.payExports).orderBy(desc(id)).limit(100);
  return rows.map(row => ({
    id: row.id,
    from: row.from as CivilDate,
    to: row.to as CivilDate,
    by: personName(index, row.by as PersonId),
    at: row.at as Instant,
  }));
}

export async function makePayExport(house: House, caller: Caller, { from, to }: NewPayExport): Promise<{ id: number }> {
  mustHave(caller, 'keep records');
  if (toDay(to) - toDay(from) >= mostDays) throw refusedField('to', `Tell pay of at most ${mostDays} days at once.`);
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const earliest = addDays(from, -daysBack);
  const { id, from: begins, to: ends } = t.payExports;
  const all = await db.select({ id, from: begins, to: ends }).from(t.payExports).orderBy(asc(id));
  // Days that may have been told of longer ago are left alone: what was told of them is not looked at any more.
  const old = all.filter(one => one.to < earliest).map(one => addDays(one.to as CivilDate, 1));
  const kept = all.filter(one => one.to >= earliest);
  const first = [[from, ...kept.map(one => one.from as CivilDate)].sort()[0] as CivilDate, ...old].sort().at(-1)!;
  const told = (await db.select().from(t.payExports).where(gte(ends, earliest)).orderBy(asc(id))).flatMap(one =>
    one.lines.filter(line => line.date >= first),
  );
  const toldUntil =
    all
      .map(one => one.to as CivilDate)
      .sort()
      .at(-1) ?? null;
  const people = index.directory.people.map(person => person.id);
  const last = toldUntil !== null && toldUntil > to ? toldUntil : to;
  const taken = await house.reckoning.taken(index, await rulesFor(db, index), { people, today, from: first, to: last });
  const lines = payLines(taken, told, { from, to }, toldUntil);
  return inTransaction(db, async tx => {
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    const newest = await tx.select({ id }).from(t.payExports).orderBy(desc(id)).limit(1);
    if (newest[0]?.id !== all.at(-1)?.id)
      throw new ProblemError('stale', 'Pay was told of leave a moment ago. Look at that, and tell what is left.');
    const [{ insertId }] = await tx.insert(t.payExports).values({ from, to, by: caller.id, at: now, lines });
    await inLedger(tx, { what: 'pay export', keys: [{ id: insertId }] });
    return { id: insertId };
  });
}

const costCentreOf = (index: DirectoryIndex, id: PersonId, day: CivilDate): string => {
  const person = index.person(id);
  return (person && recordOn(person, day)?.costCentre) ?? '';
};

export async function writePay(house: House, caller: Caller, id: number, out: Writable): Promise<void> {
  mustHave(caller, 'keep records');
  const { db } = house;
  const [row] = await db.select().from(t.payExports).where(eq(t.payExports.id, id));
  if (!row) throw notFound();
  const index = await house.directory(db);
  const { types } = await rulesFor(db, index);
  const typeOf = (type: string) => types.find(one => one.id === type);
  const payCodeOf = (type: string, day: CivilDate) => {
    const found = typeOf(type);
    return (found && typeOn(found, day).payCode) ?? '';
  };
  async function* lines() {
    yield (row as { lines: PayLine[] }).lines.map(({ person, type, date, days, minutes, before, code }) => [
      index.person(person)?.number ?? person,
      personName(index, person),
      costCentreOf(index, person, date),
      typeOf(type)?.name ?? type,
      code ?? payCodeOf(type, date),
      dayCell(date),
      days,
      minutes,
      before ? 'changed' : '',
      before ? before.days : '',
      before ? before.minutes : '',
    ]);
  }
  await writeCsv(
    out,
    [
      ...['Personnel number', 'Name', 'Cost centre', 'Leave type', 'Pay code', 'Day', 'Days', 'Minutes'],
      ...['Changed', 'Days told before', 'Minutes told before'],
    ],
    lines(),
  );
}
