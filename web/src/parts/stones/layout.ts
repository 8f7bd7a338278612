/** Where the stones lie: lanes by holder, working time to the right, rework loops above. Drawn from the definition alone. */
import type { DirectoryIndex } from '@north-pebble/core/people';
import { type WorkingAmount, workingWords } from '@north-pebble/core/time';
import { type Definition, peopleWords, type Step, type StepOf, waysFrom } from '@north-pebble/core/workflow';

export type Stone = {
  step: string;
  number: number;
  kind: 'ask' | 'house' | 'person';
  label: string;
  x: number;
  y: number;
  /** Pills have a length, the others none. */
  width: number;
};
export type End = { closing: string; label: string; tone: 'good' | 'bad' | 'neutral'; x: number; y: number };
export type Link = {
  key: string;
  kind: 'on' | 'side' | 'rework';
  from: [number, number];
  to: [number, number];
  step: string;
};
export type Lane = { label: string; y: number };
export type Tick = { x: number; label: string };
export type Layout = {
  width: number;
  height: number;
  lanes: Lane[];
  stones: Stone[];
  ends: End[];
  links: Link[];
  ticks: Tick[];
};

const laneGap = 42;
const top = 44;
const left = 168;
const between = 62;
const perDay = 96;
const shortest = 150;
const workingDay = 7.5;

const daysOf = (amount: WorkingAmount): number =>
  'workingDays' in amount ? amount.workingDays : amount.workingHours / workingDay;

const short = (words: string): string => {
  const plain = words
    .replace(/, else .*/, '')
    .replace(/^the manager above the asker’s line manager/, 'the manager above')
    .replace(/^the asker’s /, '')
    .replace(/^the /, '');
  const held = plain.charAt(0).toUpperCase() + plain.slice(1);
  return held.length > 22 ? `${held.slice(0, 21)}…` : held;
};

function decideLabel(step: StepOf<'Decide'>): string {
  const limit = step.limit ? `, ${workingWords(step.limit.within)}` : '';
  return step.when ? `decides when ${step.when}` : `decides${limit}`;
}

const houseLabel: Record<Exclude<Step['verb'], 'Decide' | 'Ask'>, string> = {
  Choose: 'choose',
  Record: 'book',
  Tell: 'tell',
  Close: 'close',
};

export function layoutStones(definition: Definition, index: DirectoryIndex | undefined): Layout {
  const laneNames = ['Asker'];
  const laneOf = (step: Step): string => {
    if (step.verb === 'Ask') return 'Asker';
    return step.verb === 'Decide' ? short(peopleWords(step.who, index)) : 'North Pebble';
  };
  for (const step of definition.steps) {
    const lane = laneOf(step);
    if (lane !== 'North Pebble' && !laneNames.includes(lane)) laneNames.push(lane);
  }
  laneNames.push('North Pebble');
  const lanes = laneNames.map((label, i) => ({ label, y: top + i * laneGap }));
  const yOf = (lane: string): number => lanes.find(l => l.label === lane)?.y ?? top;

  // Each step begins to the right of every step before it that can lead to it.
  const begins = new Map<string, number>();
  const stones: Stone[] = [];
  definition.steps.forEach((step, i) => {
    const isPerson = step.verb === 'Decide';
    const label = step.verb === 'Decide' ? decideLabel(step) : step.verb === 'Ask' ? 'asks' : houseLabel[step.verb];
    const days = step.verb === 'Decide' && step.limit ? daysOf(step.limit.within) : 1;
    const width = isPerson ? Math.max(shortest, Math.min(days, 10) * perDay) : 0;
    const x = Math.max(left, begins.get(step.id) ?? left + (i > 0 ? between : 0));
    stones.push({
      step: step.id,
      number: i + 1,
      kind: isPerson ? 'person' : step.verb === 'Ask' ? 'ask' : 'house',
      label,
      x,
      y: yOf(laneOf(step)),
      width,
    });
    for (const way of waysFrom(definition, step)) {
      if (way.to !== 'step' || way.kind === 'rework') continue;
      const target = definition.steps.findIndex(s => s.id === way.step);
      if (target <= i) continue;
      begins.set(way.step, Math.max(begins.get(way.step) ?? 0, x + width + between));
    }
    const next = definition.steps[i + 1];
    if (next && !begins.has(next.id)) begins.set(next.id, x + width + between);
  });
  const right = Math.max(...stones.map(s => s.x + s.width)) + between + 10;
  const ends: End[] = definition.closings.map((closing, i) => ({
    closing: closing.id,
    label: closing.name,
    tone: closing.tone,
    x: right,
    y: top + i * 24 - (definition.closings.length > 1 ? 10 : 0),
  }));
  const { links, ticks } = connect(definition, stones, ends);
  return { width: right + 130, height: top + (lanes.length - 1) * laneGap + 44, lanes, stones, ends, links, ticks };
}

function connect(definition: Definition, stones: Stone[], ends: End[]): { links: Link[]; ticks: Tick[] } {
  const links: Link[] = [];
  const ticks: Tick[] = [{ x: stones[0]?.x ?? left, label: 'asked' }];
  let days = 0;
  definition.steps.forEach((step, i) => {
    const stone = stones[i];
    const from: [number, number] = [stone.x + stone.width, stone.y];
    waysFrom(definition, step).forEach((way, n) => {
      const key = `${step.id}-${n}`;
      if (way.to === 'nowhere') return;
      if (way.to === 'close') {
        const end = ends.find(e => e.closing === way.closing);
        if (end)
          links.push({
            key,
            kind: step.verb === 'Close' ? 'on' : 'side',
            from,
            to: [end.x - 13, end.y],
            step: step.id,
          });
        return;
      }
      const target = stones.find(s => s.step === way.step);
      if (!target) return;
      if (way.kind === 'rework') {
        links.push({
          key,
          kind: 'rework',
          from: [stone.x + stone.width / 2, stone.y - 13],
          to: [target.x, target.y - 12],
          step: step.id,
        });
        return;
      }
      const isMain = way.step === definition.steps[i + 1]?.id && way.kind === 'on';
      links.push({
        key,
        kind: isMain ? 'on' : 'side',
        from: way.kind === 'skip' ? [stone.x - 12, stone.y] : from,
        to: [target.x - (target.width ? 0 : 13), target.y],
        step: step.id,
      });
    });
    if (step.verb === 'Decide' && step.limit) {
      days += daysOf(step.limit.within);
      const words = Math.round(days * 10) / 10;
      ticks.push({ x: stone.x + stone.width, label: `${words} working ${words === 1 ? 'day' : 'days'}` });
    }
  });
  return { links, ticks };
}
