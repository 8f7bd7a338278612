import { z } from 'zod';
import { Instant } from '../../../time/index.ts';
import type { SignedPaper } from '../../answer.ts';
import { fileOf } from '../../file.ts';
import { common, Id } from '../../parts.ts';
import { fieldKind } from '../kind.ts';

/** How a paper may be dealt with: read alone, signed in the page, signed by hand and given back, or as they like. */
export const signings = ['read', 'here', 'by hand', 'either'] as const;

const files = { takes: ['PDF', 'picture'] as const, largest: 10 };

/** A paper that somebody reads and signs. Its words are the house's, or it is a PDF that was given in another field. */
export const paper = fieldKind({
  schema: z
    .object({
      ...common,
      kind: z.literal('paper'),
      /** Names of fields and figures in braces are replaced, as in messages. Empty where `from` names a file. */
      text: z.string().max(20_000),
      /** A field with the PDF itself. */
      from: Id.optional(),
      signed: z.enum(signings),
    })
    .refine(field => field.from !== undefined || field.text.trim() !== '', {
      path: ['text'],
      message: 'says nothing to read',
    }),
  words: 'a paper to read or sign',
  detail: field =>
    ({
      read: ', to be read',
      here: ', signed in the page',
      'by hand': ', signed by hand and given back',
      either: ', signed in the page or by hand',
    })[field.signed],
  blank: () => ({ text: 'Between the house and {Name} …', signed: 'either' as const }),
  type: 'anything',
  answer: field =>
    z
      .object({
        how: z.enum(['read', 'typed', 'drawn', 'by hand']),
        name: z.string().max(200).nullable(),
        at: Instant,
        /** SHA-256 of what was read, in hex. */
        digest: z.string().length(64).nullable(),
        file: fileOf(files).nullable(),
      })
      .refine(given => (given.how === 'read') === (field.signed === 'read'), 'It is to be signed.')
      .refine(given => given.how === 'read' || given.file !== null, 'The signed paper is missing.')
      .refine(
        given =>
          given.how === 'read' || field.signed === 'either' || (field.signed === 'here') === (given.how !== 'by hand'),
        'It is signed in another way.',
      ),
  say: (_, answer) => {
    const { how, name, at, file } = answer as SignedPaper;
    const when = `${at.slice(0, 10)}, ${at.slice(11, 16)} UTC`;
    if (how === 'read') return `read on ${when}`;
    if (how === 'by hand') return `signed by hand: ${file?.name ?? ''}`;
    return `signed by ${name ?? ''} on ${when}`;
  },
  files: true,
});
