/**
 * One sheet of words, numbers and days as an Office Open XML workbook (ECMA-376), written as it comes: a zip of a few small parts and the
 * rows. The first row is bold and stays in sight.
 */
import type { Writable } from 'node:stream';
import { strToU8, Zip, ZipDeflate } from 'fflate';
import type { Cell } from './cell.ts';

const declaration = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const packaged = 'http://schemas.openxmlformats.org/package/2006';

/** Everything besides the rows. */
const parts: Readonly<Record<string, string>> = {
  '[Content_Types].xml': `<Types xmlns="${packaged}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml"/></Types>`,
  '_rels/.rels': `<Relationships xmlns="${packaged}/relationships"><Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
  'xl/workbook.xml': `<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="Requests" sheetId="1" r:id="rId1"/></sheets></workbook>`,
  'xl/_rels/workbook.xml.rels': `<Relationships xmlns="${packaged}/relationships"><Relationship Id="rId1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="${office}/styles" Target="styles.xml"/></Relationships>`,
  'xl/styles.xml': `<styleSheet xmlns="${main}"><fonts count="2"><font><sz val="11"/><name val="Calibri"/></font><font><b/><sz val="11"/><name val="Calibri"/></font></fonts><fills count="1"><fill><patternFill patternType="none"/></fill></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="4"><xf xfId="0"/><xf xfId="0" fontId="1" applyFont="1"/><xf xfId="0" numFmtId="14" applyNumberFormat="1"/><xf xfId="0" numFmtId="22" applyNumberFormat="1"/></cellXfs></styleSheet>`,
};

const escapes: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
// XML has no word for other control characters.
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are the very characters that must go
const unwritable = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;
const escaped = (text: string): string => text.replace(unwritable, '').replace(/[&<>"]/g, letter => escapes[letter]);

/** `A` to `Z`, `AA` and so on. */
const columnOf = (n: number): string =>
  (n >= 26 ? columnOf(Math.floor(n / 26) - 1) : '') + String.fromCharCode(65 + (n % 26));

/** Days since the last of December 1899, as spreadsheets count them; hours are parts of a day. */
const serialOf = (text: string): number => Date.parse(text) / 86_400_000 + 25_569;

/** The styles of the sheet, by their place in it. */
const styles = { plain: 0, heading: 1, day: 2, instant: 3 } as const;

function cellOf(cell: Cell, at: string, style: 0 | 1): string {
  if (typeof cell === 'number') return `<c r="${at}"><v>${cell}</v></c>`;
  if (typeof cell === 'string')
    return `<c r="${at}" t="inlineStr" s="${style}"><is><t xml:space="preserve">${escaped(cell)}</t></is></c>`;
  return 'day' in cell
    ? `<c r="${at}" s="${styles.day}"><v>${serialOf(cell.day)}</v></c>`
    : `<c r="${at}" s="${styles.instant}"><v>${serialOf(cell.instant)}</v></c>`;
}

const rowOf = (cells: readonly Cell[], number: number, style: 0 | 1): string =>
  `<row r="${number}">${cells.map((cell, n) => cellOf(cell, `${columnOf(n)}${number}`, style)).join('')}</row>`;

export type SheetWriter = { rows: (rows: readonly (readonly Cell[])[]) => void; end: () => Promise<void> };

/** @param out where it is written to; whoever gives rows waits for it to drain */
export function spreadsheet(out: Writable, headings: readonly string[]): SheetWriter {
  let fail: (fault: Error) => void = () => {};
  const ended = new Promise<void>((done, broken) => {
    fail = broken;
    out.once('finish', done);
    out.once('error', broken);
  });
  const zip = new Zip((fault, chunk, last) => {
    if (fault) return fail(fault);
    out.write(chunk);
    if (last) out.end();
  });
  for (const [name, content] of Object.entries(parts)) {
    const part = new ZipDeflate(name);
    zip.add(part);
    part.push(strToU8(declaration + content), true);
  }
  const sheet = new ZipDeflate('xl/worksheets/sheet1.xml', { level: 1 });
  zip.add(sheet);
  const widths = headings
    .map(
      (heading, n) =>
        `<col min="${n + 1}" max="${n + 1}" width="${Math.max(14, heading.length + 2)}" customWidth="1"/>`,
    )
    .join('');
  const frozen = '<pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/>';
  sheet.push(
    strToU8(
      `${declaration}<worksheet xmlns="${main}"><sheetViews><sheetView workbookViewId="0">${frozen}</sheetView></sheetViews><cols>${widths}</cols><sheetData>${rowOf(headings, 1, 1)}`,
    ),
  );
  let number = 2;
  return {
    rows(rows) {
      if (rows.length === 0) return;
      sheet.push(strToU8(rows.map((cells, n) => rowOf(cells, number + n, 0)).join('')));
      number += rows.length;
    },
    async end() {
      sheet.push(strToU8('</sheetData></worksheet>'), true);
      zip.end();
      await ended;
    },
  };
}
