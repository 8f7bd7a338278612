/** The sheet: findings for many people and steps, sentences of a long procedure, and a long rehearsal. */
import { type Directory, indexDirectory, type PersonId } from '@north-pebble/core/people';
import { act, begin, type RehearsalFacts } from '@north-pebble/core/proof';
import type { Instant } from '@north-pebble/core/time';
import {
  type Definition,
  findings,
  procedure,
  readProcedure,
  type Step,
  writeProcedure,
} from '@north-pebble/core/workflow';
import { annualLeave, demoDay, id, leaveTypes, organisation, plans } from '@north-pebble/demo';
import { type Row, secondsFor } from '../measure.ts';

/** The demo's people over and over, each copy with a reporting line of its own up to the director. */
export function manyPeople(wanted: number): Directory {
  const one = organisation();
  const copies = Math.ceil(wanted / one.people.length);
  const named = (text: string, copy: number) => (copy === 0 ? text : `${text}-${copy}`);
  const all = Array.from({ length: copies }, (_, copy) => copy);
  return {
    ...one,
    people: all.flatMap(copy => one.people.map(p => ({ ...p, id: named(p.id, copy) as PersonId }))).slice(0, wanted),
    posts: all.flatMap(copy =>
      one.posts.map(p => ({
        ...p,
        id: named(p.id, copy),
        lines: p.lines.map(l => ({ ...l, reportsTo: l.reportsTo === null ? null : named(l.reportsTo, copy) })),
      })),
    ),
    holdings: all.flatMap(copy =>
      one.holdings.map(h => ({ ...h, post: named(h.post, copy), person: named(h.person, copy) as PersonId })),
    ),
  };
}

/** Annual leave with so many decisions, no two of which ask the same people in the same way. */
export function longWorkflow(steps: number): Definition {
  const manager = annualLeave.steps.find(s => s.verb === 'Decide');
  if (manager?.verb !== 'Decide') throw new Error('the demo’s leave has no decision');
  const kinds = [
    (n: number) => ({ kind: 'manager' as const, levels: 1 + (n % 4) }),
    (n: number) => ({ kind: 'managers' as const, levels: 1 + (n % 3) }),
    () => ({ kind: 'head of department' as const }),
    (n: number) => ({ kind: 'manager with' as const, what: 'grade' as const, least: String(1 + (n % 9)) }),
  ];
  const middle = Array.from({ length: steps }, (_, n): Step => {
    const first = kinds[n % kinds.length](n);
    const otherwise = [
      { kind: 'role' as const, role: 'HR partner' },
      { kind: 'manager' as const, levels: 1 + (Math.floor(n / 4) % 9) },
    ];
    return {
      ...manager,
      id: `decide-${n}`,
      who: { first, otherwise },
      outcomes: manager.outcomes.filter(o => o.leads.to !== 'rework'),
    };
  });
  const [ask] = annualLeave.steps;
  return { ...annualLeave, steps: [ask, ...middle, ...annualLeave.steps.slice(-3)] };
}

/** A piece of work against its bar in seconds; how it grows from a tenth of the size stands in the name. */
function grown(what: string, bar: number, work: (share: number) => () => unknown): Row {
  const small = work(0.1);
  const whole = work(1);
  small();
  const tenth = secondsFor(small);
  const ours = secondsFor(whole);
  return {
    what: `${what}, in seconds (${(ours / tenth / 10).toFixed(2)}× of ten times a tenth)`,
    ours,
    theirs: bar,
    baseline: 'the bar itself',
    ratio: ours / bar,
    bar: 1,
    better: 'less',
  };
}

export function sheetRows(): Row[] {
  const forty = longWorkflow(40);
  const people = manyPeople(10_000);
  return [
    grown('findings of 40 steps for 10,000 people', 0.6, share => {
      const some = { ...people, people: people.people.slice(0, 10_000 * share) };
      const index = indexDirectory(some);
      return () => findings(forty, { people: { index, days: [demoDay] } });
    }),
    grown('sentences of 200 steps', 0.05, share => {
      const long = longWorkflow(200 * share);
      return () => procedure({ ...long, steps: [...long.steps] });
    }),
    grown('200 steps read back from their sentences', 1, share => {
      const long = longWorkflow(200 * share);
      const text = writeProcedure(long);
      return () => readProcedure(text, long);
    }),
    grown('a rehearsal of 1,000 steps', 0.2, share => () => rehearse(1000 * share)),
  ];
}

/** A request that one decider sends round and round: each answer takes two steps. */
export function rehearse(steps: number): void {
  const index = indexDirectory(organisation());
  const round = annualLeave.steps.map(step =>
    step.verb === 'Decide' && step.id === 'line-manager'
      ? {
          ...step,
          outcomes: [
            { ...step.outcomes[0], leads: { to: 'step' as const, step: 'by-length' } },
            ...step.outcomes.slice(1),
          ],
        }
      : step,
  );
  const definition: Definition = { ...annualLeave, steps: round };
  const facts: RehearsalFacts = {
    index,
    away: [],
    lists: [],
    book: { index, types: leaveTypes, plans, entries: [], adjustments: [] },
  };
  const dates = { from: { date: '2026-03-09', half: 'am' }, to: { date: '2026-03-13', half: 'pm' } };
  const begun = begin(definition, facts, {
    asker: id('ines'),
    at: '2026-02-02T09:40:00Z' as Instant,
    answers: { kind: 'annual', dates },
  });
  if (!begun.ok) throw new Error(begun.refusal.message);
  let at = begun.rehearsal;
  for (let n = 0; n < steps / 2; n++) {
    const [task] = at.state.tasks;
    const played = act(
      at,
      { kind: 'answer', seen: at.state.version, task: task.id, outcome: 'approve', note: null },
      task.holder,
    );
    if (!played.ok) throw new Error(played.refusal.message);
    at = played.rehearsal;
  }
}
