/** Every people rule tried for everybody in the directory, on each of the days. */

import {
  type Attempt,
  attempt,
  type DirectoryIndex,
  excluded,
  isEmployed,
  type Person,
  peopleReasonWords,
  resolve,
  type SingleRule,
} from '../../people/index.ts';
import { type CivilDate, fullDate } from '../../time/index.ts';
import type { Finding, Findings } from '../checking/finding.ts';
import type { StepOf } from '../definition/definition.ts';
import { structure } from '../definition/structure.ts';
import { mayBeAsker } from '../execution/assigning.ts';

type PersonStep = StepOf<'Decide'> | StepOf<'Do'>;
type Tried = NonNullable<Finding['people']>[number];

/** Somebody whom a rule strands, or for whom it has to go up. */
type Odd = { stranded: boolean; one: Tried };

/** How one part of a rule goes for the n-th person: as a number where that many are found and nothing is odd about it. */
type Part = { readonly known: (n: number) => number | Attempt; readonly attempt: (n: number) => Attempt };

/** What is odd about how a rule goes for the n-th person: nobody or too few are found, or it has to go up. */
function oddityOf(
  rules: readonly Part[],
  n: number,
  atLeast: number,
  index: DirectoryIndex,
): { stranded: boolean; why: string } | undefined {
  let gap = '';
  for (const rule of rules) {
    const known = rule.known(n);
    if (typeof known === 'number' && known >= atLeast) return undefined;
    const found = typeof known === 'number' ? rule.attempt(n) : known;
    if ('gap' in found) {
      if (found.depends) return undefined;
      gap = peopleReasonWords(found.gap, index);
      continue;
    }
    const { holders, raised } = found;
    const names = () => holders.map(h => index.person(h.person)?.name).join(', ');
    if (holders.length < atLeast) {
      const many = holders.length === 1 ? 'one is' : `${holders.length} are`;
      return { stranded: true, why: `At least ${atLeast} must answer, and only ${many} found: ${names()}.` };
    }
    return raised ? { stranded: false, why: `goes to ${names()}` } : undefined;
  }
  return { stranded: true, why: gap };
}

/** How one part of a rule goes for the n-th of those who are here; and whether it asks where others work than the asker. */
type KnownPart = { readonly found: (number | Attempt | undefined)[]; readonly asksOthers: boolean };
type Known = {
  /** Of each day, by what is asked. */
  readonly parts: Map<CivilDate, Map<string, KnownPart>>;
  readonly everyone: Map<CivilDate, readonly Person[]>;
};
/** Many steps of many workflows ask the same people: each part of a rule is worked out once for a person, a day and a directory. */
const knownOf = new WeakMap<DirectoryIndex, Known>();
/** So many parts are kept; a designer who tries one rule after another does not fill the memory. */
const mostParts = 300;

function knownFor(index: DirectoryIndex): Known {
  let known = knownOf.get(index);
  if (!known) {
    known = { parts: new Map(), everyone: new Map() };
    knownOf.set(index, known);
  }
  if ([...known.parts.values()].reduce((sum, of) => sum + of.size, 0) > mostParts) known.parts.clear();
  return known;
}

/** Whether whom a rule finds goes by where others work, and not only by where the asker does. */
function asksOthers(rule: SingleRule): boolean {
  if (rule.kind === 'either') return rule.rules.some(asksOthers);
  return rule.kind === 'everyone' || (rule.kind === 'role' && rule.within !== undefined);
}

/**
 * Tells that two directories differ only in the records of some people: for everybody else a rule goes as it went, where it
 * does not ask where those work. What is known of one day serves another on which the same holds.
 */
export function goesAsBefore(
  before: { readonly index: DirectoryIndex; readonly day: CivilDate },
  after: { readonly index: DirectoryIndex; readonly day: CivilDate },
  moved: ReadonlySet<string>,
): void {
  const [was, is] = [knownFor(before.index), knownFor(after.index)];
  const [then, now] = [everyoneOn(was, before.index, before.day), everyoneOn(is, after.index, after.day)];
  if (then.length !== now.length || then.some(({ id }, n) => now[n].id !== id)) return;
  const anew = now.flatMap(({ id }, n) => (moved.has(id) ? [n] : []));
  const own = new Map<string, KnownPart>();
  for (const [key, part] of was.parts.get(before.day) ?? []) {
    if (part.asksOthers) continue;
    const found = part.found.slice();
    for (const n of anew) found[n] = undefined;
    own.set(key, { ...part, found });
  }
  is.parts.set(after.day, own);
}

function everyoneOn({ everyone }: Known, index: DirectoryIndex, day: CivilDate): readonly Person[] {
  const found = everyone.get(day) ?? index.directory.people.filter(p => isEmployed(p, day));
  if (everyone.size > 20) everyone.clear();
  everyone.set(day, found);
  return found;
}

export function peopleFindings(findings: Findings): void {
  const { definition, around } = findings;
  if (!around.people) return;
  const { index, days } = around.people;
  const kept = knownFor(index);
  const everyone = days.map(day => everyoneOn(kept, index, day));
  const total = everyone.reduce((sum, people) => sum + people.length, 0);
  /** How one part of a rule goes for each of those who are here on a day, worked out when it is asked for. */
  const partOn = (single: SingleRule, step: PersonStep, d: number): Part => {
    const asked = mayBeAsker(step);
    const { whenAway, who } = step;
    const [day, people] = [days[d], everyone[d]];
    const key = JSON.stringify([single, who.except, asked, whenAway]);
    const ofDay = kept.parts.get(day) ?? new Map<string, KnownPart>();
    kept.parts.set(day, ofDay);
    const part = ofDay.get(key) ?? { found: [], asksOthers: [single, ...(who.except ?? [])].some(asksOthers) };
    ofDay.set(key, part);
    const known = part.found;
    const tryFor = (n: number) => {
      const question = { index, day, asker: people[n].id, away: [], mayBeAsker: asked, whenAway };
      return attempt(single, question, excluded(who, question));
    };
    return {
      attempt: tryFor,
      known(n) {
        const before = known[n];
        if (before !== undefined) return before;
        const found = tryFor(n);
        const one = 'gap' in found || found.raised ? found : found.holders.length;
        known[n] = one;
        return one;
      },
    };
  };
  const known = new Map<string, Odd[]>();
  const tryAll = (step: PersonStep): Odd[] => {
    const atLeast = step.verb === 'Decide' && typeof step.count === 'object' ? step.count.atLeast : 1;
    const key = JSON.stringify([step.who, mayBeAsker(step), step.whenAway, atLeast]);
    const before = known.get(key);
    if (before) return before;
    const odd: Odd[] = [];
    days.forEach((day, d) => {
      const rules = [step.who.first, ...step.who.otherwise].map(single => partOn(single, step, d));
      everyone[d].forEach(({ id, name }, n) => {
        const found = oddityOf(rules, n, atLeast, index);
        if (found) odd.push({ stranded: found.stranded, one: { person: id, name, why: found.why, day } });
      });
    });
    known.set(key, odd);
    return odd;
  };
  const employed = new Set(everyone.flatMap(people => people.map(p => p.id))).size;
  for (const { step, path, number } of structure(definition).all) {
    if (step.verb !== 'Decide' && step.verb !== 'Do') continue;
    const odd = tryAll(step);
    const stranded = odd.filter(o => o.stranded).map(o => o.one);
    const raised = odd.filter(o => !o.stranded).map(o => o.one);
    if (stranded.length > 0) {
      const all = stranded.length === total;
      const onDays = days.length > 1 ? `, on ${days.map(d => fullDate(d)).join(' or ')}` : '';
      const n = new Set(stranded.map(s => s.person)).size;
      findings.add(
        all ? 'stops' : 'warns',
        'people',
        step,
        [...path, 'who'],
        all
          ? `Nobody is found at step ${number}, for anyone`
          : `${n} of ${employed} people would get stuck at ${number}${onDays}`,
        reasonsInShort(stranded.map(s => s.why)),
        { people: stranded, ...fallbackMend(findings, step, [...path, 'who', 'otherwise'], stranded) },
      );
    }
    // People of the role or post itself; that a whole staff goes up is how a hierarchy works.
    if (raised.length > 0 && raised.length < total) {
      const n = new Set(raised.map(r => r.person)).size;
      findings.add(
        'warns',
        'self',
        step,
        [...path, 'who'],
        `${n} ${n === 1 ? 'person' : 'people'} would decide their own request at ${number}`,
        'For them it goes up the line instead.',
        { people: raised },
      );
    }
  }
}

function reasonsInShort(reasons: string[]): string {
  const counts = new Map<string, number>();
  for (const reason of reasons) counts.set(reason, (counts.get(reason) ?? 0) + 1);
  const sorted = [...counts].sort((a, b) => b[1] - a[1]);
  const shown = sorted.slice(0, 2).map(([reason, n]) => (n > 1 ? `${reason} (${n})` : reason));
  return sorted.length > 2 ? `${shown.join(' ')} And ${sorted.length - 2} more reasons.` : shown.join(' ');
}

/** An HR partner as the last to be asked, where that helps at least one of those who get stuck. */
function fallbackMend(
  findings: Findings,
  step: PersonStep,
  path: Finding['path'],
  stranded: readonly Tried[],
): Pick<Finding, 'fix'> {
  const index = findings.around.people?.index;
  const fallback = { kind: 'role' as const, role: 'HR partner' };
  if (!index || step.who.otherwise.length >= 5) return {};
  const otherwise = [...step.who.otherwise, fallback];
  const helps = stranded.some(
    ({ person, day }) =>
      resolve(
        { ...step.who, otherwise },
        { index, day, asker: person, away: [], mayBeAsker: mayBeAsker(step), whenAway: step.whenAway },
      ).ok,
  );
  return helps ? { fix: { label: 'Else ask an HR partner', path, value: otherwise } } : {};
}
