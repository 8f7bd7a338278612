/** What every field of a form has, whatever its kind. */
import { z } from 'zod';

export const Id = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'is not an id: small letters, digits and dashes');
export const Name = z.string().trim().min(1, 'needs a name').max(80, 'is longer than 80 letters');
export const Formula = z.string().max(2000, 'is longer than 2,000 letters');

/** A rule that an answer must meet, with what is said when it does not. */
export const Check = z.object({ formula: Formula, message: z.string().trim().min(1).max(300) });
export type Check = z.infer<typeof Check>;

/** What North Pebble knows of the asker before a word is typed. */
export const knownFacts = ['name', 'mail', 'post', 'manager', 'department', 'place'] as const;
export type KnownFact = (typeof knownFacts)[number];

/** What stands in a field before anybody types. */
export const Start = z.discriminatedUnion('from', [
  z.object({ from: z.literal('fixed'), value: z.union([z.string().max(2000), z.number(), z.boolean()]) }),
  z.object({ from: z.literal('formula'), formula: Formula }),
  z.object({ from: z.literal('known'), fact: z.enum(knownFacts) }),
  /** A column of the row, or a fact of the person, that was picked in another field. */
  z.object({ from: z.literal('picked'), field: Id, column: z.string().min(1).max(80) }),
]);
export type Start = z.infer<typeof Start>;

export const common = {
  id: Id,
  label: Name,
  help: z.string().max(500).optional(),
  required: z.boolean(),
  /** The section under which it stands; the first one when nothing is said. */
  section: Id.optional(),
  start: Start.optional(),
  shownWhen: Formula.optional(),
  /** Needed too when this holds, where it is not needed anyway. */
  neededWhen: Formula.optional(),
  /** Why it is asked for, said where somebody fills it in by a personal link. */
  why: z.string().trim().min(1).max(300).optional(),
  checks: z.array(Check).max(10).optional(),
  /** Only people of these places are asked. */
  places: z.array(z.string().min(1).max(80)).min(1).max(100).optional(),
  /** Besides whoever it is about, only people with these roles read it, and each look is recorded. */
  readers: z.array(z.string().trim().min(1).max(80)).min(1).max(10).optional(),
  /** The asker reads it although it is not on their own form: what others fill in for them. */
  askerReads: z.literal(true).optional(),
};
export type Common = z.infer<z.ZodObject<typeof common>>;

/** Words to choose from. */
export const Options = z.array(Name).min(1, 'needs something to choose from').max(200);
