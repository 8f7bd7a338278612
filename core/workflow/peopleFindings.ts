/** Every people rule tried for everybody in the directory, on each of the days. */
import { isEmployed, type PersonId, type Resolution, resolve } from '../people/index.ts';
import { dateWords } from '../time/index.ts';
import type { StepOf } from './definition.ts';
import type { Finding, Findings } from './finding.ts';
import { structure } from './sequence.ts';

type PersonStep = StepOf<'Decide'> | StepOf<'Do'>;
type Tried = NonNullable<Finding['people']>[number];

export function peopleFindings(findings: Findings): void {
  const { definition, around } = findings;
  if (!around.people) return;
  const { index, days } = around.people;
  // Many steps ask the same people; each rule is worked out once a person and day.
  const known = new Map<string, (Resolution | undefined)[]>();
  const everyone = days.map(day => index.directory.people.filter(p => isEmployed(p, day)));
  const resolutions = (rule: Parameters<typeof resolve>[0], mayBeAsker: boolean, whenAway: 'waits' | 'goes up') => {
    const key = JSON.stringify([rule, mayBeAsker, whenAway]);
    let found = known.get(key);
    if (!found) {
      found = days.flatMap((day, d) =>
        everyone[d].map(person => resolve(rule, { index, day, asker: person.id, away: [], mayBeAsker, whenAway })),
      );
      known.set(key, found);
    }
    return found;
  };
  const people = days.flatMap((day, d) => everyone[d].map(person => ({ person, day })));
  for (const { step, path, number } of structure(definition).all) {
    if (step.verb !== 'Decide' && step.verb !== 'Do') continue;
    const found = resolutions(step.who, step.verb === 'Do', step.whenAway);
    const stranded: Tried[] = [];
    const raised: Tried[] = [];
    found.forEach((resolution, i) => {
      const { person, day } = people[i];
      const one = (why: string): Tried => ({ person: person.id as PersonId, name: person.name, why, day });
      if (resolution && !resolution.ok && !resolution.depends) stranded.push(one(resolution.gap));
      const up = resolution?.ok && resolution.reasons.find(r => r.startsWith('nobody decides their own request'));
      if (up && resolution.ok)
        raised.push(one(`goes to ${resolution.holders.map(h => index.person(h.person)?.name).join(', ')}`));
    });
    if (stranded.length > 0) {
      const all = stranded.length === found.length;
      const onDays = days.length > 1 ? `, on ${days.map(d => dateWords(d)).join(' or ')}` : '';
      const n = new Set(stranded.map(s => s.person)).size;
      const total = new Set(people.map(p => p.person.id)).size;
      findings.add(
        all ? 'stops' : 'warns',
        'people',
        step,
        [...path, 'who'],
        all
          ? `Nobody is found at step ${number}, for anyone`
          : `${n} of ${total} people would get stuck at ${number}${onDays}`,
        reasonsInShort(stranded.map(s => s.why)),
        { people: stranded, ...fallbackMend(findings, step, [...path, 'who', 'otherwise'], stranded) },
      );
    }
    // People of the role or post itself; that a whole staff goes up is how a hierarchy works.
    if (raised.length > 0 && raised.length < found.length) {
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
): Pick<Finding, 'mend'> {
  const index = findings.around.people?.index;
  const fallback = { kind: 'role' as const, role: 'HR partner' };
  if (!index || step.who.otherwise.length >= 5) return {};
  const otherwise = [...step.who.otherwise, fallback];
  const helps = stranded.some(
    ({ person, day }) =>
      resolve(
        { ...step.who, otherwise },
        { index, day, asker: person, away: [], mayBeAsker: step.verb === 'Do', whenAway: step.whenAway },
      ).ok,
  );
  return helps ? { mend: { label: 'Else ask an HR partner', path, value: otherwise } } : {};
}
