/**
 * Why something went as it went, and what was asked for: codes and what they are about, by ids. They are stored with what
 * happened; the words for them are in `execution/reasonWords.ts`, and nothing reads or compares a sentence.
 */

import type { ChangeRefusal, PersonChange } from '../../facts/index.ts';
import type { Obstacle } from '../../leave/index.ts';
import type { PeopleReason, PersonId } from '../../people/index.ts';
import type { CivilDate, Instant, WorkingAmount } from '../../time/index.ts';
import type { FormulaReason, Inputs } from '../figures/formulaReason.ts';

/** How many people gave each outcome. */
export type Counts = ReadonlyArray<{ readonly outcome: string; readonly people: number }>;

type Named = Readonly<Record<string, unknown>>;

/** What a request asked of the house, or of a system outside. */
type Asks = {
  'letter made': { letter: string; field: string };
  'planner line': { label: string; person: PersonId; from: CivilDate; to: CivilDate };
  'balance adjusted': {
    type: string;
    amount: number;
    unit: 'days' | 'hours';
    person: PersonId;
    /** What found no room on it. */
    over?: number;
  };
  'record changed': { property: string; person: PersonId; change: PersonChange };
  'post added': { post: string; title: string; from: CivilDate; under: string | null };
  'person added': { person: PersonId; name: string; from: CivilDate; post: string | null; heldBy: PersonId | null };
  'paper kept': { as: string; holder: string; field: string };
  'row added': { list: string; values: Named };
  'row changed': { list: string; field: string; row: string; values: Named };
  'asked of connection': { connection: string; action: string; values: Named; until: CivilDate | null };
  'request in': { workflow: string };
};

type Told = { amount: WorkingAmount; person: PersonId; from: Instant; zone: string };

/** What each other code is about. */
type About = {
  /** A sentence that was stored before there were codes. */
  said: { words: string };
  // When something is due, or that it never is.
  'working time': Told;
  'working time left': Told;
  'no working time left': object;
  'counted back': { days: number; field: string; date: CivilDate; place: string };
  /** The last day of the step in the plan of its request. */
  'by the plan': { day: CivilDate; field: string; date: CivilDate; place: string };
  /** The workflow names no date, or the step is no task of the plan. */
  'nothing counts back': object;
  'plan in a circle': { steps: readonly string[] };
  'limit goes on': object;
  'no due time': { why: Reason };
  'holder not on file': object;
  'no working time': { person: PersonId };
  'place not on file': { person: PersonId };
  'no working day before': { place: string; date: CivilDate };
  'field not known': { field: string };
  // Which way it took.
  'condition does not hold': { formula: string; inputs: Inputs };
  'row holds': { formula: string; inputs: Inputs };
  'no row holds': object;
  'lanes done': { done: number; of: number };
  'all lanes done': object;
  // How answers became an outcome.
  'first answer': object;
  'one against': { step: string; outcome: string };
  'all agreed': { of: number };
  'all agreed in turn': { of: number };
  /** How many gave each outcome is told since it is counted. */
  'enough alike': { step: string; outcome: string; people: number; of: number; counts?: Counts };
  'not agreed': { step: string; outcome: string; needed: number; of: number; counts: Counts };
  'no agreement': { step: string; needed: number; of: number; counts: Counts };
  'out of reach': { step: string; outcome: string; needed: number; of: number; alike: boolean };
  'answered before': { person: PersonId };
  'approved the step before': { person: PersonId };
  'nobody in time': object;
  // How a task came to somebody.
  'asked again': { fields: readonly string[] };
  'next in turn': { after: PersonId };
  'handed over': { by: PersonId | null };
  lent: { by: PersonId | null; until: CivilDate };
  'back again': { from: PersonId; at: Instant };
  'named by': { by: PersonId | null };
  // Why somebody else looks after the request.
  'owner left': { person: PersonId; left: CivilDate };
  'owner away': { person: PersonId; until: CivilDate };
  'owner not on file': { person: PersonId };
  // What happened at a limit.
  'goes on waiting': object;
  'nobody above, goes on waiting': object;
  'nobody above, HR operations told': object;
  'nobody else, goes on waiting': object;
  'told of it': { people: readonly PersonId[] };
  'nobody to tell': object;
  'outcome taken': { step: string; outcome: string };
  'passed to': { people: readonly PersonId[] };
  // Why a task ended without its holder.
  'passed up at limit': object;
  'passed on at limit': object;
  'limit passed': object;
  'somebody else has it by now': object;
  'given to somebody else': { by: PersonId | null };
  'taken by': { by: PersonId | null };
  'done by': { by: PersonId | null };
  'could not be done by': { by: PersonId | null };
  'withdrawn by': { by: PersonId | null };
  'answered by': { by: PersonId };
  'stays as approved': object;
  cancelled: object;
  withdrawn: object;
  'enough lanes done': object;
  'went on without lanes': object;
  'came to its end': object;
  'closed as': { closing: string };
  // Why it stays as it was approved.
  'answered as': { step: string; outcome: string };
  'ended as': { closing: string };
  'wanted after all': { by: PersonId | null };
  // What is waited for.
  'until day': { what: { formula: string } | { field: string }; days: number; date: CivilDate; at?: string };
  'is past': { of: Reason };
  'until document': { field: string };
  'document is there': { field: string };
  'document is in': object;
  'until last day': { field: string };
  'last day is known': { field: string };
  'until requests ended': { requests: number };
  'no request is open': object;
  'every request ended': object;
  'withdrawn from outside': { guest: string };
  'all handed in': { guest: string };
  'days of link over': { guest: string };
  'until connection answered': { connection: string };
  'until letter made': { letter: string };
  'letter not there': { letter: string };
  'it is done': object;
  'was refused': { said: string };
  'goes on without it': { by: PersonId | null };
  // Why it cannot go on.
  /** Nobody is named, or no address that a letter could go to. */
  'nobody to invite': { field: string };
  'too few answer': { needed: number; found: number };
  'every outcome spent': object;
  'round in a circle': object;
  'no otherwise': object;
  'no further step': object;
  /** Leave of which this was the last day has not been decided in time. */
  'days have passed': { last: CivilDate };
  'closing not there': object;
  'message not there': object;
  'cannot wait': { why: Reason };
  'nothing to count back from': { field: string };
  'no day on file before': { date: CivilDate };
  'nothing for the planner': { field: string };
  'no row picked': { field: string };
  'no paper to keep': { field: string };
  'record cannot change': { why: ChangeRefusal };
  'leave not known': object;
  'leave cannot be booked': { obstacle: Obstacle };
  'balance does not bear': { type: string; days: number };
  'refused outside': { what: Ask; said: string };
};

type Coded<Table> = { [Code in keyof Table]: { readonly code: Code } & Readonly<Table[Code]> }[keyof Table];

/** What was asked for; `said` is what was stored as a sentence. */
export type Ask = Coded<Asks> | { readonly code: 'said'; readonly words: string };
export type FlowReason = Coded<About>;
export type Reason = FlowReason | PeopleReason | FormulaReason;

/** The words of each code; a code without any does not compile. */
export type WordsOf<Kind extends 'asks' | 'about', Telling> = Kind extends 'asks'
  ? { [Code in keyof Asks]: (about: Readonly<Asks[Code]>, telling: Telling) => string }
  : { [Code in keyof About]: (about: Readonly<About[Code]>, telling: Telling) => string };
