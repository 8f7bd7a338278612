/** What somebody outside sees at a public address, and what the house sees of it. */
import { CivilDate, Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { GuestFieldView } from './guests.ts';
import { list } from './values.ts';

export const PublicSectionView = z.strictObject({
  id: z.string(),
  title: z.string(),
  help: z.string().nullable(),
  fields: list(GuestFieldView.omit({ readBy: true })),
});
export const PublicAsked = z.strictObject({ sections: list(PublicSectionView) });
export type PublicAsked = z.infer<typeof PublicAsked>;

export const FormOutside = z.strictObject({
  house: z.string(),
  name: z.string(),
  purpose: z.string(),
  /** Why nothing can be sent now, in words; nothing while it can. */
  shut: z.string().nullable(),
  /** The fields with the name and the mail address of whoever sends it. */
  who: z.strictObject({ name: z.string(), mail: z.string() }),
  /** Whether other fields may be asked, or needed, with other answers. */
  changes: z.boolean(),
  /** The last day on which it can be sent. */
  until: CivilDate.nullable(),
  /** What is asked for later, on a page of their own, by title. */
  later: list(z.string()),
  /** How long it is kept after its end. */
  keptMonths: z.number().nullable(),
  sections: list(PublicSectionView),
  lists: list(z.strictObject({ id: z.string(), rows: list(z.strictObject({ id: z.string(), title: z.string() })) })),
});
export type FormOutside = z.infer<typeof FormOutside>;

/** To which address the link went that leads on. */
export const SentOutside = z.strictObject({ mail: z.string() });

export const PublicAddressView = z.strictObject({
  /** Nothing until it is given out for the first time. */
  address: z.string().nullable(),
  firstDay: CivilDate.nullable(),
  lastDay: CivilDate.nullable(),
  most: z.number().nullable(),
  taken: z.number(),
  shut: z.boolean(),
  /** Why nothing is taken in now; nothing while it is. */
  why: z.string().nullable(),
  mayKeep: z.boolean(),
});
export type PublicAddressView = z.infer<typeof PublicAddressView>;

/** What is deleted when its time is over. */
export const ForgettingView = z.strictObject({
  request: z.string(),
  /** Who asked. */
  who: z.string(),
  title: z.string(),
  workflow: z.string(),
  name: z.string(),
  closedAt: Instant,
  on: CivilDate,
});
export type ForgettingView = z.infer<typeof ForgettingView>;
export const Forgetting = z.strictObject({
  soon: list(ForgettingView),
  total: z.number(),
  gone: z.strictObject({
    requests: z.number(),
    last: Instant.nullable(),
    /** The last that went, with what stays of each: that it was there, and how its sealed trail ended. */
    rows: list(
      z.strictObject({ request: z.string(), name: z.string(), closedAt: Instant, at: Instant, events: z.number() }),
    ),
  }),
});
export type Forgetting = z.infer<typeof Forgetting>;
