import { z } from 'zod';
import { common } from '../../parts.ts';
import { asWritten, fieldKind, noSettings, nothing } from '../kind.ts';

export const longText = fieldKind({
  schema: z.object({ ...common, kind: z.literal('long text') }),
  words: 'a longer text',
  detail: nothing,
  blank: noSettings,
  type: 'text',
  answer: () => z.string().trim().max(5000, 'Keep it under 5,000 letters.'),
  say: asWritten,
});
