/** What HR changes of the house, as edits of facts: each from a day on where facts have days. */
import { z } from 'zod';
import { Cell, Column } from '../form/index.ts';
import { LeastPresence, LeaveTypeRules, PlanRules } from '../leave/index.ts';
import { PersonId } from '../people/index.ts';
import { type CivilDate, HolidayRule, NearDate, TimeOfDay, toDay, WorkPattern, Zone } from '../time/index.ts';
import { type FactEdit, Holds, PayWord, sameFact } from './fact.ts';

export const FactId = z.string().trim().min(1).max(40);
/** Of something that comes: `new` for one that is made of the name. */
const Id = FactId;
const Name = z.string().trim().min(1, 'Write the name.').max(200);
export const Mail = z
  .string()
  .trim()
  .max(200)
  .regex(/^[^@\s]+@[^@\s]+$/, 'Write an address like name@house.example.');
const Share = z.number().positive('More than nothing.').max(1, 'At most the whole.');

const recordParts = {
  place: Id,
  department: Id,
  pattern: Id,
  fte: Share,
  plan: Id.nullable(),
  costCentre: PayWord.nullable(),
};
export const recordPartNames = ['place', 'department', 'pattern', 'fte', 'plan', 'costCentre'] as const;
export type RecordPart = (typeof recordPartNames)[number];

const HalfEnd = z.strictObject({ date: NearDate, half: z.enum(['am', 'pm']) });
const TimeEnd = z.strictObject({ date: NearDate, time: TimeOfDay });
const part = z.enum(['day', 'am', 'pm']);

const changes = [
  z.strictObject({
    what: z.literal('record'),
    person: PersonId,
    from: NearDate,
    set: z.strictObject({ ...recordParts, planPer: z.number().positive().max(10_000).nullable() }).partial(),
  }),
  z.strictObject({
    what: z.literal('own'),
    person: PersonId,
    set: z
      .strictObject({ name: Name, mail: Mail, dottedTo: PersonId.nullable(), number: PayWord.nullable() })
      .partial(),
  }),
  /** A first day that was written down wrongly: service, and with it leave, counts from another day. */
  z.strictObject({ what: z.literal('first day'), person: PersonId, joined: NearDate }),
  z.strictObject({ what: z.literal('last day'), person: PersonId, left: NearDate.nullable() }),
  z.strictObject({ what: z.literal('post'), person: PersonId, from: NearDate, post: Id }),
  /** Somebody works at another place for a time, on a post there where one is said, and is back by themselves on the day after. */
  z.strictObject({
    what: z.literal('seconded'),
    person: PersonId,
    from: NearDate,
    to: NearDate,
    place: Id,
    post: Id.nullable(),
  }),
  /** Somebody stands in on a post beside their own, for a time. */
  z.strictObject({
    what: z.literal('acts'),
    person: PersonId,
    post: Id,
    from: NearDate,
    to: NearDate.nullable(),
  }),
  /** Somebody holds a post no longer; they take no other with it. */
  z.strictObject({ what: z.literal('leaves post'), person: PersonId, post: Id, last: NearDate }),
  z.strictObject({ what: z.literal('line'), post: Id, from: NearDate, reportsTo: Id.nullable() }),
  z.strictObject({
    what: z.literal('role'),
    role: z.string().trim().min(1, 'Say which role.').max(80),
    person: PersonId,
    place: Id.nullable(),
    department: Id.nullable(),
    /** The days on which it is held, both included; always where nothing is said. */
    from: NearDate.nullable().optional(),
    to: NearDate.nullable().optional(),
    held: z.boolean(),
  }),
  z.strictObject({
    what: z.literal('comes'),
    /** Under an id of their own, or `new` for one that is made of the name. */
    person: z.strictObject({
      id: PersonId,
      name: Name,
      mail: Mail,
      joined: NearDate,
      ...recordParts,
      costCentre: PayWord.nullable().optional(),
    }),
    /** The post that they hold from their first day. */
    post: Id.nullable(),
  }),
  z.strictObject({
    what: z.literal('a post'),
    post: z.strictObject({
      id: Id,
      title: Name,
      department: Id,
      place: Id,
      grade: z.number().int().min(0).max(99).nullable(),
      spending: z.number().min(0).max(1e9).nullable(),
      closed: NearDate.nullable(),
    }),
    /** Whom a new post reports to, from the day on which it is there. */
    under: z.strictObject({ from: NearDate, reportsTo: Id.nullable() }).nullable(),
  }),
  z.strictObject({
    what: z.literal('place'),
    place: z.strictObject({ id: Id, name: Name, zone: Zone, calendar: Id, head: Id.nullable() }),
  }),
  z.strictObject({
    what: z.literal('department'),
    department: z.strictObject({ id: Id, name: Name, head: Id.nullable() }),
  }),
  z.strictObject({
    what: z.literal('pattern'),
    pattern: z.strictObject({
      id: Id,
      name: Name,
      anchor: NearDate,
      cycle: WorkPattern.shape.cycle.max(366, 'A cycle has at most 366 days.'),
    }),
  }),
  z.strictObject({
    what: z.literal('calendar'),
    calendar: z.strictObject({
      id: Id,
      name: Name,
      buildsOn: Id.nullable(),
      rules: z.array(HolidayRule).max(200),
      holidays: z.array(z.strictObject({ date: NearDate, part, name: Name })).max(2000),
    }),
  }),
  z.strictObject({
    what: z.literal('list'),
    list: z.strictObject({ id: Id, name: Name, columns: z.array(Column).max(20), owners: z.array(PersonId).max(20) }),
  }),
  z.strictObject({
    what: z.literal('row'),
    list: Id,
    row: z.strictObject({
      id: Id,
      title: Name,
      cells: z.record(z.string().max(40), Cell),
      from: NearDate.nullable(),
      to: NearDate.nullable(),
    }),
  }),
  /** What a leave type says from a day on; from the first where nothing is said. */
  z.strictObject({
    what: z.literal('leave type'),
    type: LeaveTypeRules.extend({ id: Id, name: Name }),
    from: NearDate.nullable(),
  }),
  /** Of one that is there, what it has said from a day on is taken away: what it said before holds on. */
  z.strictObject({
    what: z.literal('not from then'),
    of: z.enum(['leave type', 'leave plan']),
    id: Id,
    from: NearDate,
  }),
  z.strictObject({
    what: z.literal('leave plan'),
    plan: z.strictObject({ id: Id, name: Name, unit: z.enum(['days', 'hours']), rules: PlanRules }),
    from: NearDate.nullable(),
  }),
  /** Something that leave goes by, `new` for one that comes; nothing where it is so no more. */
  z.strictObject({ what: z.literal('circumstance'), person: PersonId, id: Id, holds: Holds.nullable() }),
  /** What the house before said of a balance; nothing where it says nothing any more. */
  z.strictObject({
    what: z.literal('opening'),
    person: PersonId,
    type: Id,
    opening: z
      .strictObject({
        on: NearDate,
        own: z.number().min(-10_000).max(10_000),
        carried: z.number().min(0).max(10_000),
        lapses: NearDate.nullable(),
        source: z.string().trim().max(200),
      })
      .nullable(),
  }),
  /** An amount that is put on a balance or taken off it, by hand; the reason stands on the statement. */
  z.strictObject({
    what: z.literal('adjustment'),
    person: PersonId,
    type: Id,
    date: NearDate,
    amount: z
      .number()
      .min(-10_000)
      .max(10_000)
      .refine(amount => amount !== 0, 'More or less than nothing.'),
    reason: z.string().trim().min(1, 'Say what it is.').max(500),
  }),
  /** Leave that was decided elsewhere, `new` for one that comes; nothing where it is no more. */
  z.strictObject({
    what: z.literal('booking'),
    person: PersonId,
    id: Id,
    booking: z
      .strictObject({ type: Id, from: z.union([HalfEnd, TimeEnd]), to: z.union([HalfEnd, TimeEnd]) })
      .nullable(),
  }),
  /** Days on which a place is closed, taken from everybody who works there. */
  z
    .strictObject({
      what: z.literal('shutdown'),
      name: Name,
      place: Id.nullable(),
      department: Id.nullable(),
      type: Id,
      from: HalfEnd,
      to: HalfEnd,
      /** Those who work all the same. */
      except: z.array(PersonId).max(500),
    })
    // So long a house is closed at once; more is said as another one.
    .refine(({ from, to }) => toDay(to.date) - toDay(from.date) < 100, {
      path: ['to'],
      message: 'At most 100 days at once.',
    }),
  /** Wishes of a round, decided together: what each is given, and who is given nothing. */
  z.strictObject({
    what: z.literal('wishes'),
    round: z.number().int().positive(),
    name: Name,
    type: Id,
    chosen: z
      .array(z.strictObject({ person: PersonId, from: HalfEnd, to: HalfEnd }))
      .min(1, 'Give at least one wish.')
      .max(500),
    without: z.array(PersonId).max(500),
  }),
  z.strictObject({ what: z.literal('presence'), presence: LeastPresence.extend({ id: Id }), needed: z.boolean() }),
] as const;
export const OneChange = z.discriminatedUnion('what', changes);
export type OneChange = z.infer<typeof OneChange>;

/** One change, or several that are made together or not at all. */
export const HouseChange = z.discriminatedUnion('what', [
  ...changes,
  z
    .strictObject({ what: z.literal('several'), changes: z.array(OneChange).min(1).max(300) })
    // What books leave for many is looked at by itself, against all that they have.
    .refine(({ changes: all }) => all.every(one => one.what !== 'shutdown' && one.what !== 'wishes'), {
      path: ['changes'],
      message: 'Leave for many is booked by itself.',
    }),
]);
export type HouseChange = z.infer<typeof HouseChange>;
export type Of<What extends OneChange['what']> = Extract<OneChange, { what: What }>;

/** Why a change cannot be made, at the field that it is about. */
export type ChangeFault =
  | { readonly code: 'not on file'; readonly field: string }
  | { readonly code: 'nothing changes'; readonly field: string }
  | { readonly code: 'nobody there'; readonly field: string }
  | { readonly code: 'no record'; readonly field: string }
  | { readonly code: 'before joining'; readonly field: string; readonly joined: CivilDate }
  | { readonly code: 'after leaving'; readonly field: string; readonly left: CivilDate }
  | { readonly code: 'leaves before joining'; readonly field: string; readonly joined: CivilDate }
  | { readonly code: 'away already'; readonly field: string; readonly person: PersonId }
  | { readonly code: 'opening before joining'; readonly field: string; readonly on: CivilDate }
  | { readonly code: 'opening after leaving'; readonly field: string; readonly on: CivilDate }
  | { readonly code: 'circle'; readonly field: string; readonly day: CivilDate; readonly posts: readonly string[] }
  | { readonly code: 'post is held'; readonly field: string; readonly by: PersonId; readonly day: CivilDate }
  | { readonly code: 'post is closed'; readonly field: string; readonly closed: CivilDate }
  | { readonly code: 'taken'; readonly field: string; readonly by: PersonId }
  | { readonly code: 'name taken'; readonly field: string; readonly name: string }
  | { readonly code: 'ends before it begins'; readonly field: string }
  | { readonly code: 'ends of two kinds'; readonly field: string }
  | { readonly code: 'parts overlap'; readonly field: string; readonly day: number }
  | { readonly code: 'builds on itself'; readonly field: string; readonly calendars: readonly string[] }
  | { readonly code: 'day twice'; readonly field: string; readonly date: CivilDate }
  | { readonly code: 'unit stays'; readonly field: string }
  | { readonly code: 'year start stays'; readonly field: string }
  | { readonly code: 'takes from itself'; readonly field: string }
  | { readonly code: 'more than there are'; readonly field: string; readonly needed: number; readonly people: number }
  | { readonly code: 'tiers twice'; readonly field: string; readonly years: number }
  | { readonly code: 'cell does not fit'; readonly field: string; readonly column: string; readonly kind: string };

export type ChangeEdits = { ok: true; edits: readonly FactEdit[] } | { ok: false; fault: ChangeFault };

export const no = (fault: ChangeFault): ChangeEdits => ({ ok: false, fault });
export function yes(...edits: readonly FactEdit[]): ChangeEdits {
  const other = edits.filter(edit => !sameFact(edit.before, edit.after));
  return other.length === 0 ? no({ code: 'nothing changes', field: '' }) : { ok: true, edits: other };
}
