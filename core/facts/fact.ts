/**
 * All that is on file of the house, one fact at a time: people, posts, lines, roles, places, patterns, calendars, lists,
 * opening balances and leave that was booked elsewhere. Every change is a list of edits, each of which says how a fact stood
 * before and how it stands afterwards: so two who change the same fact are told, and every change can be taken back.
 */
import { z } from 'zod';
import { Cell, Column, type ReferenceList } from '../form/index.ts';
import {
  type Adjustment,
  LeastPresence,
  LeaveSpan,
  type LeaveType,
  LeaveTypeRules,
  type NamedPlan,
  PlanRules,
} from '../leave/index.ts';
import { type Directory, PersonId } from '../people/index.ts';
import { CivilDate, HolidayRule, WorkPattern } from '../time/index.ts';

const Id = z.string().min(1).max(40);
const Name = z.string().min(1).max(200);
/** A word of pay’s own: a personnel number, a cost centre. */
export const PayWord = z.string().trim().min(1).max(40);
const Share = z.number().positive().max(1);

export const Holds = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('child'), born: CivilDate }),
  z.strictObject({ is: z.literal('paper at once'), type: Id, from: CivilDate, to: CivilDate.nullable() }),
  z.strictObject({ is: z.literal('same cause'), request: Id, follows: Id }),
  z.strictObject({
    is: z.literal('stages'),
    request: Id,
    stages: z
      .array(z.strictObject({ from: CivilDate, minutes: z.number().int().min(1).max(1440) }))
      .min(1)
      .max(20),
  }),
]);
export type Holds = z.infer<typeof Holds>;

const facts = {
  person: z.strictObject({
    kind: z.literal('person'),
    id: PersonId,
    name: Name,
    mail: z.string().max(200),
    joined: CivilDate,
    left: CivilDate.nullable(),
    dottedTo: PersonId.nullable(),
    /** What pay knows them by. */
    number: PayWord.nullish(),
  }),
  record: z.strictObject({
    kind: z.literal('record'),
    person: PersonId,
    from: CivilDate,
    place: Id,
    department: Id,
    pattern: Id,
    fte: Share,
    plan: Id.nullable(),
    /** Where the plan counts in another unit than the one before: units of it for one of the old. */
    planPer: z.number().positive().max(10_000).nullish(),
    costCentre: PayWord.nullish(),
  }),
  /** What the house before said of a balance: with it the statement begins. */
  opening: z.strictObject({
    kind: z.literal('opening'),
    person: PersonId,
    type: Id,
    on: CivilDate,
    own: z.number(),
    carried: z.number().nonnegative(),
    lapses: CivilDate.nullable(),
    source: z.string().max(200),
  }),
  /** What is true of somebody that their leave goes by. */
  circumstance: z.strictObject({ kind: z.literal('circumstance'), person: PersonId, id: Id, holds: Holds }),
  post: z.strictObject({
    kind: z.literal('post'),
    id: Id,
    title: Name,
    department: Id,
    place: Id,
    grade: z.number().int().nullable(),
    spending: z.number().nullable(),
    /** The last day on which it is there. */
    closed: CivilDate.nullable(),
  }),
  line: z.strictObject({ kind: z.literal('line'), post: Id, from: CivilDate, reportsTo: Id.nullable() }),
  holding: z.strictObject({
    kind: z.literal('holding'),
    post: Id,
    person: PersonId,
    from: CivilDate,
    to: CivilDate.nullable(),
    main: z.boolean(),
  }),
  role: z.strictObject({
    kind: z.literal('role'),
    role: z.string().min(1).max(80),
    person: PersonId,
    place: Id.nullable(),
    department: Id.nullable(),
    from: CivilDate.nullable(),
    to: CivilDate.nullable(),
  }),
  place: z.strictObject({
    kind: z.literal('place'),
    id: Id,
    name: Name,
    zone: z.string().min(1).max(80),
    calendar: Id,
    head: Id.nullable(),
  }),
  department: z.strictObject({ kind: z.literal('department'), id: Id, name: Name, head: Id.nullable() }),
  pattern: z.strictObject({
    kind: z.literal('pattern'),
    id: Id,
    name: Name,
    anchor: CivilDate,
    cycle: WorkPattern.shape.cycle,
  }),
  calendar: z.strictObject({
    kind: z.literal('calendar'),
    id: Id,
    name: Name,
    buildsOn: Id.nullable(),
    rules: z.array(HolidayRule).max(200),
  }),
  holiday: z.strictObject({
    kind: z.literal('holiday'),
    calendar: Id,
    date: CivilDate,
    part: z.enum(['day', 'am', 'pm']),
    name: Name,
  }),
  list: z.strictObject({
    kind: z.literal('list'),
    id: Id,
    name: Name,
    columns: z.array(Column).max(20),
    /** Those who may edit its rows, beside those who keep records. */
    owners: z.array(PersonId).max(20),
  }),
  row: z.strictObject({
    kind: z.literal('row'),
    list: Id,
    id: Id,
    title: Name,
    cells: z.record(z.string(), Cell),
    from: CivilDate.nullable(),
    to: CivilDate.nullable(),
  }),
  /** An amount that is put on a balance: what somebody brings with them, or a correction. */
  adjustment: z.strictObject({
    kind: z.literal('adjustment'),
    person: PersonId,
    type: Id,
    date: CivilDate,
    amount: z.number(),
    reason: z.string().max(500),
    /** No amount, but a letter that told what lapses. */
    warns: z.boolean().optional(),
  }),
  /** Leave that was decided elsewhere and is counted here. */
  booking: z.strictObject({
    kind: z.literal('booking'),
    id: Id,
    person: PersonId,
    type: Id,
    span: LeaveSpan,
    /** What it is for, where the house booked it for many. */
    reason: z.string().min(1).max(200).nullish(),
  }),
  /** What a leave type says from a day on; from the first day of all, what it has always said. */
  leaveType: z.strictObject({ kind: z.literal('leave type'), id: Id, from: CivilDate, rules: LeaveTypeRules }),
  leavePlan: z.strictObject({
    kind: z.literal('leave plan'),
    id: Id,
    from: CivilDate,
    name: Name,
    unit: z.enum(['days', 'hours']),
    rules: PlanRules,
  }),
  presence: LeastPresence.extend({ kind: z.literal('presence') }),
};
export const Fact = z.discriminatedUnion('kind', [
  facts.person,
  facts.record,
  facts.opening,
  facts.circumstance,
  facts.post,
  facts.line,
  facts.holding,
  facts.role,
  facts.place,
  facts.department,
  facts.pattern,
  facts.calendar,
  facts.holiday,
  facts.list,
  facts.row,
  facts.adjustment,
  facts.booking,
  facts.leaveType,
  facts.leavePlan,
  facts.presence,
]);
export type Fact = z.infer<typeof Fact>;
export type FactKind = Fact['kind'];
export type FactOf<Kind extends FactKind> = Extract<Fact, { kind: Kind }>;

export type Booking = Omit<FactOf<'booking'>, 'kind'>;

/** What facts are of: the directory, and beside it what is looked at only where it is changed. */
export type OnFile = Directory & {
  readonly lists?: readonly ReferenceList[];
  readonly adjustments?: readonly Adjustment[];
  readonly bookings?: readonly Booking[];
  readonly leaveTypes?: readonly LeaveType[];
  readonly leavePlans?: readonly NamedPlan[];
  readonly presence?: readonly LeastPresence[];
};

/** The day from which holds what a leave type or plan has said from the first. */
export const fromTheFirst = '1900-01-01' as CivilDate;

/** One fact that comes, goes, or is another afterwards. */
export const FactEdit = z.strictObject({
  before: Fact.nullable(),
  after: Fact.nullable(),
  /** The record that a new one follows, for whoever reads what is different. */
  over: facts.record.exactOptional(),
});
export type FactEdit = z.infer<typeof FactEdit>;

/** What a fact is known by: two of one key do not stand beside one another. */
export function factKey(fact: Fact): string {
  switch (fact.kind) {
    case 'person':
    case 'post':
    case 'place':
    case 'department':
    case 'pattern':
    case 'calendar':
    case 'list':
    case 'booking':
    case 'presence':
      return `${fact.kind} ${fact.id}`;
    case 'leave type':
    case 'leave plan':
      return `${fact.kind} ${fact.id} ${fact.from}`;
    case 'record':
      return `record ${fact.person} ${fact.from}`;
    case 'line':
      return `line ${fact.post} ${fact.from}`;
    case 'holding':
      return `holding ${fact.post} ${fact.person} ${fact.from}`;
    case 'role':
      return `role ${fact.role} ${fact.person} ${fact.place ?? ''} ${fact.department ?? ''}`;
    case 'holiday':
      return `holiday ${fact.calendar} ${fact.date} ${fact.part}`;
    case 'row':
      return `row ${fact.list} ${fact.id}`;
    case 'opening':
      return `opening ${fact.person} ${fact.type}`;
    case 'circumstance':
      return `circumstance ${fact.person} ${fact.id}`;
    case 'adjustment':
      return `adjustment ${fact.person} ${fact.type} ${fact.date} ${fact.reason}`;
  }
}

export const factOfEdit = ({ before, after }: FactEdit): Fact => (after ?? before) as Fact;

/** The same values all the way down, whatever the order of their names; what is not there is the same as nothing. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b || (a ?? null) === (b ?? null)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((one, i) => sameValue(one, b[i]));
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...names].every(name =>
    sameValue((a as Record<string, unknown>)[name], (b as Record<string, unknown>)[name]),
  );
}

export const sameFact = (a: Fact | null, b: Fact | null): boolean => sameValue(a, b);

/** What takes edits back: the last one first. */
export const reversed = (edits: readonly FactEdit[]): FactEdit[] =>
  edits.toReversed().map(({ before, after }) => ({ before: after, after: before }));
