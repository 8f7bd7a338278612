/**
 * The ends of the house's two chains, written down outside the database: a line of JSON each time. Whoever turned the whole
 * database back to an earlier day would leave chains that are whole; they end before what stands here. The file is to be
 * kept where whoever may write to the database may not.
 */
import { appendFile, readFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { type Database, type Executor, isDatabaseAway, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import type { AuditFault } from './fault.ts';

/** Where the ends of the chains are written down, where no other place is said. */
export const headsBeside = (keys: string): string => `${keys}.heads`;

const End = z.object({ n: z.number().int().min(0), seal: z.string().max(64).nullable() });
const Head = z.object({ at: z.string().max(40), ledger: End, anchors: End });
export type Head = z.infer<typeof Head>;

async function headOf(db: Executor): Promise<Omit<Head, 'at'> | null> {
  const [house] = await db
    .select({ n: t.house.anchors, seal: t.house.anchorHead })
    .from(t.house)
    .where(eq(t.house.id, 1));
  const [ledger] = await db
    .select({ n: t.ledgerHead.n, seal: t.ledgerHead.seal })
    .from(t.ledgerHead)
    .where(eq(t.ledgerHead.id, 1));
  return house && ledger ? { ledger, anchors: house } : null;
}

/** Adds a line where the chains have grown. @returns what was written */
export async function writeHead(db: Database, file: string, before: Omit<Head, 'at'> | null) {
  const head = await headOf(db);
  if (!head || JSON.stringify(head) === JSON.stringify(before)) return before;
  await appendFile(file, `${JSON.stringify({ at: new Date().toISOString(), ...head })}\n`, { mode: 0o600 });
  return head;
}

/** Now, every so often, and once more at the end. @param every milliseconds */
export function keepHeads(house: House, file: string, every: number): () => Promise<void> {
  let written: Omit<Head, 'at'> | null = null;
  let running: Promise<unknown> = Promise.resolve();
  const write = () => {
    running = running.then(async () => {
      try {
        written = await writeHead(house.db, file, written);
      } catch (fault) {
        if (!isDatabaseAway(fault)) house.log.error({ err: fault }, 'writing down the ends of the chains');
      }
    });
  };
  write();
  const timer = setInterval(write, every);
  return async () => {
    clearInterval(timer);
    write();
    await running;
  };
}

/** What stands in the file; nothing where there is none. @throws where a line is not one of these */
export async function readHeads(file: string): Promise<Head[]> {
  const text = await readFile(file, 'utf8').catch(fault => {
    if ((fault as { code?: string }).code === 'ENOENT') return '';
    throw fault;
  });
  return text
    .split('\n')
    .filter(line => line !== '')
    .map(line => Head.parse(JSON.parse(line)));
}

/** @param ledger and anchors the seals that the chains of the database have at the numbers in question; nothing past their end */
export function headFaults(
  heads: readonly Head[],
  ledger: ReadonlyMap<number, string | null>,
  anchors: ReadonlyMap<number, string | null>,
): AuditFault[] {
  const faults: AuditFault[] = [];
  for (const { at, ...ends } of heads) {
    for (const [name, chain, end] of [
      ['the ledger', ledger, ends.ledger],
      ['the house’s chain', anchors, ends.anchors],
    ] as const) {
      if (end.n > 0 && chain.get(end.n) !== end.seal)
        faults.push({
          request: 'house',
          seq: null,
          words: `${name} is not the one whose end was written down at ${at}`,
        });
    }
  }
  return faults;
}
