import { z } from 'zod';
import { fileOf, filing, type GivenFile, takesWords } from '../../file.ts';
import { common } from '../../parts.ts';
import { fieldKind, noSettings } from '../kind.ts';

export const files = fieldKind({
  schema: z.object({
    ...common,
    ...filing,
    kind: z.literal('files'),
    most: z.number().int().min(1).max(20).optional(),
  }),
  words: 'files',
  detail: field => (field.takes || field.largest ? ` (${takesWords(field)})` : ''),
  blank: noSettings,
  type: 'list',
  answer: field => z.array(fileOf(field)).max(field.most ?? 20, `At most ${field.most ?? 20} files.`),
  say: (_, answer) => (answer as GivenFile[]).map(file => file.name).join(', '),
  startsEmpty: true,
  files: true,
});
