/**
 * One sentence in plain words as one or more steps. A sentence is taken only when every word of it is understood: what is
 * left over is said, and nothing is made a task that may be a decision, a condition or a limit.
 */
import type { Step } from '../../definition/definition.ts';
import { end } from './around.ts';
import { decided } from './decision.ts';
import { chosen, closed } from './going.ts';
import { held } from './hold.ts';
import { provisioned } from './provision.ts';
import { recorded } from './record.ts';
import type { Saying } from './saying.ts';
import { split } from './split.ts';
import { done } from './task.ts';
import { told } from './tell.ts';

export { usualOutcomes } from './decision.ts';
export { Saying } from './saying.ts';

/** What a sentence may be, the surest first. */
const readings: readonly ((s: Saying) => Step[] | undefined)[] = [
  chosen,
  held,
  split,
  told,
  recorded,
  provisioned,
  closed,
  decided,
  done,
];

/** Reads the whole of the words as one sentence; nothing when any of them is left over. */
export function readSentence(s: Saying): Step[] | undefined {
  const { w } = s;
  for (const reading of readings) {
    const before = s.taken.length;
    const steps = w.try(() => {
      const found = reading(s);
      end(s);
      return found && w.done ? found : undefined;
    });
    if (steps) return steps;
    s.taken.length = before;
  }
  return undefined;
}
