import { z } from 'zod';
import { bounded, CurrencyCode, cents, moneyWords } from '../../column.ts';
import { common } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

export const money = fieldKind({
  schema: z.object({
    ...common,
    kind: z.literal('money'),
    currency: CurrencyCode,
    most: z.number().optional(),
  }),
  words: 'an amount of money',
  detail: field => ` in ${field.currency}`,
  blank: () => ({ currency: 'EUR' }),
  type: 'money',
  answer: field => bounded(cents, 0, field.most),
  value: (field, answer) => (typeof answer === 'number' ? { amount: answer, currency: field.currency } : null),
  say: (field, answer) => moneyWords(answer as number, field.currency),
});
