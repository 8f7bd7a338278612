import { z } from 'zod';
import { type CivilDate, fullDate, NearDate } from '../../../time/index.ts';
import type { GivenDocument } from '../../answer.ts';
import { fileOf, filing, takesWords } from '../../file.ts';
import { masked } from '../../masked.ts';
import { common } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

const partsAsked = (field: { expires: boolean; numbered?: true | undefined; issued?: true | undefined }): string => {
  const parts = [
    field.numbered ? 'its number' : '',
    field.issued ? 'the day it was issued' : '',
    field.expires ? 'the day it expires' : '',
  ].filter(Boolean);
  return parts.length > 0 ? ` with ${parts.join(', ').replace(/, ([^,]*)$/, ' and $1')}` : '';
};

type Asked = Parameters<typeof fileOf>[0] & {
  expires: boolean;
  numbered?: true | undefined;
  issued?: true | undefined;
};

/** @param today on which it is to be valid still, where that is asked */
const given = (field: Asked, today: CivilDate | null) =>
  z
    .object({
      file: fileOf(field),
      expires: NearDate.nullable(),
      number: z.string().trim().max(60).nullish(),
      issued: NearDate.nullish(),
    })
    .refine(given => !field.expires || given.expires !== null, 'Say until when it is valid.')
    .refine(
      ({ expires }) => !field.expires || expires === null || today === null || expires >= today,
      'It has run out already.',
    )
    .refine(given => !field.numbered || Boolean(given.number), 'Give its number.')
    .refine(given => !field.issued || Boolean(given.issued), 'Say when it was issued.')
    .refine(({ issued, expires }) => !issued || !expires || issued < expires, 'It ends before it was issued.')
    .transform(({ file, expires, number, issued }) => ({
      file,
      expires,
      ...(number ? { number } : {}),
      ...(issued ? { issued } : {}),
    }));

export const document = fieldKind({
  schema: z.object({
    ...common,
    ...filing,
    kind: z.literal('document'),
    expires: z.boolean(),
    /** Its number and the day it was issued are asked for too. */
    numbered: z.literal(true).optional(),
    issued: z.literal(true).optional(),
  }),
  words: 'a document',
  detail: field => `${partsAsked(field)}${field.takes || field.largest ? ` (${takesWords(field)})` : ''}`,
  blank: () => ({ expires: false }),
  type: 'anything',
  answer: field => given(field, null),
  answerIn: (field, { today }) => (field.expires ? given(field, today) : undefined),
  say: (_, answer) => {
    const { file, expires, number } = answer as GivenDocument;
    return `${file.name}${number ? `, number ${masked(number)}` : ''}${expires ? `, valid until ${fullDate(expires)}` : ''}`;
  },
  files: true,
});
