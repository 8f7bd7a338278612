/** The thread beside the one that answers: what follows from a change of facts, and what files would bring. */
import { createHash } from 'node:crypto';
import { type Consequences, consequencesOf } from '@north-pebble/core/consequences';
import { changeFaultWords, edited, type FactEdit, type OnFile } from '@north-pebble/core/facts';
import {
  booksOf,
  type LeaveBook,
  type LeaveStanding,
  standingOf,
  type TakenDay,
  takenDays,
  type YearEnd,
  yearEndOf,
} from '@north-pebble/core/leave';
import { type Given, type Moved, moveIn } from '@north-pebble/core/movingIn';
import { type Directory, type DirectoryIndex, indexDirectory, type PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { type Definition, findings } from '@north-pebble/core/workflow';
import { answerOnThread } from '../threads/index.ts';

export type Follows = {
  what: 'follows';
  book: Omit<LeaveBook, 'index'>;
  edits: readonly FactEdit[];
  day: CivilDate;
  /** The kept parts besides the directory that edits are about. */
  beside: Omit<OnFile, keyof Directory>;
};
export type Files = {
  what: 'files';
  given: readonly Given[];
  beside: Required<Omit<OnFile, keyof Directory>>;
  rules: { plans: LeaveBook['plans']; types: LeaveBook['types']; decidedHere: readonly string[] };
};
export type Findings = {
  what: 'findings';
  definitions: readonly Definition[];
  edits: readonly FactEdit[];
  day: CivilDate;
  beside: Omit<OnFile, keyof Directory>;
};
/** Rows of everybody’s balances of one type, in the order of the people. */
export type Standings = {
  what: 'standings';
  book: Omit<LeaveBook, 'index'>;
  people: readonly PersonId[];
  type: string;
};
export type Stood = readonly (LeaveStanding | null)[];
/** The leave years of people that ended by a day. */
export type YearEnds = Omit<Standings, 'what'> & { what: 'year ends'; until: CivilDate };
export type Ended = readonly (YearEnd | null)[];
/** Every day of booked leave of people in some days. */
export type Taken = {
  what: 'taken';
  book: Omit<LeaveBook, 'index'>;
  people: readonly PersonId[];
  from: CivilDate;
  to: CivilDate;
};
export type TakenDays = readonly (TakenDay & { person: PersonId })[];
/** What a change would newly find wrong with workflows that are live. */
export type Found = readonly { readonly workflow: string; readonly title: string }[];
export type Asked = (Follows | Files | Findings | Standings | YearEnds | Taken) & {
  task: number;
  /** Sent when the thread does not know the directory as it is now. */
  directory?: Directory;
};
export type FilesRead = Moved & { digest: string };

let known: DirectoryIndex | undefined;

/** What is shown and what is made are told to be the same by this. */
const digestOf = (edits: readonly FactEdit[]): string =>
  createHash('sha256').update(JSON.stringify(edits)).digest('hex');

/** What is found after a change that was not found before it, for each workflow. */
function newly(index: DirectoryIndex, { definitions, edits, day, beside }: Findings): Found {
  const after = edited({ ...index.directory, ...beside }, edits);
  if (!after.ok) return [];
  const changed = indexDirectory(after.directory);
  return definitions.flatMap(definition => {
    const titles = (one: DirectoryIndex) =>
      findings(definition, { people: { index: one, days: [day] } }).map(({ title }) => title);
    const known = new Set(titles(index));
    return titles(changed)
      .filter(title => !known.has(title))
      .map(title => ({ workflow: definition.name, title }));
  });
}

/** Each person is asked for once, so no sums of working time are kept. */
const onceEach = (book: Omit<LeaveBook, 'index'>, index: DirectoryIndex) => booksOf({ ...book, index, once: true });

function standings(index: DirectoryIndex, { book, people, type }: Standings): Stood {
  const found = book.types.find(one => one.id === type);
  if (!found) return people.map(() => null);
  const bookOf = onceEach(book, index);
  const known = stood.get(index) ?? new Map();
  stood.set(index, known);
  return people.map(id => {
    const own = bookOf(id);
    const key = `${type} ${id}`;
    const facts = factsOf(book.today, own);
    const before = known.get(key);
    if (before?.facts === facts) return before.row;
    const row = standingOf(own, id, found) ?? null;
    known.set(key, { facts, row });
    return row;
  });
}

function yearEnds(index: DirectoryIndex, { book, people, type, until }: YearEnds): Ended {
  const found = book.types.find(one => one.id === type);
  const bookOf = onceEach(book, index);
  return people.map(id => (found ? (yearEndOf(bookOf(id), id, found, until) ?? null) : null));
}

function taken(index: DirectoryIndex, { book, people, from, to }: Taken): TakenDays {
  const bookOf = onceEach(book, index);
  return people.flatMap(id => takenDays(bookOf(id), id, from, to).map(day => ({ ...day, person: id })));
}

/** Rows that were worked out, for as long as the directory stands, each with what it was worked out from. */
const stood = new WeakMap<DirectoryIndex, Map<string, { facts: string; row: LeaveStanding | null }>>();

/** All that a row hangs on besides the directory, as one text. */
function factsOf(today: CivilDate, { entries, adjustments }: Pick<LeaveBook, 'entries' | 'adjustments'>): string {
  let text: string = today;
  for (const { request, state, type, span } of entries) {
    const end = (one: LeaveBook['entries'][number]['span']['from']) => ('time' in one ? one.time : one.half);
    text += `|${request} ${state} ${type} ${span.from.date}${end(span.from)} ${span.to.date}${end(span.to)}`;
  }
  for (const { type, date, amount } of adjustments) text += `|${type} ${date} ${amount}`;
  return text;
}

function work(asked: Asked): Consequences | FilesRead | Found | Stood | Ended | TakenDays {
  if (asked.directory) known = indexDirectory(asked.directory);
  if (!known) throw new Error('the thread does not know the directory');
  const { directory } = known;
  if (asked.what === 'findings') return newly(known, asked);
  if (asked.what === 'standings') return standings(known, asked);
  if (asked.what === 'year ends') return yearEnds(known, asked);
  if (asked.what === 'taken') return taken(known, asked);
  if (asked.what === 'follows') {
    const after = edited({ ...directory, ...asked.beside }, asked.edits);
    if (!after.ok) throw new Error(`edits do not fit the directory: ${after.stale}`);
    const { leaveTypes: types, leavePlans: plans } = after.directory;
    const rules = { ...(types ? { types } : {}), ...(plans ? { plans } : {}) };
    return consequencesOf(
      { ...asked.book, index: known },
      indexDirectory(after.directory),
      asked.edits,
      asked.day,
      rules,
    );
  }
  const moved = moveIn({ ...directory, ...asked.beside }, asked.given, asked.rules, (file, fault) =>
    changeFaultWords(indexDirectory(file), fault),
  );
  return { ...moved, digest: digestOf(moved.edits) };
}

answerOnThread(work);
