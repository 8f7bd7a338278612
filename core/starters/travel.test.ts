import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Answers, ReferenceList } from '../form/index.ts';
import type { Amount } from '../formula/index.ts';
import { bookOf, contextFor, date, index, person } from '../testing/house.ts';
import { addDays } from '../time/index.ts';
import { evaluateFigures, fillIn, findings, houseListsOf, rename, usesOfName, withPosts } from '../workflow/index.ts';
import { crossing, expenses } from './travel.ts';

const { definition } = crossing;
const allowances: ReferenceList = {
  id: 'allowances',
  name: 'Allowances',
  columns: [
    { id: 'rate', label: 'Rate', kind: 'money' },
    { id: 'bed', label: 'Bed at most', kind: 'money' },
  ],
  rows: [{ id: 'ovay', title: 'Ovay Station', cells: { rate: 28, bed: 80 } }],
};
const programmes: ReferenceList = {
  id: 'programmes',
  name: 'Programmes',
  columns: [{ id: 'lead', label: 'Lead', kind: 'text' }],
  rows: [{ id: 'tide', title: 'Tide gauges', cells: { lead: 'tom' } }],
};
const lists = withPosts(index, [allowances, programmes]);
const facts = { book: bookOf(), asker: person('ina'), lists };
const place = index.directory.places.find(one => one.name === 'Ovay Station')?.id ?? '';

/** A moment on the wall: so many minutes after the first midnight. */
const monday = date('2026-03-09');
const at = (minutes: number) => ({
  on: addDays(monday, Math.floor(minutes / 1440)),
  time: `${String(Math.floor((minutes % 1440) / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`,
});
const leg = (leaves: number, arrives: number, price = 10) => ({
  from: 'A',
  'leaves-on': at(leaves).on,
  leaves: at(leaves).time,
  by: 'Ferry',
  to: 'B',
  'arrives-on': at(arrives).on,
  arrives: at(arrives).time,
  price,
  booking: null,
});
const trip = (legs: readonly ReturnType<typeof leg>[], more: object = {}): Answers =>
  ({
    programme: 'tide',
    lead: 'tom',
    to: place,
    dates: { from: monday, to: addDays(monday, 9) },
    legs,
    lodging: [],
    ...more,
  }) as never;
const figures = (answers: Answers) =>
  evaluateFigures(definition, answers, facts).figures as Record<string, Amount & number>;

/** Hours of each day away, by the plainest means. */
function partsOf(first: number, last: number): number[] {
  const days: number[] = [];
  for (let day = Math.floor(first / 1440); day <= Math.floor(last / 1440); day++) {
    const minutes = Math.min(last, (day + 1) * 1440) - Math.max(first, day * 1440);
    days.push(minutes >= 720 ? 1 : minutes >= 360 ? 0.5 : 0);
  }
  return days;
}

describe('the allowance of a trip', () => {
  const minutes = fc.integer({ min: 0, max: 9 * 1440 });
  const moments = fc.uniqueArray(minutes, { minLength: 2, maxLength: 6 }).map(all => {
    const sorted = all.sort((a, b) => a - b);
    return sorted.length % 2 === 0 ? sorted : sorted.slice(1);
  });

  test('is the sum of its days, whatever the order of the rows', () => {
    fc.assert(
      fc.property(moments, fc.infiniteStream(fc.nat()), (all, order) => {
        const legs = all.flatMap((start, n) => (n % 2 === 0 ? [leg(start, all[n + 1])] : []));
        const shuffled = legs.map(one => [order.next().value as number, one] as const).sort(([a], [b]) => a - b);
        const parts = partsOf(all[0], all[all.length - 1]);
        const days = parts.reduce((sum, part) => sum + part, 0);
        for (const rows of [legs, shuffled.map(([, one]) => one)]) {
          const found = figures(trip(rows));
          expect(found['day-parts']).toBe(days);
          // In cents, each day for itself.
          const cents = parts.reduce((sum, part) => sum + Math.round(part * 2800), 0);
          expect(Math.round(found.allowance.amount * 100)).toBe(cents);
        }
      }),
      { numRuns: 150 },
    );
  });

  test('is the same when a leg is cut at midnight', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1439 }), fc.integer({ min: 1, max: 1439 }), (before, after) => {
        const [start, end] = [1440 - before, 1440 + after];
        const whole = figures(trip([leg(start, end, 20)]));
        const cut = figures(trip([leg(start, 1440, 20), leg(1440, end, 0)]));
        expect([cut['day-parts'], cut.allowance, cut.cost]).toEqual([whole['day-parts'], whole.allowance, whole.cost]);
      }),
    );
  });

  test('and all amounts add up to the smallest unit', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 100_000 }), { minLength: 1, maxLength: 12 }), cents => {
        const legs = cents.map((price, n) => leg(n * 60, n * 60 + 30, price / 100));
        const found = figures(trip(legs));
        expect(Math.round(found.cost.amount * 100)).toBe(cents.reduce((a, b) => a + b, 0));
        const paid = found.house.amount + found.own.amount;
        expect(Math.round(paid * 100)).toBe(Math.round((found.cost.amount + found.allowance.amount) * 100));
      }),
      { numRuns: 100 },
    );
  });
});

describe('what is wrong with a trip is said at its rows', () => {
  const house = houseListsOf(contextFor('ina', { lists: [allowances, programmes] }));
  const faults = (answers: object) => {
    const read = fillIn(
      definition,
      'ask',
      {},
      {
        ...trip([leg(500, 600), leg(2000, 2100)]),
        dates: { from: monday, to: addDays(monday, 1) },
        lodging: [night(0, 1)],
        ...answers,
      },
      facts,
      house,
    );
    return read.ok ? [] : read.faults.map(fault => fault.message);
  };
  const night = (first: number, leave: number) => ({
    where: 'Inn',
    first: addDays(monday, first),
    leave: addDays(monday, leave),
    price: 70,
    booking: null,
  });
  test.each<[string, object, string | null]>([
    ['a good one', {}, null],
    [
      'a return before the way out',
      { legs: [leg(2000, 2100), leg(500, 600)] },
      'A leg leaves before the one above it has arrived.',
    ],
    [
      'two legs at once',
      { legs: [leg(500, 900), leg(800, 1000)] },
      'A leg leaves before the one above it has arrived.',
    ],
    [
      'a leg that arrives before it leaves',
      { legs: [{ ...leg(2000, 2100), 'arrives-on': monday }] },
      'A leg arrives before it leaves.',
    ],
    ['a leg without its price', { legs: [{ ...leg(500, 600), price: null }] }, 'Say of every leg'],
    ['a night without a bed', { lodging: [] }, 'There is a night without a bed.'],
    ['a night on board is one', { legs: [leg(1300, 1500), leg(2000, 2100)], lodging: [] }, null],
    ['two beds for a night', { lodging: [night(0, 1), night(0, 1)] }, 'Two beds are taken for the same night.'],
    ['legs beyond the days away', { legs: [leg(500, 600), leg(4500, 4600)] }, 'The legs go beyond the days away.'],
  ])('%s', (_, change, message) => {
    const said = faults(change);
    if (message === null) expect(said).toEqual([]);
    else expect(said.join(' ')).toContain(message);
  });

  test('a rate that is missing leaves its figures not known, and the rest stand', () => {
    const elsewhere = evaluateFigures(definition, trip([leg(500, 600)]), {
      ...facts,
      lists: withPosts(index, [programmes]),
    });
    expect(elsewhere.figures).toMatchObject({ allowance: null, house: null, cost: { amount: 10, currency: 'EUR' } });
  });
});

describe('what was paid on a trip', () => {
  const rates: ReferenceList = {
    id: 'rates',
    name: 'Rates',
    columns: [{ id: 'for-one-euro', label: 'For one euro', kind: 'number' }],
    rows: [{ id: 'nok', title: 'NOK', cells: { 'for-one-euro': 11.5 }, from: monday }],
  };
  const known = { ...facts, lists: withPosts(index, [allowances, rates]) };
  const receipt = (sum: number | null, currency: string | null = 'EUR', day = 0) => ({
    day: addDays(monday, day),
    what: 'Meal',
    sum,
    currency,
    note: null,
  });
  const claim = (receipts: readonly object[]) =>
    ({
      to: place,
      dates: { from: monday, to: addDays(monday, 2) },
      receipts,
      papers: [{ id: 'f1', name: 'receipts.pdf', size: 10, type: 'application/pdf' }],
    }) as never;
  const house = houseListsOf(contextFor('ina', { lists: [allowances, rates] }));

  test('is added up to the cent, by the rate of each day', () => {
    const { figures: found } = evaluateFigures(
      expenses.definition,
      claim([receipt(0.1), receipt(0.2), receipt(1150, 'NOK')]),
      known,
    );
    expect(found.paid).toEqual({ amount: 100.3, currency: 'EUR' });
  });

  test.each<[string, object[], string | null]>([
    ['a good one', [receipt(12.5)], null],
    ['a receipt without its sum', [receipt(null)], 'Say of every receipt'],
    ['a sum of nothing', [receipt(0)], 'more than nothing'],
    ['a day after the trip', [receipt(5, 'EUR', 3)], 'outside of the trip'],
    ['a currency whose rate is not known on its day', [receipt(5, 'ISK')], 'no rate'],
  ])('%s', (_, receipts, message) => {
    const read = fillIn(expenses.definition, 'ask', {}, claim(receipts), known, house);
    const said = read.ok ? [] : read.faults.map(fault => fault.message);
    if (message === null) expect(said).toEqual([]);
    else expect(said.join(' ')).toContain(message);
  });
});

describe.each([crossing, expenses])('a name of $definition.name', ({ definition: own }) => {
  const names = [...own.form.fields.map(field => field.label), ...own.figures.map(figure => figure.name)];
  test.each(names.map(name => [name]))('%s is found wherever it is written, and changed there', name => {
    const changed = rename(own, name, 'Qqq');
    expect(findings(changed).filter(one => !one.id.startsWith('undelivered'))).toEqual([]);
    expect(JSON.stringify(changed)).not.toContain(`{${name}}`);
    const places = JSON.stringify(changed).split('Qqq').length - 1;
    // Its own label, and every place at which it is used.
    expect(usesOfName(own, name).length > 0).toBe(places > 1);
    expect(rename(changed, 'Qqq', name)).toEqual(own);
  });
});
