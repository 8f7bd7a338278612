/** Which column of a file is which of a table, by what its heading says. */
import { plainLetters } from '../people/index.ts';
import { type TableId, tableIds } from './table.ts';
import { tables } from './tables/index.ts';

const plain = (text: string): string =>
  plainLetters(text)
    .replaceAll(/[^a-z0-9]+/g, ' ')
    .trim();

/** @returns for each heading the id of the column, the heading itself for an own one, or nothing where none fits */
export function matched(table: TableId, headings: readonly string[]): (string | null)[] {
  const { columns, own } = tables[table];
  const taken = new Set<string>();
  return headings.map(heading => {
    const wanted = plain(heading);
    const found = columns.find(one => !taken.has(one.id) && (plain(one.label) === wanted || plain(one.id) === wanted));
    if (found) {
      taken.add(found.id);
      return found.id;
    }
    return own && heading.trim() !== '' ? heading.trim() : null;
  });
}

/** The table whose columns the headings fit best; nothing where they fit none. */
export function tableLike(headings: readonly string[], name = ''): TableId | null {
  const wanted = new Set(headings.map(plain));
  let best: { id: TableId; share: number } | null = null;
  for (const id of tableIds) {
    const { columns, name: called, own } = tables[id];
    const hits = columns.filter(one => wanted.has(plain(one.label)) || wanted.has(plain(one.id))).length;
    const needed = columns.filter(one => one.needed);
    const has = needed.filter(one => wanted.has(plain(one.label)) || wanted.has(plain(one.id))).length;
    const isNamed = plain(name).includes(id) || plain(name).includes(plain(called)) ? 1 : 0;
    // A heading that a table does not know speaks against it: of two that a file fits, the one that knows all of it is meant.
    const strange = own ? 0 : (wanted.size - hits) / Math.max(1, wanted.size);
    const share = hits / columns.length + has / needed.length + isNamed - strange;
    if (has >= Math.min(2, needed.length) && (!best || share > best.share)) best = { id, share };
  }
  return best?.id ?? null;
}

/** Whether a file stands on its side: its first column holds what should be its first line. */
export function standsOnItsSide(rows: readonly (readonly string[])[]): boolean {
  const across = tableLike(rows[0] ?? []);
  const down = tableLike(rows.map(row => row[0] ?? ''));
  return across === null && down !== null;
}
