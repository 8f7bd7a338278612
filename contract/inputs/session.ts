/** Signing in, and the demo’s clock. */
import { z } from 'zod';
import { rights } from '../rights.ts';

export const Right = z.enum(rights);
export type Right = z.infer<typeof Right>;

export const SignIn = z.union([
  z.object({ card: z.string().min(1).max(40) }).strict(),
  z
    .object({
      mail: z.string().trim().min(1, 'Give your mail address.').max(200),
      password: z.string().min(1, 'Give your password.').max(200),
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
