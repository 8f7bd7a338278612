import { z } from 'zod';
import type { TableRow } from '../../answer.ts';
import { Column, cellSchema, cellWords } from '../../column.ts';
import { cellValue, columnTypes } from '../../columnTypes.ts';
import { common } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

export const table = fieldKind({
  schema: z.object({ ...common, kind: z.literal('table'), columns: z.array(Column).min(1).max(12) }),
  words: 'a small table',
  detail: field => ` with ${field.columns.map(c => c.label).join(', ')}`,
  blank: () => ({ columns: [{ id: 'what', label: 'What', kind: 'text' as const }] }),
  type: 'list',
  typeOf: field => ({ list: { row: columnTypes(field.columns) } }),
  // Formulas see rows by the labels of their columns.
  value: (field, answer) =>
    Array.isArray(answer)
      ? (answer as TableRow[]).map(row =>
          Object.fromEntries(field.columns.map(c => [c.label, cellValue(c, row[c.id])])),
        )
      : [],
  answer: field => {
    const shape = Object.fromEntries(field.columns.map(column => [column.id, cellSchema(column).nullable()]));
    return z.array(z.object(shape).strict() as unknown as z.ZodType<TableRow>).max(200, 'At most 200 rows.');
  },
  say: (field, answer) =>
    (answer as TableRow[]).map(row => field.columns.map(c => cellWords(c, row[c.id])).join(' ')).join('; '),
  fault: (field, issue) => {
    if (issue.path.length < 2) return undefined;
    const column = field.columns.find(c => c.id === issue.path[1])?.label ?? String(issue.path[1]);
    return `Row ${Number(issue.path[0]) + 1}, ${column}: ${issue.message}`;
  },
  startsEmpty: true,
  parts: field =>
    Object.fromEntries(Object.entries(columnTypes(field.columns)).map(([label, of]) => [label, { list: of }])),
  partValues: (field, answer) => {
    const rows = Array.isArray(answer) ? (answer as TableRow[]) : [];
    return Object.fromEntries(field.columns.map(c => [c.label, rows.map(row => cellValue(c, row[c.id]))]));
  },
});
