/**
 * What somebody outside gave is deleted when its time is over: the request with all its events, answers, files, letters
 * and links. What stays is that it was there, with the seal of its trail, so that a deletion that nobody meant still shows.
 */
import type { Forgetting, ForgettingView } from '@north-pebble/contract';
import { addMonths, type CivilDate, civilDateAt, fromDay, type Instant, toDay } from '@north-pebble/core/time';
import { and, asc, count, desc, eq, inArray, isNotNull, max, or, sql } from 'drizzle-orm';
import { inLedger, inTransaction, tables as t } from '../database/index.ts';
import { throwAway } from '../files/index.ts';
import { type House, loadDefinition } from '../house/index.ts';
import { type Caller, mustHave } from '../http/index.ts';

const ended = inArray(t.requests.status, ['closed', 'withdrawn']);

/** Requests from outside that have ended, with the day from which nothing of them is kept; the next to go first. */
async function ending(house: House, most: number): Promise<ForgettingView[]> {
  const { db } = house;
  const rows = await db
    .select({
      request: t.requests.id,
      title: t.requests.title,
      workflow: t.requests.workflow,
      version: t.requests.workflowVersion,
      closedAt: t.requests.closedAt,
      who: sql<string>`json_value(${t.requests.state}, '$.outside.name')`,
    })
    .from(t.requests)
    .where(and(isNotNull(t.requests.outside), isNotNull(t.requests.closedAt), ended))
    .orderBy(asc(t.requests.closedAt))
    .limit(most);
  const found: ForgettingView[] = [];
  for (const { request, title, workflow, version, closedAt, who } of rows) {
    const definition = await loadDefinition(db, workflow, version);
    const months = definition.opening?.outside?.keptMonths;
    if (months === undefined || request === null || closedAt === null) continue;
    const on = fromDay(addMonths(toDay(civilDateAt(closedAt as Instant, 'UTC')), months));
    found.push({ request, who, title, workflow, name: definition.name, closedAt: closedAt as Instant, on });
  }
  return found.toSorted((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0));
}

const mostLookedAt = 5000;
const mostShown = 200;
/** In one round; the next hour takes the next. */
const mostAtOnce = 200;

/** What is deleted next, for those who look after requests. */
export async function forgettingView(house: House, caller: Caller): Promise<Forgetting> {
  mustHave(caller, 'help requests on');
  const soon = await ending(house, mostLookedAt);
  const [gone] = await house.db.select({ requests: count(), last: max(t.forgotten.at) }).from(t.forgotten);
  const last = await house.db
    .select()
    .from(t.forgotten)
    .orderBy(desc(t.forgotten.at), desc(t.forgotten.request))
    .limit(mostShown);
  const names = new Map<string, string>();
  for (const { workflow } of last) {
    if (names.has(workflow)) continue;
    const [live] = await house.db
      .select({ version: t.workflows.liveVersion })
      .from(t.workflows)
      .where(eq(t.workflows.id, workflow));
    names.set(workflow, live?.version ? (await loadDefinition(house.db, workflow, live.version)).name : workflow);
  }
  return {
    soon: soon.slice(0, mostShown),
    total: soon.length,
    gone: {
      requests: gone.requests,
      last: (gone.last ?? null) as Instant | null,
      rows: last.map(({ request, workflow, closedAt, at, version }) => ({
        request,
        name: names.get(workflow) ?? workflow,
        closedAt: closedAt as Instant,
        at: at as Instant,
        events: version,
      })),
    },
  };
}

/** Deletes what is over. @returns how many requests are gone */
export async function forgetOver(house: House): Promise<number> {
  const today: CivilDate = civilDateAt(await house.now(house.db), 'UTC');
  const over = (await ending(house, mostLookedAt)).filter(one => one.on <= today).slice(0, mostAtOnce);
  for (const { request } of over) await forget(house, request);
  return over.length;
}

async function forget(house: House, request: string): Promise<void> {
  const files = await inTransaction(house.db, async tx => {
    const [row] = await tx.select().from(t.requests).where(eq(t.requests.id, request)).for('update');
    if (!row?.id || !row.closedAt) return [];
    await tx.insert(t.forgotten).values({
      request,
      workflow: row.workflow,
      version: row.state.version,
      head: row.head,
      closedAt: row.closedAt,
      at: await house.now(tx),
    });
    await inLedger(tx, { what: 'deletion', keys: [{ request }] });
    // What was taken over elsewhere, as the record of somebody who came, is the house's own by now.
    const kept = await tx.select({ file: t.papers.file }).from(t.papers).where(eq(t.papers.request, request));
    const theirs = await tx
      .select({ id: t.files.id })
      .from(t.files)
      .where(or(eq(t.files.request, request), eq(t.files.owner, `guest:${request}`)));
    const files = theirs.map(file => file.id).filter(id => !kept.some(paper => paper.file === id));
    for (const table of [t.events, t.tasks, t.timers, t.effects, t.alerts, t.commands, t.unsent] as const)
      await tx.delete(table).where(eq(table.request, request));
    for (const table of [t.guestLinks, t.guestDevices, t.guestTyping, t.guestPapers] as const)
      await tx.delete(table).where(eq(table.request, request));
    for (const table of [t.plannerLines, t.receivedMails] as const)
      await tx.delete(table).where(eq(table.request, request));
    await tx.delete(t.requests).where(eq(t.requests.id, request));
    return files;
  });
  await throwAway(house, files);
}
