/** The rules that name people, as a workflow keeps them: who is meant, and who else where nobody is found. */
import { z } from 'zod';
import { PersonId } from './directory.ts';

const Text = z.string().min(1).max(200);
const Levels = z.number().int().min(1).max(9);
/** Whose manager, department or place is meant: the asker when nothing is said. */
export const Whose = z.union([z.literal('subject'), z.object({ field: Text }).strict()]);
export type Whose = z.infer<typeof Whose>;
const of = Whose.optional();
/** Whose department or place: of a person, or of the post that is picked in the form. */
export const WhoseUnit = z.union([Whose, z.object({ post: Text }).strict()]);
export type WhoseUnit = z.infer<typeof WhoseUnit>;
const ofUnit = WhoseUnit.optional();

const single = [
  z.object({ kind: z.literal('asker') }),
  z.object({ kind: z.literal('subject') }),
  z.object({ kind: z.literal('person'), person: PersonId }),
  z.object({ kind: z.literal('person in'), field: Text }),
  z.object({ kind: z.literal('manager'), levels: Levels, of }),
  /** Every manager of the line up to a level, nearest first. */
  z.object({ kind: z.literal('managers'), levels: Levels, of }),
  /** The first manager of the line whose grade or spending limit is at least what the formula gives. */
  z.object({ kind: z.literal('manager with'), what: z.enum(['grade', 'spending limit']), least: Text, of }),
  z.object({ kind: z.literal('head of department'), of: ofUnit }),
  z.object({ kind: z.literal('head of place'), of: ofUnit }),
  z.object({ kind: z.literal('dotted-line manager'), of }),
  z.object({ kind: z.literal('post'), post: Text }),
  z.object({ kind: z.literal('post in'), field: Text }),
  /** Only those of the place or department of the asker, of another or of a post, when said. */
  z.object({ kind: z.literal('role'), role: Text, within: z.enum(['place', 'department']).optional(), of: ofUnit }),
  z.object({ kind: z.literal('everyone'), place: Text.optional(), department: Text.optional() }),
  /** Whoever settled an earlier step. */
  z.object({ kind: z.literal('decided'), step: Text }),
  /** Whoever stands above the post that is picked in the form, whoever holds it. */
  z.object({ kind: z.literal('above post in'), field: Text }),
] as const;

/** A rule that is no group of others. */
export const PlainRule = z.discriminatedUnion('kind', single);
export type PlainRule = z.infer<typeof PlainRule>;

export const SingleRule = z.discriminatedUnion('kind', [
  ...single,
  /** Those of one and those of the other, as one group. */
  z.object({ kind: z.literal('either'), rules: z.array(PlainRule).min(2).max(6) }),
]);
export type SingleRule = z.infer<typeof SingleRule>;

export const PeopleRule = z.object({
  first: SingleRule,
  /** Tried in order when the one before finds nobody. */
  otherwise: z.array(SingleRule).max(5).default([]),
  /** Never these, whatever the rules above find. */
  except: z.array(SingleRule).max(5).optional(),
});
export type PeopleRule = z.infer<typeof PeopleRule>;
