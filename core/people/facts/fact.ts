/**
 * What is on file of people and posts, one fact at a time. Every change is a list of edits, each of which says how a fact
 * stood before and how it stands afterwards: so two who change the same fact are told, and every change can be taken back.
 */
import { z } from 'zod';
import { CivilDate } from '../../time/index.ts';
import { type Directory, PersonId } from '../directory.ts';

const Id = z.string().min(1).max(40);
const Share = z.number().positive().max(1);

const PersonFact = z.strictObject({
  kind: z.literal('person'),
  id: PersonId,
  name: z.string().min(1).max(200),
  mail: z.string().max(200),
  joined: CivilDate,
  left: CivilDate.nullable(),
  dottedTo: PersonId.nullable(),
});
const RecordFact = z.strictObject({
  kind: z.literal('record'),
  person: PersonId,
  from: CivilDate,
  place: Id,
  department: Id,
  pattern: Id,
  fte: Share,
  plan: Id.nullable(),
});
const PostFact = z.strictObject({
  kind: z.literal('post'),
  id: Id,
  title: z.string().min(1).max(200),
  department: Id,
  place: Id,
  grade: z.number().int().nullable(),
  spending: z.number().nullable(),
});
const LineFact = z.strictObject({
  kind: z.literal('line'),
  post: Id,
  from: CivilDate,
  reportsTo: Id.nullable(),
});
const HoldingFact = z.strictObject({
  kind: z.literal('holding'),
  post: Id,
  person: PersonId,
  from: CivilDate,
  to: CivilDate.nullable(),
  main: z.boolean(),
});
const RoleFact = z.strictObject({
  kind: z.literal('role'),
  role: z.string().min(1).max(80),
  person: PersonId,
  place: Id.nullable(),
  department: Id.nullable(),
});
export const Fact = z.discriminatedUnion('kind', [PersonFact, RecordFact, PostFact, LineFact, HoldingFact, RoleFact]);
export type Fact = z.infer<typeof Fact>;
export type FactOf<Kind extends Fact['kind']> = Extract<Fact, { kind: Kind }>;

/** One fact that comes, goes, or is another afterwards. */
export const FactEdit = z.strictObject({
  before: Fact.nullable(),
  after: Fact.nullable(),
  /** The record that a new one follows, for whoever reads what is different. */
  over: RecordFact.exactOptional(),
});
export type FactEdit = z.infer<typeof FactEdit>;

/** What a fact is known by: two of one key do not stand beside one another. */
export function factKey(fact: Fact): string {
  switch (fact.kind) {
    case 'person':
    case 'post':
      return `${fact.kind} ${fact.id}`;
    case 'record':
      return `record ${fact.person} ${fact.from}`;
    case 'line':
      return `line ${fact.post} ${fact.from}`;
    case 'holding':
      return `holding ${fact.post} ${fact.person} ${fact.from}`;
    case 'role':
      return `role ${fact.role} ${fact.person} ${fact.place ?? ''} ${fact.department ?? ''}`;
  }
}

const keyOf = ({ before, after }: FactEdit): string => factKey((before ?? after) as Fact);

/** Facts are flat: the same names with the same values. */
export const sameFact = (a: Fact | null, b: Fact | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    factKey(a) === factKey(b) &&
    Object.entries(a).every(([name, value]) => (b as Record<string, unknown>)[name] === value));

/** A fact as it stands; nothing where it does not. */
export function factLike(directory: Directory, fact: Fact): Fact | null {
  switch (fact.kind) {
    case 'person': {
      const found = directory.people.find(one => one.id === fact.id);
      if (!found) return null;
      const { records: _, ...own } = found;
      return { kind: 'person', ...own };
    }
    case 'record': {
      const person = directory.people.find(one => one.id === fact.person);
      const found = person?.records.find(one => one.from === fact.from);
      return found ? { kind: 'record', person: fact.person, ...found } : null;
    }
    case 'post': {
      const found = directory.posts.find(one => one.id === fact.id);
      if (!found) return null;
      const { lines: _, grade = null, spending = null, ...own } = found;
      return { kind: 'post', ...own, grade, spending };
    }
    case 'line': {
      const found = directory.posts.find(one => one.id === fact.post)?.lines.find(one => one.from === fact.from);
      return found ? { kind: 'line', post: fact.post, ...found } : null;
    }
    case 'holding': {
      const key = factKey(fact);
      const found = directory.holdings.find(one => factKey({ kind: 'holding', ...one }) === key);
      return found ? { kind: 'holding', ...found } : null;
    }
    case 'role': {
      const found = directory.roles.find(
        one =>
          one.role === fact.role &&
          one.person === fact.person &&
          (one.place ?? null) === fact.place &&
          (one.department ?? null) === fact.department,
      );
      return found
        ? {
            kind: 'role',
            role: found.role,
            person: found.person,
            place: found.place ?? null,
            department: found.department ?? null,
          }
        : null;
    }
  }
}

/** What takes edits back: the last one first. */
export const reversed = (edits: readonly FactEdit[]): FactEdit[] =>
  edits.toReversed().map(({ before, after }) => ({ before: after, after: before }));

export type Edited = { ok: true; directory: Directory } | { ok: false; stale: readonly string[] };

/** @returns the directory with these edits; or the keys of what stands otherwise than the edits say */
export function edited(directory: Directory, edits: readonly FactEdit[]): Edited {
  let now = directory;
  const stale: string[] = [];
  for (const edit of edits) {
    const like = (edit.before ?? edit.after) as Fact;
    if (sameFact(factLike(now, like), edit.before)) now = put(now, edit);
    else stale.push(keyOf(edit));
  }
  return stale.length > 0 ? { ok: false, stale } : { ok: true, directory: now };
}

const byFrom = (a: { from: string }, b: { from: string }): number => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0);

function put(directory: Directory, { before, after }: FactEdit): Directory {
  const fact = (after ?? before) as Fact;
  switch (fact.kind) {
    case 'person': {
      const others = directory.people.filter(one => one.id !== fact.id);
      if (!after) return { ...directory, people: others };
      const { kind: _, ...own } = fact;
      const there = directory.people.find(one => one.id === fact.id);
      const person = { ...own, records: there?.records ?? [] };
      return {
        ...directory,
        people: there ? directory.people.map(one => (one.id === fact.id ? person : one)) : [...others, person],
      };
    }
    case 'record': {
      const { kind: _, person: of, ...own } = fact;
      return {
        ...directory,
        people: directory.people.map(one => {
          if (one.id !== of) return one;
          const others = one.records.filter(record => record.from !== fact.from);
          return { ...one, records: (after ? [...others, own] : others).toSorted(byFrom) };
        }),
      };
    }
    case 'post': {
      const { kind: _, ...own } = fact;
      const there = directory.posts.find(one => one.id === fact.id);
      if (!after) return { ...directory, posts: directory.posts.filter(one => one.id !== fact.id) };
      const post = { ...own, lines: there?.lines ?? [] };
      return {
        ...directory,
        posts: there ? directory.posts.map(one => (one.id === fact.id ? post : one)) : [...directory.posts, post],
      };
    }
    case 'line': {
      const { kind: _, post: of, ...own } = fact;
      return {
        ...directory,
        posts: directory.posts.map(one => {
          if (one.id !== of) return one;
          const others = one.lines.filter(line => line.from !== fact.from);
          return { ...one, lines: (after ? [...others, own] : others).toSorted(byFrom) };
        }),
      };
    }
    case 'holding': {
      const key = factKey(fact);
      const { kind: _, ...own } = fact;
      const others = directory.holdings.filter(one => factKey({ kind: 'holding', ...one }) !== key);
      return { ...directory, holdings: after ? [...others, own] : others };
    }
    case 'role': {
      const others = directory.roles.filter(
        one =>
          one.role !== fact.role ||
          one.person !== fact.person ||
          (one.place ?? null) !== fact.place ||
          (one.department ?? null) !== fact.department,
      );
      const own = {
        role: fact.role,
        person: fact.person,
        ...(fact.place ? { place: fact.place } : {}),
        ...(fact.department ? { department: fact.department } : {}),
      };
      return { ...directory, roles: after ? [...others, own] : others };
    }
  }
}
