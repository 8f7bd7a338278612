/** Findings about the ways through a definition: what is never reached, what never ends, and what comes too early or too late. */

import { boundaries } from '../../formula/index.ts';
import { workingWords } from '../../time/index.ts';
import type { Findings } from '../checking/finding.ts';
import { isPersonStep, type Step, shapeOf } from '../definition/definition.ts';
import { idleCircles, leadingOut, reachable, reachableFrom, waysFrom } from '../definition/graph.ts';
import { structure } from '../definition/structure.ts';
import { namesOf } from '../figures/evaluate.ts';

export function flowFindings(findings: Findings): void {
  const { definition } = findings;
  const reached = reachable(definition);
  const out = leadingOut(definition);
  const circles = idleCircles(definition);
  for (const { step, path, number } of structure(definition).all) {
    const stop = (kind: string, title: string, detail: string) =>
      findings.add('stops', kind, step, path, title, detail);
    if (!reached.has(step.id)) {
      stop('unreached', `Step ${number} is never reached`, 'No step leads to it.');
      continue;
    }
    for (const way of waysFrom(definition, step)) {
      // A way to a step that is not there has a finding of its own, at its place.
      if (way.to === 'nowhere' && !namesMissingStep(step, way.label)) {
        stop(
          `nowhere:${way.label}`,
          way.label ? `“${way.label}” leads nowhere` : `After step ${number} there is nothing`,
          'Let it go to a step or close the request.',
        );
      }
    }
    if (!out.has(step.id)) stop('no-out', `No way out of step ${number}`, 'From here no closing can be reached.');
    if (circles.has(step.id))
      stop('circle', `Step ${number} goes round in a circle`, 'Nobody is asked and no limit ends it.');
  }
  earlyEffects(findings);
  countback(findings);
  notice(findings);
}

/** Whether a way leads nowhere because it names a step that is not there or out of reach. */
function namesMissingStep(step: Step, label: string): boolean {
  const go = shapeOf(step)
    .leads(step)
    .find(lead => lead.label === label)?.go;
  return go?.to === 'step' || go?.to === 'rework';
}

const declines = (step: Step): boolean => step.verb === 'Decide' && step.outcomes.some(o => o.tone === 'bad');
const hasEffect = (step: Step): boolean =>
  step.verb === 'Provision' ||
  (step.verb === 'Record' &&
    ['book leave', 'person', 'add person', 'add post', 'add row', 'change row', 'open'].includes(step.effect.kind));

/** Something is carried out before anybody decided, and afterwards somebody may still decline. */
function earlyEffects(findings: Findings): void {
  const { definition } = findings;
  const undecided = reachableFrom(definition, definition.steps[0].id, step => !declines(step));
  for (const { step, path, number } of structure(definition).all) {
    if (!hasEffect(step) || !undecided.has(step.id)) continue;
    const later = reachableFrom(definition, step.id, (_, way) => way.to === 'step' && way.kind !== 'rework');
    const decision = structure(definition).all.find(
      p => p.step.id !== step.id && declines(p.step) && later.has(p.step.id),
    );
    if (!decision) continue;
    findings.add(
      'stops',
      'early',
      step,
      path,
      `Step ${number} comes before the decision that it depends on`,
      `Step ${decision.number} may still decline; what step ${number} did would stand. Move it behind step ${decision.number}.`,
    );
  }
}

/** Limits counted back from one date that come in the wrong order: the later step would be due first. */
function countback(findings: Findings): void {
  const { definition } = findings;
  const limits = structure(definition).all.flatMap(placed => {
    const { step } = placed;
    if (!isPersonStep(step) || !step.limit || !('workingDaysBefore' in step.limit.within)) return [];
    return [{ placed, ...step.limit.within }];
  });
  for (const early of limits) {
    const after = reachableFrom(
      definition,
      early.placed.step.id,
      (_, way) => way.to === 'step' && way.kind !== 'rework',
    );
    for (const late of limits) {
      if (late === early || late.field !== early.field || late.workingDaysBefore <= early.workingDaysBefore) continue;
      if (!after.has(late.placed.step.id)) continue;
      findings.add(
        'warns',
        `countback:${early.placed.step.id}`,
        late.placed.step,
        [...late.placed.path, 'limit'],
        `Step ${late.placed.number} is due before step ${early.placed.number}, which comes first`,
        `It is due ${workingWords({ workingDays: late.workingDaysBefore })} before, step ${early.placed.number} only ${early.workingDaysBefore}; this countback cannot be met.`,
        {
          fix: {
            label: `Make it ${workingWords({ workingDays: early.workingDaysBefore })} before`,
            path: [...late.placed.path, 'limit', 'within', 'workingDaysBefore'],
            value: early.workingDaysBefore,
          },
        },
      );
    }
  }
}

/** The fewest calendar days of notice that the form's checks ask for; nothing when no check does. */
function leastNotice(findings: Findings): number | undefined {
  const { definition } = findings;
  const figures = definition.figures.filter(f => /^\s*days of notice\s*\(/.test(f.formula)).map(f => f.name);
  if (figures.length === 0) return undefined;
  const asked = definition.form.fields
    .flatMap(f => f.checks ?? [])
    .flatMap(check => {
      return boundaries(check.formula, namesOf(definition)).filter(b => figures.includes(b.name) && b.value > 0);
    });
  return asked.length > 0 ? Math.min(...asked.map(b => b.value)) : undefined;
}

const daysOf = (step: Step): number => {
  if (!isPersonStep(step) || !step.limit) return 0;
  const { within } = step.limit;
  if ('workingDays' in within) return within.workingDays;
  return 'workingHours' in within ? within.workingHours / 7.5 : 0;
};

/** Limits that together are longer than the notice that is given. */
function notice(findings: Findings): void {
  const { definition } = findings;
  const least = leastNotice(findings);
  if (least === undefined) return;
  const limited = structure(definition).all.filter(p => p.depth === 0 && daysOf(p.step) > 0);
  const days = limited.reduce((sum, p) => sum + daysOf(p.step), 0);
  if ((days * 7) / 5 <= least) return;
  const [longest] = [...limited].sort((a, b) => daysOf(b.step) - daysOf(a.step));
  const words = Math.round(days * 10) / 10;
  findings.add(
    'warns',
    'notice',
    longest.step,
    [...longest.path, 'limit'],
    'The limits are longer than the notice given',
    `Together they take ${workingWords({ workingDays: words })}, and ${least} calendar ${least === 1 ? 'day' : 'days'} of notice ${least === 1 ? 'is' : 'are'} enough to ask. The leave may begin before it is decided.`,
  );
}
