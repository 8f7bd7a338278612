/** Leave that HR books for somebody, under a request of its own in the workflow that books such leave. */
import type { BookLeave, Sent } from '@north-pebble/contract';
import { todayFor } from '@north-pebble/core/people';
import { bookingOf, type Command, handle, newRequest, type RequestState } from '@north-pebble/core/workflow';
import { isNull } from 'drizzle-orm';
import { mustKeepLeave } from '../../access/index.ts';
import { type Executor, type Statement, type Transaction, tables as t } from '../../database/index.ts';
import { contextOf, type House, loadDefinition } from '../../house/index.ts';
import { type Caller, notFound, refusedField } from '../../http/index.ts';
import { lockPerson, openRequest, storeBrought } from '../store.ts';
import { accepted, ofPerson, once } from './once.ts';

/** Books leave for somebody at once, through the live workflow that books leave of this type. */
export function bookLeave(house: House, caller: Caller, input: BookLeave): Promise<Sent> {
  return once(
    house,
    caller,
    input.id,
    input,
    async (tx, keep) => {
      const { person: subject, type, span, reason } = input;
      const { index, now } = await house.moment(tx);
      if (!index.person(subject)) throw notFound();
      mustKeepLeave(caller, subject, index, todayFor(index, subject, now));
      return bookIn(house, tx, caller, { subject, type, span, reason }, state => [keep(state)]);
    },
    ofPerson(input.person),
  );
}

/**
 * Books leave in a transaction in which it is settled that the caller may.
 * @param also the last statements of the transaction
 */
export async function bookIn(
  house: House,
  tx: Transaction,
  caller: Caller,
  booked: Omit<Extract<Command, { kind: 'book leave' }>, 'kind'>,
  also: (state: RequestState) => readonly Statement[],
): Promise<RequestState> {
  const live = await liveBookingOf(tx, booked.type);
  if (!live) throw refusedField('type', 'No workflow that is live books leave of this type.');
  const { definition, workflow, version } = live;
  await lockPerson(tx, booked.subject);
  const context = await contextOf(house, tx, { subject: booked.subject, actor: caller.id, workflow });
  const command = { kind: 'book leave', ...booked } as const;
  // A number is never given back, so what is refused is refused before it has one.
  accepted(handle(definition, newRequest('new'), command, context));
  const opened = await openRequest(tx, {
    ...{ workflow, workflowVersion: version, asker: caller.id },
    ...{ now: context.now, state: newRequest },
  });
  const brought = accepted(handle(definition, opened.state, command, context));
  await storeBrought(tx, definition, opened, brought, context, also(brought.state));
  return brought.state;
}

async function liveBookingOf(db: Executor, type: string) {
  const rows = await db
    .select({ id: t.workflows.id, version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(isNull(t.workflows.archivedAt));
  for (const { id, version } of rows) {
    if (!version) continue;
    const definition = await loadDefinition(db, id, version);
    if (bookingOf(definition, type)) return { workflow: id, version, definition };
  }
  return undefined;
}
