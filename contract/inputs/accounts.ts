/** A house that begins, and accounts: invited, forgotten, changed, switched off. */
import { isZone } from '@north-pebble/core/time';
import { z } from 'zod';
import { FactorCode, Right } from './session.ts';

/** Long enough that it is not guessed; nothing else is asked of it. */
export const Password = z
  .string()
  .min(12, 'Use at least twelve letters; a short sentence is easy to remember.')
  .max(200, 'Use at most two hundred letters.');
const PersonName = z.string().trim().min(2, 'Give a name.').max(200);
const Mail = z.email('Give a mail address.').max(200);
export const LinkToken = z.string().min(20).max(100);

/** What the first administrator says of the house. */
export const SetUp = z
  .object({
    token: LinkToken,
    house: z.string().trim().min(2, 'Give the house a name.').max(200),
    name: PersonName,
    mail: Mail,
    password: Password,
    place: z.string().trim().min(2, 'Name the place where people work.').max(200),
    zone: z.string().max(80).refine(isZone, 'This is no time zone, as Europe/Lisbon is one.'),
    pattern: z.string().max(40),
    calendar: z.string().max(40),
    days: z.number('Write a number of days.').min(0, 'At least 0.').max(366, 'At most 366.'),
  })
  .strict();
export type SetUp = z.infer<typeof SetUp>;

export const Invite = z
  .object({
    name: PersonName,
    mail: Mail,
    post: z.string().trim().min(2, 'Say what they do.').max(200),
    /** Who leads them. */
    manager: z.string().min(1, 'Choose who leads them.').max(40),
    rights: z.array(Right).max(3).default([]),
  })
  .strict();
export type Invite = z.infer<typeof Invite>;

export const ChoosePassword = z.object({ token: LinkToken, password: Password }).strict();
export const ChangePassword = z.object({ before: z.string().max(200), password: Password }).strict();
export const Forgotten = z.object({ mail: z.string().trim().min(1, 'Give your mail address.').max(200) }).strict();
export const ChangeAccount = z
  .object({
    rights: z.array(Right).max(3).optional(),
    closed: z.boolean().optional(),
    /** Takes the second factor of somebody away who has lost their device. */
    factor: z.literal(false).optional(),
  })
  .strict();
export const GiveCode = z.object({ code: FactorCode }).strict();
export const RequireFactor = z.object({ rights: z.array(Right).max(3) }).strict();

/** What colleagues may read of one another besides name, post, place and department. */
export const colleagueFields = ['manager', 'mail', 'joined', 'left'] as const;
export const ColleagueFields = z.strictObject({
  fields: z
    .array(z.enum(colleagueFields))
    .max(colleagueFields.length)
    .transform(fields => [...new Set(fields)]),
});
export type ColleagueField = (typeof colleagueFields)[number];
