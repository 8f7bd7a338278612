import { z } from 'zod';
import { type CivilDate, fullDate, isCivilDate, NearDate } from '../../../time/index.ts';
import { common } from '../../parts.ts';
import { fieldKind, noSettings, nothing } from '../kind.ts';

export const date = fieldKind({
  schema: z.object({ ...common, kind: z.literal('date') }),
  words: 'a date',
  detail: nothing,
  blank: noSettings,
  type: 'date',
  answer: () => NearDate,
  say: (_, answer) => (isCivilDate(String(answer)) ? fullDate(answer as CivilDate) : String(answer)),
  dated: true,
});
