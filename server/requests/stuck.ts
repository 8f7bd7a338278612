/** Everything that cannot go on or is past every limit, with its cause and what helps. */
import type { StuckRow } from '@north-pebble/contract';
import { isEmployed, type PersonId } from '@north-pebble/core/people';
import { civilDateAt, type Instant, toMilliseconds } from '@north-pebble/core/time';
import { nameOf, stepById, stepNumber } from '@north-pebble/core/workflow';
import { and, asc, eq, gte, inArray } from 'drizzle-orm';
import { mustHelpOn } from '../access/index.ts';
import { tables as t } from '../database/index.ts';
import type { House } from '../house.ts';
import type { Caller } from '../http/index.ts';
import { loadDefinition } from './store.ts';

const mostShown = 500;
/** The oldest first: what is late or stuck is not among the newest. */
const mostLooked = 5000;
/** So often tried that somebody should look at it. */
const manyTries = 5;

export async function stuckRequests(house: House, caller: Caller): Promise<StuckRow[]> {
  mustHelpOn(caller);
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = civilDateAt(now, 'UTC');
  const stored = await db
    .select()
    .from(t.requests)
    .where(inArray(t.requests.status, ['stuck', 'open']))
    .orderBy(asc(t.requests.number))
    .limit(mostLooked);
  const rows: StuckRow[] = [];
  for (const request of stored) {
    if (rows.length >= mostShown) break;
    const { state } = request;
    const definition = await loadDefinition(db, request.workflow, request.workflowVersion);
    const about = {
      request: request.id ?? '',
      version: state.version,
      title: request.title,
      workflowName: definition.name,
      askerName: nameOf(index, request.asker as PersonId),
      since: request.askedAt as Instant,
    };
    for (const { step, reason } of state.stuckAt ?? []) {
      const found = stepById(definition, step);
      const byPerson = found?.verb === 'Decide' || found?.verb === 'Do';
      rows.push({
        ...about,
        cause: byPerson ? 'no holder' : 'no value',
        step,
        number: stepNumber(definition, step),
        words: reason,
        remedies: byPerson ? ['appoint', 'try again'] : ['try again'],
      });
    }
    for (const task of state.tasks) {
      const holder = index.person(task.holder);
      const gone = !holder || !isEmployed(holder, today);
      const late = task.due !== null && task.late && toMilliseconds(task.due) < toMilliseconds(now);
      if (!gone && !late) continue;
      rows.push({
        ...about,
        cause: gone ? 'holder gone' : 'past every limit',
        step: task.step,
        task: task.id,
        number: stepNumber(definition, task.step),
        words: gone
          ? `${nameOf(index, task.holder)} does not work here any more.`
          : `${nameOf(index, task.holder)} has had it since ${task.given.slice(0, 10)}, and every limit has passed.`,
        remedies: ['give to'],
      });
    }
  }
  const failed = await db
    .select()
    .from(t.outbox)
    .where(and(eq(t.outbox.state, 'waiting'), gte(t.outbox.attempts, manyTries)))
    .limit(mostShown);
  for (const row of failed) {
    rows.push({
      request: row.key.split(':')[0],
      version: 0,
      title: row.payload.subject,
      workflowName: '',
      askerName: row.payload.address ?? nameOf(index, row.payload.to as PersonId),
      since: row.writtenAt as Instant,
      cause: 'mail not delivered',
      step: '',
      outbox: row.id,
      number: '',
      words: `Tried ${row.attempts} times.`,
      remedies: ['send again', 'done by hand'],
    });
  }
  return rows;
}

/** An effect that keeps failing: tried again at once, or marked as done by hand. */
export async function helpEffect(house: House, caller: Caller, id: number, how: 'again' | 'done'): Promise<void> {
  mustHelpOn(caller);
  await house.db
    .update(t.outbox)
    .set(how === 'again' ? { nextTry: 0 } : { state: 'sent' })
    .where(and(eq(t.outbox.id, id), eq(t.outbox.state, 'waiting')));
  house.wake();
}
