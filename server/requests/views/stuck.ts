/** Everything that cannot go on or is past every limit, with its cause and what helps. */
import type { StuckRow } from '@north-pebble/contract';
import { type DirectoryIndex, hasLeft, type PersonId, todayFor } from '@north-pebble/core/people';
import { type CivilDate, dateWords, type Instant, toMilliseconds, yearOf } from '@north-pebble/core/time';
import { askerName, askWords, nameOf, stepById, stepNumber, stuckWords } from '@north-pebble/core/workflow';
import { and, asc, eq, gte, inArray, isNull, ne, or, type SQL } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import { type House, loadDefinition, rulesFor } from '../../house/index.ts';
import { type Caller, mustHave } from '../../http/index.ts';

const mostShown = 500;
/** So often tried that somebody should look at it. */
const manyTries = 5;

type Stored = typeof t.requests.$inferSelect;

/** Requests at which something is wrong, each found by an index of its own, the oldest first. */
async function troubled({ db }: House, index: DirectoryIndex, today: CivilDate): Promise<Stored[]> {
  const gone = index.directory.people.filter(p => hasLeft(p, today)).map(p => p.id);
  const held = (condition: SQL) =>
    db
      .select({ request: t.tasks.request })
      .from(t.tasks)
      .where(and(condition, eq(t.tasks.open, true)))
      .limit(mostShown);
  const tasks = await Promise.all([
    held(eq(t.tasks.late, true)),
    gone.length > 0 ? held(inArray(t.tasks.holder, gone)) : [],
  ]);
  const ids = [...new Set(tasks.flat().map(row => row.request))];
  const rows = await Promise.all([
    db.select().from(t.requests).where(eq(t.requests.status, 'stuck')).orderBy(asc(t.requests.number)).limit(mostShown),
    ids.length > 0 ? db.select().from(t.requests).where(inArray(t.requests.id, ids)) : [],
  ]);
  const found = new Map(rows.flat().map(row => [row.id, row]));
  return [...found.values()].sort((a, b) => a.number - b.number);
}

export async function stuckRequests(house: House, caller: Caller): Promise<StuckRow[]> {
  mustHave(caller, 'help requests on');
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const rules = await rulesFor(db, index);
  const rows: StuckRow[] = [];
  for (const request of await troubled(house, index, today)) {
    if (rows.length >= mostShown) break;
    const { state } = request;
    const definition = await loadDefinition(db, request.workflow, request.workflowVersion);
    const telling = { definition, index, book: { ...rules, today } };
    const about = {
      request: request.id ?? '',
      version: state.version,
      title: request.title,
      workflowName: definition.name,
      askerName: askerName(index, request.state),
      since: request.askedAt as Instant,
    };
    for (const { step, reason } of state.stuckAt ?? []) {
      const found = stepById(definition, step);
      const hasPassed = reason.code === 'days have passed';
      const byPerson = found?.verb === 'Decide' || found?.verb === 'Do';
      rows.push({
        ...about,
        cause: hasPassed ? 'days have passed' : byPerson ? 'no holder' : 'no value',
        step,
        number: stepNumber(definition, step),
        words: stuckWords(reason, telling),
        remedies: hasPassed ? ['book past', 'let end'] : byPerson ? ['appoint', 'try again'] : ['try again'],
      });
    }
    for (const task of state.tasks) {
      const holder = index.person(task.holder);
      const gone = !holder || hasLeft(holder, todayFor(index, holder.id, now));
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
          : `${nameOf(index, task.holder)} has had it since ${dateWords(todayFor(index, caller.id, task.given), yearOf(now))}, and every limit has passed.`,
        remedies: ['give to'],
      });
    }
  }
  return [
    ...rows,
    ...(await notDoneOutside(house, index)),
    ...(await failingSteps(house, index)),
    ...(await failingTimers(house, index)),
    ...(await failingMails(house, index)),
  ];
}

/** What connections refused, and what they have not done after many tries, of requests that are open or have ended. */
async function notDoneOutside({ db }: House, index: DirectoryIndex): Promise<StuckRow[]> {
  const rows = await db
    .select({ effect: t.effects, request: t.requests })
    .from(t.effects)
    .innerJoin(t.requests, eq(t.requests.id, t.effects.request))
    .where(
      and(
        ne(t.effects.connection, 'mail'),
        isNull(t.effects.undoes),
        or(eq(t.effects.state, 'refused'), and(eq(t.effects.state, 'waiting'), gte(t.effects.attempts, manyTries))),
      ),
    )
    .orderBy(asc(t.effects.id))
    .limit(mostShown);
  const found: StuckRow[] = [];
  for (const { effect, request } of rows) {
    const one = request.state.undelivered?.find(other => other.key === effect.key && !other.givenUp);
    if (!one) continue;
    const definition = await loadDefinition(db, request.workflow, request.workflowVersion);
    const what = askWords(one.what, { definition, index });
    found.push({
      request: request.id ?? '',
      version: request.state.version,
      title: request.title,
      workflowName: definition.name,
      askerName: askerName(index, request.state),
      since: effect.writtenAt as Instant,
      cause: 'not done outside',
      step: one.step,
      number: stepNumber(definition, one.step),
      effect: effect.key,
      words:
        effect.state === 'refused'
          ? `${what} was refused: ${effect.fault ?? 'no reason was given'}.`
          : `${what}: tried ${effect.attempts} times, the last time ${effect.fault ?? 'without an answer'}.`,
      remedies:
        effect.state === 'refused' ? ['ask again', 'done by hand', 'go on without'] : ['done by hand', 'go on without'],
    });
  }
  return found;
}

/** Commands that a fault broke off, of requests that stand where they stood then. */
async function failingSteps({ db }: House, index: DirectoryIndex): Promise<StuckRow[]> {
  const rows = await db
    .select({ fault: t.stepFaults, request: t.requests })
    .from(t.stepFaults)
    .innerJoin(t.requests, eq(t.requests.id, t.stepFaults.request))
    .orderBy(asc(t.stepFaults.at))
    .limit(mostShown);
  const found: StuckRow[] = [];
  for (const { fault, request } of rows) {
    if (request.state.version !== fault.version) continue;
    const definition = await loadDefinition(db, request.workflow, request.workflowVersion);
    found.push({
      request: fault.request,
      version: request.state.version,
      title: request.title,
      workflowName: definition.name,
      askerName: askerName(index, request.state),
      since: fault.at as Instant,
      cause: 'step failing',
      step: fault.step,
      number: stepNumber(definition, fault.step),
      words: `What ${nameOf(index, fault.actor as PersonId)} did could not be carried out: ${fault.fault}.`,
      remedies: ['send again'],
    });
  }
  return found;
}

/** Timers that were tried in vain. Their requests are named from their rows alone: the fault may lie in the rest. */
async function failingTimers({ db }: House, index: DirectoryIndex): Promise<StuckRow[]> {
  const rows = await db
    .select({ timer: t.timers, title: t.requests.title, asker: t.requests.asker })
    .from(t.timers)
    .leftJoin(t.requests, eq(t.requests.id, t.timers.request))
    .where(gte(t.timers.failures, 1))
    .orderBy(asc(t.timers.at))
    .limit(mostShown);
  return rows.map(({ timer, title, asker }) => ({
    request: timer.request,
    version: 0,
    title: title ?? timer.request,
    workflowName: '',
    askerName: nameOf(index, asker as PersonId | null),
    since: timer.at as Instant,
    cause: 'timer failing',
    step: '',
    timer: timer.key,
    number: '',
    words: `${timerWords[timer.what]} Tried ${timer.failures} times: ${timer.fault}`,
    remedies: ['send again'],
  }));
}

const timerWords = {
  remind: 'A reminder is due.',
  limit: 'A limit has passed.',
  hold: 'The wait is over.',
  aside: 'It should be back on a desk.',
  alert: 'It is time to look whether it is ready.',
  guest: 'A reminder to a guest is due.',
  leave: 'Its days have passed.',
  facts: 'It is time to look who has its steps by the records.',
} as const;

async function failingMails({ db }: House, index: DirectoryIndex): Promise<StuckRow[]> {
  const failed = await db
    .select()
    .from(t.effects)
    .where(and(eq(t.effects.connection, 'mail'), eq(t.effects.state, 'waiting'), gte(t.effects.attempts, manyTries)))
    .limit(mostShown);
  return failed.map(row => ({
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
  }));
}

/** A timer that could not be carried out is tried at once, as when its cause has been mended. */
export async function helpTimer(house: House, caller: Caller, key: string): Promise<void> {
  mustHave(caller, 'help requests on');
  await house.db.update(t.timers).set({ nextTry: 0 }).where(eq(t.timers.key, key));
}

/** An effect that keeps failing: tried again at once, or marked as done by hand. */
export async function helpEffect(house: House, caller: Caller, id: number, how: 'again' | 'done'): Promise<void> {
  mustHave(caller, 'help requests on');
  await house.db
    .update(t.effects)
    // Done by hand is not sent: nobody says that it was.
    .set(how === 'again' ? { nextTry: 0 } : { state: 'given up', doneAt: Date.now() })
    .where(and(eq(t.effects.id, id), eq(t.effects.connection, 'mail'), eq(t.effects.state, 'waiting')));
  house.wake();
}
