/** What HR changes of people and posts, as edits of facts: each from a day on where facts have days. */
import { z } from 'zod';
import { addDays, type CivilDate, NearDate } from '../../time/index.ts';
import { type Directory, PersonId, type PersonRecord, recordOn } from '../directory.ts';
import { plainLetters } from '../letters.ts';
import { reportsTo } from '../reportingLine.ts';
import { type Fact, type FactEdit, type FactOf, factLike, sameFact } from './fact.ts';

const Id = z.string().trim().min(1).max(40);
const Name = z.string().trim().min(1, 'Write the name.').max(200);
const Mail = z
  .string()
  .trim()
  .max(200)
  .regex(/^[^@\s]+@[^@\s]+$/, 'Write an address like name@house.example.');
const Share = z.number().positive('More than nothing.').max(1, 'At most the whole.');

const recordParts = {
  place: Id,
  department: Id,
  pattern: Id,
  fte: Share,
  plan: Id.nullable(),
};
export const recordPartNames = ['place', 'department', 'pattern', 'fte', 'plan'] as const;
export type RecordPart = (typeof recordPartNames)[number];

export const PeopleChange = z.discriminatedUnion('what', [
  z.strictObject({
    what: z.literal('record'),
    person: PersonId,
    from: NearDate,
    set: z.strictObject(recordParts).partial(),
  }),
  z.strictObject({
    what: z.literal('own'),
    person: PersonId,
    set: z.strictObject({ name: Name, mail: Mail, dottedTo: PersonId.nullable() }).partial(),
  }),
  z.strictObject({ what: z.literal('last day'), person: PersonId, left: NearDate.nullable() }),
  z.strictObject({ what: z.literal('post'), person: PersonId, from: NearDate, post: Id }),
  z.strictObject({ what: z.literal('line'), post: Id, from: NearDate, reportsTo: Id.nullable() }),
  z.strictObject({
    what: z.literal('role'),
    role: z.string().trim().min(1, 'Say which role.').max(80),
    person: PersonId,
    place: Id.nullable(),
    department: Id.nullable(),
    held: z.boolean(),
  }),
  z.strictObject({
    what: z.literal('comes'),
    /** Under an id of their own, or `new` for one that is made of the name. */
    person: z.strictObject({ id: PersonId, name: Name, mail: Mail, joined: NearDate, ...recordParts }),
    /** The post that they hold from their first day. */
    post: Id.nullable(),
  }),
]);
export type PeopleChange = z.infer<typeof PeopleChange>;

/** Why a change cannot be made, at the field that it is about. */
export type ChangeFault =
  | { readonly code: 'not on file'; readonly field: string }
  | { readonly code: 'nothing changes'; readonly field: string }
  | { readonly code: 'before joining'; readonly field: string; readonly joined: CivilDate }
  | { readonly code: 'after leaving'; readonly field: string; readonly left: CivilDate }
  | { readonly code: 'leaves before joining'; readonly field: string; readonly joined: CivilDate }
  | { readonly code: 'circle'; readonly field: string; readonly day: CivilDate; readonly posts: readonly string[] }
  | { readonly code: 'post is held'; readonly field: string; readonly by: PersonId; readonly day: CivilDate }
  | { readonly code: 'taken'; readonly field: string; readonly by: PersonId };

export type ChangeEdits = { ok: true; edits: readonly FactEdit[] } | { ok: false; fault: ChangeFault };

const no = (fault: ChangeFault): ChangeEdits => ({ ok: false, fault });
const yes = (...edits: readonly FactEdit[]): ChangeEdits =>
  edits.length === 0 || edits.every(edit => sameFact(edit.before, edit.after))
    ? no({ code: 'nothing changes', field: '' })
    : { ok: true, edits: edits.filter(edit => !sameFact(edit.before, edit.after)) };

/** @returns the edits that make a change of this directory, or the first thing that stands in its way */
export function editsOf(
  directory: Directory,
  change: PeopleChange,
  plans: readonly { readonly id: string }[],
): ChangeEdits {
  switch (change.what) {
    case 'record':
      return recordEdits(directory, change, plans);
    case 'own':
      return ownEdits(directory, change);
    case 'last day':
      return lastDayEdits(directory, change);
    case 'post':
      return postEdits(directory, change);
    case 'line':
      return lineEdits(directory, change);
    case 'role':
      return roleEdits(directory, change);
    case 'comes':
      return comingEdits(directory, change, plans);
  }
}

type Of<What extends PeopleChange['what']> = Extract<PeopleChange, { what: What }>;

const personOf = (directory: Directory, id: PersonId) => directory.people.find(one => one.id === id);
const onFile = (all: readonly { id: string }[], id: string): boolean => all.some(one => one.id === id);

/** The first part of a record that names what is not on file. */
function strangeIn(
  directory: Directory,
  plans: readonly { readonly id: string }[],
  set: Partial<Pick<PersonRecord, RecordPart>>,
): RecordPart | undefined {
  const known = {
    place: directory.places,
    department: directory.departments,
    pattern: directory.patterns,
    plan: plans,
  };
  return (['place', 'department', 'pattern', 'plan'] as const).find(part => {
    const id = set[part];
    return id !== undefined && id !== null && !onFile(known[part], id);
  });
}

/** Whether somebody is employed on a day, or which end of their time it misses. */
function outside(person: { joined: CivilDate; left: CivilDate | null }, day: CivilDate): ChangeFault | null {
  if (day < person.joined) return { code: 'before joining', field: 'from', joined: person.joined };
  if (person.left !== null && day > person.left) return { code: 'after leaving', field: 'from', left: person.left };
  return null;
}

function recordEdits(
  directory: Directory,
  { person: id, from, set }: Of<'record'>,
  plans: readonly { readonly id: string }[],
): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  const strange = strangeIn(directory, plans, set);
  if (strange) return no({ code: 'not on file', field: strange });
  const missed = outside(person, from);
  if (missed) return no(missed);
  const last = recordOn(person, from);
  const fact = (record: PersonRecord): FactOf<'record'> => ({ kind: 'record', person: id, ...record });
  const before = person.records.find(record => record.from === from);
  const edits: FactEdit[] = [
    {
      before: before ? fact(before) : null,
      after: fact({ ...last, ...set, from } as PersonRecord),
      ...(before ? {} : { over: fact(last) }),
    },
  ];
  // What is planned for later keeps what it says of other things, and of this one where it says something of its own.
  const parts = recordPartNames.filter(part => set[part] !== undefined);
  const still = new Set(parts);
  for (const later of person.records.filter(record => record.from > from)) {
    for (const part of parts) if (later[part] !== last[part]) still.delete(part);
    const own = Object.fromEntries([...still].map(part => [part, set[part]]));
    edits.push({ before: fact(later), after: fact({ ...later, ...own } as PersonRecord) });
  }
  // A day from which nothing is different is no day of its own.
  const isNew = !before && parts.every(part => set[part] === last[part]);
  return isNew ? no({ code: 'nothing changes', field: 'from' }) : yes(...edits);
}

function ownEdits(directory: Directory, { person: id, set }: Of<'own'>): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  const { records: _, ...own } = person;
  const before: FactOf<'person'> = { kind: 'person', ...own };
  if (set.dottedTo && (set.dottedTo === id || !personOf(directory, set.dottedTo)))
    return no({ code: 'not on file', field: 'dottedTo' });
  const other = set.mail && mailOf(directory, set.mail, id);
  if (other) return no({ code: 'taken', field: 'mail', by: other });
  return yes({ before, after: { ...before, ...set } as FactOf<'person'> });
}

const mailOf = (directory: Directory, mail: string, except: PersonId): PersonId | undefined =>
  directory.people.find(one => one.id !== except && one.mail.toLowerCase() === mail.toLowerCase())?.id;

function lastDayEdits(directory: Directory, { person: id, left }: Of<'last day'>): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  if (left !== null && left < person.joined)
    return no({ code: 'leaves before joining', field: 'left', joined: person.joined });
  const { records: _, ...own } = person;
  const before: FactOf<'person'> = { kind: 'person', ...own };
  return yes({ before, after: { ...before, left } });
}

/** Whoever else holds a post as their main one on some day from a day on. */
function otherHolder(directory: Directory, post: string, person: PersonId, from: CivilDate) {
  const held = directory.holdings.find(one => {
    if (one.post !== post || one.person === person || !one.main || (one.to !== null && one.to < from)) return false;
    const left = personOf(directory, one.person)?.left ?? null;
    return left === null || left >= from;
  });
  return held && { by: held.person, day: held.from > from ? held.from : from };
}

function postEdits(directory: Directory, { person: id, from, post }: Of<'post'>): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  if (!onFile(directory.posts, post)) return no({ code: 'not on file', field: 'post' });
  const missed = outside(person, from);
  if (missed) return no(missed);
  const other = otherHolder(directory, post, id, from);
  if (other) return no({ code: 'post is held', field: 'post', ...other });
  const edits: FactEdit[] = [];
  for (const one of directory.holdings) {
    if (one.person !== id || !one.main || (one.to !== null && one.to < from)) continue;
    const before: FactOf<'holding'> = { kind: 'holding', ...one };
    if (one.post === post && one.from === from && one.to === null)
      return no({ code: 'nothing changes', field: 'post' });
    edits.push({ before, after: one.from < from ? { ...before, to: addDays(from, -1) } : null });
  }
  const after: FactOf<'holding'> = { kind: 'holding', post, person: id, from, to: null, main: true };
  return yes(...edits, {
    before: edits.some(edit => edit.after === null && isOf(edit.before, after)) ? null : factLike(directory, after),
    after,
  });
}
const isOf = (a: Fact | null, b: FactOf<'holding'>): boolean =>
  a?.kind === 'holding' && a.post === b.post && a.person === b.person && a.from === b.from;

function lineEdits(directory: Directory, { post: id, from, reportsTo: above }: Of<'line'>): ChangeEdits {
  const post = directory.posts.find(one => one.id === id);
  if (!post) return no({ code: 'not on file', field: 'post' });
  if (above !== null && !onFile(directory.posts, above)) return no({ code: 'not on file', field: 'reportsTo' });
  if (reportsTo(post, from) === above && post.lines.some(line => line.from <= from))
    return no({ code: 'nothing changes', field: 'reportsTo' });
  const after: FactOf<'line'> = { kind: 'line', post: id, from, reportsTo: above };
  const circle = circleFrom(directory, after);
  return circle ? no(circle) : yes({ before: factLike(directory, after), after });
}

/** A circle that a line would close on its first day or on any later day on which lines change. */
function circleFrom(directory: Directory, line: FactOf<'line'>): ChangeFault | null {
  const posts = new Map(directory.posts.map(post => [post.id, post]));
  const own = posts.get(line.post);
  if (!own) return null;
  const lines = [...own.lines.filter(one => one.from !== line.from), { from: line.from, reportsTo: line.reportsTo }];
  posts.set(own.id, { ...own, lines: lines.toSorted((a, b) => (a.from < b.from ? -1 : 1)) });
  const days = new Set([line.from, ...directory.posts.flatMap(post => post.lines.map(one => one.from))]);
  for (const day of [...days].filter(one => one >= line.from).sort()) {
    const path = [line.post];
    for (let at = posts.get(line.post); at; ) {
      const next = reportsTo(at, day);
      if (next === null) break;
      if (next === line.post) return { code: 'circle', field: 'reportsTo', day, posts: path };
      // Somebody else's circle is not this line's.
      if (path.includes(next)) break;
      path.push(next);
      at = posts.get(next);
    }
  }
  return null;
}

function roleEdits(directory: Directory, { what: _, held, ...role }: Of<'role'>): ChangeEdits {
  if (!personOf(directory, role.person)) return no({ code: 'not on file', field: 'person' });
  if (role.place !== null && !onFile(directory.places, role.place)) return no({ code: 'not on file', field: 'place' });
  if (role.department !== null && !onFile(directory.departments, role.department))
    return no({ code: 'not on file', field: 'department' });
  const after: FactOf<'role'> = { kind: 'role', ...role };
  const before = factLike(directory, after);
  return yes({ before, after: held ? after : null });
}

function comingEdits(
  directory: Directory,
  { person: { id: given, name, mail, joined, ...record }, post }: Of<'comes'>,
  plans: readonly { readonly id: string }[],
): ChangeEdits {
  const id = given === 'new' ? freeId(directory, name) : given;
  if (personOf(directory, id)) return no({ code: 'taken', field: 'id', by: id });
  const other = mailOf(directory, mail, id);
  if (other) return no({ code: 'taken', field: 'mail', by: other });
  const strange = strangeIn(directory, plans, record);
  if (strange) return no({ code: 'not on file', field: strange });
  if (post !== null && !onFile(directory.posts, post)) return no({ code: 'not on file', field: 'post' });
  const holder = post === null ? undefined : otherHolder(directory, post, id, joined);
  if (holder) return no({ code: 'post is held', field: 'post', ...holder });
  return yes(
    { before: null, after: { kind: 'person', id, name, mail, joined, left: null, dottedTo: null } },
    { before: null, after: { kind: 'record', person: id, from: joined, ...record } },
    ...(post === null
      ? []
      : [
          {
            before: null,
            after: { kind: 'holding' as const, post, person: id, from: joined, to: null, main: true },
          },
        ]),
  );
}

/** An id of a name that nobody has: small letters, figures and hyphens. */
export function freeId(directory: Directory, name: string): PersonId {
  const taken = new Set<string>(directory.people.map(one => one.id));
  const wanted =
    plainLetters(name)
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-+|-+$/g, '')
      .slice(0, 34) || 'person';
  for (let n = 1; ; n++) {
    const id = n === 1 ? wanted : `${wanted}-${n}`;
    if (!taken.has(id)) return id as PersonId;
  }
}
