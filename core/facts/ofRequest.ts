/** A change of one thing in a person’s record, read from what a request worked out. */

import {
  type Directory,
  type DirectoryIndex,
  isEmployed,
  mainPost,
  type PersonId,
  plainLetters,
  recordOn,
} from '../people/index.ts';
import { type CivilDate, isCivilDate } from '../time/index.ts';
import type { ChangeFault, HouseChange, OneChange } from './change.ts';
import { editsOf } from './edits.ts';
import { freeId, freePostId } from './people.ts';
import { mainHolder } from './standing.ts';

/** What a person’s record has that may be changed. */
export const recordProperties = [
  'name',
  'mail',
  'post',
  'place',
  'department',
  'line manager',
  'dotted-line manager',
  'work pattern',
  'full-time share',
  'leave plan',
  'last day',
] as const;
export type RecordProperty = (typeof recordProperties)[number];

/** With the ids of what is named; `line` is the post above the person’s own. */
export type PersonChange =
  | { what: 'name' | 'mail'; to: string }
  | { what: 'place' | 'department' | 'pattern'; to: string }
  | { what: 'plan'; to: string | null }
  | { what: 'fte'; to: number }
  | { what: 'post'; to: string }
  | { what: 'line'; post: string; to: string }
  | { what: 'dottedTo'; to: PersonId | null }
  | { what: 'left'; to: CivilDate };

/** Why a change cannot be made. */
export type ChangeRefusal =
  | { readonly code: 'value does not fit'; readonly property: string; readonly value: string; readonly wanted: string }
  | { readonly code: 'no post to draw a line from'; readonly person: PersonId; readonly isManager: boolean }
  | { readonly code: 'no such property'; readonly property: string }
  | { readonly code: 'facts in the way'; readonly property: string; readonly fault: ChangeFault };

type Read = { ok: true; change: PersonChange } | { ok: false; why: ChangeRefusal };

/** The same as HR would make it by hand, from a day on. */
export function asHouseChange(person: PersonId, change: PersonChange, from: CivilDate): HouseChange {
  switch (change.what) {
    case 'name':
    case 'mail':
      return { what: 'own', person, set: { [change.what]: change.to } };
    case 'dottedTo':
      return { what: 'own', person, set: { dottedTo: change.to } };
    case 'left':
      return { what: 'last day', person, left: change.to };
    case 'post':
      return { what: 'post', person, from, post: change.to };
    case 'line':
      return { what: 'line', post: change.post, from, reportsTo: change.to };
    case 'place':
    case 'department':
    case 'pattern':
    case 'plan':
    case 'fte':
      return { what: 'record', person, from, set: { [change.what]: change.to } };
  }
}

/** What is on file that stands in the way of a change; what is so already stands in no way. */
export function inTheWay(
  index: DirectoryIndex,
  person: PersonId,
  property: string,
  change: PersonChange,
  from: CivilDate,
  plans: readonly { readonly id: string }[],
): ChangeRefusal | null {
  const found = editsOf(index.directory, asHouseChange(person, change, from), plans);
  return found.ok || found.fault.code === 'nothing changes'
    ? null
    : { code: 'facts in the way', property, fault: found.fault };
}

/** By id or by name, whatever the case of its letters. */
function named<T extends { id: string; name: string }>(all: readonly T[], value: unknown): T | undefined {
  if (typeof value !== 'string') return undefined;
  const wanted = value.trim().toLowerCase();
  return all.find(one => one.id === value) ?? all.find(one => one.name.toLowerCase() === wanted);
}

/**
 * @param property as a workflow names it
 * @param value what its formula gave
 * @returns the change, or why it cannot be made
 */
export function changeOf(
  index: DirectoryIndex,
  person: PersonId,
  property: string,
  value: unknown,
  plans: readonly { readonly id: string; readonly name: string }[],
): Read {
  const { directory } = index;
  const unfit = (wanted: string): Read => ({
    ok: false,
    why: { code: 'value does not fit', property, value: String(value), wanted },
  });
  const listed = (
    all: readonly { id: string; name: string }[],
    what: 'place' | 'department' | 'pattern',
    wanted: string,
  ): Read => {
    const found = named(all, value);
    return found ? { ok: true, change: { what, to: found.id } } : unfit(wanted);
  };
  switch (property as RecordProperty) {
    case 'name':
      return typeof value === 'string' && value.trim() !== ''
        ? { ok: true, change: { what: 'name', to: value.trim() } }
        : unfit('name');
    case 'mail':
      return typeof value === 'string' && /^[^@\s]+@[^@\s]+$/.test(value)
        ? { ok: true, change: { what: 'mail', to: value } }
        : unfit('mail address');
    case 'place':
      return listed(directory.places, 'place', 'place');
    case 'department':
      return listed(directory.departments, 'department', 'department');
    case 'work pattern':
      return listed(directory.patterns, 'pattern', 'work pattern');
    case 'leave plan': {
      if (value === null || value === 'none') return { ok: true, change: { what: 'plan', to: null } };
      const found = named(plans, value);
      return found ? { ok: true, change: { what: 'plan', to: found.id } } : unfit('leave plan');
    }
    case 'full-time share':
      return typeof value === 'number' && value > 0 && value <= 1
        ? { ok: true, change: { what: 'fte', to: value } }
        : unfit('share of full time');
    case 'last day':
      return typeof value === 'string' && isCivilDate(value)
        ? { ok: true, change: { what: 'left', to: value as CivilDate } }
        : unfit('day');
    case 'post': {
      const titled = directory.posts.filter(p => p.title === value);
      const post = directory.posts.find(p => p.id === value) ?? (titled.length === 1 ? titled[0] : undefined);
      return post ? { ok: true, change: { what: 'post', to: post.id } } : unfit('post');
    }
    case 'line manager':
    case 'dotted-line manager': {
      const manager = index.person(value as PersonId) ?? named(directory.people, value);
      if (!manager || manager.id === person) return unfit('person of the directory');
      if (property === 'dotted-line manager') return { ok: true, change: { what: 'dottedTo', to: manager.id } };
      const today = directory.people.find(p => p.id === person)?.records.at(-1)?.from;
      const own = today && mainPost(index, person, today);
      const above = today && mainPost(index, manager.id, today);
      if (!own || !above)
        return {
          ok: false,
          why: { code: 'no post to draw a line from', person: own ? manager.id : person, isManager: own !== undefined },
        };
      return { ok: true, change: { what: 'line', post: own.id, to: above.id } };
    }
    default:
      return { ok: false, why: { code: 'no such property', property } };
  }
}

/** What a request may say of somebody whom it puts on file; what it leaves out is as usual where their post is. */
export const comingProperties = [
  'name',
  'mail',
  'first day',
  'post',
  'place',
  'department',
  'work pattern',
  'full-time share',
  'leave plan',
] as const;

export type Coming = Extract<OneChange, { what: 'comes' }>;
type ReadComing = { ok: true; change: Coming; heldBy: PersonId | null } | { ok: false; why: ChangeRefusal };

/** What most people have of something at a place and in a department; else what most have anywhere. */
function usual(
  directory: Directory,
  day: CivilDate,
  part: 'pattern' | 'plan',
  like: { place: string; department: string },
) {
  const counts = new Map<string | null, number>();
  const here = directory.people.filter(one => isEmployed(one, day)).map(one => recordOn(one, day));
  const alike = here.filter(one => one?.place === like.place && one.department === like.department);
  for (const record of alike.length > 0 ? alike : here)
    if (record) counts.set(record[part], (counts.get(record[part]) ?? 0) + 1);
  return [...counts].toSorted((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/** An address in the house for a name: by the end that most addresses have, and one that nobody has. */
function freeMail(directory: Directory, name: string): string {
  const ends = new Map<string, number>();
  for (const { mail } of directory.people) {
    const end = mail.slice(mail.indexOf('@'));
    ends.set(end, (ends.get(end) ?? 0) + 1);
  }
  const end = [...ends].toSorted((a, b) => b[1] - a[1])[0]?.[0] ?? '@house.example';
  const own =
    plainLetters(name)
      .replaceAll(/[^a-z0-9]+/g, '.')
      .replaceAll(/^\.+|\.+$/g, '') || 'person';
  const taken = new Set(directory.people.map(one => one.mail.toLowerCase()));
  for (let n = 1; ; n++) {
    const mail = `${n === 1 ? own : `${own}.${n}`}${end}`;
    if (!taken.has(mail.toLowerCase())) return mail;
  }
}

/**
 * @param values what the formulas of a workflow gave, by name
 * @returns somebody who comes, without the post where another still holds it; or why they cannot be put on file
 */
export function comingOf(
  index: DirectoryIndex,
  values: Readonly<Record<string, unknown>>,
  plans: readonly { readonly id: string; readonly name: string }[],
): ReadComing {
  const { directory } = index;
  const unfit = (property: string, wanted: string): ReadComing => ({
    ok: false,
    why: { code: 'value does not fit', property, value: String(values[property] ?? ''), wanted },
  });
  const strange = Object.keys(values).find(name => !(comingProperties as readonly string[]).includes(name));
  if (strange) return { ok: false, why: { code: 'no such property', property: strange } };
  const name = values.name;
  const joined = values['first day'];
  if (typeof name !== 'string' || name.trim() === '') return unfit('name', 'name');
  if (typeof joined !== 'string' || !isCivilDate(joined)) return unfit('first day', 'day');
  const day = joined as CivilDate;
  const post =
    values.post === undefined || values.post === null || values.post === ''
      ? null
      : (directory.posts.find(one => one.id === values.post) ?? directory.posts.find(one => one.title === values.post));
  if (post === undefined) return unfit('post', 'post');
  const place = values.place === undefined ? index.place(post?.place ?? '') : named(directory.places, values.place);
  if (!place) return unfit('place', 'place');
  const department =
    values.department === undefined
      ? index.department(post?.department ?? '')
      : named(directory.departments, values.department);
  if (!department) return unfit('department', 'department');
  const like = { place: place.id, department: department.id };
  const pattern =
    values['work pattern'] === undefined
      ? index.pattern(usual(directory, day, 'pattern', like) ?? '')
      : named(directory.patterns, values['work pattern']);
  if (!pattern) return unfit('work pattern', 'work pattern');
  const plan =
    values['leave plan'] === undefined ? usual(directory, day, 'plan', like) : named(plans, values['leave plan'])?.id;
  if (plan === undefined) return unfit('leave plan', 'leave plan');
  const share = values['full-time share'] ?? 1;
  if (typeof share !== 'number' || share <= 0 || share > 1) return unfit('full-time share', 'share of full time');
  const mail = values.mail ?? freeMail(directory, name);
  if (typeof mail !== 'string' || !/^[^@\s]+@[^@\s]+$/.test(mail)) return unfit('mail', 'mail address');
  const id = freeId(directory, name);
  const held = post && mainHolder(directory, post.id, null, day);
  const person = { id, name: name.trim(), mail, joined: day, ...like, pattern: pattern.id, fte: share, plan };
  return {
    ok: true,
    change: { what: 'comes', person, post: post && !held ? post.id : null },
    heldBy: held ? held.by : null,
  };
}

/** What a request may say of a post that it puts on file; what it leaves out is as it is for whoever asks. */
export const postProperties = ['title', 'department', 'place', 'grade', 'reports to'] as const;

export type NewPost = Extract<OneChange, { what: 'a post' }>;

/**
 * @param values what the formulas of a workflow gave, by name
 * @param asker whose post it is under, and whose place and department it has, where nothing else is said
 * @returns a post that nobody holds yet, from a day on; or why it cannot be put on file
 */
export function postOf(
  index: DirectoryIndex,
  values: Readonly<Record<string, unknown>>,
  asker: PersonId,
  from: CivilDate,
): { ok: true; change: NewPost } | { ok: false; why: ChangeRefusal } {
  const { directory } = index;
  const unfit = (property: string, wanted: string) => ({
    ok: false as const,
    why: { code: 'value does not fit' as const, property, value: String(values[property] ?? ''), wanted },
  });
  const strange = Object.keys(values).find(name => !(postProperties as readonly string[]).includes(name));
  if (strange) return { ok: false, why: { code: 'no such property', property: strange } };
  const { title } = values;
  if (typeof title !== 'string' || title.trim() === '') return unfit('title', 'title');
  const own = mainPost(index, asker, from);
  const wanted = values['reports to'];
  const titled = directory.posts.filter(post => post.title === wanted);
  const above =
    wanted === undefined || wanted === null || wanted === ''
      ? own
      : (directory.posts.find(post => post.id === wanted) ?? (titled.length === 1 ? titled[0] : undefined));
  if (!above) return unfit('reports to', 'post');
  const place = values.place === undefined ? index.place(above.place) : named(directory.places, values.place);
  if (!place) return unfit('place', 'place');
  const department =
    values.department === undefined
      ? index.department(above.department)
      : named(directory.departments, values.department);
  if (!department) return unfit('department', 'department');
  const grade = values.grade ?? null;
  if (grade !== null && (typeof grade !== 'number' || !Number.isInteger(grade) || grade < 0 || grade > 99))
    return unfit('grade', 'grade');
  const post = {
    id: freePostId(directory, title),
    title: title.trim(),
    department: department.id,
    place: place.id,
    grade,
    spending: null,
    closed: null,
  };
  return { ok: true, change: { what: 'a post', post, under: { from, reportsTo: above.id } } };
}
