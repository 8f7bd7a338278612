import { describe, expect, test } from '@jest/globals';
import type { Definition } from '@north-pebble/core/workflow';
import { layoutStones } from './layout.ts';

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
  formatVersion: 2,
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
});
