import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { boundaries, canHold, compile, divisionsByNothing, readTable, renameIn, type Value } from '../index.ts';

const names = { Days: 'number', Many: 'number', Kind: 'text', Urgent: 'yes/no', Start: 'date' } as const;
const domain = { names, whole: new Set(['Many']) };
const read = (...conditions: string[]) => readTable(conditions, domain);

describe('a table of conditions', () => {
  test.each([
    ['what an earlier row takes', ['Days > 2', 'Days > 5'], [1]],
    ['what never holds', ['Days > 5 and Days < 3'], [0]],
    ['what all rows before it take together', ['Days <= 2', 'Days > 2', 'Urgent'], [2]],
    ['a word that is another', ['Kind = "A"', 'Kind = "A" and Days > 1'], [1]],
    ['yes and no are all there is', ['Urgent', 'not(Urgent)', 'Days > 0'], [2]],
    ['nothing lies between whole numbers', ['Many > 3 and Many < 4'], [0]],
    ['but between others', ['Days > 3 and Days < 4'], []],
    ['a date before it begins', ['Start < date("2026-02-01") and Start > date("2026-03-01")'], [0]],
    ['values of a list', ['Days in [1..5]', 'Days in (2, 3)'], [1]],
  ])('finds rows never reached: %s', (_, conditions, never) => {
    expect(read(...conditions)?.never).toEqual(never);
  });

  test('shows a case that no row takes', () => {
    expect(read('Days < 3', 'Days > 3')?.gap).toBe('Days is 3');
    expect(read('Kind = "A"')?.gap).toBe('Kind is anything but “A”');
    expect(read('Many <= 3', 'Many >= 4')?.gap).toBeNull();
    expect(read('Days <= 3', 'Days >= 4')?.gap).toBe('Days is 3.5');
    expect(read('Urgent', 'Urgent = false')?.gap).toBeNull();
    expect(read()?.gap).toBe('any answers');
  });

  test('shows a case that fits two rows', () => {
    expect(read('Days > 2', 'Days < 5')?.overlaps).toEqual([{ rows: [0, 1], example: 'Days is 3.5' }]);
    expect(read('Days > 5', 'Days < 5')?.overlaps).toEqual([]);
  });

  test('what is no comparison is one opaque answer', () => {
    expect(read('Days * 2 > 4', 'not(Days * 2 > 4)')?.gap).toBeNull();
    expect(canHold('contains(Kind, "a") and not(contains(Kind, "a"))', domain)).toBe(false);
    expect(read('Dys >')).toBeUndefined();
  });

  const number = fc.integer({ min: -2, max: 6 });
  const comparison = fc
    .tuple(fc.constantFrom('Days', 'Many'), fc.constantFrom('<', '<=', '>', '>=', '=', '!='), number)
    .map(c => c.join(' '));
  const condition: fc.Arbitrary<string> = fc.oneof(
    comparison,
    fc.constantFrom('Urgent', 'not(Urgent)', 'Kind = "A"', 'Kind != "A"', 'Days in [1..3]', 'Days between 2 and 4'),
    fc.tuple(comparison, fc.constantFrom('and', 'or'), comparison).map(([a, op, b]) => `(${a}) ${op} (${b})`),
  );
  test('agrees with every case that is tried', () => {
    const cases = fc.record({
      Days: fc.integer({ min: -4, max: 16 }).map(n => n / 2),
      Many: number,
      Kind: fc.constantFrom('A', 'B'),
      Urgent: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(condition, { minLength: 1, maxLength: 4 }),
        fc.array(cases, { minLength: 20, maxLength: 20 }),
        (conditions, tried) => {
          const reading = readTable(conditions, domain);
          if (!reading) return;
          const runs = conditions.map(source => {
            const compiled = compile(source, names, 'yes/no');
            if (!compiled.ok) throw new Error(source);
            return (values: Record<string, Value>) => compiled.formula.run({ values, call: () => null }) === true;
          });
          for (const values of tried) {
            const first = runs.findIndex(run => run(values));
            expect(reading.never).not.toContain(first);
            if (first < 0) expect(reading.gap).not.toBeNull();
            const fits = runs.flatMap((run, i) => (run(values) ? [i] : []));
            const [a, b] = fits;
            if (b !== undefined && !reading.never.includes(b))
              expect(reading.overlaps.some(o => o.rows[0] === a && o.rows[1] === b)).toBe(true);
          }
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('places in a formula', () => {
  test('where an answer turns, and what divides by nothing', () => {
    expect(boundaries('Days > 5 and (Many <= 3 or 7 < Days)', names).map(b => `${b.name} ${b.value}`)).toEqual([
      'Days 5',
      'Many 3',
      'Days 7',
    ]);
    expect(divisionsByNothing('Days / (2 - 2) > 1', names)).toHaveLength(1);
    expect(divisionsByNothing('Days / Many > 1', names)).toEqual([]);
  });

  test('a name is renamed where it stands as a name, and nowhere in words', () => {
    const known = { ...names, Trip: 'anything', 'Trip.Cost': 'number' } as const;
    expect(renameIn('Days > 2 and Kind = "Days"', 'Days', 'Leave days', known)).toBe(
      'Leave days > 2 and Kind = "Days"',
    );
    expect(renameIn('Trip.Cost > 1', 'Trip', 'Journey', known)).toBe('Journey.Cost > 1');
    expect(renameIn('Days >', 'Days', 'X', known)).toBe('Days >');
  });
});
