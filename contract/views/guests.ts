/** What guests see by their personal link, and what those see who look after them. */
import { Field } from '@north-pebble/core/form';
import { Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { AnswerValues, list } from './values.ts';

const Standing = z.enum(['open', 'in', 'back']);
/** `readBy` says in words who reads what is given there. */
export const GuestFieldView = z.strictObject({ field: Field, needed: z.boolean(), readBy: z.string() });
export type GuestFieldView = z.infer<typeof GuestFieldView>;
export const GuestSectionView = z.strictObject({
  id: z.string(),
  title: z.string(),
  help: z.string().nullable(),
  state: Standing,
  /** Why it was given back. */
  note: z.string().nullable(),
  fields: list(GuestFieldView),
  /** What is handed in; what is typed and not handed in stands in `typed`. */
  answers: AnswerValues,
  typed: z.strictObject({ value: z.record(z.string(), z.unknown()), base: z.number(), at: z.string() }).nullable(),
});
export type GuestSectionView = z.infer<typeof GuestSectionView>;

const GuestWord = z.strictObject({ who: z.string(), mine: z.boolean(), at: Instant, text: z.string() });

export const GuestView = z.strictObject({
  /** `code` on a device that is not known yet: nothing else is told then. */
  state: z.enum(['open', 'all in', 'over', 'expired', 'code']),
  name: z.string(),
  house: z.string(),
  /** What it is for. */
  about: z.string(),
  until: Instant.nullable(),
  /** Today where they will work, for what is dated. */
  now: Instant,
  /** The date that is counted back from, in words: `Start date: Mon 2 March`. */
  date: z.string().nullable(),
  contact: z.string(),
  /** By when all of it is to be in. */
  due: Instant.nullable(),
  zone: z.string(),
  sections: list(GuestSectionView),
  words: list(GuestWord),
  /** For whoever asked for it from outside: its number, and what they are asked. */
  own: z
    .strictObject({
      number: z.string(),
      asks: list(z.strictObject({ task: z.string(), who: z.string(), text: z.string(), at: Instant })),
    })
    .nullable(),
  lists: list(z.strictObject({ id: z.string(), rows: list(z.strictObject({ id: z.string(), title: z.string() })) })),
});
export type GuestView = z.infer<typeof GuestView>;

export const GuestSaved = z.strictObject({ base: z.number(), fields: list(GuestFieldView) });
export type GuestSaved = z.infer<typeof GuestSaved>;
/** A paper as it is to be read. */
export const GuestPaper = z.strictObject({ digest: z.string(), file: z.string(), text: z.string().nullable() });
export type GuestPaper = z.infer<typeof GuestPaper>;

/** One guest as those see it who look after them. */
export const GuestStandingView = z.strictObject({
  step: z.string(),
  number: z.string(),
  name: z.string(),
  address: z.string(),
  link: z.strictObject({ until: Instant, ended: z.boolean(), over: z.boolean() }),
  /** From how many devices it was opened, and when last. */
  devices: z.number(),
  seenAt: z.string().nullable(),
  sections: list(
    z.strictObject({
      id: z.string(),
      title: z.string(),
      state: Standing,
      at: Instant.nullable(),
      note: z.string().nullable(),
      begun: z.boolean(),
    }),
  ),
  words: list(GuestWord),
  /** The next reminder, when one is to go out, and what it would say. */
  reminder: z.strictObject({ at: Instant.nullable(), subject: z.string(), body: z.string() }).nullable(),
  mayAct: z.boolean(),
});
export type GuestStandingView = z.infer<typeof GuestStandingView>;
export const GuestStandings = list(GuestStandingView);

export const DemoGuests = list(
  z.strictObject({ request: z.string(), step: z.string(), name: z.string(), words: z.string() }),
);
export const GuestAddress = z.strictObject({ address: z.string() });
