/** The block structure of the steps: which sequence a step stands in, and what comes after it. */
import type { Definition, Lane, SplitStep, Step } from './definition.ts';
import type { Path } from './path.ts';

/** The lane that a sequence is; nothing for the outermost one. */
export type Around = { split: SplitStep; lane: Lane } | null;

export type Placed = {
  readonly step: Step;
  readonly path: Path;
  readonly position: number;
  readonly sequence: readonly Step[];
  readonly around: Around;
  /** From the outermost split to the nearest. */
  readonly depth: number;
  /** As people say it: `3`, or `4a2` for the second step in lane a of step 4. */
  readonly number: string;
};

export type Structure = {
  /** In the order in which they are written, lanes one after another. */
  readonly all: readonly Placed[];
  readonly of: (id: string) => Placed | undefined;
};

const laneLetter = (n: number): string => String.fromCharCode(97 + (n % 26));

function* walk(steps: readonly Step[], path: Path, around: Around, depth: number, prefix: string): Generator<Placed> {
  for (const [position, step] of steps.entries()) {
    const at: Path = [...path, position];
    const number = `${prefix}${position + 1}`;
    yield { step, path: at, position, sequence: steps, around, depth, number };
    if (step.verb !== 'Split') continue;
    for (const [n, lane] of step.lanes.entries()) {
      yield* walk(
        lane.steps,
        [...at, 'lanes', n, 'steps'],
        { split: step, lane },
        depth + 1,
        `${number}${laneLetter(n)}`,
      );
    }
  }
}

const known = new WeakMap<readonly Step[], Structure>();

export function structure(definition: Pick<Definition, 'steps'>): Structure {
  const before = known.get(definition.steps);
  if (before) return before;
  const all = [...walk(definition.steps, ['steps'], null, 0, '')];
  const byId = new Map<string, Placed>();
  // Of two steps with one id the first is meant; the second is a finding.
  for (const placed of all) if (!byId.has(placed.step.id)) byId.set(placed.step.id, placed);
  const found: Structure = { all, of: id => byId.get(id) };
  known.set(definition.steps, found);
  return found;
}

export const allSteps = (definition: Pick<Definition, 'steps'>): Step[] => structure(definition).all.map(p => p.step);

export const stepById = (definition: Definition, id: string): Step | undefined => structure(definition).of(id)?.step;

/** The number of a step as people say it; nothing when there is no such step. */
export const stepNumber = (definition: Definition, id: string): string => structure(definition).of(id)?.number ?? '';

export const askStep = (definition: Definition): Step => definition.steps[0];

/** The step after one in its own sequence; nothing at the end of a lane or of the procedure. */
export const following = (placed: Placed): Step | undefined => placed.sequence[placed.position + 1];

/** The splits around a step, the nearest first. */
export function splitsAround(definition: Definition, id: string): SplitStep[] {
  const found: SplitStep[] = [];
  for (let at = structure(definition).of(id)?.around; at; at = structure(definition).of(at.split.id)?.around) {
    found.push(at.split);
  }
  return found;
}

/** Whether a step may lead to another: it stands in the same sequence or in one around it. */
export function mayGoTo(definition: Definition, from: string, to: string): boolean {
  const target = structure(definition).of(to);
  if (!target) return false;
  let at = structure(definition).of(from);
  while (at) {
    if (at.sequence === target.sequence) return true;
    at = at.around ? structure(definition).of(at.around.split.id) : undefined;
  }
  return false;
}

/** Every step inside a split, however deep. */
export function insideSplit(split: SplitStep): Step[] {
  return split.lanes.flatMap(lane => lane.steps.flatMap(s => [s, ...(s.verb === 'Split' ? insideSplit(s) : [])]));
}

/** The role that a step asks for, when it asks for one. */
export const roleOf = (step: Step | undefined): string | null =>
  (step?.verb === 'Decide' || step?.verb === 'Do') && step.who.first.kind === 'role' ? step.who.first.role : null;

/** Whether one step comes before another on every way to it: earlier in its sequence, or in a sequence around it. */
export function standsBefore(definition: Definition, first: string, second: string): boolean {
  const a = structure(definition).of(first)?.path;
  const b = structure(definition).of(second)?.path;
  if (!a || !b) return false;
  for (let i = 0; i < Math.min(a.length, b.length); i++) {
    if (a[i] === b[i]) continue;
    // Where they part at a lane they stand side by side.
    return a[i - 1] === 'steps' && typeof a[i] === 'number' && typeof b[i] === 'number' && a[i] < b[i];
  }
  return false;
}
