/**
 * What is asked of systems outside and is not there yet. Leave, lists, records, the planner and requests of other workflows
 * are the house's own and are done with the command; all else goes through a connection, and nothing says that it is done
 * before it is delivered.
 */

import type { Answers } from '../../form/index.ts';
import type { Definition, Step } from '../definition/definition.ts';
import { allSteps, standsBefore } from '../definition/structure.ts';
import { evaluateFigures, type Facts, workOut } from '../figures/evaluate.ts';
import type { Ask } from '../request/reason.ts';
import type { RequestState } from '../request/state.ts';

/** What a step asks of a connection that the house does not have, in words. */
export function undeliveredBy(step: Step, connections: readonly string[]): string | null {
  if (step.verb !== 'Provision' || connections.includes(step.connection)) return null;
  return `“${step.action}” at ${step.connection}`;
}

/**
 * What was asked for and is not delivered, on which something at a step depends.
 * @param step nothing for the end of the request, on which everything bears
 */
export const waitedFor = (definition: Definition, state: RequestState, step: string | null): Ask[] =>
  // Requests from before this was kept have none.
  (state.undelivered ?? [])
    .filter(one => step === null || one.step === step || standsBefore(definition, one.step, step))
    .map(one => one.what);

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
