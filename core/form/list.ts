/** Reference lists: rows kept by the house, that a form lets people pick from. */
import type { DirectoryIndex, PersonId } from '../people/index.ts';
import type { CivilDate } from '../time/index.ts';
import { type Cell, type Column, cellWords } from './column.ts';

export type ListRow = {
  readonly id: string;
  readonly title: string;
  readonly cells: Readonly<Record<string, Cell>>;
  /** The days on which it may be picked, both included; always where nothing is said. */
  readonly from?: CivilDate | null;
  readonly to?: CivilDate | null;
};
export type ReferenceList = {
  readonly id: string;
  readonly name: string;
  readonly columns: readonly Column[];
  /** Those who may edit its rows, beside those who keep records. */
  readonly owners?: readonly PersonId[];
  readonly rows: readonly ListRow[];
};

/** What is told of a post besides its title. */
export const postColumns: readonly Column[] = [
  { id: 'place', label: 'Place', kind: 'text' },
  { id: 'department', label: 'Department', kind: 'text' },
];

/** The posts on file, as a list to pick from. */
export function postsAsList(index: DirectoryIndex): ReferenceList {
  return {
    id: 'posts',
    name: 'Posts',
    columns: postColumns,
    rows: index.directory.posts.map(post => ({
      id: post.id,
      title: post.title,
      cells: {
        place: index.place(post.place)?.name ?? post.place,
        department: index.department(post.department)?.name ?? post.department,
      },
      ...(post.closed ? { to: post.closed } : {}),
    })),
  };
}

/** The places of the house, to pick from as from a list. */
export function placesAsList(index: DirectoryIndex): ReferenceList {
  return {
    id: 'places',
    name: 'Places',
    columns: [{ id: 'zone', label: 'Zone', kind: 'text' }],
    rows: index.directory.places.map(({ id, name, zone }) => ({ id, title: name, cells: { zone } })),
  };
}

/** The list whose rows stand on the public page of open posts. */
export const openPostsList = 'open-posts';
/** The column “Post on file” says which post a row is about, by its id. */
export const postColumn = 'post-on-file';

/** What somebody outside reads of a list: rows that hold on a day, and the columns that are said to be for them. */
export function readOutside(
  list: ReferenceList | undefined,
  day: CivilDate,
): { title: string; until: CivilDate | null; said: { label: string; words: string }[] }[] {
  const columns = list?.columns.filter(column => column.outside) ?? [];
  return (list?.rows ?? [])
    .filter(row => isPickable(row, day))
    .map(row => ({
      title: row.title,
      until: row.to ?? null,
      said: columns
        .map(column => ({ label: column.label, words: cellWords(column, row.cells[column.id]) }))
        .filter(({ words }) => words !== ''),
    }));
}

/** What the house has as lists without anybody keeping them. */
export const standingLists = [
  { id: 'posts', name: 'Posts' },
  { id: 'places', name: 'Places' },
] as const;

export const listById = (lists: readonly ReferenceList[], id: string): ReferenceList | undefined =>
  lists.find(list => list.id === id);

export const rowById = (list: ReferenceList | undefined, id: unknown): ListRow | undefined =>
  typeof id === 'string' ? list?.rows.find(row => row.id === id) : undefined;

/** Only rows whose column has the answer of another field. */
export type Where = { column: string; field: string };

/** Whether a row may be picked on a day. */
export const isPickable = ({ from, to }: Pick<ListRow, 'from' | 'to'>, day: CivilDate): boolean =>
  (!from || from <= day) && (!to || to >= day);

/** The rows that may be picked now: those that agree with the other field, when the pick depends on one. */
export function rowsToPick(
  { where }: { where?: Where | undefined },
  list: ReferenceList | undefined,
  answers: Readonly<Record<string, unknown>>,
): readonly ListRow[] {
  if (!list || !where) return list?.rows ?? [];
  const wanted = answers[where.field];
  if (wanted === null || wanted === undefined || wanted === '') return [];
  return list.rows.filter(row => row.cells[where.column] === wanted);
}
