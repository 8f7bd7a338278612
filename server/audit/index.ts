/** Verifies what is sealed: the trail of every request, what stands beside it, and all that the house's ledger guards. */
import { isDeepStrictEqual } from 'node:util';
import { fold, readEvent, stateForm } from '@north-pebble/core/workflow';
import { and, asc, eq, gt, inArray, isNotNull } from 'drizzle-orm';
import { type Database, type Executor, inSnapshot, type Keys, sealedText, tables as t } from '../database/index.ts';
import { byKey } from '../house/index.ts';
import { anchorFaults } from './anchors.ts';
import type { AuditFault } from './fault.ts';
import { type Head, headFaults } from './heads.ts';
import { ledgerFaults } from './ledger.ts';
import { columnFaults, leaveFaults, taskFaults } from './rows.ts';

export { anchorAll, keepAnchored } from './anchors.ts';
export { beginSeals } from './begin.ts';
export type { AuditFault } from './fault.ts';
export { headsBeside, keepHeads, readHeads, writeHead } from './heads.ts';

export type Audit = { requests: number; events: number; faults: AuditFault[] };

const batch = 500;

type EventRow = typeof t.events.$inferSelect;
type RequestRow = typeof t.requests.$inferSelect;

/** What stands beside a request. */
/** What an older state tells: not when its steps were finished before form 3, not what was granted otherwise before 4. */
function asInForm(state: Record<string, unknown>, form: number) {
  if (form === stateForm) return state;
  const { form: _form, otherwise: _otherwise, finished, ...older } = state;
  return form === 3 ? { ...older, finished } : older;
}

type Beside = { leave: typeof t.leaveEntries.$inferSelect | undefined; tasks: (typeof t.tasks.$inferSelect)[] };

function faultsOf(keys: Keys, request: RequestRow, rows: readonly EventRow[], beside: Beside): AuditFault[] {
  const id = request.id ?? '';
  const faults: AuditFault[] = [];
  const at = (seq: number | null, words: string) => faults.push({ request: id, seq, words });
  let seal: string | null = null;
  for (const [i, row] of rows.entries()) {
    if (row.seq !== i + 1) {
      at(row.seq, `event ${i + 1} is missing`);
      return faults;
    }
    const borne = keys.bears(row.seal, sealedText(seal, id, row.seq, row.body));
    if (borne !== 'borne out') {
      at(
        row.seq,
        borne === 'key unknown'
          ? `the event is sealed with a key that is not in ${keys.file}`
          : 'the event is not the one that was sealed',
      );
      return faults;
    }
    seal = row.seal;
    if (row.at !== row.body.at || row.actor !== row.body.by || row.kind !== row.body.kind) {
      at(row.seq, 'its columns say something else than the event');
    }
  }
  if (request.head === null && rows.length > 0) at(null, 'its seal was emptied');
  else if (request.head !== seal) at(null, 'events are missing at the end, or were added by hand');
  const state = fold(
    id,
    rows.map(row => readEvent(row.body, row.form)),
  );
  const folded = JSON.parse(JSON.stringify(state));
  const stored = JSON.parse(JSON.stringify(request.state));
  const isSame = isDeepStrictEqual(asInForm(folded, stored.form), asInForm(stored, stored.form));
  if (!isSame) {
    at(null, 'the request is not what its events come to');
  }
  const bears = (found: string | null, text: string) => keys.bears(found, text) === 'borne out';
  for (const words of [
    ...columnFaults(request, state, rows[0]?.body.at, bears),
    ...leaveFaults(beside.leave, state),
    ...taskFaults(beside.tasks, state),
  ])
    at(null, words);
  return faults;
}

/**
 * Reads every request with its events, some hundreds at a time, and what the house’s own chains say; all as it stood at one
 * moment, so that what is written meanwhile is not taken for a fault.
 * @param heads the ends of the chains as they were written down elsewhere
 */
export const audit = (db: Database, heads: readonly Head[] = []): Promise<Audit> =>
  inSnapshot(db, tx => auditOf(tx, heads));

async function auditOf(db: Executor, heads: readonly Head[]): Promise<Audit> {
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
    const ofRequest = byKey(events, event => event.request);
    const entries = await db.select().from(t.leaveEntries).where(inArray(t.leaveEntries.request, ids));
    const leave = new Map(entries.map(entry => [entry.request, entry]));
    const open = await db
      .select()
      .from(t.tasks)
      .where(and(inArray(t.tasks.request, ids), eq(t.tasks.open, true)));
    const tasks = byKey(open, task => task.request);
    for (const request of requests) {
      const id = request.id ?? '';
      const beside = { leave: leave.get(id), tasks: tasks.get(id) ?? [] };
      found.faults.push(...faultsOf(db.keys, request, ofRequest.get(id) ?? [], beside));
    }
    found.requests += requests.length;
    found.events += events.length;
  }
  const links = new Map<number, string | null>(heads.map(head => [head.anchors.n, null]));
  found.faults.push(...(await anchorFaults(db, links)));
  const lines = new Map<number, string | null>(heads.map(head => [head.ledger.n, null]));
  found.faults.push(...(await ledgerFaults(db, lines)), ...headFaults(heads, lines, links));
  return found;
}
