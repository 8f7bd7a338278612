/** Signing in, and the demo’s clock. */
import { PersonId } from '@north-pebble/core/people';
import { z } from 'zod';
import { rights } from '../rights.ts';

export const Right = z.enum(rights);
export type Right = z.infer<typeof Right>;

/** Six figures from the other device, or one of the codes that were written down; spaces do not matter. */
export const FactorCode = z
  .string()
  .max(40)
  .transform(text => text.replaceAll(/[\s-]/g, '').toLowerCase())
  .pipe(z.string().regex(/^(\d{6}|[a-z2-7]{10})$/, 'Give the six figures, or one of the codes that you wrote down.'));

/** One’s password once more, before something that an open session alone must not do; empty where the account has none. */
export const GivePassword = z.object({ password: z.string().max(200) }).strict();
export type GivePassword = z.infer<typeof GivePassword>;

export const SignIn = z.union([
  z.object({ card: z.string().min(1).max(40) }).strict(),
  z
    .object({
      mail: z.string().trim().min(1, 'Give your mail address.').max(200),
      password: z.string().min(1, 'Give your password.').max(200),
      /** Of the second factor, where the account has one. */
      code: FactorCode.optional(),
    })
    .strict(),
]);
export type SignIn = z.infer<typeof SignIn>;

export const MoveClock = z
  .object({
    days: z.number().int().min(0).max(400),
    hours: z.number().int().min(0).max(23),
  })
  .refine(move => move.days + move.hours > 0, 'Move it forward by an hour at least.');
export type MoveClock = z.infer<typeof MoveClock>;

/** As whom North Pebble is seen, and why. */
export const SeeAs = z.object({
  person: PersonId,
  reason: z.string().trim().min(1, 'Say why: it is kept.').max(500),
});
