/** What somebody outside sends at a public address, and how that address is kept. */
import { NearDate } from '@north-pebble/core/time';
import { GivenAnswers } from '@north-pebble/core/workflow';
import { z } from 'zod';

/** A public address, as it stands behind the `#`. */
export const PublicToken = z.string().regex(/^[A-Za-z0-9_-]{43}$/, 'is no public address');
export const AtPublic = z.object({ token: PublicToken });

/** How many letters are taken in from one form. */
const mostSent = 60_000;
const Answers = GivenAnswers.refine(
  answers => JSON.stringify(answers).length <= mostSent,
  'That is more than is taken in here.',
);
export const TypedOutside = z.strictObject({ answers: Answers });
export const SendOutside = z.strictObject({
  /** Under the same id it is taken in once, however often it is sent. */
  id: z.uuid(),
  answers: Answers,
  /** Nobody sees this line, so whoever fills it in is no reader of the page. */
  website: z.string().max(500),
});
export type SendOutside = z.infer<typeof SendOutside>;

export const KeepPublic = z
  .strictObject({
    firstDay: NearDate.nullable(),
    lastDay: NearDate.nullable(),
    most: z.number().int().min(1).max(100_000).nullable(),
    shut: z.boolean(),
    /** A new address in place of the one before. */
    renew: z.boolean(),
  })
  .refine(({ firstDay, lastDay }) => !firstDay || !lastDay || firstDay <= lastDay, {
    message: 'The last day lies before the first.',
    path: ['lastDay'],
  });
export type KeepPublic = z.infer<typeof KeepPublic>;

export const ReplyOutside = z.strictObject({
  task: z.string().min(1).max(80),
  text: z.string().trim().min(1, 'Write your reply.').max(2000),
});
