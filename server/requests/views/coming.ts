/** What timers will do in the days ahead: limits that will pass, reminders, waits that end. */
import type { ComingView } from '@north-pebble/contract';
import { zoneFor } from '@north-pebble/core/people';
import {
  addDays,
  type CivilDate,
  civilDateAt,
  type Instant,
  toDay,
  toInstant,
  wallClock,
} from '@north-pebble/core/time';
import {
  askerName,
  atLimitWords,
  type Definition,
  nameOf,
  type RequestState,
  stepById,
  stepNumber,
} from '@north-pebble/core/workflow';
import { and, asc, eq, gt, lt, sql } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import { type House, loadDefinition } from '../../house/index.ts';
import { type Caller, mustHave } from '../../http/index.ts';

const daysAhead = 14;
const mostShown = 50;

type What = ComingView['next'][number]['what'];

function wordsFor(definition: Definition, state: RequestState, task: string, what: What): string {
  if (what === 'remind') return 'a reminder is sent';
  if (what === 'alert') return 'it is looked at whether it is ready, and whoever is to know is told';
  if (what === 'guest') return 'a guest is reminded of what is missing';
  if (what === 'facts') return 'it is looked who has its steps by the records';
  if (what === 'leave') return 'its days have passed: it goes to HR unless it is decided by then';
  if (what === 'aside') return 'it comes back onto the desk';
  const step = stepById(definition, what === 'hold' ? task : (state.tasks.find(one => one.id === task)?.step ?? ''));
  if (!step) return 'nothing is left of it';
  if (what === 'hold') return `it goes on behind step ${stepNumber(definition, step.id)}`;
  if ((step.verb !== 'Decide' && step.verb !== 'Do') || !step.limit) return 'the limit passes';
  const label = (id: string) => (step.verb === 'Decide' && step.outcomes.find(o => o.id === id)?.label) || id;
  return atLimitWords(step.limit.atLimit, definition, undefined, 'shown', label);
}

export async function comingTimers(house: House, caller: Caller): Promise<ComingView> {
  mustHave(caller, 'help requests on');
  const { db } = house;
  const { index, now } = await house.moment(db);
  const zone = zoneFor(index, caller.id, now);
  const today = civilDateAt(now, zone);
  const ahead = and(gt(t.timers.at, now), lt(t.timers.at, toInstant(wallClock(toDay(today) + daysAhead, 0, zone))));
  // Days are those of the reader; timers of one minute are counted together.
  const minute = sql<Instant>`concat(left(${t.timers.at}, 16), ':00Z')`;
  const counted = await db
    .select({ minute, what: t.timers.what, n: sql<number>`count(*)`.mapWith(Number) })
    .from(t.timers)
    .where(ahead)
    .groupBy(minute, t.timers.what);
  const rows = await db
    .select({ timer: t.timers, request: t.requests })
    .from(t.timers)
    .innerJoin(t.requests, eq(t.requests.id, t.timers.request))
    .where(ahead)
    .orderBy(asc(t.timers.at))
    .limit(mostShown);
  const n = (date: string, ...whats: What[]) =>
    counted
      .filter(c => civilDateAt(c.minute, zone) === date && whats.includes(c.what))
      .reduce((sum, c) => sum + c.n, 0);
  const days = Array.from({ length: daysAhead }, (_, i) => addDays(today, i)).map((date: CivilDate) => ({
    day: date,
    limits: n(date, 'limit'),
    reminders: n(date, 'remind', 'guest'),
    others: n(date, 'hold', 'aside', 'alert', 'facts', 'leave'),
  }));
  const next: ComingView['next'] = [];
  for (const { timer, request } of rows) {
    const { state } = request;
    const definition = await loadDefinition(db, request.workflow, request.workflowVersion);
    const holder = state.tasks.find(task => task.id === timer.task)?.holder;
    next.push({
      request: timer.request,
      title: request.title,
      askerName: askerName(index, request.state),
      holderName: holder ? nameOf(index, holder) : '',
      at: timer.at as Instant,
      what: timer.what,
      words: wordsFor(definition, state, timer.task, timer.what),
    });
  }
  return { days, next };
}
