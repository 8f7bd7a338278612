/** How answers of several people become one outcome. It settles as soon as no further answer could change it. */
import { type Field, isEmptyAnswer } from '../../form/index.ts';
import type { Definition, Outcome, StepOf } from '../definition/definition.ts';
import { levelAt } from '../figures/filling.ts';
import type { Counts, Reason } from '../request/reason.ts';
import type { RequestState, Vote } from '../request/state.ts';

export type Settled = { outcome: string; reason: Reason };
/** Answers that became an outcome, or that cannot become one any more. */
export type Settlement = Settled | { blocked: Reason };

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

/** How many gave each outcome that anybody gave, in the order of the step. */
const countsOf = ({ outcomes }: Pick<StepOf<'Decide'>, 'outcomes'>, votes: readonly Vote[]): Counts =>
  outcomes.flatMap(({ id }) => {
    const people = count(votes, id);
    return people === 0 ? [] : [{ outcome: id, people }];
  });

/**
 * Each outcome is a side of its own: to agree is to give the same one.
 * @param votes in the order in which they came
 * @param of how many are asked, counting those who have answered
 * @returns nothing while a further answer could still change the outcome; blocked when no outcome can be reached any more
 * and the step does not say which is taken then
 */
export function settle(
  step: Pick<StepOf<'Decide'>, 'id' | 'count' | 'outcomes' | 'undecided'>,
  votes: readonly Vote[],
  of: number,
): Settlement | undefined {
  const { count: counting, outcomes, undecided } = step;
  const isGood = (id: string) => outcomes.find(o => o.id === id)?.tone === 'good';
  if (counting === undefined) return votes[0] && { outcome: votes[0].outcome, reason: { code: 'first answer' } };
  // Somebody is always asked, even where no answer could bring about what is counted.
  if (votes.length === 0) return undefined;
  const open = of - votes.length;
  const against = votes.find(v => !isGood(v.outcome));
  if (against && (counting === 'in turn' || (counting === 'everyone' && undecided === undefined)))
    return { outcome: against.outcome, reason: { code: 'one against', step: step.id, outcome: against.outcome } };
  if (counting === 'in turn')
    return open > 0
      ? undefined
      : { outcome: votes[votes.length - 1].outcome, reason: { code: 'all agreed in turn', of } };
  const needed =
    counting === 'everyone' ? of : counting === 'majority' ? Math.floor(of / 2) + 1 : Math.min(counting.atLeast, of);
  const given = ({ id }: Outcome) => count(votes, id);
  const counts = countsOf(step, votes);
  const favoured = typeof counting === 'object' ? outcomes.filter(o => o.tone === 'good') : outcomes;
  const canBe = (some: readonly Outcome[]) => some.filter(o => given(o) + open >= needed);
  const reached =
    favoured.find(o => given(o) >= needed) ??
    // So many in favour is asked for first; another outcome counts once that cannot be had any more.
    (canBe(favoured).length === 0 ? outcomes.find(o => given(o) >= needed) : undefined);
  if (reached)
    return {
      outcome: reached.id,
      reason:
        counting === 'everyone'
          ? { code: 'all agreed', of }
          : { code: 'enough alike', step: step.id, outcome: reached.id, people: given(reached), of, counts },
    };
  if (canBe(outcomes).some(o => o.id !== undecided)) return undefined;
  const instead = outcomes.find(o => o.id === undecided);
  return instead
    ? { outcome: instead.id, reason: { code: 'not agreed', step: step.id, outcome: instead.id, needed, of, counts } }
    : { blocked: { code: 'no agreement', step: step.id, needed, of, counts } };
}
