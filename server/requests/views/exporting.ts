/** Tables as files: CSV and XLSX. A cell that a spreadsheet would take for a formula is made plain text. */
import type { Writable } from 'node:stream';
import ExcelJs from 'exceljs';
import Papa from 'papaparse';

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
  const book = new ExcelJs.stream.xlsx.WorkbookWriter({ stream: out });
  const sheet = book.addWorksheet('Requests', { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = headings.map(heading => ({ header: heading, width: Math.max(14, heading.length + 2) }));
  sheet.getRow(1).font = { bold: true };
  for await (const rows of batches) for (const row of rows) sheet.addRow(row.map(defused)).commit();
  sheet.commit();
  await book.commit();
}
