/** People rules: who handles a step. Resolved on the day into people and reasons, or a gap with its reason. */
import { z } from 'zod';
import type { CivilDate } from '../time/index.ts';
import { type Away, type DirectoryIndex, isEmployed, type Person, PersonId, recordOn } from './directory.ts';
import { above, holderOf, mainPost, managerOf } from './reportingLine.ts';

const SingleRule = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('asker') }),
  z.object({ kind: z.literal('person'), person: PersonId }),
  z.object({ kind: z.literal('manager'), levels: z.number().int().min(1).max(9) }),
  z.object({ kind: z.literal('head of department') }),
  z.object({ kind: z.literal('dotted-line manager') }),
  z.object({ kind: z.literal('post'), post: z.string().min(1) }),
  z.object({ kind: z.literal('role'), role: z.string().min(1) }),
]);
export type SingleRule = z.infer<typeof SingleRule>;

export const PeopleRule = z.object({
  first: SingleRule,
  /** Tried in order when the one before finds nobody. */
  otherwise: z.array(SingleRule).max(5).default([]),
});
export type PeopleRule = z.infer<typeof PeopleRule>;

export type Question = {
  readonly index: DirectoryIndex;
  readonly day: CivilDate;
  readonly asker: PersonId;
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
  | { readonly ok: true; readonly holders: readonly Holder[]; readonly reasons: readonly string[] }
  | { readonly ok: false; readonly gap: string; readonly reasons: readonly string[] };

type Candidates = { people: Person[]; reasons: string[] } | { gap: string; reasons: string[] };

function candidates(rule: SingleRule, q: Question): Candidates {
  const { index, day, asker } = q;
  const name = (id: PersonId) => index.person(id)?.name ?? id;
  switch (rule.kind) {
    case 'asker': {
      const person = index.person(asker);
      return person
        ? { people: [person], reasons: [`${person.name} asked`] }
        : { gap: 'The asker is not on file.', reasons: [] };
    }
    case 'person': {
      const person = index.person(rule.person);
      if (!person) return { gap: `The named person (${rule.person}) is not on file.`, reasons: [] };
      return { people: [person], reasons: [`${person.name} is named in the workflow`] };
    }
    case 'manager': {
      const found = managerOf(index, asker, day, rule.levels);
      if ('gap' in found) return found;
      return { people: [found.person], reasons: found.reasons };
    }
    case 'head of department': {
      const person = index.person(asker);
      const department = person && index.department(recordOn(person, day).department);
      const post = department?.head ? index.post(department.head) : undefined;
      if (!department || !post) return { gap: `No head of department is on file for ${name(asker)}.`, reasons: [] };
      const holder = holderOf(index, post, day);
      if ('person' in holder) {
        return { people: [holder.person], reasons: [`${holder.person.name} heads ${department.name}`] };
      }
      const reasons = [`${post.title} is vacant (${holder.vacant}), so it goes up`];
      const found = above(index, post, day, new Set([asker]));
      if ('gap' in found) return { gap: found.gap, reasons: [...reasons, ...found.reasons] };
      return { people: [found.person], reasons: [...reasons, ...found.reasons] };
    }
    case 'dotted-line manager': {
      const to = index.person(asker)?.dottedTo;
      const person = to ? index.person(to) : undefined;
      if (!person) return { gap: `${name(asker)} has no dotted line on file.`, reasons: [] };
      return { people: [person], reasons: [`${name(asker)} also answers to ${person.name}`] };
    }
    case 'post': {
      const post = index.post(rule.post);
      if (!post) return { gap: `The post ${rule.post} is not on file.`, reasons: [] };
      const holder = holderOf(index, post, day);
      if ('vacant' in holder) return { gap: `${post.title} is vacant (${holder.vacant}).`, reasons: [] };
      return { people: [holder.person], reasons: [`${holder.person.name} is ${post.title}`] };
    }
    case 'role': {
      const people = index
        .holdersOfRole(rule.role)
        .map(id => index.person(id))
        .filter((p): p is Person => p !== undefined && isEmployed(p, day));
      if (people.length === 0) return { gap: `Nobody has the role “${rule.role}”.`, reasons: [] };
      return { people, reasons: people.map(p => `${p.name} has the role “${rule.role}”`) };
    }
  }
}

/** Someone who has left, or the asker where that is not allowed, is replaced by the first person above. */
function standing(person: Person, q: Question, reasons: string[]): Person | undefined {
  const left = person.left !== null && person.left < q.day;
  const self = !q.mayBeAsker && person.id === q.asker;
  if (!left && !self) return person;
  reasons.push(
    left ? `${person.name} left on ${person.left}, so it goes up` : 'nobody decides their own request, so it goes up',
  );
  // A leaver's posts are looked at on their last day, when they still held them.
  const post = mainPost(q.index, person.id, left ? (person.left as CivilDate) : q.day);
  if (!post) return undefined;
  const found = above(q.index, post, q.day, new Set([q.asker, person.id]));
  reasons.push(...found.reasons);
  return 'person' in found ? found.person : undefined;
}

/** Who takes the item of someone who may be away: themselves, their cover, or whoever is above. */
function present(person: Person, q: Question, reasons: string[]): Holder {
  const chain = new Set<PersonId>();
  let at = person;
  for (;;) {
    const away = q.away.find(a => a.person === at.id && a.from <= q.day && q.day <= a.to);
    if (!away || chain.has(at.id)) return { person: at.id, coverFor: at === person ? null : person.id };
    chain.add(at.id);
    const cover = q.index.directory.covers.find(c => c.person === at.id && c.from <= q.day && q.day <= c.to);
    const by = cover && q.index.person(cover.by);
    if (by && isEmployed(by, q.day) && !chain.has(by.id) && (q.mayBeAsker || by.id !== q.asker)) {
      reasons.push(`${at.name} is away until ${away.to}; ${by.name} covers`);
      at = by;
      continue;
    }
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

/** The people that a rule finds on a day, with the reasons in words, or the gap. */
export function resolve(rule: PeopleRule, q: Question): Resolution {
  const reasons: string[] = [];
  let gap = '';
  for (const single of [rule.first, ...rule.otherwise]) {
    const found = candidates(single, q);
    reasons.push(...found.reasons);
    if ('gap' in found) {
      gap = found.gap;
      reasons.push(found.gap);
      continue;
    }
    const holders = new Map<PersonId, Holder>();
    for (const person of found.people) {
      const able = standing(person, q, reasons);
      if (!able) continue;
      const holder = present(able, q, reasons);
      holders.set(holder.person, holder);
    }
    if (holders.size > 0) return { ok: true, holders: [...holders.values()], reasons };
    gap = `Nobody is above ${found.people.map(p => p.name).join(', ')} who could decide instead.`;
    reasons.push(gap);
  }
  return { ok: false, gap, reasons };
}
