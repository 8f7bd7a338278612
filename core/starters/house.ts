/** What a new house begins with: patterns, calendars, leave types and plans to choose from. All of it can be changed later. */
import type { LeaveType, NamedPlan } from '../leave/index.ts';
import type { NamedPattern } from '../people/index.ts';
import type { Calendar, CivilDate, HolidayRule } from '../time/index.ts';

type Day = NamedPattern['cycle'][number];
const free: Day = {};
const week = (day: Day, friday = day): Day[] => [day, day, day, day, friday, free, free];

// 1 January 2024 was a Monday.
const anchor = '2024-01-01' as CivilDate;

export const readyPatterns: readonly NamedPattern[] = [
  {
    id: 'office',
    name: 'Monday to Friday, 9 to 17:30',
    anchor,
    cycle: week({ am: ['09:00', '12:30'], pm: ['13:30', '17:30'] }),
  },
  {
    id: 'short-friday',
    name: 'Monday to Friday, short Friday',
    anchor,
    cycle: week({ am: ['08:30', '12:30'], pm: ['13:15', '17:00'] }, { am: ['08:30', '12:30'], pm: ['13:15', '15:00'] }),
  },
];

const onDate = (monthDay: string, name: string): HolidayRule => ({
  name,
  part: 'day',
  on: { kind: 'date', monthDay },
});

export const readyCalendars: readonly Calendar[] = [
  { id: 'none', name: 'No holidays yet', buildsOn: null, rules: [], holidays: [] },
  {
    id: 'common',
    name: 'New Year, 1 May and 25 December',
    buildsOn: null,
    rules: [onDate('01-01', 'New Year’s Day'), onDate('05-01', 'Labour Day'), onDate('12-25', 'Christmas Day')],
    holidays: [],
  },
];

const type = (id: string, name: string, more: Partial<LeaveType> = {}): LeaveType => ({
  id,
  name,
  counting: 'scheduled',
  dayMinutes: 450,
  takesFrom: 'nothing',
  overdraft: 0,
  ...more,
});

/** The types that the starters know. */
export const readyLeaveTypes: readonly LeaveType[] = [
  type('annual', 'Annual leave', { takesFrom: 'plan' }),
  type('compensation', 'Compensation time', { takesFrom: 'earned', times: true, portion: 0.125 }),
  type('sick', 'Sick leave', {
    counting: 'calendar',
    openEnd: true,
    times: true,
    daysBack: 14,
    daysAhead: 0,
    insideLeave: 'gives back',
  }),
  type('family', 'Family leave', { daysBack: 7 }),
  type('study', 'Study leave'),
  type('unpaid', 'Unpaid leave'),
];

/** @param days of annual leave a year */
export const readyPlan = (days: number): NamedPlan => ({
  id: 'standard',
  name: 'Standard',
  unit: 'days',
  rules: {
    yearStart: '01-01',
    perYear: [{ fromServiceYears: 0, amount: days }],
    accrual: 'yearly',
    proration: 'monthly',
    rounding: { step: 0.5, mode: 'up' },
    carryOver: { max: 5, expires: '03-31' },
  },
});
