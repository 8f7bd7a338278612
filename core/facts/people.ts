/** Changes of a person: their record, what is their own, their last day, and somebody who comes. */
import { type Directory, type PersonId, type PersonRecord, plainLetters, recordOn } from '../people/index.ts';
import { hoursOfDay } from '../time/index.ts';
import { type ChangeEdits, no, type Of, type RecordPart, recordPartNames, yes } from './change.ts';
import type { FactEdit, FactOf } from './fact.ts';
import { ownOf } from './shelves.ts';
import { mainHolder, onFile, outside, personOf } from './standing.ts';

export type Plans = readonly { readonly id: string; readonly unit?: 'days' | 'hours' }[];

/**
 * What one unit of the plan before is worth in the unit of the new one, by the hours of a day of the pattern.
 * @returns nothing where both count in one unit, or where nothing tells
 */
export function worthAt(
  { patterns }: Directory,
  plans: Plans,
  now: Pick<PersonRecord, 'plan' | 'pattern'>,
  before: Pick<PersonRecord, 'plan'>,
): number | null {
  const [unit, was] = [now.plan, before.plan].map(id => plans.find(one => one.id === id)?.unit);
  const hours = hoursOfDay(patterns.find(one => one.id === now.pattern)?.cycle ?? []);
  if (!unit || !was || unit === was || hours === null) return null;
  return unit === 'hours' ? hours : Math.round(1e6 / hours) / 1e6;
}

/** The first part of a record that names what is not on file. */
function strangeIn(
  directory: Directory,
  plans: Plans,
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

export function recordEdits(directory: Directory, { person: id, from, set }: Of<'record'>, plans: Plans): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  const strange = strangeIn(directory, plans, set);
  if (strange) return no({ code: 'not on file', field: strange });
  const missed = outside(person, from);
  if (missed) return no(missed);
  const last = recordOn(person, from);
  const planPer =
    set.plan === undefined ? undefined : (set.planPer ?? worthAt(directory, plans, { ...last, ...set }, last));
  const fact = (record: PersonRecord): FactOf<'record'> => ({ kind: 'record', person: id, ...record });
  const before = person.records.find(record => record.from === from);
  const edits: FactEdit[] = [
    {
      before: before ? fact(before) : null,
      // What a unit is worth is of the day on which the unit changes.
      after: fact({
        ...last,
        planPer: before?.planPer,
        ...set,
        ...(planPer === undefined ? {} : { planPer }),
        from,
      } as PersonRecord),
      ...(before ? {} : { over: fact(last) }),
    },
  ];
  // What is planned for later keeps what it says of other things, and of this one where it says something of its own.
  const parts = recordPartNames.filter(part => set[part] !== undefined);
  const still = new Set(parts);
  for (const later of person.records.filter(record => record.from > from)) {
    for (const part of parts) if ((later[part] ?? null) !== (last[part] ?? null)) still.delete(part);
    const own = Object.fromEntries([...still].map(part => [part, set[part]]));
    edits.push({ before: fact(later), after: fact({ ...later, ...own } as PersonRecord) });
  }
  // A day from which nothing is different is no day of its own.
  const isNew = !before && parts.every(part => set[part] === (last[part] ?? null));
  return isNew ? no({ code: 'nothing changes', field: 'from' }) : yes(...edits);
}

export function ownEdits(directory: Directory, { person: id, set }: Of<'own'>): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  const before = ownOf(person);
  if (set.dottedTo && (set.dottedTo === id || !personOf(directory, set.dottedTo)))
    return no({ code: 'not on file', field: 'dottedTo' });
  const other = set.mail && mailOf(directory, set.mail, id);
  if (other) return no({ code: 'taken', field: 'mail', by: other });
  const named = set.number && directory.people.find(one => one.id !== id && one.number === set.number)?.id;
  if (named) return no({ code: 'taken', field: 'number', by: named });
  return yes({ before, after: { ...before, ...set } as FactOf<'person'> });
}

const mailOf = (directory: Directory, mail: string, except: PersonId): PersonId | undefined =>
  directory.people.find(one => one.id !== except && one.mail.toLowerCase() === mail.toLowerCase())?.id;

export function firstDayEdits(directory: Directory, { person: id, joined }: Of<'first day'>): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  if (person.left !== null && joined > person.left)
    return no({ code: 'after leaving', field: 'joined', left: person.left });
  const opening = person.openings?.find(one => one.on < joined);
  if (opening) return no({ code: 'opening before joining', field: 'joined', on: opening.on });
  const before = ownOf(person);
  return yes({ before, after: { ...before, joined } });
}

export function lastDayEdits(directory: Directory, { person: id, left }: Of<'last day'>): ChangeEdits {
  const person = personOf(directory, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  if (left !== null && left < person.joined)
    return no({ code: 'leaves before joining', field: 'left', joined: person.joined });
  const opening = left === null ? undefined : person.openings?.find(one => one.on > left);
  if (opening) return no({ code: 'opening after leaving', field: 'left', on: opening.on });
  const before = ownOf(person);
  return yes({ before, after: { ...before, left } });
}

export function comingEdits(
  directory: Directory,
  { person: { id: given, name, mail, joined, ...record }, post }: Of<'comes'>,
  plans: Plans,
): ChangeEdits {
  const id = given === 'new' ? freeId(directory, name) : given;
  if (personOf(directory, id)) return no({ code: 'taken', field: 'id', by: id });
  const other = mailOf(directory, mail, id);
  if (other) return no({ code: 'taken', field: 'mail', by: other });
  const strange = strangeIn(directory, plans, record);
  if (strange) return no({ code: 'not on file', field: strange });
  if (post !== null && !onFile(directory.posts, post)) return no({ code: 'not on file', field: 'post' });
  const holder = post === null ? undefined : mainHolder(directory, post, id, joined);
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
export const freeId = (directory: Directory, name: string): PersonId =>
  freeAmong(directory.people, name, 'person') as PersonId;

/** The same for a post, made of its title. */
export const freePostId = (directory: Directory, title: string): string => freeAmong(directory.posts, title, 'post');

function freeAmong(all: readonly { readonly id: string }[], words: string, otherwise: string): string {
  const taken = new Set<string>(all.map(one => one.id));
  const wanted =
    plainLetters(words)
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-+|-+$/g, '')
      .slice(0, 34) || otherwise;
  for (let n = 1; ; n++) {
    const id = n === 1 ? wanted : `${wanted}-${n}`;
    if (!taken.has(id)) return id;
  }
}
