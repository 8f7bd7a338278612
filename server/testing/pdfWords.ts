/** The words of a PDF, for tests. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';

const read = (bytes: Uint8Array, what: 'words' | 'tags') =>
  JSON.parse(
    execFileSync(process.execPath, [join(import.meta.dirname, 'pdfText.mjs'), what], {
      input: bytes,
      encoding: 'utf8',
    }),
  );

/** The words of every page. */
export const pdfWords = (bytes: Uint8Array): string[] => read(bytes, 'words');

/** Every tag that holds words of its own, page by page, with those words. */
export const pdfTags = (bytes: Uint8Array): { page: number; tag: string; words: string }[] => read(bytes, 'tags');
