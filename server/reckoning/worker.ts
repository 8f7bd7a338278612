/** The thread beside the one that answers: what follows from a change of facts, and what files would bring. */
import { createHash } from 'node:crypto';
import { type Consequences, consequencesOf } from '@north-pebble/core/consequences';
import { changeFaultWords, edited, type FactEdit, type OnFile } from '@north-pebble/core/facts';
import type { LeaveBook } from '@north-pebble/core/leave';
import { type Given, type Moved, moveIn } from '@north-pebble/core/movingIn';
import { type Directory, type DirectoryIndex, indexDirectory } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { answerOnThread } from '../threads/index.ts';

export type Follows = {
  what: 'follows';
  book: Omit<LeaveBook, 'index'>;
  edits: readonly FactEdit[];
  day: CivilDate;
  /** The kept parts besides the directory that edits are about. */
  beside: Pick<OnFile, 'lists' | 'adjustments' | 'bookings'>;
};
export type Files = {
  what: 'files';
  given: readonly Given[];
  beside: Required<Pick<OnFile, 'lists' | 'adjustments' | 'bookings'>>;
  rules: { plans: LeaveBook['plans']; types: LeaveBook['types']; decidedHere: readonly string[] };
};
export type Asked = (Follows | Files) & {
  task: number;
  /** Sent when the thread does not know the directory as it is now. */
  directory?: Directory;
};
export type FilesRead = Moved & { digest: string };

let known: DirectoryIndex | undefined;

/** What is shown and what is made are told to be the same by this. */
const digestOf = (edits: readonly FactEdit[]): string =>
  createHash('sha256').update(JSON.stringify(edits)).digest('hex');

function work(asked: Asked): Consequences | FilesRead {
  if (asked.directory) known = indexDirectory(asked.directory);
  if (!known) throw new Error('the thread does not know the directory');
  const { directory } = known;
  if (asked.what === 'follows') {
    const after = edited({ ...directory, ...asked.beside }, asked.edits);
    if (!after.ok) throw new Error(`edits do not fit the directory: ${after.stale}`);
    return consequencesOf({ ...asked.book, index: known }, indexDirectory(after.directory), asked.edits, asked.day);
  }
  const moved = moveIn({ ...directory, ...asked.beside }, asked.given, asked.rules, (file, fault) =>
    changeFaultWords(indexDirectory(file), fault),
  );
  return { ...moved, digest: digestOf(moved.edits) };
}

answerOnThread(work);
