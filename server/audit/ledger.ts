/** The ledger held against the tables that it guards: what was changed, added or taken away past it is named. */
import { asc, eq, gt } from 'drizzle-orm';
import {
  type Executor,
  type GuardedName,
  guardedNames,
  guardedRows,
  guardedText,
  ledgerKey,
  lineText,
  tables as t,
} from '../database/index.ts';
import type { AuditFault } from './fault.ts';

const batch = 5000;

/** What the ledger says last of each row, by table and key. */
type LastSaid = Map<string, Map<string, string | null>>;

const faultAt = (request: string, words: string): AuditFault => ({ request, seq: null, words });

/** Goes through the ledger from its first line. @param reached the seals of lines that were written down elsewhere, to be filled */
async function readLedger(
  db: Executor,
  faults: AuditFault[],
  reached: Map<number, string | null>,
): Promise<LastSaid | null> {
  const [head] = await db.select().from(t.ledgerHead).where(eq(t.ledgerHead.id, 1));
  if (!head) {
    faults.push(faultAt('ledger', 'the house has no ledger'));
    return null;
  }
  const last: LastSaid = new Map(guardedNames.map(name => [name, new Map()]));
  let seal: string | null = null;
  let n = 0;
  for (;;) {
    const lines = await db.select().from(t.ledger).where(gt(t.ledger.n, n)).orderBy(asc(t.ledger.n)).limit(batch);
    if (lines.length === 0) break;
    for (const line of lines) {
      n += 1;
      if (line.n !== n) {
        faults.push(faultAt('ledger', `line ${n} is missing`));
        n = line.n;
      }
      const borne = db.keys.bears(line.seal, lineText(seal, line));
      if (borne === 'key unknown')
        faults.push(faultAt('ledger', `line ${n} is sealed with a key that is not in ${db.keys.file}`));
      else if (borne === 'not borne out') faults.push(faultAt('ledger', `line ${n} is not the one that was sealed`));
      seal = line.seal;
      if (reached.has(n)) reached.set(n, seal);
      last.get(line.what)?.set(line.key, line.row);
    }
  }
  if (n !== head.n || seal !== head.seal) faults.push(faultAt('ledger', `it was cut: ${n} of ${head.n} lines`));
  return last;
}

const named = (name: GuardedName, key: string): string => `${name} ${(JSON.parse(key) as unknown[]).join(' ')}`;

/** @param reached numbers of lines whose seals are wanted; they are filled in */
export async function ledgerFaults(db: Executor, reached: Map<number, string | null>): Promise<AuditFault[]> {
  const faults: AuditFault[] = [];
  const last = await readLedger(db, faults, reached);
  if (!last) return faults;
  for (const name of guardedNames) {
    const said = last.get(name) ?? new Map<string, string | null>();
    for await (const row of guardedRows(db, name)) {
      const key = ledgerKey(name, row);
      const seal = said.get(key);
      said.delete(key);
      if (seal === undefined || seal === null) faults.push(faultAt(named(name, key), 'it was added by hand'));
      else if (db.keys.bears(seal, guardedText(name, row)) !== 'borne out')
        faults.push(faultAt(named(name, key), 'it was changed by hand'));
    }
    for (const [key, seal] of said)
      if (seal !== null) faults.push(faultAt(named(name, key), 'it was taken away by hand'));
  }
  return faults;
}
