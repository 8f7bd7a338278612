import { z } from 'zod';
import { amountWords } from '../../../time/index.ts';
import { bounded, number } from '../../column.ts';
import { common } from '../../parts.ts';
import { fieldKind, noSettings, nothing } from '../kind.ts';

export const wholeNumber = fieldKind({
  schema: z.object({
    ...common,
    kind: z.literal('whole number'),
    least: z.number().optional(),
    most: z.number().optional(),
  }),
  words: 'a whole number',
  detail: nothing,
  blank: noSettings,
  type: 'number',
  answer: field => bounded(number.refine(Number.isInteger, 'Write a whole number.'), field.least, field.most),
  say: (_, answer) => amountWords(answer as number),
  bounds: field => field,
});
