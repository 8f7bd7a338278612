/** A small house for tests: a lead, two observers, a director, a vacant post, a circle, a leaver, and two kinds of leave. */
import type { LeaveBook, LeaveEntry, LeaveType, NamedPlan } from '../leave/index.ts';
import { type Directory, type DirectoryIndex, indexDirectory, type PersonId } from '../people/index.ts';
import type { CivilDate, Instant } from '../time/index.ts';
import type { Context, Definition, RequestEvent, RequestState } from '../workflow/index.ts';

export const date = (text: string) => text as CivilDate;
export const person = (text: string) => text as PersonId;
export const instant = (text: string) => text as Instant;

const start = date('2020-01-01');
const people: [id: string, name: string, post: string | null, left?: string][] = [
  ['dora', 'Dora Quill', 'director'],
  ['tom', 'Tom Lund', 'lead'],
  ['ina', 'Ina Okell', 'observer-1'],
  ['per', 'Per Lauder', 'observer-2'],
  ['kay', 'Kay Voss', 'keeper'],
  ['con', 'Con Tractor', null],
  ['rin', 'Rin Round', 'ring-a'],
  ['old', 'Olda Leaver', 'gone-lead', '2025-12-31'],
  ['sub', 'Sub Under', 'under-gone'],
];

const posts: [id: string, title: string, above: string | null][] = [
  ['director', 'Director', null],
  ['lead', 'Observatory lead', 'director'],
  ['observer-1', 'Tide observer', 'lead'],
  ['observer-2', 'Tide observer', 'lead'],
  ['empty', 'Head keeper', 'director'],
  ['keeper', 'Keeper', 'empty'],
  ['ring-a', 'Ring A', 'ring-b'],
  ['ring-b', 'Ring B', 'ring-a'],
  ['gone-lead', 'Stores lead', 'director'],
  ['under-gone', 'Storekeeper', 'gone-lead'],
];

export const directory: Directory = {
  people: people.map(([id, name, , left]) => ({
    id: person(id),
    name,
    mail: `${id}@selkie.example`,
    joined: start,
    left: left ? date(left) : null,
    dottedTo: id === 'per' ? person('kay') : null,
    records: [{ from: start, place: 'ovay', department: 'observatory', pattern: 'office', fte: 1, plan: 'standard' }],
  })),
  posts: posts.map(([id, title, above]) => ({
    id,
    title,
    department: 'observatory',
    place: 'ovay',
    lines: [{ from: start, reportsTo: above }],
  })),
  holdings: people
    .filter(([, , post]) => post !== null)
    .map(([id, , post]) => ({ person: person(id), post: post as string, from: start, to: null, main: true })),
  covers: [],
  roles: [{ role: 'HR partner', person: person('dora') }],
  places: [{ id: 'ovay', name: 'Ovay Station', zone: 'Europe/Lisbon', calendar: 'ovay' }],
  departments: [{ id: 'observatory', name: 'Observatory', head: 'lead' }],
  patterns: [
    {
      id: 'office',
      name: 'Office',
      anchor: date('2024-01-01'),
      cycle: [
        ...[1, 2, 3, 4, 5].map(() => ({
          am: ['09:00', '12:30'] as [string, string],
          pm: ['13:00', '17:00'] as [string, string],
        })),
        {},
        {},
      ],
    },
  ],
  calendars: [
    {
      id: 'sound',
      name: 'Sound',
      buildsOn: null,
      holidays: [{ date: date('2026-06-24'), part: 'day', name: 'Midsummer Tide' }],
    },
    {
      id: 'ovay',
      name: 'Ovay',
      buildsOn: 'sound',
      holidays: [{ date: date('2026-02-13'), part: 'pm', name: 'Ovay Friday' }],
    },
  ],
};

export const index: DirectoryIndex = indexDirectory(directory);

export const withDirectory = (change: Partial<Directory>): DirectoryIndex =>
  indexDirectory({ ...directory, ...change });

export const annual: LeaveType = {
  id: 'annual',
  name: 'Annual leave',
  counting: 'scheduled',
  dayMinutes: 450,
  takesFrom: 'plan',
  overdraft: 0,
};
export const sick: LeaveType = { ...annual, id: 'sick', name: 'Sick leave', takesFrom: 'nothing' };

export const standard: NamedPlan = {
  id: 'standard',
  name: 'Standard',
  unit: 'days',
  rules: {
    yearStart: '01-01',
    perYear: [{ fromServiceYears: 0, amount: 26 }],
    accrual: 'yearly',
    proration: 'monthly',
    rounding: { step: 0.5, mode: 'nearest' },
    carryOver: { max: 5, expires: '03-31' },
  },
};

export const halves = (from: string, to: string, ends: { from?: 'am' | 'pm'; to?: 'am' | 'pm' } = {}) => ({
  from: { date: date(from), half: ends.from ?? ('am' as const) },
  to: { date: date(to), half: ends.to ?? ('pm' as const) },
});

export const entry = (change: Partial<LeaveEntry>): LeaveEntry => ({
  request: 'R-1',
  person: person('ina'),
  type: 'annual',
  span: halves('2026-05-04', '2026-05-05'),
  state: 'booked',
  ...change,
});

export const bookOf = (entries: LeaveEntry[] = [], change: Partial<LeaveBook> = {}): LeaveBook => ({
  index,
  types: [annual, sick],
  plans: [standard],
  entries,
  adjustments: [],
  today: date('2026-02-02'),
  ...change,
});

export const contextFor = (actor: string | null, change: Partial<Context> = {}): Context => ({
  now: instant('2026-02-02T10:00:00Z'),
  actor: actor === null ? null : person(actor),
  index,
  book: bookOf(),
  away: [],
  ...change,
});

/** Annual leave: short spans straight to booking, others to the line manager, long ones to the manager above too. */
export const annualLeave: Definition = {
  formatVersion: 3,
  name: 'Annual leave',
  area: 'Leave',
  purpose: 'Time off from the yearly entitlement.',
  form: {
    fields: [
      { kind: 'choice', id: 'kind', label: 'Kind', required: true, options: 'leave types' },
      { kind: 'leave span', id: 'dates', label: 'Dates', required: true },
      { kind: 'long text', id: 'remark', label: 'Remark', required: false },
    ],
  },
  figures: [
    { id: 'days', name: 'Days', formula: 'leave days(Dates)', unit: 'days' },
    { id: 'after', name: 'Balance after', formula: 'balance after(Kind, Dates)', unit: 'days' },
    { id: 'others', name: 'Others away', formula: 'others away(Dates)', unit: 'number' },
  ],
  steps: [
    { verb: 'Ask', id: 'ask' },
    {
      verb: 'Choose',
      id: 'choose',
      when: null,
      rows: [{ id: 'short', condition: 'Days <= 2 and Others away = 0', go: { to: 'step', step: 'record' } }],
      otherwise: { to: 'next' },
    },
    {
      verb: 'Decide',
      id: 'manager',
      when: null,
      who: { first: { kind: 'manager', levels: 1 }, otherwise: [] },
      handTo: 'anybody',
      whenAway: 'goes up',
      limit: {
        within: { workingDays: 2 },
        remind: { after: { workingDays: 1 }, atMost: 2 },
        atLimit: 'pass up',
      },
      outcomes: [
        { id: 'approve', label: 'Approve', tone: 'good', note: 'none', leads: { to: 'next' } },
        {
          id: 'back',
          label: 'Send back',
          tone: 'rework',
          note: 'must',
          leads: { to: 'rework', fields: ['dates'], resume: 'choose', atMost: 3 },
        },
        { id: 'decline', label: 'Decline', tone: 'bad', note: 'must', leads: { to: 'close', closing: 'declined' } },
      ],
    },
    {
      verb: 'Decide',
      id: 'above',
      when: 'Days > 10',
      who: { first: { kind: 'manager', levels: 2 }, otherwise: [{ kind: 'role', role: 'HR partner' }] },
      whenAway: 'waits',
      limit: null,
      outcomes: [
        { id: 'approve', label: 'Approve', tone: 'good', note: 'none', leads: { to: 'next' } },
        { id: 'decline', label: 'Decline', tone: 'bad', note: 'must', leads: { to: 'close', closing: 'declined' } },
      ],
    },
    {
      verb: 'Record',
      id: 'record',
      when: null,
      effect: { kind: 'book leave', span: 'dates', type: 'kind', planner: true },
    },
    { verb: 'Close', id: 'end', closing: 'approved' },
  ],
  messages: [
    { id: 'yes', name: 'Approved', subject: 'Approved: {Days}', body: '{asker}, your {Kind} ({Dates}) is approved.' },
    { id: 'no', name: 'Declined', subject: 'Declined', body: 'Your {Kind} ({Dates}) was declined.' },
  ],
  closings: [
    { id: 'approved', name: 'Approved', tone: 'good', message: 'yes' },
    { id: 'declined', name: 'Declined', tone: 'bad', message: 'no' },
  ],
};

export type Played = { state: RequestState; events: RequestEvent[] };
