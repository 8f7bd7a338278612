/** Files read beside the page: decoded, taken apart, and told how far it is. */
import {
  type FileForm,
  guessForm,
  matched,
  standsOnItsSide,
  type TableId,
  tableLike,
} from '@north-pebble/core/movingIn';
import Papa from 'papaparse';

export type ReadFile = {
  readonly name: string;
  readonly table: TableId | null;
  readonly form: FileForm;
  readonly encoding: string;
  readonly headings: string[];
  readonly columns: (string | null)[];
  readonly rows: string[][];
};
export type FileFault = 'no text' | 'too many lines' | 'empty' | 'on its side';
export type FileTold =
  | { readonly at: 'reading'; readonly share: number }
  | { readonly at: 'read'; readonly file: ReadFile }
  | { readonly at: 'fault'; readonly fault: FileFault };

export const mostLines = 20_000;

/** By its mark, else UTF-8 where that fits, else the letters of western Europe. */
function decode(bytes: Uint8Array): { text: string; encoding: string } {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16' };
  if (a === 0xfe && b === 0xff) return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16' };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' };
  }
}

const tell = (told: FileTold): void => self.postMessage(told);

self.onmessage = async ({ data: file }: MessageEvent<File>) => {
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (bytes.subarray(0, 4000).includes(0) && bytes[0] !== 0xff && bytes[0] !== 0xfe)
    return tell({ at: 'fault', fault: 'no text' });
  const { text, encoding } = decode(bytes);
  const rows: string[][] = [];
  let told = 0;
  let isLong = false;
  Papa.parse<string[]>(text.replace(/^\ufeff/, ''), {
    skipEmptyLines: 'greedy',
    step: ({ data, meta }, parser) => {
      rows.push(data);
      if (rows.length > mostLines + 1) {
        isLong = true;
        parser.abort();
      }
      const share = meta.cursor / text.length;
      if (share - told > 0.02) {
        told = share;
        tell({ at: 'reading', share });
      }
    },
  });
  if (isLong) return tell({ at: 'fault', fault: 'too many lines' });
  const [headings = [], ...lines] = rows;
  if (headings.length === 0) return tell({ at: 'fault', fault: 'empty' });
  if (standsOnItsSide(rows.slice(0, 40))) return tell({ at: 'fault', fault: 'on its side' });
  const table = tableLike(headings, file.name);
  tell({
    at: 'read',
    file: {
      name: file.name,
      table,
      form: guessForm(lines.slice(0, 400).flat()),
      encoding,
      headings,
      columns: table ? matched(table, headings) : headings.map(() => null),
      rows: lines,
    },
  });
};
