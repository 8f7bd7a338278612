import { z } from 'zod';
import { NearDate, rangeWords } from '../../../time/index.ts';
import type { DateRange } from '../../answer.ts';
import { common } from '../../parts.ts';
import { fieldKind, noSettings, nothing } from '../kind.ts';

const Range = z
  .object({ from: NearDate, to: NearDate })
  .refine(range => range.from <= range.to, 'The last day is before the first.');

export const dateRange = fieldKind({
  schema: z.object({ ...common, kind: z.literal('date range') }),
  words: 'a first and a last day',
  detail: nothing,
  blank: noSettings,
  type: 'date range',
  answer: () => Range,
  say: (_, answer, naming) => {
    const { from, to } = answer as DateRange;
    return rangeWords(from, to, naming.year);
  },
  fault: (_, issue) => (issue.code === 'custom' ? undefined : 'Give a first and a last day.'),
  dated: true,
});
