import { z } from 'zod';
import { cellValue, columnTypes } from '../../columnTypes.ts';
import { isPickable, listById, rowById, rowsToPick } from '../../list.ts';
import { common, Id } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

export const pick = fieldKind({
  schema: z.object({
    ...common,
    kind: z.literal('pick'),
    /** A reference list of the house, by id; `posts` are the posts on file. */
    list: z.string().min(1).max(40),
    /** Only rows whose column has the answer of another field. */
    where: z.object({ column: z.string().min(1).max(80), field: Id }).optional(),
  }),
  words: 'a row of a list',
  detail: field => ` (${field.list})`,
  blank: () => ({ list: 'posts' }),
  type: 'text',
  answer: () => z.string(),
  answerIn: (field, house, given) => {
    const rows = rowsToPick(field, listById(house.lists, field.list), given).filter(row =>
      isPickable(row, house.today),
    );
    return z.string().refine(id => rows.some(row => row.id === id), 'Choose a row of the list.');
  },
  say: (field, answer, naming) => naming.row(field.list, String(answer)),
  value: (field, answer, { lists }) => rowById(listById(lists, field.list), answer)?.title ?? null,
  // Where the lists of the house are not known, any column may be there.
  parts: (field, lists) =>
    lists.length === 0 ? { '*': 'anything' } : columnTypes(listById(lists, field.list)?.columns ?? []),
  partValues: (field, answer, lists) => {
    const list = listById(lists, field.list);
    const row = rowById(list, answer);
    return Object.fromEntries(
      (list?.columns ?? []).map(column => [column.label, cellValue(column, row?.cells[column.id])]),
    );
  },
});
