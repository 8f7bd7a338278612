/**
 * What a change of facts does to whom, before it is saved: other line managers, leave counted anew, balances at the end of
 * the year, posts and roles that nobody holds any more. The same functions as ever, asked of the house before and after.
 */

import { type Fact, type FactEdit, factOfEdit } from '../facts/index.ts';
import {
  amountOf,
  booksOf,
  courseFor,
  type LeaveBook,
  type LeaveEntry,
  type LeaveSpan,
  statementOf,
} from '../leave/index.ts';
import { type DirectoryIndex, hasLeft, holderOf, isEmployed, managerOf, type PersonId } from '../people/index.ts';
import { type CivilDate, calendarChain, fromDay } from '../time/index.ts';

export type OtherManager = {
  readonly person: PersonId;
  /** Nobody where the line leads to nobody. */
  readonly before: PersonId | null;
  readonly after: PersonId | null;
};
export type OtherAmount = {
  readonly person: PersonId;
  readonly type: string;
  readonly span: LeaveSpan;
  readonly request: string | null;
  readonly state: 'held' | 'booked';
  readonly before: number;
  readonly after: number;
  readonly unit: 'days' | 'hours';
};
export type OtherBalance = {
  readonly person: PersonId;
  readonly type: string;
  readonly on: CivilDate;
  /** Nothing where they have no balance of this kind. */
  readonly before: number | null;
  readonly after: number | null;
  readonly unit: 'days' | 'hours';
  /** The unit of `before`, where that is another. */
  readonly unitBefore?: 'days' | 'hours';
};
/** What is left of a plan when another begins, as the statement will say it. */
export type BroughtAlong = {
  readonly person: PersonId;
  readonly type: string;
  readonly on: CivilDate;
  readonly amount: number;
  readonly unit: 'days' | 'hours';
  readonly words: string;
};
export type Consequences = {
  readonly managers: readonly OtherManager[];
  readonly leave: readonly OtherAmount[];
  readonly balances: readonly OtherBalance[];
  readonly broughtAlong: readonly BroughtAlong[];
  /** Posts that are vacant on the day and were not. */
  readonly vacant: readonly string[];
  /** Roles that nobody who works here holds on the day, and somebody did. */
  readonly empty: readonly string[];
};

/** Those whose own facts an edit is about. */
export const touched = (edits: readonly FactEdit[]): PersonId[] => [
  ...new Set(edits.flatMap(edit => personsOf(factOfEdit(edit)))),
];
const personsOf = (fact: Fact): PersonId[] => {
  switch (fact.kind) {
    case 'person':
      return [fact.id];
    case 'record':
    case 'holding':
    case 'role':
    case 'adjustment':
    case 'opening':
    case 'circumstance':
    case 'booking':
      return [fact.person];
    case 'post':
    case 'line':
    case 'place':
    case 'department':
    case 'pattern':
    case 'calendar':
    case 'holiday':
    case 'list':
    case 'row':
    case 'leave type':
    case 'leave plan':
    case 'presence':
      return [];
  }
};

const routing: ReadonlySet<string> = new Set([
  'person',
  'record',
  'post',
  'line',
  'holding',
  'role',
  'place',
  'department',
]);
/** Whether an edit may change who is asked for something. Of a record, where somebody works does; hours, pattern and plan do not. */
export function routes(edit: FactEdit): boolean {
  const { before, after, over } = edit;
  const was = before ?? over;
  if (was?.kind === 'record' && after?.kind === 'record')
    return was.place !== after.place || was.department !== after.department;
  return routing.has(factOfEdit(edit).kind);
}

const counting: ReadonlySet<string> = new Set([
  'record',
  'pattern',
  'calendar',
  'holiday',
  'place',
  'leave type',
  'leave plan',
]);
/** Whether an edit may change how somebody’s days are counted. */
export const counts = (edit: FactEdit): boolean => counting.has(factOfEdit(edit).kind);

/** Whether an edit is of what leave types or plans say. */
export const ofRules = (edit: FactEdit): boolean => ['leave type', 'leave plan'].includes(factOfEdit(edit).kind);

/** Those whose days are counted by something that is edited: their own record, their pattern, the calendar of their place. */
export function counted(before: DirectoryIndex, after: DirectoryIndex, edits: readonly FactEdit[]): PersonId[] {
  const patterns = new Set<string>();
  const places = new Set<string>();
  const calendars = new Set<string>();
  const plans = new Set<string>();
  let everybody = false;
  for (const edit of edits) {
    const fact = factOfEdit(edit);
    if (fact.kind === 'pattern') patterns.add(fact.id);
    if (fact.kind === 'place') places.add(fact.id);
    if (fact.kind === 'calendar') calendars.add(fact.id);
    if (fact.kind === 'holiday') calendars.add(fact.calendar);
    if (fact.kind === 'leave plan') plans.add(fact.id);
    // Whoever has some of it booked, and that may be anybody.
    if (fact.kind === 'leave type') everybody = true;
  }
  if (calendars.size > 0)
    for (const { directory } of [before, after])
      for (const place of directory.places)
        if (calendarChain(directory.calendars, place.calendar).some(id => calendars.has(id))) places.add(place.id);
  const own = touched(edits);
  if (everybody) return after.directory.people.map(({ id }) => id);
  if (patterns.size === 0 && places.size === 0 && plans.size === 0) return own;
  const found = new Set(own);
  for (const { directory } of [before, after])
    for (const { id, records } of directory.people)
      if (
        records.some(
          ({ pattern, place, plan }) =>
            patterns.has(pattern) || places.has(place) || (plan !== null && plans.has(plan)),
        )
      )
        found.add(id);
  return [...found];
}

/**
 * @param book leave of those whose facts change, by the directory before
 * @param rules leave types, plans and what is put on balances as they are afterwards, where they are others
 * @param day the day from which the change holds, or today where it has begun already
 */
export function consequencesOf(
  book: LeaveBook,
  after: DirectoryIndex,
  edits: readonly FactEdit[],
  day: CivilDate,
  rules: Partial<Pick<LeaveBook, 'types' | 'plans' | 'adjustments'>> = {},
  told: (done: number, all: number) => void = () => {},
): Consequences {
  const before = book.index;
  const people = counted(before, after, edits);
  const bookOf = booksOf(people.length > few ? { ...book, once: true } : book);
  const own = people.map(bookOf);
  const booked = edits.filter(edit => factOfEdit(edit).kind === 'booking');
  const changedOf = (one: LeaveBook, person: PersonId): LeaveBook => ({
    ...one,
    ...rules,
    index: after,
    ...(booked.length > 0 ? { entries: bookedAfter(one.entries, person, booked) } : {}),
  });
  // Everybody is looked at twice: for what is counted otherwise, and for what that makes of balances.
  const amounts = people.map((person, n) => {
    told(n, 2 * people.length);
    return otherAmounts(own[n], changedOf(own[n], person), person);
  });
  const ownFacts = new Set(touched(edits));
  const others = edits.some(edit => ofRules(edit));
  const yearEnd = `${day.slice(0, 4)}-12-31` as CivilDate;
  return {
    managers: otherManagers(before, after, day),
    leave: amounts.flat(),
    // Whose leave counts the same has the same balance, where nothing of their own is changed.
    balances: people.flatMap((person, n) => {
      told(people.length + n, 2 * people.length);
      return others || amounts[n].length > 0 || ownFacts.has(person)
        ? otherBalances(own[n], changedOf(own[n], person), person, yearEnd)
        : [];
    }),
    broughtAlong: people.flatMap((person, n) =>
      ownFacts.has(person) ? otherBroughtAlong(own[n], changedOf(own[n], person), person) : [],
    ),
    vacant: before.directory.posts.flatMap(({ id }) => {
      const [was, is] = [before, after].map(index => {
        const post = index.post(id);
        return post !== undefined && 'person' in holderOf(index, post, day);
      });
      return was && !is ? [id] : [];
    }),
    empty: emptied(before, after, day),
  };
}

/** Leave of a person with what is booked and taken back by facts. */
function bookedAfter(entries: LeaveBook['entries'], person: PersonId, edits: readonly FactEdit[]): LeaveEntry[] {
  let now = [...entries];
  for (const { before, after } of edits) {
    const fact = after ?? before;
    if (fact?.kind !== 'booking' || fact.person !== person) continue;
    now = now.filter(one => one.request !== fact.id);
    if (after?.kind === 'booking') {
      const { id, type, span, reason } = after;
      now.push({ request: id, person, type, span, state: 'booked', ...(reason ? { reason } : {}) });
    }
  }
  return now;
}

/** So many are worked out with sums that are kept for whoever asks next. */
const few = 40;

/** Those who have another line manager on a day. */
export function otherManagers(before: DirectoryIndex, after: DirectoryIndex, day: CivilDate): OtherManager[] {
  const managerIn = (index: DirectoryIndex, person: PersonId): PersonId | null => {
    const found = managerOf(index, person, day);
    return 'person' in found ? found.person.id : null;
  };
  return after.directory.people.flatMap(person => {
    const was = before.person(person.id);
    if (!was || !isEmployed(person, day) || !isEmployed(was, day)) return [];
    const found = { person: person.id, before: managerIn(before, person.id), after: managerIn(after, person.id) };
    return found.before === found.after ? [] : [found];
  });
}

/** Leave that is counted otherwise afterwards. */
export function otherAmounts(book: LeaveBook, changed: LeaveBook, person: PersonId): OtherAmount[] {
  if (!book.index.person(person) || !changed.index.person(person)) return [];
  return book.entries.flatMap(entry => {
    const type = book.types.find(one => one.id === entry.type);
    if (entry.person !== person || !type) return [];
    const [was, is] = [book, changed].map(one => amountOf(one, person, type, entry.span));
    if (!was || !is || (was.amount === is.amount && was.unit === is.unit)) return [];
    return [
      {
        person,
        type: type.id,
        span: entry.span,
        request: entry.request ?? null,
        state: entry.state,
        before: was.amount,
        after: is.amount,
        unit: is.unit,
      },
    ];
  });
}

function otherBalances(book: LeaveBook, changed: LeaveBook, person: PersonId, on: CivilDate): OtherBalance[] {
  return book.types.flatMap(type => {
    const [was, is] = [book, changed].map(one =>
      one.index.person(person) ? statementOf(one, person, type, on) : undefined,
    );
    if (was?.balance === is?.balance && was?.unit === is?.unit) return [];
    const unit = is?.unit ?? was?.unit ?? 'days';
    const other = was && was.unit !== unit ? { unitBefore: was.unit } : {};
    return [{ person, type: type.id, on, before: was?.balance ?? null, after: is?.balance ?? null, unit, ...other }];
  });
}

/** What a change of plans brings along from one to the other, where that is new or another amount. */
function otherBroughtAlong(book: LeaveBook, changed: LeaveBook, person: PersonId): BroughtAlong[] {
  const found = changed.index.person(person);
  if (!found || !book.index.person(person)) return [];
  return changed.types.flatMap(type => {
    const course = courseFor(changed, found, type);
    const breaks = course?.stretches.slice(1) ?? [];
    return breaks.flatMap(({ first, unit }): BroughtAlong[] => {
      const on = fromDay(first);
      const [was, is] = [book, changed].map(one =>
        statementOf(one, person, type, on)?.lines.find(line => line.kind === 'brought along' && line.date === on),
      );
      if (!is || (was?.amount === is.amount && was.reason === is.reason)) return [];
      return [{ person, type: type.id, on, amount: is.amount, unit, words: is.reason }];
    });
  });
}

function emptied(before: DirectoryIndex, after: DirectoryIndex, day: CivilDate): string[] {
  const held = (index: DirectoryIndex, role: string): boolean =>
    index.holdersOfRole(role, day).some(({ person }) => {
      const found = index.person(person);
      return found !== undefined && !hasLeft(found, day);
    });
  const roles = [...new Set(before.directory.roles.map(({ role }) => role))];
  return roles.filter(role => held(before, role) && !held(after, role));
}
