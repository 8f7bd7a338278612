import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { compile, functionGroups, Meter, mostStepsTogether, worked } from '../index.ts';

const value = (formula: string, names: Record<string, string> = {}, values: Record<string, never> | object = {}) =>
  worked({ formula, names, values: values as Record<string, never> });

const all = functionGroups.flatMap(group => Object.entries(group.functions));

describe('each function', () => {
  test.each(all)('%s gives what its example says', (_, { example: [formula, gives] }) => {
    if (/^-?[\d.]+ [A-Z]{3}$/.test(gives)) {
      const [amount, currency] = gives.split(' ');
      expect(value(formula)).toEqual({ value: { amount: Number(amount), currency } });
    } else if (gives.includes(' EUR')) {
      const amounts = [...gives.matchAll(/([\d.]+) EUR/g)].map(found => ({
        amount: Number(found[1]),
        currency: 'EUR',
      }));
      expect(value(formula)).toEqual({ value: amounts });
    } else expect(value(formula)).toEqual(value(gives));
  });

  test.each(all)('%s says what it takes when it is given nothing of the kind', name => {
    const answer = value(`${name}({}, {}, {}, {}, {}, {})`);
    // Functions of anything take rows too; all others say what is wrong and where.
    if ('error' in answer)
      expect(answer).toMatchObject({ error: expect.stringMatching(/takes|needs/), at: expect.any(Array) });
  });
});

describe('patterns of text', () => {
  test.each([
    ['matches("AB-12", "^[A-Z]{2}-[0-9]+$")', true],
    ['matches("ab", "AB", "i")', true],
    ['matches("a\\nb", "a.b")', false],
    ['matches("a\\nb", "a.b", "s")', true],
    ['matches("one\\ntwo", "^two$", "m")', true],
    ['matches("a.c", "a.c", "q")', true],
    ['matches("abc", "a.c", "q")', false],
    ['matches("Łódź", "^\\p{Lu}\\p{Ll}+$")', true],
    ['matches("aaa", "^a{2,3}$")', true],
    ['matches("aaaa", "^a{2,3}$")', false],
    ['matches("", "")', true],
    ['replace("2026-02-09", "(\\d+)-(\\d+)-(\\d+)", "$3.$2.$1")', '09.02.2026'],
    ['replace("aaa", "a+?", "b")', 'bbb'],
    ['replace("abc", "x*", "-")', null],
    ['matches("a", "(a")', null],
    ['matches("aa", "(a)\\1")', null],
    ['split("a1b22c", "[0-9]+")', ['a', 'b', 'c']],
  ])('%s', (formula, expected) => {
    expect(value(formula)).toEqual({ value: expected });
  });

  test('agree with those of the platform where both know them', () => {
    const letter = fc.constantFrom(
      'a',
      'b',
      '.',
      '[ab]',
      '[^a]',
      '(a|b)',
      '(ab)',
      'a*',
      'b+',
      'a?',
      '(a|b)*',
      'b{1,2}',
      'a*?',
    );
    fc.assert(
      fc.property(
        fc.array(letter, { minLength: 1, maxLength: 5 }),
        fc.stringMatching(/^[abc]{0,10}$/),
        (parts, text) => {
          const pattern = parts.join('');
          const found = new RegExp(pattern, 'u').exec(text);
          expect(value(`matches("${text}", "${pattern}")`)).toEqual({ value: found !== null });
          if (new RegExp(pattern, 'u').test('')) return;
          expect(value(`replace("${text}", "${pattern}", "<$0>")`)).toEqual({
            value: text.replace(new RegExp(pattern, 'gu'), '<$&>'),
          });
        },
      ),
      { numRuns: 300 },
    );
  });

  test('that would go back for ever elsewhere are followed once', () => {
    const long = 'a'.repeat(3_000);
    expect(value('matches(Text, "^(a+)+$")', { Text: 'text' }, { Text: `${long}b` })).toEqual({ value: false });
    expect(value('matches(Text, "^(a|aa)+$")', { Text: 'text' }, { Text: long })).toEqual({ value: true });
  });
});

describe('a formula does only so much work', () => {
  test.each([
    'for i in 1..1000000 return i',
    'count(for i in 1..3000, j in 1..3000 return i)',
    'some i in 1..15000, j in 1..15000 satisfies i * j < 0',
    '(function(f) f(f))(function(f) f(f))',
    'count(distinct values(for i in 1..3000 return {a: i}))',
    'for i in 1..10000 return partial',
  ])('%s', formula => {
    expect(value(formula)).toMatchObject({ error: 'This is more work than a formula may be.' });
  });

  test('and is only so long and so deep', () => {
    expect(value(`${'('.repeat(2_000)}1${')'.repeat(2_000)}`)).toMatchObject({
      error: 'This stands in too many brackets.',
    });
    expect(value(`1${' + 1'.repeat(5_000)}`)).toMatchObject({ error: 'A formula has at most 10,000 letters.' });
  });
});

describe('amounts of money', () => {
  const amounts = { A: 'money', B: 'money', N: 'money' };
  const values = { A: { amount: 10.1, currency: 'EUR' }, B: 0.2, N: { amount: 5, currency: 'NOK' } };
  test.each<[string, unknown]>([
    ['A + B', { amount: 10.3, currency: 'EUR' }],
    ['A * 3', { amount: 30.3, currency: 'EUR' }],
    ['A / 3', { amount: 3.37, currency: 'EUR' }],
    ['A / B', 50.5],
    ['A + 1', { amount: 11.1, currency: 'EUR' }],
    ['A > 10', true],
    ['A + N', null],
    ['A > N', null],
    ['sum([A, B])', { amount: 10.3, currency: 'EUR' }],
    ['sum([A, N])', null],
    ['max(A, B)', { amount: 10.1, currency: 'EUR' }],
    ['N.currency', 'NOK'],
    ['-A', { amount: -10.1, currency: 'EUR' }],
    ['money(7, "JPY") / 2', { amount: 4, currency: 'JPY' }],
    ['money(7, "crowns")', null],
    ['string(N)', '5.00 NOK'],
    ['if A > 10 then A else 0', { amount: 10.1, currency: 'EUR' }],
  ])('%s', (formula, expected) => {
    expect(value(formula, amounts, values)).toEqual({ value: expected });
  });

  test('shared out, the parts add up to the smallest unit', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1_000_000, max: 1_000_000 }), fc.integer({ min: 1, max: 40 }), (cents, parts) => {
        const values = { A: { amount: cents / 100, currency: 'EUR' } };
        const answer = value(`shared out(A, ${parts})`, { A: 'money' }, values) as { value: { amount: number }[] };
        expect(answer.value.reduce((sum, part) => sum + Math.round(part.amount * 100), 0)).toBe(cents);
        expect(value(`sum(shared out(A, ${parts})) = A`, { A: 'money' }, values)).toEqual({ value: true });
      }),
    );
  });
});

describe('dates and times', () => {
  test.each<[string, unknown]>([
    ['date("2024-01-31") + duration("P1M")', '2024-02-29'],
    ['date("2026-02-09") - date("2026-02-01")', 'P8D'],
    ['time("23:00:00") + duration("PT2H")', '01:00:00'],
    // Clocks go forward at two in the night of 29 March.
    ['date and time("2026-03-29T01:30:00@Europe/Oslo") + duration("PT1H")', '2026-03-29T03:30:00@Europe/Oslo'],
    ['date and time("2026-03-28T12:00:00@Europe/Oslo") + duration("P1D")', '2026-03-29T12:00:00@Europe/Oslo'],
    ['date and time("2026-03-29T12:00:00@Europe/Oslo") - date and time("2026-03-28T12:00:00@Europe/Oslo")', 'PT23H'],
    ['date and time("2026-02-09T10:00:00Z") = date and time("2026-02-09T11:00:00+01:00")', true],
    ['time("10:00:00") = time("10:00:00Z")', false],
    ['time("10:00:00+01:00").time offset', 'PT1H'],
    ['date and time("2026-07-01T10:00:00@Europe/Lisbon").time offset', 'PT1H'],
    ['week of year(date("2027-01-01"))', 53],
    ['duration("PT36H").days', 1],
    ['duration("-PT90M").minutes', -30],
    ['for d in @"2026-02-09"..@"2026-02-11" return day of week(d)', ['Monday', 'Tuesday', 'Wednesday']],
    ['@"2026-02-30" = null', 'error'],
    ['date(2026, 2, 30)', null],
    ['date("9999-12-31") + duration("P1D")', null],
  ])('%s', (formula, expected) => {
    const answer = value(formula);
    if (expected === 'error') expect(answer).toMatchObject({ error: 'There is no day 2026-02-30.' });
    else expect(answer).toEqual({ value: expected });
  });

  test('a duration added and taken away leads back', () => {
    fc.assert(
      fc.property(fc.integer({ min: -20_000, max: 20_000 }), fc.integer({ min: 0, max: 20_000 }), (days, by) => {
        const start = `(date("2026-02-09") + duration("P1D") * ${days})`;
        expect(value(`${start} + duration("P${by}D") - duration("P${by}D") = ${start}`)).toEqual({ value: true });
      }),
    );
  });
});

describe('rows and lists', () => {
  const names = { Legs: 'list<context<From: string, Nights: number, Price: number>>' };
  const values = {
    Legs: [
      { From: 'Ovay', Nights: 2, Price: 40 },
      { From: 'Skarn', Nights: 0, Price: 12.5 },
    ],
  };
  test.each<[string, unknown]>([
    ['Legs[Nights > 0].From', ['Ovay']],
    ['Legs[1].Price', 40],
    ['Legs[-1].From', 'Skarn'],
    ['sum(for l in Legs return l.Nights * l.Price)', 80],
    ['every l in Legs satisfies l.Price > 10', true],
    ['count(Legs[item.Nights = 0])', 1],
    ['sort(Legs, function(a, b) a.Price < b.Price)[1].From', 'Skarn'],
    ['{total: sum(Legs.Price), mean: total / count(Legs)}.mean', 26.25],
    ['for i in 1..count(Legs) return Legs[i].From', ['Ovay', 'Skarn']],
    ['Legs.Price[item > 20]', [40]],
    ['get value(Legs[1], "From")', 'Ovay'],
    ['substring(string: Legs[1].From, start position: 2)', 'vay'],
    ['(for x in [1, 2], y in [x, x * 10] return x + y)', [2, 11, 4, 22]],
    ['[{a: 1}, {b: 2}][a = 1]', [{ a: 1 }]],
    ['{__proto__: 1}.__proto__', 1],
    ['Legs instance of list<context>', true],
  ])('%s', (formula, expected) => {
    expect(value(formula, names, values)).toEqual({ value: expected });
  });
});

describe('patterns over a whole request', () => {
  const hostile = 'count(split(string join(for i in 1..9000 return "ab", ""), "(a|b|ab)*c1"))';
  const compiled = compile(hostile, {}, 'number');
  const attempt = (together?: Meter) => {
    if (!compiled.ok) throw new Error('it is a formula');
    return compiled.formula.attempt({ values: {}, call: () => null, ...(together ? { together } : {}) });
  };

  test('are paid for by what they do, and sixty of them come to an end together', () => {
    // Counted and not timed: what all may do together is done by the first of them.
    const together = new Meter(undefined, mostStepsTogether);
    const all = Array.from({ length: 60 }, () => attempt(together));
    expect(all.filter(one => 'tooMuch' in one).length).toBeGreaterThanOrEqual(50);
    expect(() => together.spend()).toThrow();
  });

  test('and looks into the house are paid for by what they go through', () => {
    let looked = 0;
    const all = compile('count(for i in 1..9000 return balance("annual", date("2026-01-01")))', {}, 'number');
    const call = () => {
      looked += 1;
      return 20;
    };
    expect(all.ok && all.formula.attempt({ values: {}, call })).toMatchObject({ tooMuch: true });
    expect(looked).toBeLessThan(300);
    const some = compile('sum(for i in 1..60 return balance("annual", date("2026-01-01")))', {}, 'number');
    expect(some.ok && some.formula.run({ values: {}, call })).toBe(1200);
  });

  test('that are short are found in a long text, however often they stand there', () => {
    const found = compile('count(split(string join(for i in 1..1500 return "ab", ","), ","))', {}, 'number');
    expect(found.ok && found.formula.run({ values: {}, call: () => null })).toBe(1500);
  });
});
