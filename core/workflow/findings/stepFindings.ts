/** Findings about single steps: what they refer to, what they ask, and tables of conditions. */
import type { Findings } from '../checking/finding.ts';
import { ruleReferences } from '../checking/references.ts';
import type { StepOf, Verb } from '../definition/definition.ts';
import { type Placed, structure } from '../definition/structure.ts';
import { undeliveredBy } from '../execution/delivery.ts';
import { moduleOf } from '../verbs/index.ts';

export function stepFindings(findings: Findings): void {
  const { definition } = findings;
  const { all } = structure(definition);
  const [first] = all;
  if (first.step.verb !== 'Ask') {
    findings.add('stops', 'ask', first.step, first.path, 'Nobody asks', 'The first step is always Ask.');
  }
  if (definition.ownedNext) ruleReferences(findings, definition.ownedNext, first.step, ['ownedNext']);
  const ids = new Set<string>();
  for (const placed of all) {
    const { step, path } = placed;
    if (ids.has(step.id))
      findings.add('stops', 'id', step, [...path, 'id'], 'Two steps have one id', `“${step.id}” stands twice.`);
    ids.add(step.id);
    if (step.verb === 'Ask' && placed !== first)
      findings.add('stops', 'ask', step, path, 'Ask stands twice', 'Only the first step asks.');
    moduleOf(step).check(findings, placed, step as StepOf<Verb>);
    deliveryFinding(findings, placed);
  }
}

function deliveryFinding(findings: Findings, { step, path, number }: Placed): void {
  const { connections } = findings.around;
  const what = connections && undeliveredBy(step, connections);
  if (!what) return;
  findings.add(
    'warns',
    'undelivered',
    step,
    path,
    `Step ${number} is asked for, and not delivered`,
    `There is no connection for ${what} yet. The trail says so, and messages after it that say it is done wait until it is.`,
  );
}
