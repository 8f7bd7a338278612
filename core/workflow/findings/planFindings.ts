/** Findings about the plan that is counted back from a date: what it refers to, circles, and whether it can be met. */
import { countback, workdayLine } from '../../countback/index.ts';
import { datedKinds } from '../../form/index.ts';
import { workingWords } from '../../time/index.ts';
import { type Findings, nearestFix } from '../checking/finding.ts';
import { fieldReference, ruleReferences } from '../checking/references.ts';
import { isPersonStep, type PersonStep } from '../definition/definition.ts';
import { type Placed, structure } from '../definition/structure.ts';
import { countedFrom, type PlanTask, planTasks, strangers } from '../planning/tasks.ts';

const days = (workingDays: number): string => workingWords({ workingDays });

export function planFindings(findings: Findings): void {
  const { definition } = findings;
  const { countsBack } = definition;
  const { all, of } = structure(definition);
  const [first] = all;
  if (!countsBack) return withoutDate(findings);
  fieldReference(
    findings,
    first.step,
    countsBack.field,
    ['countsBack', 'field'],
    datedKinds,
    'the date that it counts back from',
  );
  if (countsBack.place !== undefined)
    fieldReference(
      findings,
      first.step,
      countsBack.place,
      ['countsBack', 'place'],
      ['pick', 'person'],
      'a post, a place or a person',
    );
  if (countsBack.movedBy) ruleReferences(findings, countsBack.movedBy, first.step, ['countsBack', 'movedBy']);
  if (countsBack.alert) ruleReferences(findings, countsBack.alert.tell, first.step, ['countsBack', 'alert', 'tell']);
  const known = planTasks(definition).map(({ step }) => ({ id: step.id, name: step.id }));
  const lost = strangers(definition);
  for (const { step, name, position } of lost) {
    const path = [...(of(step.id) as Placed).path, 'plan', 'after', position];
    findings.add(
      'stops',
      'plan after',
      step,
      path,
      'It begins after a step that is no task',
      of(name) ? `Nobody holds step ${of(name)?.number}.` : `There is no step “${name}”.`,
      nearestFix(name, known, path),
    );
  }
  if (lost.length === 0 && countedFrom(definition)) canBeMet(findings);
}

/** A plan, or a limit by it, where the workflow counts back from no date. */
function withoutDate(findings: Findings): void {
  for (const { step, path } of structure(findings.definition).all) {
    if (!isPersonStep(step)) continue;
    if (step.plan)
      findings.add(
        'warns',
        'no plan',
        step,
        [...path, 'plan'],
        'It belongs to a plan, and nothing is counted back',
        'Say from which date of the form this workflow counts back, or take it out.',
        { fix: { label: 'Take it out', path: [...path, 'plan'], value: undefined } },
      );
    if (step.limit && 'byPlan' in step.limit.within)
      findings.add(
        'stops',
        'no plan for limit',
        step,
        [...path, 'limit', 'within'],
        'Its limit is a day of the plan, and there is none',
        'Say from which date of the form this workflow counts back, or give it a limit in working days.',
        { fix: { label: 'Within 3 working days', path: [...path, 'limit', 'within'], value: { workingDays: 3 } } },
      );
  }
}

const numbers = (findings: Findings, steps: readonly string[]): string => {
  const all = steps.map(id => structure(findings.definition).of(id)?.number ?? '?');
  return all.length > 1 ? `Steps ${all.slice(0, -1).join(', ')} and ${all.at(-1)}` : `Step ${all[0]}`;
};

/** A circle, too little notice, and tasks that cannot begin before the date. */
function canBeMet(findings: Findings): void {
  const { definition } = findings;
  const tasks = planTasks(definition);
  const place = ({ step }: { step: PersonStep }) => structure(definition).of(step.id) as Placed;
  const notice = definition.countsBack?.notice;
  // Counted in working days alone, so that every day is one.
  const found = countback({
    startDate: notice ?? 0,
    today: 0,
    line: workdayLine(() => true, 0),
    tightWithin: 0,
    tasks: tasks.map(({ step, takes, daysBefore, after }) => ({
      id: step.id,
      workingDays: takes,
      after,
      daysBefore,
      done: false,
    })),
  });
  if ('error' in found) {
    if (found.error !== 'circle') return;
    const [one] = found.tasks;
    const { step, path } = structure(definition).of(one) as Placed;
    findings.add(
      'stops',
      'plan circle',
      step,
      [...path, 'plan'],
      'The plan goes in a circle',
      `${numbers(findings, found.tasks)} wait for one another, so none of them can begin.`,
      { fix: { label: 'Let it follow the order of lines alone', path: [...path, 'plan', 'after'], value: undefined } },
    );
    return;
  }
  for (const task of tasks) afterTheDate(findings, task);
  const short = -Math.min(0, ...found.tasks.map(task => task.slack));
  if (notice === undefined || short === 0) return;
  const [last] = found.chain.slice(-1);
  const { step } = place({ step: tasks.find(task => task.step.id === last)?.step as PersonStep });
  findings.add(
    'warns',
    'plan notice',
    step,
    ['countsBack', 'notice'],
    'The plan takes longer than the notice that is asked for',
    `${numbers(findings, found.chain)} ${found.chain.length > 1 ? 'decide' : 'decides'}: the plan takes ${days(notice + short)}, and ${days(notice)} are enough to ask. Whoever asks that late is late from the first day.`,
    { fix: { label: `Ask for ${days(notice + short)}`, path: ['countsBack', 'notice'], value: notice + short } },
  );
}

/** A task behind a wait that is over only when it should be finished. */
function afterTheDate(findings: Findings, { step, takes, daysBefore, behind }: PlanTask): void {
  const { definition } = findings;
  const { of } = structure(definition);
  for (const id of behind) {
    const hold = of(id)?.step;
    if (hold?.verb !== 'Hold' || hold.until.kind !== 'before' || hold.until.field !== definition.countsBack?.field)
      continue;
    const left = hold.until.workingDays;
    if (takes + daysBefore <= left) continue;
    const { path, number } = of(step.id) as Placed;
    findings.add(
      'warns',
      `plan behind:${id}`,
      step,
      path,
      `Step ${number} can only be late`,
      left === 0
        ? `It waits for step ${of(id)?.number}, which is over on the date itself.`
        : `It waits for step ${of(id)?.number}, which is over ${days(left)} before the date, and needs ${days(takes + daysBefore)}.`,
    );
  }
}
