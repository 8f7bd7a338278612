import { z } from 'zod';
import { common } from '../../parts.ts';
import { fieldKind, noSettings, nothing } from '../kind.ts';

export const yesNo = fieldKind({
  schema: z.object({ ...common, kind: z.literal('yes/no') }),
  words: 'yes or no',
  detail: nothing,
  blank: noSettings,
  type: 'yes/no',
  answer: () => z.boolean(),
  say: (_, answer) => (answer === true ? 'yes' : 'no'),
});
