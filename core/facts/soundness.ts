/** What cannot be of a whole house: names of what is not there, circles, two main holders of one post, days that end before they begin. */
import type { PersonId } from '../people/index.ts';
import type { CivilDate } from '../time/index.ts';
import type { ChangeFault } from './change.ts';
import { type Fact, factKey, type OnFile } from './fact.ts';
import { overlapIn } from './keeping.ts';
import { openingFault } from './leave/balances.ts';
import { circumstanceFault } from './leave/circumstances.ts';
import { factsOf } from './shelves.ts';

export type Unsound = { readonly key: string; readonly fault: ChangeFault };

type Plans = readonly { readonly id: string }[];

type Among = 'people' | 'posts' | 'places' | 'departments' | 'patterns' | 'calendars' | 'lists' | 'plans' | 'types';
type NamedBy = {
  readonly [K in Fact['kind']]: { readonly [F in keyof Extract<Fact, { kind: K }>]?: Among };
};
const leaveOf = { person: 'people', type: 'types' } as const;

/** What each fact names that must be there too. */
const namedBy: NamedBy = {
  person: { dottedTo: 'people' },
  record: { person: 'people', place: 'places', department: 'departments', pattern: 'patterns', plan: 'plans' },
  post: { place: 'places', department: 'departments' },
  line: { post: 'posts', reportsTo: 'posts' },
  holding: { post: 'posts', person: 'people' },
  role: { person: 'people', place: 'places', department: 'departments' },
  place: { calendar: 'calendars', head: 'posts' },
  department: { head: 'posts' },
  pattern: {},
  calendar: { buildsOn: 'calendars' },
  holiday: { calendar: 'calendars' },
  list: {},
  row: { list: 'lists' },
  adjustment: leaveOf,
  opening: leaveOf,
  circumstance: { person: 'people' },
  booking: leaveOf,
  'leave type': {},
  'leave plan': {},
  presence: { place: 'places', department: 'departments' },
};

/** @returns one thing for each fact that cannot stand as it is, in the order of the facts */
export function unsound(file: OnFile, plans: Plans, types: Plans): Unsound[] {
  const ids = (all: readonly { readonly id: string }[]) => new Set<string>(all.map(one => one.id));
  const people = new Map(file.people.map(one => [one.id as string, one]));
  const known: Record<Among, { has: (id: string) => boolean }> = {
    people,
    posts: ids(file.posts),
    places: ids(file.places),
    departments: ids(file.departments),
    patterns: ids(file.patterns),
    calendars: ids(file.calendars),
    lists: ids(file.lists ?? []),
    plans: ids(plans),
    types: ids(types),
  };
  const found: Unsound[] = [];
  const say = (fact: Fact, fault: ChangeFault) => found.push({ key: factKey(fact), fault });
  const mails = new Map<string, PersonId>();
  const numbers = new Map<string, PersonId>();
  for (const fact of factsOf(file)) {
    switch (fact.kind) {
      case 'person': {
        if (fact.left !== null && fact.left < fact.joined)
          say(fact, { code: 'leaves before joining', field: 'left', joined: fact.joined });
        const mail = fact.mail.toLowerCase();
        const other = mails.get(mail);
        if (other && mail) say(fact, { code: 'taken', field: 'mail', by: other });
        mails.set(mail, fact.id);
        const same = fact.number ? numbers.get(fact.number) : undefined;
        if (same) say(fact, { code: 'taken', field: 'number', by: same });
        if (fact.number) numbers.set(fact.number, fact.id);
        if ((people.get(fact.id)?.records.length ?? 0) === 0) say(fact, { code: 'no record', field: 'from' });
        break;
      }
      case 'opening': {
        const person = people.get(fact.person);
        const fault = person && openingFault(person, fact);
        if (fault) say(fact, fault);
        break;
      }
      case 'circumstance': {
        const fault = circumstanceFault({}, fact.holds);
        if (fault) say(fact, fault);
        break;
      }
      case 'pattern': {
        const day = overlapIn(fact.cycle);
        if (day !== null) say(fact, { code: 'parts overlap', field: 'am', day: day + 1 });
        break;
      }
      default:
        break;
    }
    for (const [field, among] of Object.entries(namedBy[fact.kind])) {
      const id = fact[field as keyof Fact] as string | null;
      if (id !== null && !known[among].has(id)) say(fact, { code: 'not on file', field });
    }
  }
  return [...found, ...calendarCircles(file), ...lineCircles(file), ...doublyHeld(file)];
}

function calendarCircles(file: OnFile): Unsound[] {
  const above = new Map(file.calendars.map(one => [one.id, one.buildsOn]));
  return file.calendars.flatMap(({ id }): Unsound[] => {
    const path = [id];
    for (let at = above.get(id) ?? null; at !== null; at = above.get(at) ?? null) {
      if (at === id)
        return [
          { key: `calendar ${id}`, fault: { code: 'builds on itself', field: 'buildsOn', calendars: [...path, id] } },
        ];
      if (path.includes(at)) break;
      path.push(at);
    }
    return [];
  });
}

type Above = { readonly to: string | null; readonly from: CivilDate };

/**
 * Circles of lines on any day on which a line begins: each is told once, at the line that closes it. A circle that was not
 * there the day before goes through a line that begins on that day, so from those alone it is looked for.
 */
function lineCircles(file: OnFile): Unsound[] {
  const begins = file.posts.flatMap(({ id, lines }) =>
    lines.map(({ from, reportsTo }) => ({ id, from, to: reportsTo })),
  );
  // Those of one day stay in the order of their posts.
  begins.sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
  const above = new Map<string, Above>();
  const told = new Set<string>();
  const found: Unsound[] = [];
  for (let n = 0; n < begins.length; ) {
    const day = (begins[n] as (typeof begins)[number]).from;
    const changed: string[] = [];
    for (let one = begins[n]; one && one.from === day; one = begins[++n]) {
      above.set(one.id, one);
      changed.push(one.id);
    }
    const safe = new Set<string>();
    for (const id of changed) {
      const circle = circleFrom(id, above, safe);
      if (!circle) continue;
      const newest =
        circle.toSorted((a, b) => ((above.get(a)?.from ?? '') < (above.get(b)?.from ?? '') ? 1 : -1))[0] ?? id;
      const key = `line ${newest} ${above.get(newest)?.from}`;
      if (!told.has(key)) found.push({ key, fault: { code: 'circle', field: 'reportsTo', day, posts: circle } });
      told.add(key);
    }
  }
  return found;
}

/** The circle into which the line above a post leads; those who have been passed on the way are safe to go to. */
function circleFrom(post: string, above: ReadonlyMap<string, Above>, safe: Set<string>): string[] | null {
  const path = new Set<string>();
  let at: string | null = post;
  while (at !== null && !safe.has(at) && !path.has(at)) {
    path.add(at);
    at = above.get(at)?.to ?? null;
  }
  for (const one of path) safe.add(one);
  if (at === null || !path.has(at)) return null;
  const all = [...path];
  return all.slice(all.indexOf(at));
}

/** Main holdings of one post by two people on one day, those who left before it aside. */
function doublyHeld(file: OnFile): Unsound[] {
  const left = new Map(file.people.map(one => [one.id, one.left]));
  const posts = new Map<string, OnFile['holdings'][number][]>();
  for (const one of file.holdings) {
    if (!one.main) continue;
    const all = posts.get(one.post);
    if (all) all.push(one);
    else posts.set(one.post, [one]);
  }
  const endOf = (one: OnFile['holdings'][number]): string => {
    const ends = [one.to, left.get(one.person) ?? null].filter(day => day !== null);
    return ends.sort()[0] ?? '9999-12-31';
  };
  return [...posts.values()].flatMap(all => {
    const ordered = all.toSorted((a, b) => (a.from < b.from ? -1 : 1));
    return ordered.slice(1).flatMap((one, i): Unsound[] => {
      const before = ordered[i];
      if (!before || before.person === one.person || endOf(before) < one.from || endOf(one) < one.from) return [];
      const key = factKey({ kind: 'holding', ...one });
      return [{ key, fault: { code: 'post is held', field: 'post', by: before.person, day: one.from } }];
    });
  });
}
