/** Which step can follow which: the ways through a definition, lanes of a split included. */
import { type Definition, type Go, type Rework, type Step, shapeOf } from './definition.ts';
import { following, mayGoTo, type Placed, structure } from './structure.ts';

/** A way out of a step: to another step, to a closing, or off the end. */
export type Way =
  | { to: 'step'; step: string; label: string; kind: 'on' | 'skip' | 'rework' | 'lane' | 'join' }
  | { to: 'close'; closing: string; label: string }
  | { to: 'nowhere'; label: string };

/** Where “next” leads: to the step after it, or behind the splits whose lanes end here. */
function after(definition: Definition, placed: Placed): { step: Step; joins: boolean } | undefined {
  let joins = false;
  for (let at: Placed | undefined = placed; at; joins = true) {
    const next = following(at);
    if (next) return { step: next, joins };
    at = at.around ? structure(definition).of(at.around.split.id) : undefined;
  }
  return undefined;
}

function way(definition: Definition, placed: Placed, go: Go | Rework, label: string, kind: 'on' | 'skip' = 'on'): Way {
  if (go.to === 'close') {
    const known = definition.closings.some(c => c.id === go.closing);
    return known ? { to: 'close', closing: go.closing, label } : { to: 'nowhere', label };
  }
  if (go.to === 'next') {
    const next = after(definition, placed);
    if (!next) return { to: 'nowhere', label };
    return { to: 'step', step: next.step.id, label, kind: next.joins ? 'join' : kind };
  }
  const id = go.to === 'rework' ? go.resume : go.step;
  if (!mayGoTo(definition, placed.step.id, id)) return { to: 'nowhere', label };
  return { to: 'step', step: id, label, kind: go.to === 'rework' ? 'rework' : kind };
}

/** Every way out of a step, in the order in which they are written. */
export function waysFrom(definition: Definition, step: Step): Way[] {
  const placed = structure(definition).of(step.id);
  if (!placed) return [];
  const ways: Way[] = [];
  const next = (label = '') => ways.push(way(definition, placed, { to: 'next' }, label));
  if ('when' in step && step.when) ways.push(way(definition, placed, { to: 'next' }, 'otherwise', 'skip'));
  if (step.verb === 'Split') {
    for (const lane of step.lanes) {
      const [first] = lane.steps;
      if (first) ways.push({ to: 'step', step: first.id, label: lane.name, kind: 'lane' });
      else next(lane.name);
    }
  }
  const shape = shapeOf(step);
  if (shape.goesOn(step)) next();
  for (const { go, label } of shape.leads(step)) ways.push(way(definition, placed, go, label));
  return ways;
}

const steps = (definition: Definition): Step[] => structure(definition).all.map(p => p.step);

/** Every way of every step, looked up by the step's id. */
export function allWays(definition: Definition): Map<string, Way[]> {
  return new Map(steps(definition).map(step => [step.id, waysFrom(definition, step)]));
}

/** The steps that can be reached from one, itself included; `through` says through which it may go on. */
export function reachableFrom(
  definition: Definition,
  start: string,
  through: (step: Step, way: Way) => boolean = () => true,
): Set<string> {
  const { of } = structure(definition);
  const seen = new Set<string>();
  const open = [start];
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const placed = of(id);
    if (!placed || seen.has(id)) continue;
    seen.add(id);
    for (const w of waysFrom(definition, placed.step)) {
      if (w.to === 'step' && through(placed.step, w)) open.push(w.step);
    }
  }
  return seen;
}

export const reachable = (definition: Definition): Set<string> => reachableFrom(definition, definition.steps[0].id);

/** The steps from which some closing can be reached. */
export function leadingOut(definition: Definition): Set<string> {
  const ways = allWays(definition);
  const out = new Set<string>();
  for (let grown = true; grown; ) {
    grown = false;
    for (const [id, all] of ways) {
      if (out.has(id)) continue;
      if (all.some(w => w.to === 'close' || (w.to === 'step' && out.has(w.step)))) {
        out.add(id);
        grown = true;
      }
    }
  }
  return out;
}

/** Steps at which a person always has a say: time that goes by ends no circle. */
const surelyWaits = (step: Step): boolean => step.verb === 'Do' || (step.verb === 'Decide' && !step.once);

/** Steps that lie on a circle in which nobody is asked, whatever is waited for in it. */
export function idleCircles(definition: Definition): Set<string> {
  // A step with a condition may be skipped, so it does not break a circle by itself.
  const idle = new Map(
    steps(definition)
      .filter(s => !surelyWaits(s) || ('when' in s && s.when !== null))
      .map(s => [s.id, waysFrom(definition, s)]),
  );
  const inCircle = new Set<string>();
  for (const start of idle.keys()) {
    const seen = new Set<string>();
    const open = [start];
    for (let id = open.pop(); id !== undefined; id = open.pop()) {
      const step = structure(definition).of(id)?.step;
      for (const w of idle.get(id) ?? []) {
        if (w.to !== 'step' || !idle.has(w.step)) continue;
        // From a step that waits unless it is skipped, only being skipped goes on without anybody.
        if (step && surelyWaits(step) && w.label !== 'otherwise') continue;
        if (w.step === start) inCircle.add(start);
        if (!seen.has(w.step)) {
          seen.add(w.step);
          open.push(w.step);
        }
      }
    }
  }
  return inCircle;
}
