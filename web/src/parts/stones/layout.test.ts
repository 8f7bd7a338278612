import { describe, expect, test } from '@jest/globals';
import { starters } from '@north-pebble/core/starters';
import type { Definition } from '@north-pebble/core/workflow';
import { layoutStones } from './layout.ts';
import { crossings } from './route.ts';

const decide = (id: string, levels: number, days: number): Definition['steps'][number] => ({
  verb: 'Decide',
  id,
  when: null,
  who: { first: { kind: 'manager', levels }, otherwise: [] },
  whenAway: 'waits',
  limit: { within: { workingDays: days }, remind: null, atLimit: 'wait' },
  outcomes: [
    { id: 'yes', label: 'Approve', tone: 'good', note: 'none', leads: { to: 'next' } },
    {
      id: 'back',
      label: 'Send back',
      tone: 'rework',
      note: 'must',
      leads: { to: 'rework', fields: ['a'], resume: 'ask', atMost: 2 },
    },
    { id: 'no', label: 'Decline', tone: 'bad', note: 'must', leads: { to: 'close', closing: 'no' } },
  ],
});

const definition: Definition = {
  formatVersion: 3,
  name: 'Test',
  area: 'Test',
  purpose: '',
  form: { fields: [] },
  figures: [],
  steps: [
    { verb: 'Ask', id: 'ask' },
    decide('one', 1, 2),
    decide('two', 2, 3),
    { verb: 'Close', id: 'end', closing: 'yes' },
  ],
  messages: [],
  closings: [
    { id: 'yes', name: 'Approved', tone: 'good', message: null },
    { id: 'no', name: 'Declined', tone: 'bad', message: null },
  ],
};

describe('stones', () => {
  const layout = layoutStones(definition, undefined);

  test('lanes stand for holders, the asker on top and the house below', () => {
    expect(layout.lanes.map(l => l.label)).toEqual(['Asker', 'Line manager', 'Manager above', 'North Pebble']);
    expect(layout.stones.map(s => s.kind)).toEqual(['ask', 'person', 'person', 'house']);
  });

  test('time runs to the right: no stone begins before the one that leads to it has ended', () => {
    for (let i = 1; i < layout.stones.length; i++) {
      const before = layout.stones[i - 1];
      expect(layout.stones[i].x).toBeGreaterThan(before.x + before.width);
    }
    expect(layout.ticks.map(t => t.label)).toEqual(['asked', '2 working days', '5 working days']);
  });

  test('pills are as long as their limit, reworks are loops, and everything lies inside the drawing', () => {
    const [, one, two] = layout.stones;
    expect(two.width / one.width).toBeCloseTo(1.5, 5);
    expect(layout.links.filter(l => l.kind === 'rework')).toHaveLength(2);
    expect(layout.links.filter(l => l.kind === 'on')).toHaveLength(4);
    for (const { x, y } of [...layout.stones, ...layout.ends]) {
      expect(x).toBeLessThan(layout.width);
      expect(y).toBeGreaterThan(0);
      expect(y).toBeLessThan(layout.height);
    }
  });

  test('a step that leads nowhere is drawn without its link, never a crash', () => {
    const broken = { ...definition, steps: [definition.steps[0], decide('one', 1, 2)] };
    expect(layoutStones(broken, undefined).links.some(l => l.kind === 'on' && l.step === 'one')).toBe(false);
  });

  const lane = (id: string, role: string): Definition['steps'][number] => ({
    verb: 'Do',
    id,
    when: null,
    who: { first: { kind: 'role', role }, otherwise: [] },
    whenAway: 'waits',
    task: `Does ${id}`,
    limit: { within: { workingDays: 1 }, remind: null, atLimit: 'wait' },
  });
  const split = (...roles: string[]): Definition => ({
    ...definition,
    steps: [
      { verb: 'Ask', id: 'ask' },
      {
        verb: 'Split',
        id: 'split',
        when: null,
        needs: 'all',
        lanes: roles.map((role, i) => ({ id: `l${i}`, name: `L${i}`, steps: [lane(`s${i}`, role)] })),
      },
      { verb: 'Hold', id: 'hold', when: null, until: { kind: 'time', amount: { workingDays: 2 } } },
      { verb: 'Close', id: 'end', closing: 'yes' },
    ],
  });

  test('lanes of a split begin together and are joined behind the longest', () => {
    const { stones, links } = layoutStones(split('Stores', 'Systems'), undefined);
    const [, , first, second, hold] = stones;
    expect(first.x).toBe(second.x);
    expect(first.y).not.toBe(second.y);
    expect(hold.x).toBeGreaterThan(second.x + second.width);
    expect(links.filter(l => l.kind === 'lane')).toHaveLength(4);
    expect(stones.map(s => s.kind)).toEqual(['ask', 'split', 'person', 'person', 'hold', 'house']);
  });

  test('stones of one holder side by side never lie on one another', () => {
    const { stones, height } = layoutStones(split('Stores', 'Stores', 'Stores'), undefined);
    const mine = stones.filter(s => s.kind === 'person');
    expect(new Set(mine.map(s => s.y)).size).toBe(3);
    for (const { y } of stones) expect(y).toBeLessThan(height);
  });

  test('marks of time keep apart, and every stone is as long as its words', () => {
    const many = {
      ...definition,
      steps: [definition.steps[0], ...Array.from({ length: 40 }, (_, i) => decide(`d${i}`, 1, 1)), definition.steps[3]],
    };
    const { ticks } = layoutStones(many, undefined);
    for (let i = 2; i < ticks.length; i++) expect(ticks[i].x - ticks[i - 1].x).toBeGreaterThanOrEqual(96);
    // Every pill is as long as its words.
    for (const stone of layoutStones(many, undefined).stones)
      if (stone.width > 0) expect(stone.width).toBeGreaterThan(stone.label.length * 6.7 + 34);
  });
});

test('no line of a starter runs through a stone that it does not belong to, and every name stands whole', () => {
  for (const starter of starters) {
    const { stones, links, lanes } = layoutStones(starter.definition, undefined);
    expect([starter.definition.name, links.filter(link => crossings(link, stones) > 0).map(link => link.key)]).toEqual([
      starter.definition.name,
      [],
    ]);
    expect(lanes.filter(lane => lane.label.includes('…'))).toEqual([]);
  }
});
