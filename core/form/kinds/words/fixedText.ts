import { z } from 'zod';
import { common } from '../../parts.ts';
import { fieldKind, nothing } from '../kind.ts';

export const fixedText = fieldKind({
  schema: z.object({ ...common, kind: z.literal('fixed text'), text: z.string().max(2000) }),
  words: 'words to read',
  detail: field => `: “${field.text}”`,
  blank: () => ({ text: 'Words to read.' }),
  type: 'anything',
  answer: () => z.null(),
  say: nothing,
  asksNothing: true,
  startsEmpty: true,
});
