import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { evaluate } from 'feelin';
import { corpus } from './corpus.ts';
import { compile, type Names, replaceIn, simpleComparisons, type Value } from './index.ts';

const names: Names = {
  Days: 'number',
  'Balance after': 'number',
  Kind: 'text',
  Dates: 'leave span',
  Urgent: 'yes/no',
  From: 'date',
  Costs: { list: { row: { Day: 'date', Amount: 'money' } } },
};

const run = (source: string, values: Record<string, Value>): Value => {
  const compiled = compile(source, names);
  if (!compiled.ok) throw new Error(`${source}: ${compiled.problems[0].message}`);
  return compiled.formula.run({ values, call: () => null });
};
const problem = (source: string, wanted?: Parameters<typeof compile>[2]) => {
  const compiled = compile(source, names, wanted);
  return compiled.ok ? undefined : compiled.problems[0];
};

describe('formulas', () => {
  test.each(corpus)('%s has the answer that another reader of FEEL gives', source => {
    const values = { Days: 4.5, 'Balance after': -1, Kind: 'Annual', Urgent: true };
    const { value } = evaluate(source, values) as { value: Value };
    expect(run(source, values)).toEqual(value);
  });

  test('comparisons of any two numbers agree with the platform', () => {
    fc.assert(
      fc.property(fc.integer(), fc.integer(), fc.constantFrom('<', '<=', '>', '>=', '=', '!='), (a, b, op) => {
        const expected = { '<': a < b, '<=': a <= b, '>': a > b, '>=': a >= b, '=': a === b, '!=': a !== b }[op];
        expect(run(`Days ${op} Balance after`, { Days: a, 'Balance after': b })).toBe(expected);
      }),
    );
  });

  test('what is not known stays not known, unless the rest settles it', () => {
    expect(run('Days > 2', {})).toBeNull();
    expect(run('Days > 2 and false', {})).toBe(false);
    expect(run('Days > 2 or true', {})).toBe(true);
    expect(run('Days + 1', {})).toBeNull();
    expect(run('Days = null', {})).toBe(true);
    expect(run('Days / 0', { Days: 1 })).toBeNull();
  });

  test('decimal sums do not drift', () => {
    expect(run('0.1 + 0.2 = 0.3', {})).toBe(true);
  });

  test('dates compare as dates', () => {
    expect(run('From >= date("2026-02-09")', { From: '2026-02-10' })).toBe(true);
  });

  test.each([
    ['Dys > 2', 'There is no “Dys”. Did you mean “Days”?', 0, 3],
    ['Balance aftr < 0', 'Did you mean “Balance after”?', 0, 12],
    ['Days > "two"', 'A number cannot be compared with a text.', 0, 12],
    ['From > 3', 'A date cannot be compared with a number.', 0, 8],
    ['Days + Kind', '“+” needs numbers', 7, 11],
    ['Days and Urgent', '“and” needs yes or no', 0, 4],
    ['Dates > Dates', 'has no order', 0, 13],
    ['others awy(Dates) > 1', 'There is no function “others awy”. Did you mean “others away”?', 0, 10],
    ['leave days(Kind)', 'needs a span of leave, this is a text', 11, 15],
    ['contains(Kind)', 'takes a text and a text', 0, 14],
    ['Days >', 'Something is missing at the end.', 6, 6],
    ['Days > 2 )', '“)” is not expected here.', 9, 10],
    ['', 'Nothing is written here yet.', 0, 0],
    ['if Urgent then 1 else "a"', '“then” gives a number', 0, 25],
    ['every x in [1] satisfies x', '“satisfies” needs yes or no', 25, 26],
    ['Costs[Net > 1]', 'There is no “Net”.', 6, 9],
    ['Costs.Amont', '“Costs” has no “Amont”. Did you mean “Amount”?', 6, 11],
    ['From.years', '“From” has no “years”. Did you mean “year”?', 5, 10],
    ['date("2026-02-30")', 'There is no day 2026-02-30.', 0, 18],
    ['duration("5 days")', 'Write a duration as duration("P5D")', 9, 17],
    ['@"25:00:00"', 'is no date, time or duration', 0, 11],
    ['substring(string: Kind, begin: 2)', '“substring” has no “begin”', 0, 33],
    ['From + 3', '“+” needs numbers, this is a date.', 0, 4],
    ['[1, 2]["a"]', 'A filter needs yes or no, or the number of an item', 7, 10],
    ['for i in "a"..3 return i', 'A loop goes from one number or date to another', 9, 12],
    ['{a: 1, a: 2}', '“a” is there twice.', 7, 8],
    ['Days instance of numbr', 'There is no kind “numbr”.', 0, 22],
    ['if Urgent then 1', 'Something is missing at the end.', 16, 16],
    ['constructor > 1', 'There is no “constructor”.', 0, 11],
    ['toString(Kind)', 'There is no function “toString”.', 0, 8],
  ])('%s is said at its place', (source, message, from, to) => {
    expect(problem(source)).toMatchObject({ from, to });
    expect(problem(source)?.message).toContain(message);
  });

  test('the type that is needed is checked', () => {
    expect(problem('Days', 'yes/no')?.message).toBe('This gives a number; yes or no is needed here.');
    expect(problem('Days > 1', 'yes/no')).toBeUndefined();
  });

  test('house functions are called with their values, and uses are listed', () => {
    const compiled = compile('leave days(Dates) + Days', names);
    if (!compiled.ok) throw new Error('does not compile');
    const span = {};
    const value = compiled.formula.run({
      values: { Dates: span, Days: 1 },
      call: (name, args) => (name === 'leave days' && args[0] === span ? 4.5 : null),
    });
    expect(value).toBe(5.5);
    expect(compiled.formula.uses).toEqual(['Dates', 'Days']);
  });

  test.each(['0()', '"a"()', '(0)()'])('what cannot be called is refused at its place: %s', source => {
    expect(compile(source, names)).toMatchObject({
      ok: false,
      problems: [{ from: source === '(0)()' ? 1 : 0, to: expect.any(Number) }],
    });
  });

  test('any text is read or refused with a place inside it, and never throws', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), source => {
        const compiled = compile(source, names);
        if (!compiled.ok) {
          expect(compiled.problems[0].from).toBeLessThanOrEqual(source.length);
          expect(compiled.problems[0].message).not.toBe('');
        }
      }),
      { numRuns: 500 },
    );
  });
});

describe('conditions built from comparisons', () => {
  test('are taken apart with the place of each value, and a value is changed in its place', () => {
    const source = 'Days <= 2 and Kind = "Annual"';
    const parts = simpleComparisons(source, names);
    expect(parts?.map(p => [p.name.text, p.comparator, p.value.text])).toEqual([
      ['Days', '<=', '2'],
      ['Kind', '=', 'Annual'],
    ]);
    expect(replaceIn(source, parts![0].value, '3')).toBe('Days <= 3 and Kind = "Annual"');
  });

  test('read the same with the value first, and negative values', () => {
    expect(simpleComparisons('5 < Days', names)?.[0]).toMatchObject({ comparator: '>' });
    expect(simpleComparisons('Days > -5', names)?.[0].value).toMatchObject({ text: '-5', kind: 'number' });
  });

  test('more than comparisons stays a formula', () => {
    expect(simpleComparisons('Days > 2 or Urgent', names)).toBeUndefined();
    expect(simpleComparisons('Days + 1 > 2', names)).toBeUndefined();
  });
});
