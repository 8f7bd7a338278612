import { describe, expect, test } from '@jest/globals';
import { formulaRow } from './core/formula.ts';
import { leaveDaysRow } from './core/leaveDays.ts';
import { lastOf, perSecond, type Row, sideBySide, table } from './measure.ts';

const row = (change: Partial<Row>): Row => ({
  what: 'something',
  ours: 2000,
  theirs: 10,
  baseline: 'the other way',
  ratio: 200,
  bar: 100,
  better: 'more',
  ...change,
});

describe('measuring', () => {
  test('counts what was done, so that slow work has the lower rate', () => {
    const spin = (n: number) => () => {
      let sum = 0;
      for (let i = 0; i < n; i++) sum += i;
      return sum;
    };
    expect(perSecond(spin(200), 0.05)).toBeGreaterThan(perSecond(spin(200_000), 0.05));
  });

  test('two kinds of work are held against one another slice by slice', () => {
    const spin = (n: number) => () => {
      let sum = 0;
      for (let i = 0; i < n; i++) sum += i;
      return sum;
    };
    const { ours, theirs } = sideBySide(spin(200), spin(200_000), 0.005);
    expect(ours).toBeGreaterThan(theirs);
  });

  test('a row says by how much it changed since it was last measured, whatever was counted in its name', () => {
    const before = lastOf({ other: 3 }, [row({ what: 'something (0.3 s)' })]);
    expect(before).toEqual({ other: 3, something: 200 });
    const [, changed, same, fresh] = table(
      [row({ what: 'something (0.4 s)', ratio: 150 }), row({}), row({ what: 'else' })],
      before,
    ).split('\n');
    expect(changed).toContain('-25 % (200×)');
    expect(same).toContain('0 % (200×)');
    expect(fresh).toMatch(/new\s*$/);
  });

  test('a row says whether its bar is met, in either direction', () => {
    const lines = table([
      row({}),
      row({ ratio: 50 }),
      row({ better: 'less', bar: 3, ratio: 2 }),
      row({ better: 'less', bar: 3, ratio: 4 }),
    ]).split('\n');
    expect(lines[1]).toMatch(/200×\s+at least 100×\s+met/);
    expect(lines[2]).toMatch(/NOT met/);
    expect(lines[3]).toMatch(/at most 3×\s+met/);
    expect(lines[4]).toMatch(/NOT met/);
    expect(new Set(lines.map(line => line.indexOf('at ')).slice(1)).size).toBe(1);
  });

  test('both sides of a comparison agree before they are timed', () => {
    for (const measured of [leaveDaysRow(), formulaRow()]) {
      expect(measured.ratio).toBeCloseTo(measured.ours / measured.theirs, 9);
      expect(measured.ratio).toBeGreaterThan(1);
    }
  });
});
