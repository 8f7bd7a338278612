/** Where a step stands as seen from where the request is: passed, here, or ahead. */
import type { Definition } from '../definition/definition.ts';
import { structure } from '../definition/structure.ts';
import type { RequestState } from '../request/state.ts';

export type Standing = 'passed' | 'here' | 'ahead';

/**
 * A request stands at one step of each sequence that it is in. What stands before that step is passed, what stands after
 * it is ahead; a lane that it is not in is passed when it is done or its split is.
 */
export function standingOf(definition: Definition, state: RequestState): (step: string) => Standing {
  const { of } = structure(definition);
  // Sent back, it goes on where the outcome says, whatever was passed behind that.
  const resume = state.returned?.resume;
  const at = new Set(resume === undefined ? state.at : [...state.at.filter(id => id !== state.returned?.step), resume]);
  const isEnded = state.status === 'closed' || state.status === 'withdrawn';
  const standing = (id: string): Standing => {
    if (isEnded) return 'passed';
    const placed = of(id);
    if (!placed) return 'ahead';
    if (at.has(id)) return id === resume ? 'ahead' : 'here';
    const current = placed.sequence.findIndex(step => at.has(step.id));
    if (current >= 0) return placed.position < current ? 'passed' : 'ahead';
    if (!placed.around) return 'ahead';
    const { split, lane } = placed.around;
    const around = standing(split.id);
    if (around !== 'here') return around;
    return state.lanes[split.id]?.includes(lane.id) ? 'passed' : 'ahead';
  };
  return standing;
}
