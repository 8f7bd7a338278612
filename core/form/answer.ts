/** What an answer to a field can be, and the house that it is read and said by. */
import type { LeaveSpan } from '../leave/index.ts';
import type { DirectoryIndex, PersonId } from '../people/index.ts';
import { type CivilDate, type Instant, yearOf } from '../time/index.ts';
import type { Cell } from './column.ts';
import type { GivenFile } from './file.ts';
import { listById, type ReferenceList, rowById } from './list.ts';

export type GivenDocument = { file: GivenFile; expires: CivilDate | null; number?: string; issued?: CivilDate };
/** What was agreed to, and when. */
export type GivenConsent = { version: string; at: Instant };
/** A paper that was read or signed: how, under which name, and the digest (SHA-256, hex) of what was read. */
export type SignedPaper = {
  how: 'read' | 'typed' | 'drawn' | 'by hand';
  name: string | null;
  at: Instant;
  digest: string | null;
  file: GivenFile | null;
};
export type DateRange = { from: CivilDate; to: CivilDate };
export type TableRow = Readonly<Record<string, Cell>>;

export type Answer =
  | string
  | number
  | boolean
  | LeaveSpan
  | DateRange
  | GivenDocument
  | GivenConsent
  | SignedPaper
  | readonly string[]
  | readonly GivenFile[]
  | readonly TableRow[]
  | null;
/** By field id. */
export type Answers = Readonly<Record<string, Answer>>;

/** Whether an answer that was read is a span of leave. */
export const isLeaveSpan = (answer: unknown): answer is LeaveSpan =>
  typeof answer === 'object' && answer !== null && 'from' in answer && typeof answer.from === 'object';

export const isEmptyAnswer = (value: unknown): boolean =>
  value === undefined || value === null || value === '' || (Array.isArray(value) && value.length === 0);

export const sameAnswer = (a: Answer | undefined, b: Answer | undefined): boolean =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** What the house has that answers are checked against. */
export type HouseLists = {
  readonly leaveTypes: readonly { readonly id: string; readonly name: string }[];
  readonly lists: readonly ReferenceList[];
  readonly index: DirectoryIndex;
  readonly today: CivilDate;
};

/** Names that answers stand for. */
export type Naming = {
  /** The year of whoever reads: dates of another one are said with theirs. */
  readonly year: number;
  readonly leaveType: (id: string) => string;
  readonly person: (id: string) => string;
  readonly row: (list: string, id: string) => string;
};

export const namingOf = (house: Pick<HouseLists, 'leaveTypes' | 'lists' | 'index' | 'today'>): Naming => ({
  year: yearOf(house.today),
  leaveType: id => house.leaveTypes.find(t => t.id === id)?.name ?? id,
  person: id => house.index.person(id as PersonId)?.name ?? id,
  row: (list, id) => rowById(listById(house.lists, list), id)?.title ?? id,
});
