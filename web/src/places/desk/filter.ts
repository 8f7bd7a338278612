/** Which of the things that wait are looked at: by workflow, by what is to be done, by the role to which they came. */
import type { DeskItem } from '@north-pebble/contract';

export const parts = ['workflow', 'kind', 'role'] as const;
export type Part = (typeof parts)[number];
export type DeskFilter = Readonly<Record<Part, string | null>> & { readonly words: string };

export const filterIn = (search: URLSearchParams): DeskFilter => ({
  workflow: search.get('workflow'),
  kind: search.get('kind'),
  role: search.get('role'),
  words: search.get('words') ?? '',
});

export const isFiltered = (filter: DeskFilter): boolean =>
  filter.words.trim() !== '' || parts.some(part => filter[part] !== null);

const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();

export function fits(item: DeskItem, filter: DeskFilter): boolean {
  const words = plain(filter.words).split(/\s+/).filter(Boolean);
  const text = plain([item.askerName, item.what, item.workflowName, item.request, ...item.facts].join(' '));
  return (
    parts.every(part => filter[part] === null || item[part] === filter[part]) && words.every(w => text.includes(w))
  );
}

/** What can be chosen of one part, with how many there are of each; nothing where there is no choice. */
export function choicesOf(items: readonly DeskItem[], part: Part): { value: string; name: string; n: number }[] {
  const found = new Map<string, { value: string; name: string; n: number }>();
  for (const item of items) {
    const value = item[part];
    if (value === null) continue;
    const name = part === 'workflow' ? item.workflowName : value;
    found.set(value, { value, name, n: (found.get(value)?.n ?? 0) + 1 });
  }
  const all = [...found.values()].sort((a, b) => b.n - a.n || a.name.localeCompare(b.name));
  const isChoice = part === 'role' ? all.length > 0 : all.length > 1;
  return isChoice ? all : [];
}

/** The address without the request that is open. */
export function queryOf(search: URLSearchParams): string {
  const query = new URLSearchParams(search);
  query.delete('item');
  return query.toString();
}
