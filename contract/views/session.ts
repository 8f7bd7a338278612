/** Who is signed in, accounts and sessions. */
import { PersonId } from '@north-pebble/core/people';
import { Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { Right } from '../inputs/session.ts';
import { list } from './values.ts';

export const Self = z.strictObject({
  id: PersonId,
  name: z.string(),
  zone: z.string(),
  rights: z.array(Right),
  /** Rights that wait for a second factor: the account has none, or it was not used to sign in. */
  withheld: z.array(Right),
  /** The name of the administrator who sees as they do, reading only. */
  seenBy: z.string().nullable(),
  /** Whether they own a list whose rows they edit. */
  keepsLists: z.boolean(),
  hasReports: z.boolean(),
  looksAfterSome: z.boolean(),
});
export type Self = z.infer<typeof Self>;

export const Card = z.strictObject({ id: PersonId, name: z.string(), role: z.string() });
export type Card = z.infer<typeof Card>;

export const SessionView = z.strictObject({
  self: Self.nullable(),
  demo: z.boolean(),
  /** What the house is called; nothing before it is set up. */
  house: z.string().nullable(),
  /** Whether nobody looks after it yet: it is set up by a one-time address. */
  isNew: z.boolean(),
  now: Instant,
  /** Cards to sign in with, in the demo only. */
  cards: z.array(Card),
});
export type SessionView = z.infer<typeof SessionView>;

export const LinkView = z.strictObject({
  purpose: z.enum(['setup', 'invitation', 'password']),
  name: z.string(),
  mail: z.string(),
});
export type LinkView = z.infer<typeof LinkView>;

export const AccountRow = z.strictObject({
  person: z.string(),
  name: z.string(),
  mail: z.string(),
  rights: z.array(Right),
  /** Whether a password was chosen yet. */
  isOpen: z.boolean(),
  closed: z.boolean(),
  hasFactor: z.boolean(),
});
export type AccountRow = z.infer<typeof AccountRow>;
export const AccountRows = z.array(AccountRow);
/** How many people work here, or are to come, and have no account. */
export const WithoutAccount = z.strictObject({ people: z.number() });

export const SessionRow = z.strictObject({ id: z.string(), expires: z.string(), isThis: z.boolean() });
export type SessionRow = z.infer<typeof SessionRow>;
export const SessionRows = z.array(SessionRow);

/** One’s own second factor: whether there is one, and how many of its written codes are left. */
export const FactorView = z.strictObject({
  isOn: z.boolean(),
  codesLeft: z.number(),
  /** Whether the password is asked for before one is set up. */
  hasPassword: z.boolean(),
});
export type FactorView = z.infer<typeof FactorView>;
/** What the other device is given, once, as an address by RFC 6238 and by hand. */
export const NewFactor = z.strictObject({ address: z.string(), secret: z.string() });
export const FactorCodes = z.strictObject({ codes: z.array(z.string()) });
export const RequiredFactor = z.strictObject({ rights: z.array(Right) });

export const Moved = z.strictObject({ now: Instant, timers: z.number() });
export const Nothing = z.strictObject({});
export const Healthy = z.strictObject({ ok: z.boolean() });
export const Ready = z.strictObject({ ready: z.boolean(), late: list(z.string()).optional() });

/** Shown once; kept nowhere. */
export const FirstPassword = z.strictObject({ connection: z.string(), account: z.string(), password: z.string() });

/** Everything that was taken along as a file: who, what of it, and when. */
export const ExportRows = list(
  z.strictObject({
    id: z.number(),
    who: z.string(),
    /** Whoever they saw North Pebble as. */
    as: z.string().nullable(),
    what: z.string(),
    at: Instant,
  }),
);
export type ExportRows = z.infer<typeof ExportRows>;
