/** Every people rule tried for everybody in the directory, on each of the days. */

import { isEmployed, resolve } from '../../people/index.ts';
import { fullDate } from '../../time/index.ts';
import type { Finding, Findings } from '../checking/finding.ts';
import type { StepOf } from '../definition/definition.ts';
import { structure } from '../definition/structure.ts';
import { mayBeAsker } from '../execution/assigning.ts';

type PersonStep = StepOf<'Decide'> | StepOf<'Do'>;
type Tried = NonNullable<Finding['people']>[number];

/** Somebody whom a rule strands, or for whom it has to go up. */
type Odd = { stranded: boolean; one: Tried };

const isRaised = (reason: string): boolean => reason.startsWith('nobody decides their own request');

export function peopleFindings(findings: Findings): void {
  const { definition, around } = findings;
  if (!around.people) return;
  const { index, days } = around.people;
  // Many steps ask the same people; each rule is worked out once a person and day, and only what is odd about it is kept.
  const known = new Map<string, Odd[]>();
  const everyone = days.map(day => index.directory.people.filter(p => isEmployed(p, day)));
  const total = everyone.reduce((sum, people) => sum + people.length, 0);
  const tryAll = (step: PersonStep): Odd[] => {
    const atLeast = step.verb === 'Decide' && typeof step.count === 'object' ? step.count.atLeast : 1;
    const asked = mayBeAsker(step);
    const key = JSON.stringify([step.who, asked, step.whenAway, atLeast]);
    let odd = known.get(key);
    if (odd) return odd;
    odd = [];
    days.forEach((day, d) => {
      for (const { id, name } of everyone[d]) {
        const found = resolve(step.who, {
          index,
          day,
          asker: id,
          away: [],
          mayBeAsker: asked,
          whenAway: step.whenAway,
        });
        if (!found.ok) {
          if (!found.depends) odd.push({ stranded: true, one: { person: id, name, why: found.gap, day } });
        } else if (found.holders.length < atLeast) {
          const to = found.holders.map(h => index.person(h.person)?.name).join(', ');
          const why = `At least ${atLeast} must answer, and only ${found.holders.length === 1 ? 'one is' : `${found.holders.length} are`} found: ${to}.`;
          odd.push({ stranded: true, one: { person: id, name, why, day } });
        } else if (found.reasons.some(isRaised)) {
          const to = found.holders.map(h => index.person(h.person)?.name).join(', ');
          odd.push({ stranded: false, one: { person: id, name, why: `goes to ${to}`, day } });
        }
      }
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
