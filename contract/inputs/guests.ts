/** What guests send by their personal link. */
import { GivenAnswers } from '@north-pebble/core/workflow';
import { z } from 'zod';
import { NewFile } from './requests.ts';

/** The token of a personal link, as it stands behind the `#` of its address. */
export const GuestToken = z.string().regex(/^[A-Za-z0-9_-]{43}$/, 'is no personal link');
const Id = z.string().min(1).max(40);
export const OfGuest = z.object({ token: GuestToken });
export const OfSection = z.object({ token: GuestToken, section: Id });
export const OfField = z.object({ token: GuestToken, field: Id });
export const OfFile = z.object({ token: GuestToken, file: z.uuid() });

/** How many letters are kept of one section. */
const mostTyped = 60_000;

/** What is typed in a section, and on which saving it builds: 0 before anything was saved. */
export const SaveSection = z
  .object({ value: GivenAnswers, base: z.number().int().nonnegative() })
  .refine(({ value }) => JSON.stringify(value).length <= mostTyped, 'That is too much to be kept.');
export type SaveSection = z.infer<typeof SaveSection>;

export const HandIn = z.object({ answers: GivenAnswers });
export const AskAsGuest = z.object({ text: z.string().trim().min(1, 'Write your question.').max(2000) });

/** Strokes of points in thousandths of the box. */
export const Strokes = z
  .array(z.array(z.tuple([z.number().min(-50).max(1050), z.number().min(-50).max(1050)])).max(1000))
  .max(100);
/** A paper read, or signed under a name; `digest` is that of the paper which they had before them. */
export const SignPaper = z.object({
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  name: z.string().trim().min(2, 'Write your name.').max(120).nullable(),
  strokes: Strokes.nullable(),
});
export type SignPaper = z.infer<typeof SignPaper>;

/** The code that was sent to the guest’s own address, from a device that was not known. */
export const GiveGuestCode = z.object({
  code: z
    .string()
    .trim()
    .regex(/^\d{6}$/, 'The code has six digits.'),
});
export const GuestFile = NewFile;

/** A guest of the demo, by the request and its step. */
export const DemoGuest = z.object({ request: z.string().min(1).max(40), step: Id });
