/**
 * Who handles a step: a rule resolved on the day into people and the reasons, or a gap with its reason.
 * Fixed behaviours: nobody decides their own request, a leaver or a vacant post goes up, someone away goes to their
 * cover. Circles in the reporting line are reported, never looped.
 */
import type { CivilDate } from '../time/index.ts';
import {
  type Away,
  type Cover,
  type DirectoryIndex,
  hasLeft,
  isEmployed,
  isHeldFor,
  type Person,
  type PersonId,
  type PostId,
  recordOn,
} from './directory.ts';
import { isTheirOwn } from './own.ts';
import type { PeopleReason } from './reason.ts';
import { above, holderOf, lineAbove, mainPost, managerOf } from './reportingLine.ts';
import type { PeopleRule, SingleRule, Whose, WhoseUnit } from './rule.ts';

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
  /** Who looks after it, when that is not the asker any more. */
  readonly owner?: PersonId;
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
      readonly reasons: readonly PeopleReason[];
    }
  | {
      readonly ok: false;
      readonly gap: PeopleReason;
      readonly reasons: readonly PeopleReason[];
      /** Set when the answer depends on what a request says, which is not known here. */
      readonly depends?: true;
    };

type Candidates =
  | { people: Person[]; reasons: PeopleReason[] }
  | { gap: PeopleReason; reasons: PeopleReason[]; depends?: true };

const none = (gap: PeopleReason, reasons: PeopleReason[] = []): Candidates => ({ gap, reasons });
const later = (what: 'person' | 'post' | 'decision' | 'request'): Candidates => ({
  gap: { code: `depends on ${what}` },
  reasons: [],
  depends: true,
});

/** The person that “of” points at, or why there is none. */
function whose(rule: { of?: Whose }, q: Question): { id: PersonId } | { missing: Candidates } {
  if (rule.of === undefined) return { id: q.asker };
  if (rule.of === 'subject') return { id: q.subject ?? q.asker };
  if (!q.facts) return { missing: later('person') };
  const id = q.facts.person(rule.of.field);
  return id ? { id } : { missing: none({ code: 'no person given' }) };
}

/** The managers above someone up to a level, nearest first. */
function lineOf(
  q: Question,
  id: PersonId,
  most: number,
): { people: Person[]; reasons: PeopleReason[]; gap: PeopleReason | null } {
  const people: Person[] = [];
  const reasons: PeopleReason[] = [];
  const line = lineAbove(q.index, id, q.day);
  for (let next = line.next(); ; next = line.next()) {
    if (next.done) return { people, reasons, gap: next.value };
    people.push(next.value.person);
    reasons.push(...next.value.reasons);
    if (people.length === most) return { people, reasons, gap: null };
  }
}

/** Of whom or of which post a department or place is meant, and which they are. */
type Workplace = {
  readonly of: PersonId | null;
  readonly post?: PostId;
  readonly works: { readonly place: string; readonly department: string } | undefined;
};

/** The place and department that “of” points at, or why there are none. */
function workplace({ of }: { of?: WhoseUnit }, q: Question): Workplace | { missing: Candidates } {
  if (typeof of === 'object' && 'post' in of) {
    if (!q.facts) return { missing: later('post') };
    const post = q.index.post(q.facts.post(of.post) ?? '');
    return post ? { of: null, post: post.id, works: post } : { missing: none({ code: 'no post given' }) };
  }
  const start = whose(of === undefined ? {} : { of }, q);
  if ('missing' in start) return start;
  const person = q.index.person(start.id);
  return { of: start.id, works: person && recordOn(person, q.day) };
}

function headed(q: Question, what: 'department' | 'place', { of, works }: Workplace): Candidates {
  const unit = works && (what === 'department' ? q.index.department(works.department) : q.index.place(works.place));
  const about = { what, id: unit?.id ?? null, of };
  const post = unit?.head ? q.index.post(unit.head) : undefined;
  if (!post) return none({ code: 'no head', unit: about });
  const holder = holderOf(q.index, post, q.day);
  if ('person' in holder)
    return { people: [holder.person], reasons: [{ code: 'heads', person: holder.person.id, unit: about }] };
  const vacant: PeopleReason = { code: 'post vacant, goes up', post: post.id, vacancy: holder.vacant };
  const found = above(q.index, post, q.day, new Set(of === null ? [] : [of]));
  if ('gap' in found) return none(found.gap, [vacant, ...found.reasons]);
  return { people: [found.person], reasons: [vacant, ...found.reasons] };
}

function holding(q: Question, id: string): Candidates {
  const post = q.index.post(id);
  if (!post) return none({ code: 'post not on file', post: id });
  const holder = holderOf(q.index, post, q.day);
  if ('vacant' in holder) return none({ code: 'post vacant', post: post.id, vacancy: holder.vacant });
  return { people: [holder.person], reasons: [{ code: 'holds post', person: holder.person.id, post: post.id }] };
}

type Naming = 'asked' | 'owns' | 'is the subject' | 'named in workflow' | 'given in form';

function named(q: Question, id: PersonId, code: Naming): Candidates {
  const person = q.index.person(id);
  return person
    ? { people: [person], reasons: [{ code, person: id }] }
    : none({ code: 'person not on file', person: id });
}

function candidates(rule: SingleRule, q: Question): Candidates {
  const { index, day } = q;
  switch (rule.kind) {
    case 'asker':
      return q.owner === undefined ? named(q, q.asker, 'asked') : named(q, q.owner, 'owns');
    case 'subject':
      return named(q, q.subject ?? q.asker, 'is the subject');
    case 'person':
      return named(q, rule.person, 'named in workflow');
    case 'person in': {
      if (!q.facts) return later('person');
      const id = q.facts.person(rule.field);
      return id ? named(q, id, 'given in form') : none({ code: 'no person given' });
    }
    case 'post':
      return holding(q, rule.post);
    case 'post in': {
      if (!q.facts) return later('post');
      const post = q.facts.post(rule.field);
      return post ? holding(q, post) : none({ code: 'no post given' });
    }
    case 'either': {
      const found = rule.rules.map(one => candidates(one, q));
      const people = [...new Set(found.flatMap(one => ('people' in one ? one.people : [])))];
      const reasons = found.flatMap(one => one.reasons);
      if (people.length > 0) return { people, reasons };
      const gaps = found.flatMap(one => ('gap' in one ? [one] : []));
      const depends = gaps.find(one => one.depends);
      return depends ?? none({ code: 'several gaps', gaps: gaps.map(one => one.gap) }, reasons);
    }
    case 'above post in': {
      if (!q.facts) return later('post');
      const id = q.facts.post(rule.field);
      const post = id ? index.post(id) : undefined;
      if (!post) return none({ code: 'no post given' });
      const found = above(index, post, day, new Set());
      if ('gap' in found) return none(found.gap, [...found.reasons]);
      return { people: [found.person], reasons: [{ code: 'post in form', post: post.id }, ...found.reasons] };
    }
    case 'decided': {
      if (!q.facts) return later('decision');
      const people = q.facts.decided(rule.step).flatMap(id => index.person(id) ?? []);
      if (people.length === 0) return none({ code: 'not decided yet' });
      return { people, reasons: people.map(p => ({ code: 'decided before' as const, person: p.id })) };
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
      return people.length > 0 ? { people, reasons: [{ code: 'everyone' }] } : none({ code: 'nobody works there' });
    }
    case 'head of department':
    case 'head of place': {
      const where = workplace(rule, q);
      if ('missing' in where) return where.missing;
      return headed(q, rule.kind === 'head of place' ? 'place' : 'department', where);
    }
    case 'role': {
      // A role that is held for a place is asked for the place of the person concerned, where nothing else is said.
      const where = workplace(rule.within ? rule : { of: rule.of ?? 'subject' }, q);
      return 'missing' in where ? where.missing : withRole(rule, q, where);
    }
    default:
      return aboutSomeone(rule, q);
  }
}

/** Those who hold a role for a place or department, and where nobody does, those who hold it for everybody. */
function withRole(
  { role, within }: Extract<SingleRule, { kind: 'role' }>,
  { index, day }: Question,
  { of, post, works }: Workplace,
): Candidates {
  const able = index
    .holdersOfRole(role, day)
    .filter(holding => isHeldFor(holding, works))
    .flatMap(holding => {
      const holder = index.person(holding.person);
      return holder && isEmployed(holder, day) ? [{ holder, own: !!(holding.place || holding.department) }] : [];
    })
    .filter(({ holder }) => !within || recordOn(holder, day)[within] === works?.[within]);
  // Whoever holds it for this place or department comes before those who hold it for everybody.
  const own = able.filter(one => one.own);
  const people = [...new Set((own.length > 0 ? own : able).map(one => one.holder))];
  const about = of === null ? { post: post as PostId } : { of };
  const where = within ? { ...about, within } : own.length > 0 ? about : null;
  if (people.length === 0) return none({ code: 'nobody has role', role, where });
  return { people, reasons: people.map(p => ({ code: 'has role' as const, person: p.id, role, where })) };
}

type AboutSomeone = Exclude<
  Extract<SingleRule, { of?: unknown }>,
  { kind: 'head of department' | 'head of place' | 'role' }
>;

/** Rules that start from a person: the asker, the subject, or one given in the form. */
function aboutSomeone(rule: AboutSomeone, q: Question): Candidates {
  const { index, day } = q;
  const start = whose(rule, q);
  if ('missing' in start) return start.missing;
  const { id } = start;
  const person = index.person(id);
  switch (rule.kind) {
    case 'manager': {
      const found = managerOf(index, id, day, rule.levels);
      return 'gap' in found ? found : { people: [found.person], reasons: found.reasons };
    }
    case 'managers': {
      const line = lineOf(q, id, rule.levels);
      return line.people.length > 0
        ? { people: line.people, reasons: line.reasons }
        : none(line.gap ?? { code: 'nobody above', person: id }, line.reasons);
    }
    case 'manager with': {
      const least = q.facts ? q.facts.number(rule.least) : null;
      if (!q.facts && Number.isNaN(Number(rule.least))) return later('request');
      const wanted = least ?? Number(rule.least);
      if (Number.isNaN(wanted)) return none({ code: 'least not known', formula: rule.least });
      const reasons: PeopleReason[] = [];
      for (const { person: manager, post, reasons: why } of lineAbove(index, id, day)) {
        reasons.push(...why);
        const has = (rule.what === 'grade' ? post.grade : post.spending) ?? 0;
        if (has < wanted) continue;
        reasons.push({
          code: 'first manager with',
          person: manager.id,
          above: id,
          what: rule.what,
          least: wanted,
          has,
        });
        return { people: [manager], reasons };
      }
      return none({ code: 'no manager with', above: id, what: rule.what, least: wanted }, reasons);
    }
    case 'dotted-line manager': {
      const to = person?.dottedTo;
      const other = to ? index.person(to) : undefined;
      if (!other) return none({ code: 'no dotted line', person: id });
      return { people: [other], reasons: [{ code: 'dotted line to', person: id, to: other.id }] };
    }
  }
}

/** Whether somebody would decide their own request. */
const isOwn = (person: Person, q: Question): boolean => !q.mayBeAsker && isTheirOwn(q, person.id);

/** Someone who has left, or the asker where that is not allowed, is replaced by the first person above. */
function standing(person: Person, q: Question, reasons: PeopleReason[]): Person | undefined {
  const left = hasLeft(person, q.day);
  if (!left && !isOwn(person, q)) return person;
  reasons.push(
    left
      ? { code: 'left, goes up', person: person.id, left: person.left as CivilDate }
      : { code: 'own request, goes up' },
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
  reasons: PeopleReason[],
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
    // In their own request nobody stands in for anybody, not even to read what is told.
    const isAble = by && isEmployed(by, q.day) && !chain.has(by.id) && !isTheirOwn(q, by.id);
    if (by && isAble && !mayCover(by.id))
      reasons.push({ code: 'covers, but may not have it', person: by.id, for: at.id });
    else if (by && isAble) {
      reasons.push(
        away
          ? { code: 'away and covered', person: at.id, until: away.to, by: by.id }
          : { code: 'covered', person: at.id, until: cover.to, by: by.id },
      );
      at = by;
      continue;
    }
    // Whoever is here after all does it when the cover cannot.
    if (!away) return self;
    if (q.whenAway === 'goes up') {
      const post = mainPost(q.index, at.id, q.day);
      const found = post && above(q.index, post, q.day, new Set([q.asker, q.subject ?? q.asker, ...chain]));
      if (found && 'person' in found) {
        reasons.push({ code: 'away, goes up', person: at.id, until: away.to }, ...found.reasons);
        at = found.person;
        continue;
      }
    }
    reasons.push({ code: 'away, waits', person: at.id, until: away.to });
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
export function takenBy(person: Person, q: Question): { holder: Holder; reasons: PeopleReason[] } {
  const reasons: PeopleReason[] = [];
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
  | { readonly holders: readonly Holder[]; readonly reasons: readonly PeopleReason[]; readonly raised: boolean }
  | { readonly gap: PeopleReason; readonly reasons: readonly PeopleReason[]; readonly depends?: true };

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
  const people = found.people.map(p => p.id);
  const gap: PeopleReason = { code: kept === 0 ? 'may not be asked' : 'nobody above who could', people };
  return { gap, reasons: [...reasons, gap] };
}

/** The people that a rule finds on a day, in its order, with the reasons, or the gap. */
export function resolve(rule: PeopleRule, q: Question): Resolution {
  const reasons: PeopleReason[] = [];
  const never = excluded(rule, q);
  let gap: PeopleReason = { code: 'several gaps', gaps: [] };
  for (const single of [rule.first, ...rule.otherwise]) {
    const found = attempt(single, q, never);
    reasons.push(...found.reasons);
    if ('holders' in found) return { ok: true, holders: found.holders, reasons };
    if (found.depends) return { ok: false, gap: found.gap, reasons, depends: true };
    gap = found.gap;
  }
  return { ok: false, gap, reasons };
}
