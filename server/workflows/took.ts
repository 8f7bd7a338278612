/** How long the steps of a workflow took so far, in working days: what a plan is weighed against. */
import type { TookView } from '@north-pebble/contract';
import { type PersonId, todayFor } from '@north-pebble/core/people';
import { civilDateAt, type Instant, toDay } from '@north-pebble/core/time';
import { lineOf, placeOfWork, readEvent } from '@north-pebble/core/workflow';
import { and, desc, eq, inArray } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { type House, loadDefinition } from '../house/index.ts';
import type { Caller } from '../http/index.ts';
import { rowFor } from './service.ts';

/** Of so many of the latest requests; fewer than `fewest` times say nothing. */
const latest = 300;
const fewest = 5;

export async function took(house: House, caller: Caller, workflow: string): Promise<TookView> {
  const { db } = house;
  await rowFor(db, caller, workflow);
  const { index, lists } = await house.moment(db);
  const requests = await db
    .select()
    .from(t.requests)
    .where(eq(t.requests.workflow, workflow))
    .orderBy(desc(t.requests.number))
    .limit(latest);
  if (requests.length === 0) return {};
  const rows = await db
    .select({ request: t.events.request, body: t.events.body, form: t.events.form })
    .from(t.events)
    .where(
      and(
        inArray(
          t.events.request,
          requests.map(request => request.id ?? ''),
        ),
        inArray(t.events.kind, ['given', 'done', 'answered']),
      ),
    )
    .orderBy(t.events.request, t.events.seq);
  const byId = new Map(requests.map(request => [request.id, request]));
  const given = new Map<string, Instant>();
  const found = new Map<string, number[]>();
  for (const row of rows) {
    const event = readEvent(row.body, row.form);
    if (event.kind === 'given') given.set(`${row.request} ${event.task}`, event.at);
    if (event.kind !== 'done' && event.kind !== 'answered') continue;
    const since = given.get(`${row.request} ${event.task}`);
    const request = byId.get(row.request);
    if (!since || !request) continue;
    const definition = await loadDefinition(db, workflow, request.workflowVersion);
    const place = placeOfWork(
      definition,
      { answers: request.state.answers, asker: request.asker as PersonId, subject: request.subject as PersonId | null },
      { index, lists },
      todayFor(index, request.asker as PersonId, since),
    );
    if (place === undefined) continue;
    const zone = index.place(place)?.zone ?? 'UTC';
    const [first, last] = [since, event.at].map(at => toDay(civilDateAt(at, zone)));
    const line = lineOf(index, place, first);
    const [from, to] = [line.onOrAfter(first), line.onOrAfter(last)];
    if (from === undefined || to === undefined) continue;
    // The day on which it came counts, as the plan counts it.
    found.set(event.step, [...(found.get(event.step) ?? []), to - from + 1]);
  }
  const view: TookView = {};
  for (const [step, days] of found) {
    if (days.length < fewest) continue;
    days.sort((a, b) => a - b);
    const at = (share: number) => days[Math.min(days.length - 1, Math.floor(days.length * share))];
    view[step] = { median: at(0.5), nineInTen: at(0.9), of: days.length };
  }
  return view;
}
