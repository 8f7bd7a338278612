/** Tables as files: CSV and XLSX. A cell that a spreadsheet would take for a formula is made plain text. */
import type { Writable } from 'node:stream';
import Papa from 'papaparse';
import { spreadsheet } from './spreadsheet.ts';

const formulaBegins = /^[=+\-@\t\r]/;

/** The same cell, such that no spreadsheet works it out. */
export const defused = (text: string): string => (formulaBegins.test(text) ? `'${text}` : text);

type Batches = AsyncIterable<string[][]>;

export async function writeCsv(out: Writable, headings: readonly string[], batches: Batches): Promise<void> {
  const write = (rows: string[][]) => {
    const text = Papa.unparse(
      rows.map(row => row.map(defused)),
      { newline: '\r\n', quotes: true },
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
    write.rows(rows.map(row => row.map(defused)));
    if (out.writableNeedDrain) await new Promise(done => out.once('drain', done));
  }
  await write.end();
}
