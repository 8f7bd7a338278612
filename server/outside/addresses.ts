/** The public address of a workflow: given out, kept to days and a number, renewed and shut. */
import { randomBytes } from 'node:crypto';
import type { KeepPublic, PublicAddressView } from '@north-pebble/contract';
import { type CivilDate, civilDateAt, fullDate, type Instant } from '@north-pebble/core/time';
import { type Definition, shutOutside } from '@north-pebble/core/workflow';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { mustPublish, workflowRights } from '../access/index.ts';
import { type Executor, inTransaction, type Statement, type Transaction, tables as t } from '../database/index.ts';
import { type House, loadDefinition } from '../house/index.ts';
import { type Caller, notFound, ProblemError } from '../http/index.ts';
import { rowFor } from '../workflows/index.ts';

type PublicForm = typeof t.publicForms.$inferSelect;

/** Why nothing is taken in at an address now, in words for whoever stands before it; nothing where it is. */
export function whyShut(form: PublicForm, definition: Definition | null, day: CivilDate): string | null {
  if (!definition) return 'This is not taken in any more.';
  if (form.shut) return 'This is not taken in now.';
  if (form.firstDay && day < form.firstDay) return `This can be sent from ${fullDate(form.firstDay as CivilDate)} on.`;
  if (form.lastDay && day > form.lastDay)
    return `This could be sent until ${fullDate(form.lastDay as CivilDate)}. Nothing is taken in any more.`;
  if (form.most !== null && form.taken >= form.most)
    return 'As many have been sent as are taken in. Nothing more is taken in.';
  return shutOutside(definition, day) ?? null;
}

async function liveOf(db: Executor, workflow: string): Promise<Definition | null> {
  const [row] = await db
    .select({ version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(and(eq(t.workflows.id, workflow), isNull(t.workflows.archivedAt)));
  return row?.version ? loadDefinition(db, workflow, row.version) : null;
}

export type Opened = { readonly form: PublicForm; readonly definition: Definition; readonly why: string | null };

/** What stands at an address. One that was renewed, or never was, opens nothing; both sound alike. */
export async function openAddress(db: Executor, token: string, now: Instant): Promise<Opened> {
  const [form] = await db.select().from(t.publicForms).where(eq(t.publicForms.token, token));
  const definition = form && (await liveOf(db, form.workflow));
  if (!form || !definition?.opening?.outside)
    throw new ProblemError('not found', 'This address does not work. Ask whoever gave it to you for the newest one.');
  return { form, definition, why: whyShut(form, definition, civilDateAt(now, 'UTC')) };
}

/** Counts one more in, in the transaction that takes it in; refused where that would be one too many. */
export async function countIn(tx: Transaction, token: string, now: Instant): Promise<readonly Statement[]> {
  const [form] = await tx.select().from(t.publicForms).where(eq(t.publicForms.token, token)).for('update');
  const why = form
    ? whyShut(form, await liveOf(tx, form.workflow), civilDateAt(now, 'UTC'))
    : 'This address does not work.';
  if (!form || why !== null) throw new ProblemError('closed', why ?? 'This address does not work.');
  return [
    sql`update ${t.publicForms} set ${sql.identifier('taken')} = ${sql.identifier('taken')} + 1 where ${eq(t.publicForms.workflow, form.workflow)}`,
  ];
}

export async function addressOf(house: House, caller: Caller, id: string): Promise<PublicAddressView> {
  const { db } = house;
  const row = await rowFor(db, caller, id);
  const definition = await liveOf(db, id);
  const [form] = await db.select().from(t.publicForms).where(eq(t.publicForms.workflow, id));
  const now = await house.now(db);
  const none = 'The version that is live is not asked for from outside.';
  const why = definition?.opening?.outside
    ? form
      ? whyShut(form, definition, civilDateAt(now, 'UTC'))
      : 'The address has not been given out yet.'
    : none;
  return {
    address: form ? `${house.address}/apply#${form.token}` : null,
    firstDay: (form?.firstDay ?? null) as CivilDate | null,
    lastDay: (form?.lastDay ?? null) as CivilDate | null,
    most: form?.most ?? null,
    taken: form?.taken ?? 0,
    shut: form?.shut ?? false,
    why,
    mayKeep: workflowRights(caller, row.permissions).publish,
  };
}

export async function keepAddress(
  house: House,
  caller: Caller,
  id: string,
  { firstDay, lastDay, most, shut, renew }: KeepPublic,
): Promise<PublicAddressView> {
  await inTransaction(house.db, async tx => {
    const row = await rowFor(tx, caller, id, true);
    mustPublish(caller, row.permissions);
    if (!(await liveOf(tx, id))?.opening?.outside) throw notFound();
    const [form] = await tx.select().from(t.publicForms).where(eq(t.publicForms.workflow, id)).for('update');
    const token = form && !renew ? form.token : randomBytes(32).toString('base64url');
    const at = await house.now(tx);
    const kept = { token, firstDay, lastDay, most, shut, at, by: caller.id };
    await tx
      .insert(t.publicForms)
      .values({ workflow: id, taken: 0, ...kept })
      .onDuplicateKeyUpdate({ set: kept });
  });
  return addressOf(house, caller, id);
}
