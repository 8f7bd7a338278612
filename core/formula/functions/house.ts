/** Functions that look at the subject's leave, team, calendar and the house's lists: worked out where those facts are. */
import type { Type } from '../type.ts';
import { type Parameter, parameter } from './signature.ts';

export type HouseSignature = {
  readonly takes: readonly Parameter[];
  readonly gives: Type;
  readonly help: string;
  /** What one call costs, in steps of a formula: a statement is worked out, a team is gone through. */
  readonly steps: number;
};

/** A look into an index; some days or rows gone through; a statement or a team worked out. */
const look = 5;
const walk = 40;
const statement = 400;

const span = parameter('span', 'leave span');
const date = parameter('date', 'date');

export const houseFunctions = {
  'leave days': { takes: [span], gives: 'number', steps: walk, help: 'days of leave that the span takes' },
  balance: {
    takes: [parameter('type', 'text'), date],
    gives: 'number',
    steps: statement,
    help: 'balance of a leave type on a day',
  },
  'balance after': {
    takes: [parameter('type', 'text'), span],
    gives: 'number',
    steps: statement,
    help: 'balance less what is held and the span',
  },
  'others away': {
    takes: [span],
    gives: 'number',
    steps: statement,
    help: 'people of the team away on any day of the span',
  },
  'cover left': {
    takes: [span],
    gives: 'number',
    steps: statement,
    help: 'people of the team still here on the thinnest day',
  },
  'working days between': {
    takes: [parameter('from', 'date'), parameter('to', 'date')],
    gives: 'number',
    steps: walk,
    help: 'the asker’s working days after the first date, up to the second',
  },
  'add working days': {
    takes: [date, parameter('days', 'number')],
    gives: 'date',
    steps: walk,
    help: 'the date some working days of the asker later',
  },
  manager: {
    takes: [parameter('person', 'person'), parameter('levels', 'number')],
    gives: 'person',
    steps: walk,
    help: 'the manager so many levels above a person',
  },
  'row of': {
    takes: [parameter('list', 'text'), parameter('title', 'text')],
    gives: 'anything',
    steps: walk,
    help: 'the row of a list by its title, as it is today: row of("Allowances", To).Rate',
  },
  'in currency': {
    takes: [parameter('amount', 'money'), parameter('currency', 'text'), date],
    gives: 'money',
    steps: walk,
    help: 'an amount in another currency, by the rate of that day in the list “Rates”; nothing where there is none',
  },
  today: { takes: [], gives: 'date', steps: look, help: 'today, where the asker works' },
  now: { takes: [], gives: 'date and time', steps: look, help: 'the time it is, in UTC' },
  'paper due': {
    takes: [parameter('type', 'text'), span],
    gives: 'date',
    steps: walk,
    help: 'the day from which a paper is due for the span; nothing where none is',
  },
  'days of notice': { takes: [span], gives: 'number', steps: look, help: 'calendar days from today to the first day' },
} as const satisfies Record<string, HouseSignature>;

export type HouseFunction = keyof typeof houseFunctions;

export const isHouseFunction = (name: string): name is HouseFunction => Object.hasOwn(houseFunctions, name);
