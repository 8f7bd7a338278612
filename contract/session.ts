/** Who is signed in, and the demo's clock. */
import type { PersonId } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import { z } from 'zod';

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

export const Right = z.enum(['designer', 'administrator', 'auditor']);
export type Right = z.infer<typeof Right>;

export type Self = {
  id: PersonId;
  name: string;
  zone: string;
  rights: Right[];
  hasReports: boolean;
  looksAfterSome: boolean;
};
export type Card = { id: PersonId; name: string; role: string };

export type SessionView = {
  self: Self | null;
  demo: boolean;
  /** What the house is called; nothing before it is set up. */
  house: string | null;
  /** Whether nobody looks after it yet: it is set up by a one-time address. */
  isNew: boolean;
  now: Instant;
  /** Cards to sign in with, in the demo only. */
  cards: Card[];
};

export const MoveClock = z
  .object({
    days: z.number().int().min(0).max(400),
    hours: z.number().int().min(0).max(23),
  })
  .refine(move => move.days + move.hours > 0, 'Move it forward by an hour at least.');
export type MoveClock = z.infer<typeof MoveClock>;
