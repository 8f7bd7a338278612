/** Verifies the trail: every event's seal made anew, and every request folded anew from its events. */
import { isDeepStrictEqual } from 'node:util';
import { fold, readEvent, stateForm } from '@north-pebble/core/workflow';
import { and, asc, eq, gt, inArray, isNotNull, isNull } from 'drizzle-orm';
import {
  type Database,
  type Executor,
  inSnapshot,
  inTransaction,
  sealOf,
  type Transaction,
  tables as t,
} from '../database/index.ts';
import { anchorFaults } from './anchors.ts';
import type { AuditFault } from './fault.ts';

export { anchorAll, keepAnchored } from './anchors.ts';
export type { AuditFault } from './fault.ts';

export type Audit = { requests: number; events: number; faults: AuditFault[] };

const batch = 500;

type EventRow = typeof t.events.$inferSelect;

function faultsOf(request: typeof t.requests.$inferSelect, rows: readonly EventRow[]): AuditFault[] {
  const id = request.id ?? '';
  const faults: AuditFault[] = [];
  const at = (seq: number | null, words: string) => faults.push({ request: id, seq, words });
  let seal: string | null = null;
  for (const [i, row] of rows.entries()) {
    if (row.seq !== i + 1) {
      at(row.seq, `event ${i + 1} is missing`);
      return faults;
    }
    seal = sealOf(seal, id, row.seq, row.body);
    if (row.seal !== seal) {
      at(row.seq, 'the event is not the one that was sealed');
      return faults;
    }
    if (row.at !== row.body.at || row.actor !== row.body.by || row.kind !== row.body.kind) {
      at(row.seq, 'its columns say something else than the event');
    }
  }
  if (request.head === null && rows.length > 0) at(null, 'its seal was emptied');
  else if (request.head !== seal) at(null, 'events are missing at the end, or were added by hand');
  const folded = JSON.parse(
    JSON.stringify(
      fold(
        id,
        rows.map(row => readEvent(row.body, row.form)),
      ),
    ),
  );
  const stored = JSON.parse(JSON.stringify(request.state));
  // An older state does not tell when its steps were finished.
  const { form: _form, finished: _finished, ...older } = folded;
  const { form: _stored, ...olderStored } = stored;
  const isSame = stored.form === stateForm ? isDeepStrictEqual(folded, stored) : isDeepStrictEqual(older, olderStored);
  if (!isSame) {
    at(null, 'the request is not what its events come to');
  }
  return faults;
}

/**
 * Reads every request with its events, some hundreds at a time, and what the house’s own chain says of them; all as it
 * stood at one moment, so that what is written meanwhile is not taken for a fault.
 */
export const audit = (db: Database): Promise<Audit> => inSnapshot(db, auditOf);

async function auditOf(db: Executor): Promise<Audit> {
  const found: Audit = { requests: 0, events: 0, faults: [] };
  let after = 0;
  for (;;) {
    const requests = await db
      .select()
      .from(t.requests)
      .where(and(gt(t.requests.number, after), isNotNull(t.requests.id)))
      .orderBy(asc(t.requests.number))
      .limit(batch);
    if (requests.length === 0) break;
    after = requests[requests.length - 1].number;
    const ids = requests.map(r => r.id ?? '');
    const events = await db
      .select()
      .from(t.events)
      .where(inArray(t.events.request, ids))
      .orderBy(asc(t.events.request), asc(t.events.seq));
    const byRequest = new Map<string, EventRow[]>();
    for (const event of events) byRequest.set(event.request, [...(byRequest.get(event.request) ?? []), event]);
    for (const request of requests) found.faults.push(...faultsOf(request, byRequest.get(request.id ?? '') ?? []));
    found.requests += requests.length;
    found.events += events.length;
  }
  found.faults.push(...(await anchorFaults(db)));
  return found;
}

/**
 * Gives seals to requests that were stored before there were any, once in the life of a house; how many requests that
 * were. Afterwards a request without its head is a fault that the audit names, and nothing here makes it whole again.
 */
export async function sealOlder(db: Database): Promise<number> {
  const [house] = await db.select({ sealed: t.house.sealed }).from(t.house).where(eq(t.house.id, 1));
  if (!house || house.sealed) return 0;
  const open = await db
    .select({ id: t.requests.id })
    .from(t.requests)
    .where(and(isNotNull(t.requests.id), isNull(t.requests.head)));
  for (const { id } of open) {
    if (id !== null) await inTransaction(db, tx => sealOne(tx, id));
  }
  await db.update(t.house).set({ sealed: true }).where(eq(t.house.id, 1));
  return open.length;
}

async function sealOne(tx: Transaction, id: string): Promise<void> {
  const rows = await tx.select().from(t.events).where(eq(t.events.request, id)).orderBy(asc(t.events.seq));
  let seal: string | null = null;
  for (const { seq, body } of rows) {
    seal = sealOf(seal, id, seq, body);
    await tx
      .update(t.events)
      .set({ seal })
      .where(and(eq(t.events.request, id), eq(t.events.seq, seq)));
  }
  await tx.update(t.requests).set({ head: seal }).where(eq(t.requests.id, id));
}
