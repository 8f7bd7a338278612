import { z } from 'zod';
import { TimeOfDay } from '../../../time/index.ts';
import type { Answer } from '../../answer.ts';
import { common } from '../../parts.ts';
import { asWritten, fieldKind, noSettings, nothing } from '../kind.ts';

export const time = fieldKind({
  schema: z.object({ ...common, kind: z.literal('time') }),
  words: 'a time of day',
  detail: nothing,
  blank: noSettings,
  type: 'time',
  answer: () => TimeOfDay as unknown as z.ZodType<Answer>,
  say: asWritten,
});
