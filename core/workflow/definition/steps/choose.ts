/** Choose: a decision table; the first row that holds leads on. */
import { z } from 'zod';
import { Formula, Id } from '../../../form/index.ts';
import { formulasOfValues, Go, type Shape, when } from './parts.ts';

export const Choose = z.object({
  verb: z.literal('Choose'),
  id: Id,
  when,
  rows: z
    .array(
      z.object({
        id: Id,
        condition: Formula,
        sets: z
          .array(z.object({ field: Id, formula: Formula }))
          .min(1)
          .max(20)
          .optional(),
        go: Go,
      }),
    )
    .max(100, 'has more than 100 rows'),
  otherwise: Go.nullable(),
});
export type Choose = z.infer<typeof Choose>;

export const chooseShape: Shape<Choose> = {
  leads: step => [
    ...step.rows.map((row, n) => ({ go: row.go, label: row.condition, path: ['rows', n, 'go'] })),
    ...(step.otherwise ? [{ go: step.otherwise, label: 'otherwise', path: ['otherwise'] }] : []),
  ],
  goesOn: () => false,
  formulas: step =>
    step.rows.flatMap((row, n) => [
      { formula: row.condition, wanted: 'yes/no' as const, path: ['rows', n, 'condition'] },
      ...formulasOfValues(row.sets ?? [], ['rows', n, 'sets']),
    ]),
};
