/**
 * Who handles a step: a rule resolved on the day into people and the reasons, or a gap with its reason.
 * Fixed behaviours: nobody decides their own request, a leaver or a vacant post goes up, someone away goes to their
 * cover. Circles in the reporting line are reported, never looped.
 */
import { z } from 'zod';
import type { CivilDate } from '../time/index.ts';
import {
  type Away,
  type Cover,
  type DirectoryIndex,
  hasLeft,
  isEmployed,
  isHeldFor,
  type Person,
  PersonId,
  type Post,
  recordOn,
} from './directory.ts';
import { above, holderOf, lineAbove, mainPost, managerOf } from './reportingLine.ts';

const Text = z.string().min(1).max(200);
const Levels = z.number().int().min(1).max(9);
/** Whose manager, department or place is meant: the asker when nothing is said. */
export const Whose = z.union([z.literal('subject'), z.object({ field: Text }).strict()]);
export type Whose = z.infer<typeof Whose>;
const of = Whose.optional();

const single = [
  z.object({ kind: z.literal('asker') }),
  z.object({ kind: z.literal('subject') }),
  z.object({ kind: z.literal('person'), person: PersonId }),
  z.object({ kind: z.literal('person in'), field: Text }),
  z.object({ kind: z.literal('manager'), levels: Levels, of }),
  /** Every manager of the line up to a level, nearest first. */
  z.object({ kind: z.literal('managers'), levels: Levels, of }),
  /** The first manager of the line whose grade or spending limit is at least what the formula gives. */
  z.object({ kind: z.literal('manager with'), what: z.enum(['grade', 'spending limit']), least: Text, of }),
  z.object({ kind: z.literal('head of department'), of }),
  z.object({ kind: z.literal('head of place'), of }),
  z.object({ kind: z.literal('dotted-line manager'), of }),
  z.object({ kind: z.literal('post'), post: Text }),
  z.object({ kind: z.literal('post in'), field: Text }),
  /** Only those of the asker's (or another's) place or department, when said. */
  z.object({ kind: z.literal('role'), role: Text, within: z.enum(['place', 'department']).optional(), of }),
  z.object({ kind: z.literal('everyone'), place: Text.optional(), department: Text.optional() }),
  /** Whoever settled an earlier step. */
  z.object({ kind: z.literal('decided'), step: Text }),
  /** Whoever stands above the post that is picked in the form, whoever holds it. */
  z.object({ kind: z.literal('above post in'), field: Text }),
] as const;

/** A rule that is no group of others. */
export const PlainRule = z.discriminatedUnion('kind', single);
export type PlainRule = z.infer<typeof PlainRule>;

export const SingleRule = z.discriminatedUnion('kind', [
  ...single,
  /** Those of one and those of the other, as one group. */
  z.object({ kind: z.literal('either'), rules: z.array(PlainRule).min(2).max(6) }),
]);
export type SingleRule = z.infer<typeof SingleRule>;

export const PeopleRule = z.object({
  first: SingleRule,
  /** Tried in order when the one before finds nobody. */
  otherwise: z.array(SingleRule).max(5).default([]),
  /** Never these, whatever the rules above find. */
  except: z.array(SingleRule).max(5).optional(),
});
export type PeopleRule = z.infer<typeof PeopleRule>;

/** What a rule may ask about the request itself; nothing is known while a definition is only being looked at. */
export type RequestFacts = {
  readonly person: (field: string) => PersonId | null;
  readonly post: (field: string) => string | null;
  readonly number: (formula: string) => number | null;
  readonly decided: (step: string) => readonly PersonId[];
};

export type Question = {
  readonly index: DirectoryIndex;
  readonly day: CivilDate;
  readonly asker: PersonId;
  /** For whom it is asked, when that is not the asker. */
  readonly subject?: PersonId;
  readonly facts?: RequestFacts;
  /** The workflow, for covers that are set for some only. */
  readonly workflow?: string;
  /** Who is away and must be covered or waited for. */
  readonly away: readonly Away[];
  /** Nobody decides their own request; a task done for oneself is fine. */
  readonly mayBeAsker: boolean;
  /** When a holder is away and nobody covers: wait for them, or go up the line. */
  readonly whenAway: 'waits' | 'goes up';
};

export type Holder = {
  readonly person: PersonId;
  /** Set when the holder stands in for someone who is away. */
  readonly coverFor: PersonId | null;
};
export type Resolution =
  | {
      readonly ok: true;
      readonly holders: readonly Holder[];
      readonly reasons: readonly string[];
    }
  | {
      readonly ok: false;
      readonly gap: string;
      readonly reasons: readonly string[];
      /** Set when the answer depends on what a request says, which is not known here. */
      readonly depends?: true;
    };

type Candidates = { people: Person[]; reasons: string[] } | { gap: string; reasons: string[]; depends?: true };

const none = (gap: string, reasons: string[] = []): Candidates => ({ gap, reasons });
const later = (what: string): Candidates => ({ gap: what, reasons: [], depends: true });

/** The person that “of” points at, or why there is none. */
function whose(rule: { of?: Whose }, q: Question): { id: PersonId } | { missing: Candidates } {
  if (rule.of === undefined) return { id: q.asker };
  if (rule.of === 'subject') return { id: q.subject ?? q.asker };
  if (!q.facts) return { missing: later('It depends on a person in the form.') };
  const id = q.facts.person(rule.of.field);
  return id ? { id } : { missing: none('No person is given in the form yet.') };
}

/** The managers above someone up to a level, nearest first. */
function lineOf(q: Question, id: PersonId, most: number): { people: Person[]; reasons: string[]; gap: string | null } {
  const people: Person[] = [];
  const reasons: string[] = [];
  const line = lineAbove(q.index, id, q.day);
  for (let next = line.next(); ; next = line.next()) {
    if (next.done) return { people, reasons, gap: next.value };
    people.push(next.value.person);
    reasons.push(...next.value.reasons);
    if (people.length === most) return { people, reasons, gap: null };
  }
}

function headed(q: Question, post: Post | undefined, what: string, id: PersonId): Candidates {
  if (!post) return none(`No head is on file for ${what}.`);
  const holder = holderOf(q.index, post, q.day);
  if ('person' in holder) return { people: [holder.person], reasons: [`${holder.person.name} heads ${what}`] };
  const reasons = [`${post.title} is vacant (${holder.vacant}), so it goes up`];
  const found = above(q.index, post, q.day, new Set([id]));
  if ('gap' in found) return none(found.gap, [...reasons, ...found.reasons]);
  return { people: [found.person], reasons: [...reasons, ...found.reasons] };
}

function holding(q: Question, id: string): Candidates {
  const post = q.index.post(id);
  if (!post) return none(`The post ${id} is not on file.`);
  const holder = holderOf(q.index, post, q.day);
  if ('vacant' in holder) return none(`${post.title} is vacant (${holder.vacant}).`);
  return { people: [holder.person], reasons: [`${holder.person.name} is ${post.title}`] };
}

function named(q: Question, id: PersonId, why: (name: string) => string): Candidates {
  const person = q.index.person(id);
  return person ? { people: [person], reasons: [why(person.name)] } : none(`${id} is not on file.`);
}

function candidates(rule: SingleRule, q: Question): Candidates {
  const { index, day } = q;
  switch (rule.kind) {
    case 'asker':
      return named(q, q.asker, name => `${name} asked`);
    case 'subject':
      return named(q, q.subject ?? q.asker, name => `the request is for ${name}`);
    case 'person':
      return named(q, rule.person, name => `${name} is named in the workflow`);
    case 'person in': {
      if (!q.facts) return later('It depends on a person in the form.');
      const id = q.facts.person(rule.field);
      return id ? named(q, id, name => `${name} is given in the form`) : none('No person is given in the form yet.');
    }
    case 'post':
      return holding(q, rule.post);
    case 'post in': {
      if (!q.facts) return later('It depends on a post in the form.');
      const post = q.facts.post(rule.field);
      return post ? holding(q, post) : none('No post is given in the form yet.');
    }
    case 'either': {
      const found = rule.rules.map(one => candidates(one, q));
      const people = [...new Set(found.flatMap(one => ('people' in one ? one.people : [])))];
      const reasons = found.flatMap(one => one.reasons);
      if (people.length > 0) return { people, reasons };
      const gaps = found.flatMap(one => ('gap' in one ? [one] : []));
      const depends = gaps.find(one => one.depends);
      return depends ?? none(gaps.map(one => one.gap).join(' '), reasons);
    }
    case 'above post in': {
      if (!q.facts) return later('It depends on a post in the form.');
      const id = q.facts.post(rule.field);
      const post = id ? index.post(id) : undefined;
      if (!post) return none('No post is given in the form yet.');
      const found = above(index, post, day, new Set());
      if ('gap' in found) return none(found.gap, [...found.reasons]);
      return { people: [found.person], reasons: [`${post.title} is the post in the form`, ...found.reasons] };
    }
    case 'decided': {
      if (!q.facts) return later('It depends on who decides an earlier step.');
      const people = q.facts.decided(rule.step).flatMap(id => index.person(id) ?? []);
      if (people.length === 0) return none('Nobody has decided that step yet.');
      return { people, reasons: people.map(p => `${p.name} decided an earlier step`) };
    }
    case 'everyone': {
      const people = index.directory.people.filter(p => {
        const record = recordOn(p, day);
        return (
          isEmployed(p, day) &&
          (rule.place === undefined || record.place === rule.place) &&
          (rule.department === undefined || record.department === rule.department)
        );
      });
      return people.length > 0 ? { people, reasons: ['everyone'] } : none('Nobody works there.');
    }
    default:
      return aboutSomeone(rule, q);
  }
}

type AboutSomeone = Extract<SingleRule, { of?: Whose }>;

/** Rules that start from a person: the asker, the subject, or one given in the form. */
function aboutSomeone(rule: AboutSomeone, q: Question): Candidates {
  const { index, day } = q;
  const start = whose(rule, q);
  if ('missing' in start) return start.missing;
  const { id } = start;
  const person = index.person(id);
  const name = person?.name ?? id;
  switch (rule.kind) {
    case 'manager': {
      const found = managerOf(index, id, day, rule.levels);
      return 'gap' in found ? found : { people: [found.person], reasons: found.reasons };
    }
    case 'managers': {
      const line = lineOf(q, id, rule.levels);
      return line.people.length > 0
        ? { people: line.people, reasons: line.reasons }
        : none(line.gap ?? `Nobody is above ${name}.`, line.reasons);
    }
    case 'manager with': {
      const least = q.facts ? q.facts.number(rule.least) : null;
      if (!q.facts && Number.isNaN(Number(rule.least))) return later('It depends on what the request says.');
      const wanted = least ?? Number(rule.least);
      if (Number.isNaN(wanted)) return none(`${rule.least} is not known, so no manager can be chosen by it.`);
      const reasons: string[] = [];
      for (const { person: manager, post, reasons: why } of lineAbove(index, id, day)) {
        reasons.push(...why);
        const has = (rule.what === 'grade' ? post.grade : post.spending) ?? 0;
        if (has < wanted) continue;
        reasons.push(`${manager.name} is the first above ${name} with a ${rule.what} of at least ${wanted} (${has})`);
        return { people: [manager], reasons };
      }
      return none(`Nobody above ${name} has a ${rule.what} of ${wanted} or more.`, reasons);
    }
    case 'head of department': {
      const department = person && index.department(recordOn(person, day).department);
      return headed(
        q,
        department?.head ? index.post(department.head) : undefined,
        department?.name ?? `${name}’s department`,
        id,
      );
    }
    case 'head of place': {
      const place = person && index.place(recordOn(person, day).place);
      return headed(q, place?.head ? index.post(place.head) : undefined, place?.name ?? `${name}’s place`, id);
    }
    case 'dotted-line manager': {
      const to = person?.dottedTo;
      const other = to ? index.person(to) : undefined;
      if (!other) return none(`${name} has no dotted line on file.`);
      return { people: [other], reasons: [`${name} also answers to ${other.name}`] };
    }
    case 'role': {
      const mine = person ? recordOn(person, day) : undefined;
      const able = index
        .holdingsOfRole(rule.role)
        .filter(holding => isHeldFor(holding, mine))
        .flatMap(holding => {
          const holder = index.person(holding.person);
          return holder && isEmployed(holder, day) ? [{ holder, own: !!(holding.place || holding.department) }] : [];
        })
        .filter(({ holder }) => !rule.within || recordOn(holder, day)[rule.within] === mine?.[rule.within]);
      // Whoever holds it for this place or department comes before those who hold it for everybody.
      const own = able.filter(one => one.own);
      const people = [...new Set((own.length > 0 ? own : able).map(one => one.holder))];
      const where = rule.within ? ` in the ${rule.within} of ${name}` : own.length > 0 ? ` for ${name}` : '';
      if (people.length === 0) return none(`Nobody${where} has the role “${rule.role}”.`);
      return { people, reasons: people.map(p => `${p.name} has the role “${rule.role}”${where}`) };
    }
  }
}

/** Whether somebody would decide their own request. */
const isOwn = (person: Person, q: Question): boolean =>
  !q.mayBeAsker && (person.id === q.asker || person.id === q.subject);

/** Someone who has left, or the asker where that is not allowed, is replaced by the first person above. */
function standing(person: Person, q: Question, reasons: string[]): Person | undefined {
  const left = hasLeft(person, q.day);
  if (!left && !isOwn(person, q)) return person;
  reasons.push(
    left ? `${person.name} left on ${person.left}, so it goes up` : 'nobody decides their own request, so it goes up',
  );
  // A leaver's posts are looked at on their last day, when they still held them.
  const post = mainPost(q.index, person.id, left ? (person.left as CivilDate) : q.day);
  if (!post) return undefined;
  const found = above(q.index, post, q.day, new Set([q.asker, q.subject ?? q.asker, person.id]));
  reasons.push(...found.reasons);
  return 'person' in found ? found.person : undefined;
}

/** The cover of a person that is in force, for everything or for this workflow. */
export const coverOn = (q: Pick<Question, 'index' | 'day' | 'workflow'>, person: PersonId): Cover | undefined =>
  q.index
    .coversOf(person)
    .find(
      c =>
        c.from <= q.day &&
        q.day <= c.to &&
        (!c.workflows || (q.workflow !== undefined && c.workflows.includes(q.workflow))),
    );

/**
 * Who takes the item of someone who may be away: themselves, their cover, or whoever is above.
 * @param mayCover whether somebody may have it as a cover
 */
function present(
  person: Person,
  q: Question,
  reasons: string[],
  mayCover: (id: PersonId) => boolean = () => true,
): Holder {
  let chain: Set<PersonId> | undefined;
  let at = person;
  for (;;) {
    const self = { person: at.id, coverFor: at === person ? null : person.id };
    const away = q.away.find(a => a.person === at.id && a.from <= q.day && q.day <= a.to);
    const cover = coverOn(q, at.id);
    if ((!away && !cover) || chain?.has(at.id)) return self;
    chain ??= new Set();
    chain.add(at.id);
    const by = cover && q.index.person(cover.by);
    const isAble = by && isEmployed(by, q.day) && !chain.has(by.id) && (q.mayBeAsker || by.id !== q.asker);
    if (by && isAble && !mayCover(by.id)) reasons.push(`${by.name} covers for ${at.name}, but may not have this`);
    else if (by && isAble) {
      reasons.push(
        away
          ? `${at.name} is away until ${away.to}; ${by.name} covers`
          : `${by.name} covers for ${at.name} until ${cover.to}`,
      );
      at = by;
      continue;
    }
    // Whoever is here after all does it when the cover cannot.
    if (!away) return self;
    if (q.whenAway === 'goes up') {
      const post = mainPost(q.index, at.id, q.day);
      const found = post && above(q.index, post, q.day, new Set([q.asker, ...chain]));
      if (found && 'person' in found) {
        reasons.push(`${at.name} is away until ${away.to} with no cover, so it goes up`, ...found.reasons);
        at = found.person;
        continue;
      }
    }
    reasons.push(`${at.name} is away until ${away.to} with no cover; it waits`);
    return { person: at.id, coverFor: at === person ? null : person.id };
  }
}

/** Whether a rule names a group: then only those who belong to it may have what comes to it, covers too. */
const isGroup = (rule: SingleRule): boolean =>
  rule.kind === 'either' ? rule.rules.every(isGroup) : rule.kind === 'role' || rule.kind === 'everyone';

const mayCoverIn = (rule: SingleRule, members: readonly Person[]) => (id: PersonId) =>
  !isGroup(rule) || members.some(member => member.id === id);

/** Whether somebody who covers for a holder of this rule may have what the holder has. */
export function mayCoverFor(rule: PeopleRule, q: Question, id: PersonId): boolean {
  const parts = [rule.first, ...rule.otherwise];
  if (excluded(rule, q).has(id)) return false;
  if (!parts.every(isGroup)) return true;
  return parts.some(part => {
    const found = candidates(part, q);
    return 'people' in found && found.people.some(p => p.id === id);
  });
}

/**
 * Whether somebody may hold what a rule gives: whoever any part of it finds, and, where a part names a person and not a
 * group, whoever stands above that person. Where no part finds anybody at all, there is nothing to hold anybody to.
 */
export function mayHold(rule: PeopleRule, q: Question, id: PersonId): boolean {
  if (excluded(rule, q).has(id)) return false;
  let anybody = false;
  for (const part of [rule.first, ...rule.otherwise]) {
    const found = candidates(part, q);
    if (!('people' in found)) continue;
    anybody ||= found.people.length > 0;
    if (found.people.some(p => p.id === id)) return true;
    if (isGroup(part)) continue;
    for (const person of found.people)
      for (const { person: manager } of lineAbove(q.index, person.id, q.day)) if (manager.id === id) return true;
  }
  return !anybody;
}

/** Who has an item that comes to somebody without a rule, as when a limit passes: they, their cover, or whoever is above. */
export function takenBy(person: Person, q: Question): { holder: Holder; reasons: string[] } {
  const reasons: string[] = [];
  return { holder: present(person, q, reasons), reasons };
}

const nobody: ReadonlySet<PersonId> = new Set();

/** Whom a rule must never find. Rules that find nobody exclude nobody. */
export function excluded(rule: Pick<PeopleRule, 'except'>, q: Question): ReadonlySet<PersonId> {
  if (!rule.except) return nobody;
  const ids = new Set<PersonId>();
  for (const single of rule.except ?? []) {
    const found = candidates(single, q);
    if ('people' in found) for (const person of found.people) ids.add(person.id);
  }
  return ids;
}

/** What one part of a rule comes to: holders, or a gap with its reason. */
export type Attempt =
  | { readonly holders: readonly Holder[]; readonly reasons: readonly string[]; readonly raised: boolean }
  | { readonly gap: string; readonly reasons: readonly string[]; readonly depends?: true };

/** Tries one part of a rule. @param never whom the rule must not find */
export function attempt(single: SingleRule, q: Question, never: ReadonlySet<PersonId> = nobody): Attempt {
  const found = candidates(single, q);
  // Whether a later part is needed cannot be told before the request says more.
  if ('gap' in found) return found.depends ? found : { gap: found.gap, reasons: [...found.reasons, found.gap] };
  const reasons = found.reasons;
  const holders: Holder[] = [];
  let kept = 0;
  let raised = false;
  for (const person of found.people) {
    if (never.has(person.id)) continue;
    kept += 1;
    const able = standing(person, q, reasons);
    raised ||= isOwn(person, q) && !hasLeft(person, q.day);
    if (!able) continue;
    const holder = present(able, q, reasons, mayCoverIn(single, found.people));
    if (!never.has(holder.person) && !holders.some(one => one.person === holder.person)) holders.push(holder);
  }
  if (holders.length > 0) return { holders, reasons, raised };
  const names = found.people.map(p => p.name).join(', ');
  const gap = kept === 0 ? `${names} may not be asked here.` : `Nobody is above ${names} who could decide instead.`;
  return { gap, reasons: [...reasons, gap] };
}

/** The people that a rule finds on a day, in its order, with the reasons in words, or the gap. */
export function resolve(rule: PeopleRule, q: Question): Resolution {
  const reasons: string[] = [];
  const never = excluded(rule, q);
  let gap = '';
  for (const single of [rule.first, ...rule.otherwise]) {
    const found = attempt(single, q, never);
    reasons.push(...found.reasons);
    if ('holders' in found) return { ok: true, holders: found.holders, reasons };
    if (found.depends) return { ok: false, gap: found.gap, reasons, depends: true };
    gap = found.gap;
  }
  return { ok: false, gap, reasons };
}
