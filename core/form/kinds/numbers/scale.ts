import { z } from 'zod';
import { bounded, number } from '../../column.ts';
import { common, Name } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

/** More marks than these do not stand in one row. */
const mostMarks = 21;
const Mark = z.number().int().min(-100).max(100);

export const scale = fieldKind({
  schema: z
    .object({ ...common, kind: z.literal('scale'), least: Mark, most: Mark, leastWords: Name, mostWords: Name })
    .refine(({ least, most }) => least < most, { path: ['most'], message: 'must be above the lowest mark' })
    .refine(({ least, most }) => most - least < mostMarks, {
      path: ['most'],
      message: `leaves more than ${mostMarks} marks`,
    }),
  words: 'a mark on a scale',
  detail: ({ least, most, leastWords, mostWords }) => ` from ${least} (${leastWords}) to ${most} (${mostWords})`,
  blank: () => ({ least: 1, most: 5, leastWords: 'not at all', mostWords: 'very much' }),
  type: 'number',
  answer: field => bounded(number.refine(Number.isInteger, 'Choose one of the marks.'), field.least, field.most),
  say: ({ least, most, leastWords, mostWords }, answer) =>
    answer === least
      ? `${answer} (${leastWords})`
      : answer === most
        ? `${answer} (${mostWords})`
        : `${answer} of ${most}`,
  bounds: field => field,
});
