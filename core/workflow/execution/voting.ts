/** How answers of several people become one outcome. It settles as soon as no further answer could change it. */
import { type Field, isEmptyAnswer } from '../../form/index.ts';
import type { Definition, Outcome, StepOf } from '../definition/definition.ts';
import { levelAt } from '../figures/filling.ts';
import type { Reason } from '../request/reason.ts';
import type { RequestState, Vote } from '../request/state.ts';

export type Settled = { outcome: string; reason: Reason };

const toneOrder = { bad: 0, rework: 1, good: 2 } as const;

/** What happens when those asked do not agree: the first outcome that declines, else that sends back, else the last. */
export function cautious(outcomes: readonly Outcome[]): Outcome {
  const tones = [...outcomes].sort((a, b) => toneOrder[a.tone] - toneOrder[b.tone]);
  return tones[0].tone === 'good' ? outcomes[outcomes.length - 1] : tones[0];
}

/** Outcomes that may still be chosen: one that sends back is not among them once it was chosen as often as it may be. */
export const openOutcomes = (
  step: Pick<StepOf<'Decide'>, 'id' | 'outcomes'>,
  { rounds }: Pick<RequestState, 'rounds'>,
): Outcome[] =>
  step.outcomes.filter(({ id, leads }) => leads.to !== 'rework' || (rounds[`${step.id}/${id}`] ?? 0) < leads.atMost);

/** Of those, the ones that a reply by mail can bring about: a mail fills in no fields. */
export const mailedOutcomes = (
  definition: Definition,
  step: StepOf<'Decide'>,
  state: Pick<RequestState, 'rounds' | 'answers'>,
): Outcome[] =>
  openOutcomes(step, state).filter(outcome => {
    const missing = (outcome.needs ?? []).some(field => isEmptyAnswer(state.answers[field]));
    const isFilled = (field: Field) =>
      levelAt(definition, step.id, field) !== 'required' || !isEmptyAnswer(state.answers[field.id]);
    return !missing && (outcome.tone !== 'good' || definition.form.fields.every(isFilled));
  });

const count = (votes: readonly Vote[], outcome: string): number => votes.filter(v => v.outcome === outcome).length;

/**
 * @param votes in the order in which they came
 * @param of how many are asked, counting those who have answered
 * @returns nothing while a further answer could still change the outcome
 */
export function settle(
  step: Pick<StepOf<'Decide'>, 'id' | 'count' | 'outcomes'>,
  votes: readonly Vote[],
  of: number,
): Settled | undefined {
  const outcomeOf = (vote: Vote) => step.outcomes.find(o => o.id === vote.outcome);
  const isGood = (vote: Vote) => outcomeOf(vote)?.tone === 'good';
  const open = of - votes.length;
  const { count: counting } = step;
  if (counting === undefined) return votes[0] && { outcome: votes[0].outcome, reason: { code: 'first answer' } };
  if (counting === 'everyone' || counting === 'in turn') {
    const against = votes.find(v => !isGood(v));
    if (against)
      return {
        outcome: against.outcome,
        reason: { code: 'one against', step: step.id, outcome: against.outcome },
      };
    if (open > 0) return undefined;
    if (counting === 'in turn')
      return { outcome: votes[votes.length - 1].outcome, reason: { code: 'all agreed in turn', of } };
    const [most] = [...step.outcomes].sort((a, b) => count(votes, b.id) - count(votes, a.id));
    return { outcome: most.id, reason: { code: 'all agreed', of } };
  }
  // Somebody is always asked, even where no answer could bring about what is counted.
  if (votes.length === 0) return undefined;
  const needed = counting === 'majority' ? Math.floor(of / 2) + 1 : counting.atLeast;
  const candidates = counting === 'majority' ? step.outcomes : step.outcomes.filter(o => o.tone === 'good');
  const reached = candidates.find(o => count(votes, o.id) >= needed);
  if (reached) {
    const people = count(votes, reached.id);
    return { outcome: reached.id, reason: { code: 'enough alike', step: step.id, outcome: reached.id, people, of } };
  }
  const instead = cautious(step.outcomes);
  // Still open only while some other outcome than the cautious one can be reached.
  if (candidates.some(o => o.id !== instead.id && count(votes, o.id) + open >= needed)) return undefined;
  return {
    outcome: instead.id,
    reason: {
      code: 'out of reach',
      step: step.id,
      outcome: instead.id,
      needed,
      of,
      alike: counting === 'majority',
    },
  };
}
