/**
 * What the house itself can bring about and what it only asks for. Leave, lists and fields are the house's own and are
 * done with the command; accounts, spaces, planner lines, people's records and requests of other workflows are asked for,
 * and nothing says that they are done before they are delivered.
 */

import type { Answers } from '../../form/index.ts';
import type { Definition, Step } from '../definition/definition.ts';
import { allSteps, standsBefore } from '../definition/structure.ts';
import { evaluateFigures, type Facts, workOut } from '../figures/evaluate.ts';
import type { RequestState } from '../request/state.ts';

/** What a step asks for that is not delivered yet, in words; nothing when the house does it itself. */
export function undeliveredBy(step: Step): string | null {
  if (step.verb === 'Provision') return `“${step.action}” at ${step.connection}`;
  if (step.verb !== 'Record') return null;
  switch (step.effect.kind) {
    case 'planner':
      return 'a line on the planner';
    case 'person':
      return `a change of ${step.effect.property} in the person’s record`;
    case 'open':
      return `a request in “${step.effect.workflow}”`;
    case 'book leave':
    case 'add row':
    case 'change row':
    case 'set':
      return null;
  }
}

/**
 * What was asked for and is not delivered, on which something at a step depends.
 * @param step nothing for the end of the request, on which everything bears
 */
export const waitedFor = (definition: Definition, state: RequestState, step: string | null): string[] =>
  // Requests from before this was kept have none.
  (state.undelivered ?? [])
    .filter(one => step === null || one.step === step || standsBefore(definition, one.step, step))
    .map(one => one.words);

/**
 * The names of spaces that a request asks for, with the field or figure that each is made of, as far as its answers say.
 * Two spaces of one name cannot be told apart, so a second one is not asked for.
 */
export function spacesAsked(
  definition: Definition,
  answers: Answers,
  facts: Facts,
): { name: string; formula: string }[] {
  const { scope } = evaluateFigures(definition, answers, facts);
  return allSteps(definition).flatMap(step => {
    if (step.verb !== 'Provision' || step.action !== 'create space') return [];
    const formula = step.values.find(value => value.name.toLowerCase() === 'name')?.formula;
    if (formula === undefined) return [];
    const worked = workOut(definition, formula, 'anything', scope, facts.lists);
    return worked.known && typeof worked.value === 'string' ? [{ name: worked.value.trim(), formula }] : [];
  });
}
