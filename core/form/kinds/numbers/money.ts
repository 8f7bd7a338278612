import { z } from 'zod';
import { bounded, cents, moneyWords } from '../../column.ts';
import { common } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

export const money = fieldKind({
  schema: z.object({
    ...common,
    kind: z.literal('money'),
    currency: z.string().regex(/^[A-Z]{3}$/, 'is no currency code'),
    most: z.number().optional(),
  }),
  words: 'an amount of money',
  detail: field => ` in ${field.currency}`,
  blank: () => ({ currency: 'EUR' }),
  type: 'number',
  answer: field => bounded(cents, 0, field.most),
  say: (field, answer) => moneyWords(answer as number, field.currency),
});
