/** Work patterns and leave rules of the house. */
import type { LeastPresence, LeaveType, NamedPlan } from '@north-pebble/core/leave';
import type { NamedPattern } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';

type Day = NamedPattern['cycle'][number];
const free: Day = {};
const times = (n: number, day: Day): Day[] => Array.from({ length: n }, () => day);

const officeDay: Day = { am: ['08:30', '12:30'], pm: ['13:15', '17:00'] };
const shortFriday: Day = { am: ['08:30', '12:30'], pm: ['13:15', '15:00'] };
const ovayDay: Day = { am: ['09:00', '12:30'], pm: ['13:00', '17:00'] };
const boatDay: Day = { am: ['06:00', '12:00'], pm: ['13:00', '19:00'] };
// A night is one part, and a whole day of leave.
const night: Day = { pm: ['20:00', '32:00'], days: { pm: 1 } };
const early: Day = { am: ['06:00', '10:00'], pm: ['10:30', '14:00'] };
const late: Day = { am: ['14:00', '18:00'], pm: ['18:30', '22:00'] };

// 1 January 2024 was a Monday.
const anchor = '2024-01-01' as CivilDate;

export const patterns: NamedPattern[] = [
  { id: 'office', name: 'Office, short Friday', anchor, cycle: [...times(4, officeDay), shortFriday, free, free] },
  { id: 'ovay-office', name: 'Ovay office', anchor, cycle: [...times(5, ovayDay), free, free] },
  { id: 'crew', name: 'Boat crew, 14 on 14 off', anchor, cycle: [...times(14, boatDay), ...times(14, free)] },
  { id: 'keeper', name: 'Light keeper, 4 nights on 3 off', anchor, cycle: [...times(4, night), ...times(3, free)] },
  { id: 'three-day', name: 'Three days', anchor, cycle: [...times(3, officeDay), ...times(4, free)] },
  {
    id: 'workshop',
    name: 'Workshop, early and late fortnight',
    anchor,
    cycle: [...times(5, early), free, free, ...times(5, late), free, free],
  },
];

export const plans: NamedPlan[] = [
  {
    id: 'standard',
    name: 'Standard',
    unit: 'days',
    rules: {
      yearStart: '01-01',
      perYear: [{ fromServiceYears: 0, amount: 26 }],
      accrual: 'yearly',
      proration: 'monthly',
      rounding: { step: 0.5, mode: 'up' },
      carryOver: { max: 5, expires: '03-31' },
    },
  },
  {
    id: 'crew',
    name: 'Crew',
    unit: 'hours',
    rules: {
      yearStart: '01-01',
      perYear: [{ fromServiceYears: 0, amount: 260 }],
      accrual: 'monthly-in-arrears',
      proration: 'monthly',
      rounding: { step: 0.5, mode: 'nearest' },
      carryOver: { max: 96, expires: null },
    },
  },
  {
    id: 'harbour',
    name: 'Harbour',
    unit: 'days',
    rules: {
      yearStart: '04-01',
      perYear: [{ fromServiceYears: 0, amount: 26 }],
      accrual: 'yearly',
      proration: 'daily',
      rounding: { step: 0.5, mode: 'up' },
      carryOver: { max: 5, expires: '06-30', kept: [{ types: ['sick', 'parental'], months: 15 }], warned: true },
    },
  },
  {
    id: 'keeper',
    name: 'Keeper',
    unit: 'days',
    rules: {
      yearStart: 'anniversary',
      perYear: [
        { fromServiceYears: 0, amount: 26 },
        { fromServiceYears: 5, amount: 28 },
        { fromServiceYears: 10, amount: 30 },
      ],
      accrual: 'yearly',
      proration: 'daily',
      rounding: { step: 0.5, mode: 'up' },
      carryOver: { max: 5, expires: null },
    },
  },
];

const type = (id: string, name: string, change: Partial<LeaveType> = {}): LeaveType => ({
  id,
  name,
  counting: 'scheduled',
  dayMinutes: 450,
  takesFrom: 'nothing',
  overdraft: 0,
  ...change,
});

export const leaveTypes: LeaveType[] = [
  type('annual', 'Annual leave', {
    payCode: '100',
    takesFrom: 'plan',
    limits: [
      { rule: 'notice', over: 7, days: 14, how: 'warns' },
      { rule: 'longest run', days: 28, how: 'asks why' },
      { rule: 'presence', how: 'stops' },
    ],
  }),
  type('compensation', 'Compensation time', {
    payCode: '110',
    takesFrom: 'earned',
    times: true,
    portion: 0.125,
    earnedMonths: 24,
    earnedMost: 80,
  }),
  type('family', 'Family leave', {
    payCode: '130',
    times: true,
    portion: 0.25,
    daysBack: 7,
    limits: [{ rule: 'most a year', days: 10, how: 'warns' }],
  }),
  type('study', 'Study leave', { payCode: '140', limits: [{ rule: 'waiting', months: 6, how: 'warns' }] }),
  type('sea-survival', 'Sea-survival training', { payCode: '150' }),
  type('sick', 'Sick leave', {
    payCode: '200',
    payLater: [{ after: 42, code: '210' }],
    spellMonths: 12,
    tellsHr: [28, 42],
    counting: 'calendar',
    openEnd: true,
    times: true,
    daysBack: 14,
    daysAhead: 0,
    insideLeave: 'gives back',
    kindReadBy: 'HR',
    limits: [{ rule: 'evidence', after: 3 }],
  }),
  type('unpaid', 'Unpaid leave', { payCode: '300', earnsUntil: 30 }),
  type('birth', 'Birth of a child', {
    payCode: '160',
    daysBack: 30,
    limits: [{ rule: 'most an event', days: 10, how: 'stops' }],
  }),
  type('child-sick', 'Child is ill', {
    payCode: '170',
    daysBack: 14,
    limits: [
      { rule: 'most a year for each child', days: 10, under: 12, how: 'stops' },
      { rule: 'evidence', after: 1 },
    ],
  }),
  type('parental', 'Parental leave', {
    payCode: '310',
    earnsUntil: 0,
    longest: 1100,
    tellsReturn: 30,
    kindReadBy: 'HR',
  }),
];

/** How many are needed where: the relief boat does not go out with fewer, and somebody reads the gauges. */
export const leastPresence: LeastPresence[] = [
  {
    id: 'gauge-watch',
    name: 'the observatory at Ovay',
    place: 'ovay',
    department: 'observatory',
    people: 4,
    weekdays: [1, 2, 3, 4, 5],
    from: null,
    to: null,
  },
  {
    id: 'skarn-lights',
    name: 'Lights at Skarn',
    place: 'skarn',
    department: 'lights',
    people: 3,
    weekdays: [],
    from: null,
    to: null,
  },
];
