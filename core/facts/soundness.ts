/** What cannot be of a whole house: names of what is not there, circles, two main holders of one post, days that end before they begin. */
import type { PersonId } from '../people/index.ts';
import type { CivilDate } from '../time/index.ts';
import type { ChangeFault } from './change.ts';
import { type Fact, factKey, type OnFile } from './fact.ts';
import { overlapIn } from './keeping.ts';
import { factsOf } from './shelves.ts';

export type Unsound = { readonly key: string; readonly fault: ChangeFault };

type Plans = readonly { readonly id: string }[];

/** @returns one thing for each fact that cannot stand as it is, in the order of the facts */
export function unsound(file: OnFile, plans: Plans, types: Plans): Unsound[] {
  const ids = (all: readonly { readonly id: string }[]) => new Set<string>(all.map(one => one.id));
  const people = new Map(file.people.map(one => [one.id as string, one]));
  const known = {
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
  const missing = (fact: Fact, field: string, among: Set<string> | Map<string, unknown>, id: string | null) => {
    if (id !== null && !among.has(id)) say(fact, { code: 'not on file', field });
  };
  const mails = new Map<string, PersonId>();
  for (const fact of factsOf(file)) {
    switch (fact.kind) {
      case 'person': {
        if (fact.left !== null && fact.left < fact.joined)
          say(fact, { code: 'leaves before joining', field: 'left', joined: fact.joined });
        missing(fact, 'dottedTo', people, fact.dottedTo);
        const mail = fact.mail.toLowerCase();
        const other = mails.get(mail);
        if (other && mail) say(fact, { code: 'taken', field: 'mail', by: other });
        mails.set(mail, fact.id);
        if ((people.get(fact.id)?.records.length ?? 0) === 0) say(fact, { code: 'no record', field: 'from' });
        break;
      }
      case 'record':
        missing(fact, 'person', people, fact.person);
        missing(fact, 'place', known.places, fact.place);
        missing(fact, 'department', known.departments, fact.department);
        missing(fact, 'pattern', known.patterns, fact.pattern);
        missing(fact, 'plan', known.plans, fact.plan);
        break;
      case 'post':
        missing(fact, 'place', known.places, fact.place);
        missing(fact, 'department', known.departments, fact.department);
        break;
      case 'line':
        missing(fact, 'post', known.posts, fact.post);
        missing(fact, 'reportsTo', known.posts, fact.reportsTo);
        break;
      case 'holding':
        missing(fact, 'post', known.posts, fact.post);
        missing(fact, 'person', people, fact.person);
        break;
      case 'role':
        missing(fact, 'person', people, fact.person);
        missing(fact, 'place', known.places, fact.place);
        missing(fact, 'department', known.departments, fact.department);
        break;
      case 'place':
        missing(fact, 'calendar', known.calendars, fact.calendar);
        missing(fact, 'head', known.posts, fact.head);
        break;
      case 'department':
        missing(fact, 'head', known.posts, fact.head);
        break;
      case 'pattern': {
        const day = overlapIn(fact.cycle);
        if (day !== null) say(fact, { code: 'parts overlap', field: 'am', day: day + 1 });
        break;
      }
      case 'calendar':
        missing(fact, 'buildsOn', known.calendars, fact.buildsOn);
        break;
      case 'holiday':
        missing(fact, 'calendar', known.calendars, fact.calendar);
        break;
      case 'row':
        missing(fact, 'list', known.lists, fact.list);
        break;
      case 'adjustment':
      case 'booking':
        missing(fact, 'person', people, fact.person);
        missing(fact, 'type', known.types, fact.type);
        break;
      case 'list':
        break;
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

/** Circles of lines on any day on which a line begins: each is told once, at the line that closes it. */
function lineCircles(file: OnFile): Unsound[] {
  const days = [...new Set(file.posts.flatMap(post => post.lines.map(line => line.from)))].sort();
  const told = new Set<string>();
  const found: Unsound[] = [];
  for (const day of days) {
    const above = new Map<string, { to: string | null; from: CivilDate }>();
    for (const post of file.posts) {
      const line = post.lines.findLast(one => one.from <= day);
      if (line) above.set(post.id, { to: line.reportsTo, from: line.from });
    }
    const safe = new Set<string>();
    for (const { id } of file.posts) {
      const path: string[] = [];
      let at: string | null = id;
      while (at !== null && !safe.has(at) && !path.includes(at)) {
        path.push(at);
        at = above.get(at)?.to ?? null;
      }
      if (at !== null && path.includes(at)) {
        const circle = path.slice(path.indexOf(at));
        const newest =
          circle.toSorted((a, b) => ((above.get(a)?.from ?? '') < (above.get(b)?.from ?? '') ? 1 : -1))[0] ?? at;
        const key = `line ${newest} ${above.get(newest)?.from}`;
        if (!told.has(key)) found.push({ key, fault: { code: 'circle', field: 'reportsTo', day, posts: circle } });
        told.add(key);
      }
      for (const one of path) safe.add(one);
    }
  }
  return found;
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
