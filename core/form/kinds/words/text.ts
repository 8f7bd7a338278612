import { z } from 'zod';
import { common } from '../../parts.ts';
import { asWritten, fieldKind, noSettings, nothing } from '../kind.ts';

export const text = fieldKind({
  schema: z.object({ ...common, kind: z.literal('text') }),
  words: 'a line of text',
  detail: nothing,
  blank: noSettings,
  type: 'text',
  answer: () => z.string().trim().max(300, 'Keep it under 300 letters.'),
  say: asWritten,
});
