/**
 * The house’s own chain. Each request’s events are a chain, which alone cannot tell that the whole of it is gone, or that
 * its end was cut off together with its head. So the heads of requests are written down a moment after they change, each
 * link sealed with the one before it, and how many links there are stands beside.
 */
import { and, asc, eq, gt, inArray, isNotNull, or, sql } from 'drizzle-orm';
import {
  type Database,
  type Executor,
  inOneTrip,
  insertion,
  inTransaction,
  isDatabaseAway,
  tables as t,
} from '../database/index.ts';
import type { House } from '../house/index.ts';
import type { AuditFault } from './fault.ts';

type Link = { n: number; request: string; version: number; head: string };

/** Hundreds of rows at once, every second of a busy day: a builder of statements takes longer over them than the database. */
const intoChain = insertion(t.anchors);

const linkText = (before: string | null, { n, request, version, head }: Link): string =>
  `${before ?? ''}\n${n}\n${request}\n${version}\n${head}`;

/** Servers’ clocks differ a little, and a change is stored a moment after its time is taken. */
const overlap = 3000;
const batch = 1000;

/**
 * Writes down the heads that have changed since the last time, some hundreds at once. One server at a time.
 * @returns how many links were added, and whether there may be more
 */
export async function anchorNew(db: Database): Promise<{ links: number; more: boolean }> {
  return inTransaction(db, async tx => {
    const [house] = await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    if (!house) return { links: 0, more: false };
    const begun = Date.now();
    const changed = await tx
      .select({
        request: t.requests.id,
        head: t.requests.head,
        touched: t.requests.touched,
        number: t.requests.number,
        version: sql<number>`cast(json_value(${t.requests.state}, '$.version') as unsigned)`,
      })
      .from(t.requests)
      .where(
        and(
          isNotNull(t.requests.head),
          or(
            gt(t.requests.touched, house.anchoredUntil),
            and(eq(t.requests.touched, house.anchoredUntil), gt(t.requests.number, house.anchoredNumber)),
          ),
        ),
      )
      .orderBy(asc(t.requests.touched), asc(t.requests.number))
      .limit(batch);
    const ids = changed.flatMap(({ request }) => (request ? [request] : []));
    const last = ids.length > 0 ? await lastLinks(tx, ids) : new Map<string, Link>();
    let { anchors: n, anchorHead: seal } = house;
    const links: (typeof t.anchors.$inferInsert)[] = [];
    for (const { request, head, version } of changed) {
      if (!request || !head || last.get(request)?.head === head) continue;
      const link = { n: ++n, request, version: Number(version), head };
      seal = tx.keys.seal(linkText(seal, link));
      links.push({ ...link, seal });
    }
    if (links.length > 0) await inOneTrip(tx, [intoChain(links)]);
    const more = changed.length === batch;
    const reached = more ? changed[batch - 1] : { touched: begun - overlap, number: 0 };
    await tx
      .update(t.house)
      .set({ anchors: n, anchorHead: seal, anchoredUntil: reached.touched, anchoredNumber: reached.number })
      .where(eq(t.house.id, 1));
    return { links: links.length, more };
  });
}

async function lastLinks(db: Executor, requests: readonly string[]): Promise<Map<string, Link>> {
  const rows = await db
    .select()
    .from(t.anchors)
    .where(inArray(t.anchors.request, [...requests]))
    .orderBy(asc(t.anchors.n));
  return new Map(rows.map(row => [row.request, row]));
}

/**
 * What the chain of the house says of the requests that are there, and whether it is whole itself.
 * @param reached numbers of links whose seals are wanted; they are filled in
 */
export async function anchorFaults(db: Executor, reached: Map<number, string | null>): Promise<AuditFault[]> {
  const faults: AuditFault[] = [];
  const [house] = await db.select().from(t.house).where(eq(t.house.id, 1));
  if (!house) return faults;
  let seal: string | null = null;
  let n = 0;
  for (;;) {
    const links = await db.select().from(t.anchors).where(gt(t.anchors.n, n)).orderBy(asc(t.anchors.n)).limit(batch);
    if (links.length === 0) break;
    const ids = [...new Set(links.map(link => link.request))];
    const there = new Set(
      (await db.select({ id: t.requests.id }).from(t.requests).where(inArray(t.requests.id, ids))).map(row => row.id),
    );
    // What was deleted when its time was over left the seal that it had.
    const forgotten = new Map(
      (await db.select().from(t.forgotten).where(inArray(t.forgotten.request, ids))).map(row => [row.request, row]),
    );
    const events = await db
      .select({ request: t.events.request, seq: t.events.seq, seal: t.events.seal })
      .from(t.events)
      .where(inArray(t.events.request, ids));
    const seals = new Map(events.map(event => [`${event.request} ${event.seq}`, event.seal]));
    for (const link of links) {
      const { request, version, head } = link;
      n += 1;
      if (link.n !== n) {
        faults.push({ request, seq: null, words: `link ${n} of the house’s chain is missing` });
        n = link.n;
      }
      if (db.keys.bears(link.seal, linkText(seal, link)) !== 'borne out')
        faults.push({ request, seq: null, words: `link ${n} of the house’s chain was changed` });
      seal = link.seal;
      if (reached.has(n)) reached.set(n, seal);
      const at = (words: string) => {
        if (!faults.some(fault => fault.request === request && fault.words === words))
          faults.push({ request, seq: null, words });
      };
      const gone = forgotten.get(request);
      if (gone) {
        if (there.has(request)) at('the request was said to be deleted and is there');
        else if (version > gone.version || (version === gone.version && head !== gone.head))
          at('the request was deleted and had gone on since');
      } else if (!there.has(request)) at('the request was removed');
      else if (seals.get(`${request} ${version}`) !== head) at('events that were there are missing or changed');
    }
  }
  if (n !== house.anchors || seal !== house.anchorHead)
    faults.push({ request: 'house', seq: null, words: `the house’s chain was cut: ${n} of ${house.anchors} links` });
  return faults;
}

/** Everything that has changed. */
export async function anchorAll(db: Database): Promise<number> {
  let links = 0;
  for (;;) {
    const done = await anchorNew(db);
    links += done.links;
    if (!done.more) return links;
  }
}

/** Once a second, until stopped. */
export function keepAnchored(house: House, pause = 1000): () => Promise<void> {
  let running: Promise<unknown> = Promise.resolve();
  let isRunning = false;
  const timer = setInterval(() => {
    if (isRunning) return;
    isRunning = true;
    running = anchorAll(house.db)
      .catch(fault => {
        if (!isDatabaseAway(fault)) house.log.error({ err: fault }, 'anchoring');
      })
      .finally(() => {
        isRunning = false;
      });
  }, pause);
  return async () => {
    clearInterval(timer);
    await running;
  };
}
