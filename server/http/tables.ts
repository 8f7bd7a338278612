/** Tables as files: CSV and XLSX. A cell that a spreadsheet would take for a formula is made plain text. */
import type { Writable } from 'node:stream';
import Papa from 'papaparse';
import type { Cell } from './cell.ts';
import { spreadsheet } from './spreadsheet.ts';

const formulaBegins = /^[=+\-@\t\r]/;
const isNumber = /^[+-]?\d+(?:[.,]\d+)?$/;

/** The same cell, such that no spreadsheet works it out; a number below nothing is one. */
export const defused = (text: string): string => (formulaBegins.test(text) && !isNumber.test(text) ? `'${text}` : text);

const written = (cell: Cell): string | number =>
  typeof cell === 'string' ? defused(cell) : typeof cell === 'number' ? cell : 'day' in cell ? cell.day : cell.instant;

type Batches = AsyncIterable<Cell[][]>;

export async function writeCsv(out: Writable, headings: readonly string[], batches: Batches): Promise<void> {
  const write = (rows: Cell[][]) => {
    const text = Papa.unparse(
      rows.map(row => row.map(written)),
      { newline: '\r\n', quotes: value => typeof value !== 'number' },
    );
    return out.write(`${text}\r\n`);
  };
  // Spreadsheets read it as UTF-8 by this mark.
  out.write('\ufeff');
  write([[...headings]]);
  for await (const rows of batches) if (!write(rows)) await new Promise(done => out.once('drain', done));
  out.end();
}

export async function writeXlsx(out: Writable, headings: readonly string[], batches: Batches): Promise<void> {
  const write = spreadsheet(out, headings);
  for await (const rows of batches) {
    write.rows(rows);
    if (out.writableNeedDrain) await new Promise(done => out.once('drain', done));
  }
  await write.end();
}
