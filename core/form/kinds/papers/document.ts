import { z } from 'zod';
import { fullDate, NearDate } from '../../../time/index.ts';
import type { GivenDocument } from '../../answer.ts';
import { fileOf, filing, takesWords } from '../../file.ts';
import { common } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

export const document = fieldKind({
  schema: z.object({ ...common, ...filing, kind: z.literal('document'), expires: z.boolean() }),
  words: 'a document',
  detail: field =>
    `${field.expires ? ' with the day it expires' : ''}${field.takes || field.largest ? ` (${takesWords(field)})` : ''}`,
  blank: () => ({ expires: false }),
  type: 'anything',
  answer: field =>
    z
      .object({ file: fileOf(field), expires: NearDate.nullable() })
      .refine(given => !field.expires || given.expires !== null, 'Say until when it is valid.'),
  say: (_, answer) => {
    const { file, expires } = answer as GivenDocument;
    return `${file.name}${expires ? `, valid until ${fullDate(expires)}` : ''}`;
  },
  files: true,
});
