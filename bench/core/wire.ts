/** How much script goes over the wire before the desk, or the page of a guest, can be used: what its first page imports, and what that imports. */
import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import type { Row } from '../measure.ts';

type Manifest = Record<string, { file: string; imports?: string[] }>;

const most = 250;

/** What opens after the list is there, as the request beside it, is fetched behind it and not counted. */
const mostForGuests = 200;
const mostForPublic = 150;

export const wireRows = (): Row[] => [
  wireRow(['index.html', 'src/places/desk/DeskPlace.tsx'], 'the desk can be used', most),
  wireRow(['mine.html'], 'the page of a guest can be used', mostForGuests, 'outside'),
  wireRow(['apply.html'], 'the public form can be filled in', mostForPublic, 'outside'),
];

/** @param list the list in which the parts stand: that of the house, or of the pages for people outside */
function wireRow(parts: readonly string[], what: string, bar: number, list = 'manifest'): Row {
  const manifest = JSON.parse(readFileSync(`web/dist/.vite/${list}.json`, 'utf8')) as Manifest;
  const files = new Set<string>();
  const visit = (name: string): void => {
    const part = manifest[name];
    if (!part || files.has(part.file)) return;
    files.add(part.file);
    part.imports?.forEach(visit);
  };
  parts.forEach(visit);
  const bytes = [...files].reduce((sum, file) => sum + gzipSync(readFileSync(`web/dist/${file}`)).length, 0);
  return {
    what: `script over the wire before ${what}, in kB, in ${files.size} files`,
    ours: bytes / 1000,
    theirs: bar,
    baseline: 'the bar itself',
    ratio: bytes / 1000 / bar,
    bar: 1,
    better: 'less',
  };
}
