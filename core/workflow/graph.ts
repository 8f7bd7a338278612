/** Which step can follow which: the ways through a definition. */
import type { Definition, Go, Rework, Step } from './definition.ts';

/** A way out of a step: to another step, to a closing, or off the end. */
export type Way =
  | { to: 'step'; step: string; label: string; kind: 'on' | 'skip' | 'rework' }
  | { to: 'close'; closing: string; label: string }
  | { to: 'nowhere'; label: string };

function way(definition: Definition, step: Step, go: Go | Rework, label: string, kind: 'on' | 'skip' = 'on'): Way {
  if (go.to === 'close') {
    const known = definition.closings.some(c => c.id === go.closing);
    return known ? { to: 'close', closing: go.closing, label } : { to: 'nowhere', label };
  }
  const id =
    go.to === 'rework'
      ? go.resume
      : go.to === 'step'
        ? go.step
        : definition.steps[definition.steps.indexOf(step) + 1]?.id;
  if (!id || !definition.steps.some(s => s.id === id)) return { to: 'nowhere', label };
  return { to: 'step', step: id, label, kind: go.to === 'rework' ? 'rework' : kind };
}

/** Every way out of a step, in the order in which they are written. */
export function waysFrom(definition: Definition, step: Step): Way[] {
  const ways: Way[] = [];
  if ('when' in step && step.when) ways.push(way(definition, step, { to: 'next' }, 'otherwise', 'skip'));
  switch (step.verb) {
    case 'Choose':
      for (const row of step.rows) ways.push(way(definition, step, row.go, row.condition));
      if (step.otherwise) ways.push(way(definition, step, step.otherwise, 'otherwise'));
      break;
    case 'Decide':
      for (const outcome of step.outcomes) ways.push(way(definition, step, outcome.leads, outcome.label));
      break;
    case 'Close':
      ways.push(way(definition, step, { to: 'close', closing: step.closing }, 'close'));
      break;
    default:
      ways.push(way(definition, step, { to: 'next' }, ''));
  }
  return ways;
}

/** The steps that can be reached from the first. */
export function reachable(definition: Definition): Set<string> {
  const seen = new Set<string>();
  const open = definition.steps.slice(0, 1);
  for (let step = open.pop(); step; step = open.pop()) {
    if (seen.has(step.id)) continue;
    seen.add(step.id);
    for (const w of waysFrom(definition, step)) {
      if (w.to === 'step') open.push(definition.steps.find(s => s.id === w.step)!);
    }
  }
  return seen;
}

/** The steps from which some closing can be reached. */
export function leadingOut(definition: Definition): Set<string> {
  const out = new Set<string>();
  for (let grown = true; grown; ) {
    grown = false;
    for (const step of definition.steps) {
      if (out.has(step.id)) continue;
      if (waysFrom(definition, step).some(w => w.to === 'close' || (w.to === 'step' && out.has(w.step)))) {
        out.add(step.id);
        grown = true;
      }
    }
  }
  return out;
}

/** Steps that lie on a circle in which nobody is asked. */
export function idleCircles(definition: Definition): Set<string> {
  const idle = definition.steps.filter(s => s.verb !== 'Decide');
  const inCircle = new Set<string>();
  for (const start of idle) {
    const seen = new Set<string>();
    const open = [start.id];
    for (let id = open.pop(); id !== undefined; id = open.pop()) {
      const step = idle.find(s => s.id === id);
      if (!step) continue;
      for (const w of waysFrom(definition, step)) {
        if (w.to !== 'step') continue;
        if (w.step === start.id) inCircle.add(start.id);
        if (!seen.has(w.step)) {
          seen.add(w.step);
          open.push(w.step);
        }
      }
    }
  }
  return inCircle;
}
