import { z } from 'zod';
import { amountWords } from '../../../time/index.ts';
import { bounded, number } from '../../column.ts';
import { common } from '../../parts.ts';
import { fieldKind, noSettings, nothing } from '../kind.ts';

export const decimal = fieldKind({
  schema: z.object({
    ...common,
    kind: z.literal('decimal'),
    least: z.number().optional(),
    most: z.number().optional(),
  }),
  words: 'a number',
  detail: nothing,
  blank: noSettings,
  type: 'number',
  answer: field => bounded(number, field.least, field.most),
  say: (_, answer) => amountWords(answer as number),
  bounds: field => field,
});
