/** Who is above whom on a day, and why. Vacant posts and leavers go up; a circle is reported, never looped. */
import type { CivilDate } from '../time/index.ts';
import {
  type DirectoryIndex,
  holdsOn,
  isEmployed,
  type Person,
  type PersonId,
  type Post,
  type PostId,
} from './directory.ts';
import type { PeopleReason, Vacancy } from './reason.ts';

export type Found = { person: Person; post: Post; reasons: PeopleReason[] };
export type Gap = { gap: PeopleReason; reasons: PeopleReason[] };

/** One step up from a post: to whom, and whether somebody is there. */
type StepUp =
  | { readonly gap: PeopleReason }
  | { readonly post: Post; readonly why: PeopleReason; readonly person: Person; readonly is: PeopleReason }
  | { readonly post: Post; readonly why: PeopleReason; readonly vacant: PeopleReason };

/** What was looked up of one day; a directory never changes, so it stays true. */
type Known = {
  readonly index: DirectoryIndex;
  readonly day: CivilDate;
  readonly up: Map<PostId, StepUp>;
  readonly main: Map<PersonId, Post | undefined>;
};
const days = new WeakMap<DirectoryIndex, Known[]>();
const mostDays = 8;
let last: Known | undefined;

function knownOn(index: DirectoryIndex, day: CivilDate): Known {
  if (last?.index === index && last.day === day) return last;
  const before = days.get(index) ?? [];
  last = before.find(known => known.day === day);
  if (!last) {
    last = { index, day, up: new Map(), main: new Map() };
    days.set(index, [last, ...before].slice(0, mostDays));
  }
  return last;
}

/** The post above which a person's managers are looked for. */
export function mainPost(index: DirectoryIndex, person: PersonId, day: CivilDate): Post | undefined {
  const { main } = knownOn(index, day);
  const known = main.get(person);
  if (known || main.has(person)) return known;
  const held = index.holdingsOfPerson(person).filter(h => holdsOn(h, day));
  const holding = held.find(h => h.main) ?? held[0];
  const post = holding && index.post(holding.post);
  main.set(person, post);
  return post;
}

/** The posts that a person holds on a day, the main one first. */
export function postsOf(index: DirectoryIndex, person: PersonId, day: CivilDate): Post[] {
  const main = mainPost(index, person, day);
  const held = index.holdingsOfPerson(person).filter(h => holdsOn(h, day));
  const others = held.flatMap(({ post }) => (post === main?.id ? [] : (index.post(post) ?? [])));
  return [...(main ? [main] : []), ...new Set(others)];
}

export function reportsTo(post: Post, day: CivilDate): PostId | null {
  let above: PostId | null = null;
  for (const line of post.lines) if (line.from <= day) above = line.reportsTo;
  return above;
}

/** Whoever holds a post on a day and is employed; or why nobody does. */
export function holderOf(index: DirectoryIndex, post: Post, day: CivilDate): { person: Person } | { vacant: Vacancy } {
  // Whoever left may stand there beside whoever holds it now: a post is vacant only when nobody of them works here.
  let vacant: Vacancy = null;
  for (const holding of index.holdingsOfPost(post.id)) {
    if (!holdsOn(holding, day)) continue;
    const person = index.person(holding.person);
    if (!person) continue;
    if (isEmployed(person, day)) return { person };
    const { left } = person;
    if (left !== null && left < day && (vacant === null || vacant.left < left)) vacant = { person: person.id, left };
  }
  return { vacant };
}

function stepUp(index: DirectoryIndex, from: Post, day: CivilDate): StepUp {
  const { up } = knownOn(index, day);
  const known = up.get(from.id);
  if (known) return known;
  const found = lookUp(index, from, day);
  up.set(from.id, found);
  return found;
}

function lookUp(index: DirectoryIndex, from: Post, day: CivilDate): StepUp {
  const next = reportsTo(from, day);
  if (next === null) return { gap: { code: 'nobody above post', post: from.id } };
  const post = index.post(next);
  if (!post) return { gap: { code: 'reports to no post', post: from.id } };
  const why: PeopleReason = { code: 'reports to', post: from.id, above: post.id };
  const holder = holderOf(index, post, day);
  return 'vacant' in holder
    ? { post, why, vacant: { code: 'post vacant, goes up', post: post.id, vacancy: holder.vacant } }
    : { post, why, person: holder.person, is: { code: 'holds post', person: holder.person.id, post: post.id } };
}

/** Walks up from a post to the first post whose holder may stand, `except` passed over. */
export function above(index: DirectoryIndex, from: Post, day: CivilDate, except: ReadonlySet<PersonId>): Found | Gap {
  const reasons: PeopleReason[] = [];
  // Lines are short: a list is looked through sooner than a set is made.
  const seen = [from.id];
  let at = from;
  for (;;) {
    const step = stepUp(index, at, day);
    if ('gap' in step) return { gap: step.gap, reasons };
    const { post } = step;
    if (seen.includes(post.id)) return { gap: { code: 'line in a circle', post: post.id }, reasons };
    seen.push(post.id);
    reasons.push(step.why);
    if ('vacant' in step) reasons.push(step.vacant);
    else if (except.has(step.person.id)) reasons.push({ code: 'may not decide, goes up', person: step.person.id });
    else {
      reasons.push(step.is);
      return { person: step.person, post, reasons };
    }
    at = post;
  }
}

/** The manager of a person, `levels` up (1 is the line manager). */
export function managerOf(
  index: DirectoryIndex,
  person: PersonId,
  day: CivilDate,
  levels = 1,
  except: ReadonlySet<PersonId> = new Set(),
): Found | Gap {
  const passed = new Set([...except, person]);
  const start = mainPost(index, person, day);
  if (!start) return { gap: { code: 'holds no post', person }, reasons: [] };
  const reasons: PeopleReason[] = [];
  let at = start;
  for (let level = 1; ; level++) {
    const found = above(index, at, day, passed);
    reasons.push(...found.reasons);
    if ('gap' in found || level >= levels) return { ...found, reasons };
    at = found.post;
  }
}

/** The managers of a person from the nearest up, each once, until the line ends; walked only as far as it is read. */
export function* lineAbove(index: DirectoryIndex, person: PersonId, day: CivilDate): Generator<Found, PeopleReason> {
  const start = mainPost(index, person, day);
  if (!start) return { code: 'holds no post', person };
  const passed = new Set([person]);
  const posts = new Set<PostId>([start.id]);
  for (let at = start; ; ) {
    const found = above(index, at, day, passed);
    if ('gap' in found) return found.gap;
    if (posts.has(found.post.id)) return { code: 'line in a circle', post: found.post.id };
    posts.add(found.post.id);
    // Whoever holds two posts of the line is one manager, not two.
    passed.add(found.person.id);
    yield found;
    at = found.post;
  }
}

/** The people who share a person's line manager's post, themselves included, by name. */
export function teamOf(index: DirectoryIndex, person: PersonId, day: CivilDate): Person[] {
  const self = index.person(person);
  const post = mainPost(index, person, day);
  const lead = post && reportsTo(post, day);
  if (!lead) return self ? [self] : [];
  return reportsOf(index, lead, day);
}

/** People whose main post reports to a post, by name. */
export function reportsOf(index: DirectoryIndex, lead: PostId, day: CivilDate): Person[] {
  const found = new Map<PersonId, Person>();
  for (const post of index.postsUnder(lead)) {
    if (reportsTo(post, day) !== lead) continue;
    for (const holding of index.holdingsOfPost(post.id)) {
      const person = index.person(holding.person);
      if (person && holdsOn(holding, day) && isEmployed(person, day) && mainPost(index, person.id, day) === post) {
        found.set(person.id, person);
      }
    }
  }
  return [...found.values()].sort((a, b) => a.name.localeCompare(b.name));
}

/** Whether `lead` is somewhere above `person` on a day. */
export function isAbove(index: DirectoryIndex, lead: PersonId, person: PersonId, day: CivilDate): boolean {
  const seen = new Set<PostId>();
  let at = mainPost(index, person, day);
  while (at && !seen.has(at.id)) {
    seen.add(at.id);
    const next = reportsTo(at, day);
    at = next === null ? undefined : index.post(next);
    if (at && index.holdingsOfPost(at.id).some(h => h.person === lead && holdsOn(h, day))) return true;
  }
  return false;
}
