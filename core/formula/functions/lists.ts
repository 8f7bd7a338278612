/** Functions of lists (FEEL 10.3.4.4). */
import type { Meter } from '../meter.ts';
import { atomOf, commonOf, itemsOf, type Type } from '../type.ts';
import { exact, plus, total } from '../values/decimal.ts';
import { DaysDuration, MonthsDuration } from '../values/duration.ts';
import { Money } from '../values/money.ts';
import { type FunctionValue, inOrder, same, type Value } from '../values/value.ts';
import { type BuiltIn, type Form, form, parameter } from './signature.ts';
import { part } from './texts.ts';

const anyList = parameter('list', 'list');
const position = parameter('position', 'number');

const sameList = ([type]: readonly Type[]): Type => (atomOf(type ?? 'list') === 'list' ? type : { list: type });

/** A function of all values, given as one list or one after another. */
function ofAll(
  of: Type,
  gives: Form['gives'],
  work: (all: readonly Value[], meter: Meter) => Value,
  twoByTwo?: (a: number, b: number) => number,
): Form[] {
  return [
    form([parameter('list', { list: of }, 'unknown')], gives, ([all], meter) =>
      Array.isArray(all) ? work(all as Value[], meter) : null,
    ),
    {
      ...form([parameter('list', of, 'many', 'unknown')], gives, (all, meter) => work(all, meter)),
      ...(twoByTwo ? { twoByTwo } : {}),
    },
  ];
}

const given = (types: readonly Type[]): Type => commonOf(types.map(itemsOf));

/** Numbers, or amounts of one currency and numbers, brought to one answer; nothing where one of them is neither. */
function counted(all: readonly Value[], work: (numbers: number[]) => number | null): Value {
  if (all.length === 0) return null;
  let currency: string | undefined;
  const numbers: number[] = [];
  for (const one of all) {
    if (typeof one === 'number') numbers.push(one);
    else if (one instanceof Money) {
      if (currency !== undefined && currency !== one.currency) return null;
      currency = one.currency;
      numbers.push(one.amount);
    } else return null;
  }
  const answer = work(numbers);
  return answer === null ? null : currency === undefined ? answer : new Money(answer, currency);
}

function added(all: readonly Value[]): Value {
  if (all.length > 0 && all.every(one => one instanceof DaysDuration))
    return new DaysDuration((all as DaysDuration[]).reduce((sum, one) => sum + one.ms, 0));
  if (all.length > 0 && all.every(one => one instanceof MonthsDuration))
    return new MonthsDuration((all as MonthsDuration[]).reduce((sum, one) => sum + one.months, 0));
  return counted(all, total);
}

/** The first or the last of all in their order; nothing where two of them have none. */
function extreme(all: readonly Value[], sign: 1 | -1): Value {
  let best: Value = null;
  for (const one of all) {
    if (one === null) return null;
    if (typeof one === 'number' && typeof best === 'number') {
      if ((one - best) * sign < 0) best = one;
      continue;
    }
    if (best === null) best = one;
    const order = inOrder(one, best);
    if (order === null) return null;
    if (order * sign < 0) best = one;
  }
  return best;
}

const mean = (numbers: number[]): number => exact(total(numbers) / numbers.length);

function median(numbers: number[]): number {
  const sorted = [...numbers].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half] : exact((sorted[half - 1] + sorted[half]) / 2);
}

function deviation(numbers: number[]): number | null {
  if (numbers.length < 2) return null;
  const middle = total(numbers) / numbers.length;
  return exact(Math.sqrt(total(numbers.map(n => (n - middle) ** 2)) / (numbers.length - 1)));
}

function mode(all: readonly Value[]): Value {
  const often = new Map<number, number>();
  for (const one of all) {
    if (typeof one !== 'number') return null;
    often.set(one, (often.get(one) ?? 0) + 1);
  }
  const most = Math.max(...often.values());
  return [...often]
    .filter(([, n]) => n === most)
    .map(([one]) => one)
    .sort((a, b) => a - b);
}

const isSame = (a: Value, b: Value): boolean => same(a, b) === true;

/** Each value once, in the order of its first place. */
function once(all: readonly Value[], meter: Meter): Value[] {
  const plain = new Set<Value>();
  const kept: Value[] = [];
  const others: Value[] = [];
  for (const one of all) {
    const isPlain = one === null || typeof one !== 'object';
    meter.spend(isPlain ? 1 : 1 + 4 * others.length);
    if (isPlain ? plain.has(one) : others.some(other => isSame(other, one))) continue;
    if (isPlain) plain.add(one);
    else others.push(one);
    kept.push(one);
  }
  return meter.list(kept);
}

function flat(all: readonly Value[], meter: Meter, into: Value[] = []): Value[] {
  return meter.inside(() => {
    for (const one of all) {
      if (Array.isArray(one)) flat(one as Value[], meter, into);
      else into.push(one);
    }
    return meter.list(into);
  });
}

const innermost = (type: Type): Type => {
  const inner = itemsOf(type);
  return atomOf(inner) === 'list' ? innermost(inner) : inner;
};

const logic = (all: readonly Value[], settles: boolean): boolean | null => {
  if (all.includes(settles)) return settles;
  return all.every(one => typeof one === 'boolean') ? !settles : null;
};

const number = 'number' as const;
const amount: Type = { either: ['number', 'money'] };
const addable: Type = { either: ['number', 'money', 'days and time duration', 'years and months duration'] };

export const listFunctions = {
  'list contains': {
    help: 'whether a value is among several',
    example: ['list contains([1, 2, 3], 2)', 'true'],
    forms: [
      form([anyList, parameter('element', 'anything', 'unknown')], 'yes/no', ([all, one], meter) => {
        meter.spend((all as Value[]).length);
        return (all as Value[]).some(other => isSame(other, one));
      }),
    ],
  },
  'list replace': {
    help: 'a list with another value at a place, or wherever a function of the old and the new one says yes',
    example: ['list replace([2, 4, 7], 3, 6)', '[2, 4, 6]'],
    forms: [
      form([anyList, position, parameter('newItem', 'anything', 'unknown')], sameList, ([all, at, by]) => {
        const items = [...(all as Value[])];
        const place = at as number;
        const index = place > 0 ? place - 1 : items.length + place;
        if (!Number.isInteger(place) || place === 0 || index < 0 || index >= items.length) return null;
        items[index] = by;
        return items;
      }),
      form(
        [anyList, parameter('match', { takes: 2, gives: 'yes/no' }), parameter('newItem', 'anything', 'unknown')],
        sameList,
        ([all, match, by]) =>
          (all as Value[]).map(one => ((match as FunctionValue).work([one, by]) === true ? by : one)),
      ),
    ],
  },
  count: {
    help: 'how many there are',
    example: ['count([4, 5, 6])', '3'],
    forms: [form([anyList], number, ([all]) => (all as Value[]).length)],
  },
  min: {
    help: 'the smallest of the values',
    example: ['min(3, 1, 2)', '1'],
    forms: ofAll('anything', given, all => extreme(all, 1), Math.min),
  },
  max: {
    help: 'the largest of the values',
    example: ['max(3, 1, 2)', '3'],
    forms: ofAll('anything', given, all => extreme(all, -1), Math.max),
  },
  sum: {
    help: 'all numbers or amounts of a column added up: sum(Costs.Amount)',
    example: ['sum([1.5, 2])', '3.5'],
    forms: ofAll(addable, given, added, plus),
  },
  mean: {
    help: 'the average',
    example: ['mean([1, 2, 6])', '3'],
    forms: ofAll(amount, given, all => counted(all, mean)),
  },
  median: {
    help: 'the value in the middle',
    example: ['median([8, 2, 5, 3, 4])', '4'],
    forms: ofAll(amount, given, all => counted(all, median)),
  },
  stddev: {
    help: 'how far values lie from their average (standard deviation of a sample)',
    example: ['stddev([1, 2, 3])', '1'],
    forms: ofAll(number, number, all => counted(all, deviation)),
  },
  mode: {
    help: 'the values that are there most often, the smallest first',
    example: ['mode([6, 1, 9, 6, 1])', '[1, 6]'],
    forms: ofAll(number, { list: number }, mode),
  },
  product: {
    help: 'all numbers multiplied',
    example: ['product([2, 3, 4])', '24'],
    forms: ofAll(number, number, all => counted(all, numbers => exact(numbers.reduce((a, b) => exact(a * b), 1)))),
  },
  all: {
    help: 'whether all are yes',
    example: ['all([true, false])', 'false'],
    forms: ofAll('yes/no', 'yes/no', all => logic(all, false)),
  },
  any: {
    help: 'whether one is yes',
    example: ['any([true, false])', 'true'],
    forms: ofAll('yes/no', 'yes/no', all => logic(all, true)),
  },
  sublist: {
    help: 'part of a list, from a place on; places are counted from 1, or from the end with -1',
    example: ['sublist([4, 5, 6], 1, 2)', '[4, 5]'],
    forms: [
      form(
        [anyList, parameter('start position', 'number'), parameter('length', 'number', 'optional')],
        sameList,
        ([all, start, length]) => part(all as Value[], start as number, length),
      ),
    ],
  },
  append: {
    help: 'a list with more at its end',
    example: ['append([1], 2, 3)', '[1, 2, 3]'],
    forms: [
      form(
        [anyList, parameter('item', 'anything', 'many', 'unknown')],
        types => ({ list: commonOf([itemsOf(types[0]), ...types.slice(1)]) }),
        ([all, ...more], meter) => meter.list([...(all as Value[]), ...more]),
      ),
    ],
  },
  concatenate: {
    help: 'lists one after another',
    example: ['concatenate([1, 2], [3])', '[1, 2, 3]'],
    forms: [
      form(
        [parameter('list', 'list', 'many')],
        types => ({ list: given(types) }),
        (lists, meter) => meter.list((lists as Value[][]).flat(1)),
      ),
    ],
  },
  'insert before': {
    help: 'a list with one more before a place',
    example: ['insert before([1, 3], 2, 2)', '[1, 2, 3]'],
    forms: [
      form(
        [anyList, position, parameter('newItem', 'anything', 'unknown')],
        types => ({ list: commonOf([itemsOf(types[0]), types[2]]) }),
        ([all, at, one], meter) => {
          const items = [...(all as Value[])];
          const place = at as number;
          const index = place > 0 ? place - 1 : items.length + place;
          if (!Number.isInteger(place) || place === 0 || index < 0 || index > items.length) return null;
          items.splice(index, 0, one);
          return meter.list(items);
        },
      ),
    ],
  },
  remove: {
    help: 'a list without what stands at a place',
    example: ['remove([1, 2, 3], 2)', '[1, 3]'],
    forms: [
      form([anyList, position], sameList, ([all, at]) => {
        const items = [...(all as Value[])];
        const place = at as number;
        const index = place > 0 ? place - 1 : items.length + place;
        if (!Number.isInteger(place) || place === 0 || index < 0 || index >= items.length) return null;
        items.splice(index, 1);
        return items;
      }),
    ],
  },
  reverse: {
    help: 'a list from its end to its beginning',
    example: ['reverse([1, 2, 3])', '[3, 2, 1]'],
    forms: [form([anyList], sameList, ([all]) => [...(all as Value[])].reverse())],
  },
  'index of': {
    help: 'the places at which a value stands',
    example: ['index of([1, 2, 1], 1)', '[1, 3]'],
    forms: [
      form([anyList, parameter('match', 'anything', 'unknown')], { list: number }, ([all, match]) =>
        (all as Value[]).flatMap((one, i) => (isSame(one, match) ? [i + 1] : [])),
      ),
    ],
  },
  union: {
    help: 'lists one after another, each value once',
    example: ['union([1, 2], [2, 3])', '[1, 2, 3]'],
    forms: [
      form(
        [parameter('list', 'list', 'many')],
        types => ({ list: given(types) }),
        (lists, meter) => once((lists as Value[][]).flat(1), meter),
      ),
    ],
  },
  'distinct values': {
    help: 'each value once',
    example: ['distinct values([1, 2, 1])', '[1, 2]'],
    forms: [form([anyList], sameList, ([all], meter) => once(all as Value[], meter))],
  },
  flatten: {
    help: 'a list with what stands in the lists inside of it',
    example: ['flatten([1, [2, [3]]])', '[1, 2, 3]'],
    forms: [
      form(
        [anyList],
        ([type]) => ({ list: innermost(type) }),
        ([all], meter) => flat(all as Value[], meter),
      ),
    ],
  },
  sort: {
    help: 'a list in an order: the function says whether the first comes before the second',
    example: ['sort([3, 1, 2], function(a, b) a < b)', '[1, 2, 3]'],
    forms: [
      form([anyList, parameter('precedes', { takes: 2, gives: 'yes/no' })], sameList, ([all, precedes]) =>
        [...(all as Value[])].sort((a, b) => {
          if ((precedes as FunctionValue).work([a, b]) === true) return -1;
          return (precedes as FunctionValue).work([b, a]) === true ? 1 : 0;
        }),
      ),
    ],
  },
} as const satisfies Record<string, BuiltIn>;
