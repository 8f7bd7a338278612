import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { date, standard } from '../../testing/house.ts';
import { type BalanceInput, balance, type LeavePlan, movedOf, statement } from '../index.ts';
import { alone } from './course.ts';
import { compare, decimal, fraction, plus, roundTo, toNumber } from './fraction.ts';

const person = { joined: date('2022-03-15'), left: null, fte: [{ from: date('2022-03-15'), value: 1 }] };
const input = (change: Partial<BalanceInput> = {}): BalanceInput => ({
  person,
  plan: standard.rules,
  movements: [],
  asOf: date('2026-02-02'),
  ...change,
});

const anyPlan: fc.Arbitrary<LeavePlan> = fc.record({
  yearStart: fc.constantFrom('01-01', '09-01', '02-29', 'anniversary'),
  perYear: fc.constant<LeavePlan['perYear']>([
    { fromServiceYears: 0, amount: 25 },
    { fromServiceYears: 3, amount: 28.5 },
  ]),
  accrual: fc.constantFrom('yearly' as const, 'monthly-in-advance' as const, 'monthly-in-arrears' as const),
  proration: fc.constantFrom('daily' as const, 'monthly' as const),
  rounding: fc.constant<LeavePlan['rounding']>({ step: 0.5, mode: 'nearest' }),
  carryOver: fc.constantFrom(null, { max: 5, expires: '03-31' }, { max: 40, expires: null }),
});

const statementFor = ({ person, plan, movements, asOf }: BalanceInput) =>
  statement({ person, course: alone(plan, person.joined), moved: movements.map(movedOf) }, asOf);

describe('balances', () => {
  test('a full year’s entitlement, five carried over, what is above five lapses', () => {
    const { lines, balance: now, expiring } = statementFor(input());
    expect(now).toBe(31);
    expect(expiring).toEqual([{ amount: 5, on: '2026-03-31' }]);
    expect(lines.at(-1)).toMatchObject({ kind: 'accrued', amount: 26, date: '2026-01-01' });
    expect(lines.find(l => l.kind === 'lapsed' && l.date === '2026-01-01')).toMatchObject({ amount: -21 });
  });

  test('carry-over is there at the end of the day on which it lapses, and gone the day after', () => {
    const on = (asOf: string, left: string | null = null) =>
      balance(input({ person: { ...person, left: left === null ? null : date(left) }, asOf: date(asOf) }));
    expect(on('2026-03-31')).toEqual({ balance: 31, expiring: [{ amount: 5, on: '2026-03-31' }] });
    expect(on('2026-04-01')).toEqual({ balance: 26, expiring: [] });
    // Whoever has left by then takes it along: it lapses neither on their last day nor after it.
    expect(on('2026-03-31', '2026-03-31').expiring).toEqual([]);
    const gone = on('2026-04-01', '2026-03-31');
    expect(gone).toEqual({ balance: on('2026-03-31', '2026-03-31').balance, expiring: [] });
    expect(on('2026-06-30', '2026-03-31')).toEqual(gone);
  });

  test('what is taken on the last day of employment counts, and nothing after it is earned', () => {
    const left = date('2026-06-30');
    const taken = (day: string) =>
      balance(
        input({
          person: { ...person, left },
          movements: [{ date: date(day), kind: 'taken', amount: 1 }],
          asOf: date('2026-07-31'),
        }),
      ).balance;
    const none = balance(input({ person: { ...person, left }, asOf: date('2026-07-31') })).balance;
    expect(taken('2026-06-30')).toBe(none - 1);
    expect(none).toBe(balance(input({ person: { ...person, left }, asOf: left })).balance);
  });

  test('what is taken uses carry-over first, and the rest of it lapses at the end of its day', () => {
    const taken = [{ date: date('2026-03-10'), kind: 'taken' as const, amount: 3 }];
    expect(balance(input({ movements: taken, asOf: date('2026-03-31') }))).toEqual({
      balance: 28,
      expiring: [{ amount: 2, on: '2026-03-31' }],
    });
    expect(balance(input({ movements: taken, asOf: date('2026-04-01') }))).toEqual({ balance: 26, expiring: [] });
  });

  test('accruals by month add up to the yearly entitlement, with no drift from rounding', () => {
    fc.assert(
      fc.property(anyPlan, plan => {
        const asOf = date('2025-12-31');
        const yearly = balance(
          input({ plan: { ...plan, carryOver: null, accrual: 'yearly', yearStart: '01-01' }, asOf }),
        );
        for (const accrual of ['monthly-in-advance', 'monthly-in-arrears'] as const) {
          const monthly = balance(input({ plan: { ...plan, carryOver: null, accrual, yearStart: '01-01' }, asOf }));
          expect(monthly.balance).toBe(yearly.balance);
        }
      }),
    );
  });

  test('the running balance of a statement is the sum of its lines, and its last is the balance', () => {
    const movement = fc.record({
      date: fc
        .integer({ min: 0, max: 1400 })
        .map(n => date(new Date(Date.UTC(2022, 0, 1) + n * 86_400_000).toISOString().slice(0, 10))),
      kind: fc.constantFrom('taken' as const, 'adjustment' as const),
      amount: fc.integer({ min: 0, max: 20 }).map(n => n / 2),
    });
    fc.assert(
      fc.property(anyPlan, fc.array(movement, { maxLength: 12 }), (plan, movements) => {
        const worked = statementFor(input({ plan: plan, movements }));
        let sum = 0;
        for (const line of worked.lines) {
          sum += line.amount;
          expect(line.balance).toBeCloseTo(sum, 9);
        }
        expect(worked.balance).toBeCloseTo(sum, 9);
      }),
    );
  });

  test('nothing accrues after leaving, and a year end after leaving does nothing', () => {
    const left = { ...person, left: date('2025-06-30') };
    const at = (asOf: string) => balance(input({ person: left, asOf: date(asOf) })).balance;
    expect(at('2025-06-30')).toBe(at('2030-01-01'));
  });
});

describe('fractions', () => {
  test('a decimal is what was written, and sums are exact', () => {
    expect(decimal(0.1)).toEqual(fraction(1n, 10n));
    expect(decimal(1e-7)).toEqual(fraction(1n, 10_000_000n));
    expect(toNumber(plus(decimal(0.1), decimal(0.2)))).toBe(0.3);
    expect(compare(decimal(-0.25), decimal(0.25))).toBe(-1);
  });

  test.each([
    ['nearest', 2.25, 2.5],
    ['nearest', -2.25, -2],
    ['up', 2.01, 2.5],
    ['down', -0.1, -0.5],
  ] as const)('rounding %s takes %d to %d', (mode, value, rounded) => {
    expect(toNumber(roundTo(decimal(value), decimal(0.5), mode))).toBe(rounded);
  });
});
