/** Where the stones lie: lanes by holder, working time to the right, rework loops above. Drawn from the definition alone. */

import type { DirectoryIndex } from '@north-pebble/core/people';
import {
  type Definition,
  type LimitTime,
  limitTimeWords,
  peopleWords,
  type Step,
  type StepOf,
  structure,
  untilWords,
  waysFrom,
} from '@north-pebble/core/workflow';
import type { End, Lane, Layout, Link, Stone, Tick } from './drawing.ts';
import { routed } from './route.ts';

export type { End, Layout, Link, Stone } from './drawing.ts';

const laneGap = 42;
const rowGap = 34;
const top = 44;
const narrowest = 168;
const between = 62;
const perDay = 96;
const shortest = 150;
const workingDay = 7.5;
const letter = 6.7;
const tickRoom = 96;

const daysOf = (within: LimitTime): number =>
  'workingDays' in within ? within.workingDays : 'workingHours' in within ? within.workingHours / workingDay : 1;

const short = (words: string): string => {
  const plain = words
    .replace(/, (else|but never) .*/, '')
    .replace(/^the manager above the asker’s line manager/, 'the manager above')
    .replace(/^anyone with the role /, '')
    .replace(/^each manager above the asker up to level (\d)/, 'managers up to level $1')
    .replace(/^the first manager above the asker with a (.*) of at least (.*)/, 'manager with $1')
    .replace(/^the asker’s /, '')
    .replace(/^the /, '');
  const said = plain.charAt(0).toUpperCase() + plain.slice(1);
  return said.length > 60 ? `${said.slice(0, 59)}…` : said;
};

/** A pill says how long it is in few words: days are working days everywhere on a sheet. */
const shortLimit = (within: LimitTime, definition: Definition): string =>
  'workingDays' in within
    ? `within ${within.workingDays} ${within.workingDays === 1 ? 'day' : 'days'}`
    : limitTimeWords(within, definition);

function personLabel(step: StepOf<'Decide'> | StepOf<'Do'>, definition: Definition): string {
  if (step.verb === 'Do') return step.task;
  const limit = step.limit ? ` ${shortLimit(step.limit.within, definition)}` : '';
  return step.when ? `decides when ${step.when}` : `decides${limit}`;
}

const houseLabel: Record<Exclude<Step['verb'], 'Decide' | 'Do' | 'Ask' | 'Hold'>, string> = {
  Choose: 'choose',
  Record: 'record',
  Provision: 'provision',
  Tell: 'tell',
  Split: 'split',
  Close: 'close',
};

const house = 'North Pebble';

function laneOf(step: Step, index: DirectoryIndex | undefined, definition: Definition): string {
  if (step.verb === 'Ask') return 'Asker';
  return step.verb === 'Decide' || step.verb === 'Do' ? short(peopleWords(step.who, index, definition)) : house;
}

const kindOf = (step: Step): Stone['kind'] =>
  step.verb === 'Decide' || step.verb === 'Do'
    ? 'person'
    : step.verb === 'Ask'
      ? 'ask'
      : step.verb === 'Split'
        ? 'split'
        : step.verb === 'Hold'
          ? 'hold'
          : 'house';

/** Rows of a lane: a stone that would lie on another goes one row down. */
class Rows {
  readonly #taken: { from: number; to: number }[][] = [];
  place(from: number, to: number): number {
    let row = 0;
    while (this.#taken[row]?.some(t => from < t.to && t.from < to)) row++;
    this.#taken[row] = [...(this.#taken[row] ?? []), { from, to }];
    return row;
  }
  get count(): number {
    return Math.max(1, this.#taken.length);
  }
}

export function layoutStones(definition: Definition, index: DirectoryIndex | undefined): Layout {
  const { all } = structure(definition);
  const laneNames = ['Asker'];
  for (const { step } of all) {
    const lane = laneOf(step, index, definition);
    if (lane !== house && !laneNames.includes(lane)) laneNames.push(lane);
  }
  laneNames.push(house);
  const rows = new Map(laneNames.map(name => [name, new Rows()]));
  const left = Math.max(narrowest, ...laneNames.map(name => name.length * letter + 40));

  // Each step begins to the right of every step before it that can lead to it.
  const begins = new Map<string, number>();
  const order = new Map(all.map(({ step }, i) => [step.id, i]));
  const placed = all.map(({ step, number }, i) => {
    const kind = kindOf(step);
    const isPerson = kind === 'person';
    const label =
      step.verb === 'Decide' || step.verb === 'Do'
        ? personLabel(step, definition)
        : step.verb === 'Ask'
          ? 'asks'
          : step.verb === 'Hold'
            ? untilWords({ definition, index }, step.until, 'shown')
            : houseLabel[step.verb];
    const days = (step.verb === 'Decide' || step.verb === 'Do') && step.limit ? daysOf(step.limit.within) : 1;
    // Long enough for its words, and as long as it may take.
    const width = isPerson ? Math.max(shortest, Math.min(days, 10) * perDay, label.length * letter + 48) : 0;
    const x = Math.max(left, begins.get(step.id) ?? left + (i > 0 ? between : 0));
    for (const way of waysFrom(definition, step)) {
      if (way.to !== 'step' || way.kind === 'rework' || (order.get(way.step) ?? 0) <= i) continue;
      begins.set(way.step, Math.max(begins.get(way.step) ?? 0, x + width + between));
    }
    const next = all[i + 1]?.step;
    if (next && !begins.has(next.id)) begins.set(next.id, x + width + between);
    const lane = laneOf(step, index, definition);
    const row = rows.get(lane)!.place(x - 18, x + width + 18);
    return { stone: { step: step.id, number, kind, label, x, y: 0, width } as Stone, lane, row };
  });

  const lanes: Lane[] = [];
  let y = top;
  for (const label of laneNames) {
    lanes.push({ label, y });
    y += laneGap + (rows.get(label)!.count - 1) * rowGap;
  }
  const yOf = new Map(lanes.map(l => [l.label, l.y]));
  const stones = placed.map(({ stone, lane, row }) => ({ ...stone, y: (yOf.get(lane) ?? top) + row * rowGap }));
  const right = Math.max(...stones.map(s => s.x + s.width)) + between + 10;
  const ends: End[] = definition.closings.map((closing, i) => ({
    closing: closing.id,
    label: closing.name,
    tone: closing.tone,
    x: right,
    y: top + i * 24 - (definition.closings.length > 1 ? 10 : 0),
  }));
  const longest = Math.max(0, ...ends.map(e => e.label.length)) * letter + 40;
  const height = Math.max(y - laneGap, top + (ends.length - 1) * 24) + 44;
  return {
    width: right + longest,
    height,
    left,
    lanes,
    stones,
    ends,
    links: connect(definition, stones, ends),
    ticks: ticksOf(definition, stones),
  };
}

function connect(definition: Definition, stones: readonly Stone[], ends: readonly End[]): Link[] {
  const links: Omit<Link, 'path'>[] = [];
  const byStep = new Map(stones.map(s => [s.step, s]));
  const { all } = structure(definition);
  all.forEach(({ step }, i) => {
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
      const target = byStep.get(way.step);
      if (!target) return;
      if (way.kind === 'rework' || target.x <= stone.x) {
        const back: [number, number] = [stone.x + stone.width / 2, stone.y - 13];
        links.push({ key, kind: 'rework', from: back, to: [target.x, target.y - 12], step: step.id });
        return;
      }
      const isNext = way.step === all[i + 1]?.step.id && way.kind === 'on';
      const to: [number, number] = [target.x - (target.width ? 0 : 13), target.y];
      const kind = way.kind === 'lane' || way.kind === 'join' ? 'lane' : isNext ? 'on' : 'side';
      links.push({ key, kind, from: way.kind === 'skip' ? [stone.x - 12, stone.y] : from, to, step: step.id });
    });
  });
  return links.map(link => ({ ...link, path: routed(link, stones, byStep.get(link.step)) }));
}

/** Working time along the steps one after another; marks that would lie on one another are left out. */
function ticksOf(definition: Definition, stones: readonly Stone[]): Tick[] {
  const ticks: Tick[] = [{ x: stones[0]?.x ?? narrowest, label: 'asked' }];
  let days = 0;
  structure(definition).all.forEach(({ step, depth }, i) => {
    if ((step.verb !== 'Decide' && step.verb !== 'Do') || !step.limit || depth > 0) return;
    if ('workingDaysBefore' in step.limit.within) return;
    days += daysOf(step.limit.within);
    const words = Math.round(days * 10) / 10;
    const x = stones[i].x + stones[i].width;
    if (x - (ticks.at(-1)?.x ?? 0) < tickRoom && ticks.length > 1) ticks.pop();
    ticks.push({ x, label: `${words} working ${words === 1 ? 'day' : 'days'}` });
  });
  return ticks;
}
