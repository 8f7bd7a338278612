/** Days bought, sold or given: put on a balance of leave, or taken off it where it bears that. */
import { adjusting, leaveType } from '../../../leave/index.ts';
import type { PersonId } from '../../../people/index.ts';
import type { StepOf } from '../../definition/definition.ts';
import type { Execution } from '../../execution/execution.ts';
import { workOut } from '../../figures/evaluate.ts';
import { todayOf } from '../../request/context.ts';
import type { Ask } from '../../request/reason.ts';

type AdjustEffect = Extract<StepOf<'Record'>['effect'], { kind: 'adjust' }>;

/** @returns whether it goes on; stuck where it is not known, or where the balance does not bear it */
export function adjust(
  execution: Execution,
  step: StepOf<'Record'>,
  effect: AdjustEffect,
  recorded: (what: Ask) => void,
): boolean {
  const { definition, state, context } = execution;
  const worked = workOut(definition, effect.amount, 'number', execution.scope(), execution.facts().lists);
  if (!worked.known) {
    execution.stuck(step.id, worked.because);
    return false;
  }
  const { book } = context;
  const chosen = state.answers[effect.type];
  const type = typeof chosen === 'string' ? leaveType(book, chosen) : undefined;
  const person = effect.holder === undefined ? execution.subject : (state.answers[effect.holder] as PersonId);
  const amount = Math.round(Number(worked.value) * 10_000) / 10_000;
  const on = todayOf(context, execution.subject);
  const isOwn = person === execution.subject;
  const reason = `${definition.name} (request ${state.request})`;
  // Gone through again, after a change that was approved, it comes to what is said now and not to both.
  const before = book.adjustments.reduce(
    (sum, one) =>
      one.person === person && one.type === type?.id && one.reason.startsWith(reason) ? sum + one.amount : sum,
    0,
  );
  const more = Math.round((amount - before) * 10_000) / 10_000;
  const found = type && adjusting(book, person, type, on, more);
  // Only one’s own balance is looked at under its lock, so nothing is taken off another’s.
  if (!type || !found?.fits || (!isOwn && amount < 0)) {
    const name = type?.name ?? String(chosen ?? '');
    execution.stuck(step.id, { code: 'balance does not bear', type: name, days: amount });
    return false;
  }
  // What stands there already is not said to be put there again.
  if (more === 0) return true;
  // What finds no room is not put on, and the trail says so.
  const put = Math.round(found.room * 10_000) / 10_000;
  const over = Math.round((more - put) * 10_000) / 10_000;
  const full = over > 0 ? { over } : {};
  if (put === 0) {
    recorded({ code: 'balance adjusted', type: type.name, amount: 0, unit: found.unit, person, ...full });
    return true;
  }
  execution.effect({
    kind: 'adjust',
    key: execution.key('adjust'),
    ...{ person, type: type.id, amount: amount - over, on },
    reason,
  });
  recorded({ code: 'balance adjusted', type: type.name, amount: put, unit: found.unit, person, ...full });
  return true;
}
