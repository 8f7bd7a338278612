/** The thread beside the one that answers: what follows from a change of facts, and what files would bring. */
import { createHash } from 'node:crypto';
import { workerData } from 'node:worker_threads';
import { type Consequences, consequencesOf } from '@north-pebble/core/consequences';
import { changeFaultWords, edited, type FactEdit, factOfEdit, type OnFile } from '@north-pebble/core/facts';
import type { LeaveBook } from '@north-pebble/core/leave';
import { type Given, type Moved, moveIn } from '@north-pebble/core/movingIn';
import {
  type Directory,
  type DirectoryIndex,
  indexDirectory,
  type PersonId,
  sameSince,
} from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { type Definition, findings, findingsOfRouting, goesAsBefore } from '@north-pebble/core/workflow';
import { EverybodysLeave } from '../book/index.ts';
import { errorCode, openDatabase } from '../database/index.ts';
import { answerOnThread } from '../threads/index.ts';
import {
  type Ended,
  type Rules,
  type Standings,
  type Stood,
  standings,
  type Taken,
  type TakenDays,
  taken,
  type YearEnds,
  yearEnds,
} from './ofEverybody.ts';

export type { Ended, Rules, Standings, Stood, Taken, TakenDays, YearEnds } from './ofEverybody.ts';

export type Follows = {
  what: 'follows';
  /** Whose leave is counted before and after. */
  people: readonly PersonId[];
  today: CivilDate;
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
/** What a change would newly find wrong with workflows that are live. */
export type Found = readonly { readonly workflow: string; readonly title: string }[];
export type Asked = (Follows | Files | Findings | Standings | YearEnds | Taken) & {
  task: number;
  /** Sent when the thread does not know the directory as it is now, and the leave rules beside it. */
  directory?: Directory;
  leaveRules?: Rules;
};
export type FilesRead = Moved & { digest: string };

let known: DirectoryIndex | undefined;
let rules: Rules = { types: [], plans: [] };
// A connection of its own: what is read for everybody passes nobody who answers.
const leave = new EverybodysLeave(openDatabase((workerData as { database: string }).database, 1));

/** What is shown and what is made are told to be the same by this. */
const digestOf = (edits: readonly FactEdit[]): string =>
  createHash('sha256').update(JSON.stringify(edits)).digest('hex');

/** Everything that is wrong, or only with whom steps ask. */
type Which = typeof findings | typeof findingsOfRouting;
const titlesIn = (which: Which, index: DirectoryIndex, definition: Definition, day: CivilDate): string[] =>
  which(definition, { people: { index, days: [day] } }).map(({ title }) => title);

/** What is found as the directory is now: it is asked before every change, and the same until one is made. */
const found = new WeakMap<DirectoryIndex, Map<string, ReadonlySet<string>>>();
function titlesNow(which: Which, index: DirectoryIndex, definition: Definition, day: CivilDate): ReadonlySet<string> {
  const of = found.get(index) ?? new Map<string, ReadonlySet<string>>();
  found.set(index, of);
  const key = `${which === findings ? 'all' : 'routing'} ${day} ${JSON.stringify(definition)}`;
  const known = of.get(key) ?? new Set(titlesIn(which, index, definition, day));
  of.set(key, known);
  return known;
}

/** Those whose records are edited, where nothing else is. */
function movedIn(edits: readonly FactEdit[]): ReadonlySet<string> | null {
  const moved = new Set<string>();
  for (const { before, after } of edits) {
    const fact = after ?? before;
    if (fact?.kind !== 'record') return null;
    moved.add(fact.person);
  }
  return moved;
}

/** What is found after a change that was not found before it, for each workflow. */
function newly(index: DirectoryIndex, { definitions, edits, day, beside }: Findings): Found {
  const after = edited({ ...index.directory, ...beside }, edits);
  if (!after.ok) return [];
  const changed = indexDirectory(after.directory);
  // Asked on one day for all on which the same holds.
  const since = sameSince(index.directory, day);
  const moved = movedIn(edits);
  const which = moved ? findingsOfRouting : findings;
  const known = definitions.map(definition => titlesNow(which, index, definition, since));
  if (moved) goesAsBefore({ index, day: since }, { index: changed, day }, moved);
  return definitions.flatMap((definition, n) =>
    titlesIn(which, changed, definition, day)
      .filter(title => !known[n]?.has(title))
      .map(title => ({ workflow: definition.name, title })),
  );
}

/** Tells how far work is ten times a second, not at every person. */
function sometimes(tell: (what: unknown) => void): (done: number, all: number) => void {
  let last = 0;
  return (done, all) => {
    const now = performance.now();
    if (now - last < 100) return;
    last = now;
    tell({ done, all });
  };
}

async function work(
  asked: Asked,
  tell: (what: unknown) => void,
): Promise<Consequences | FilesRead | Found | Stood | Ended | TakenDays> {
  if (asked.directory) known = indexDirectory(asked.directory);
  if (!known) throw new Error('the thread does not know the directory');
  if (asked.leaveRules) rules = asked.leaveRules;
  const { directory } = known;
  if (asked.what === 'findings') return newly(known, asked);
  if (asked.what === 'standings' || asked.what === 'year ends' || asked.what === 'taken') {
    await leave.refresh();
    const around = { index: known, rules, leave };
    if (asked.what === 'standings') return standings(around, asked);
    return asked.what === 'taken' ? taken(around, asked) : yearEnds(around, asked);
  }
  if (asked.what === 'follows') {
    // Leave that is booked by facts is no part of the directory: it is looked at as leave.
    const ofDirectory = asked.edits.filter(edit => factOfEdit(edit).kind !== 'booking');
    const after = edited({ ...directory, ...asked.beside }, ofDirectory);
    if (!after.ok) throw new Error(`edits do not fit the directory: ${after.stale}`);
    const { leaveTypes: types, leavePlans: plans } = after.directory;
    const changed = { ...(types ? { types } : {}), ...(plans ? { plans } : {}) };
    await leave.refresh();
    const own = asked.people.map(id => leave.of(id, asked.today));
    const book: LeaveBook = {
      ...{ index: known, ...rules, today: asked.today },
      entries: own.flatMap(one => one.entries),
      adjustments: own.flatMap(one => one.adjustments),
    };
    return consequencesOf(book, indexDirectory(after.directory), asked.edits, asked.day, changed, sometimes(tell));
  }
  const moved = moveIn({ ...directory, ...asked.beside }, asked.given, asked.rules, (file, fault) =>
    changeFaultWords(indexDirectory(file), fault),
  );
  return { ...moved, digest: digestOf(moved.edits) };
}

answerOnThread(work, errorCode);
