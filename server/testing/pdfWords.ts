/** The words of a PDF, for tests. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';

/** The words of every page. */
export const pdfWords = (bytes: Uint8Array): string[] =>
  JSON.parse(
    execFileSync(process.execPath, [join(import.meta.dirname, 'pdfText.mjs')], { input: bytes, encoding: 'utf8' }),
  );
