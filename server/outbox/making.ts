/** Letters set on pages: made on the thread of papers, kept as files of their requests, which go on with them. */
import type { FilledLetter } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { inTransaction, isDatabaseAway, tables as t } from '../database/index.ts';
import { storeMade } from '../files/index.ts';
import type { House } from '../house/index.ts';
import { BrokenPaper } from '../papers/index.ts';
import { lettersToMake } from '../requests/index.ts';
import { settle } from './calls.ts';
import { type Claimant, claim, inHand, type Row, renew, retry } from './claims.ts';

type ToMake = { readonly name: string; readonly letter: FilledLetter };

/** Whose the file is until its request has it. */
const ownerOf = (request: string): string => `letter:${request}`;

async function make(house: House, by: Claimant, row: Row): Promise<void> {
  const { request } = row;
  if (request === null || !(await renew(house, by, row.id))) return;
  const { name, letter } = row.payload as unknown as ToMake;
  try {
    const bytes = await inHand(house, by, row.id, () => house.papers.letter(letter));
    const file = await storeMade(house, ownerOf(request), `${name.slice(0, 190)}.pdf`, bytes);
    await inTransaction(house.db, tx =>
      settle(house, tx, row, { state: 'delivered', result: { file } }, ownerOf(request)),
    );
  } catch (fault) {
    if (isDatabaseAway(fault)) throw fault;
    if (fault instanceof BrokenPaper) {
      const reason = `the letter cannot be set: ${fault.message}`;
      await inTransaction(house.db, tx => settle(house, tx, row, { state: 'refused', reason }));
      return;
    }
    await house.db
      .update(t.effects)
      .set(retry(house, row, fault instanceof Error ? fault.message : String(fault)))
      .where(eq(t.effects.id, row.id));
  }
}

/** Makes every letter that is ready; how many were tried. */
export async function makeReady(house: House, by: Claimant): Promise<number> {
  let tried = 0;
  for (
    let rows = await claim(house, by, lettersToMake);
    rows.length > 0;
    rows = await claim(house, by, lettersToMake)
  ) {
    for (const row of rows) await make(house, by, row);
    tried += rows.length;
  }
  // Who waited for a letter may have something to send now.
  if (tried > 0) house.wake();
  return tried;
}
