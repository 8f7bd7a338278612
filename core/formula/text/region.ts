/**
 * Where conditions hold, worked out exactly and not by sampling: every condition becomes a union of boxes, a box gives
 * each name the values it may have. What is no comparison with a fixed value is one opaque yes-or-no of its own.
 */
import { fromDay, toDay } from '../../time/index.ts';
import type { Type } from '../type.ts';
import { readFormula } from './reader.ts';
import { type Comparator, type Expression, eachPart, type Test } from './tree.ts';

type Interval = { low: number; lowOpen: boolean; high: number; highOpen: boolean };
type NumberSet = { kind: 'number' | 'date'; intervals: Interval[] };
/** Texts and yes/no: these only, or all but these. */
type WordSet = { kind: 'words'; only: boolean; words: ReadonlySet<string> };
type Values = NumberSet | WordSet;
type Box = ReadonlyMap<string, Values>;

/** Names whose values are whole numbers, so that nothing lies between 3 and 4. */
export type Domain = { readonly names: Readonly<Record<string, Type>>; readonly whole: ReadonlySet<string> };

/** Unions larger than this are not followed; nothing is claimed about them. */
const mostBoxes = 3000;
class TooMany extends Error {}

const everything: Interval = { low: -Infinity, lowOpen: true, high: Infinity, highOpen: true };
const isEmptyInterval = (i: Interval): boolean => i.low > i.high || (i.low === i.high && (i.lowOpen || i.highOpen));

function meetIntervals(a: Interval, b: Interval): Interval {
  const [low, lowOpen] =
    a.low > b.low ? [a.low, a.lowOpen] : a.low < b.low ? [b.low, b.lowOpen] : [a.low, a.lowOpen || b.lowOpen];
  const [high, highOpen] =
    a.high < b.high
      ? [a.high, a.highOpen]
      : a.high > b.high
        ? [b.high, b.highOpen]
        : [a.high, a.highOpen || b.highOpen];
  return { low, lowOpen, high, highOpen };
}

/** Over whole numbers an open end is the next number's closed end. */
function tighten(i: Interval): Interval {
  const low = Number.isFinite(i.low) ? (Number.isInteger(i.low) && i.lowOpen ? i.low + 1 : Math.ceil(i.low)) : i.low;
  const high = Number.isFinite(i.high)
    ? Number.isInteger(i.high) && i.highOpen
      ? i.high - 1
      : Math.floor(i.high)
    : i.high;
  return { low, lowOpen: !Number.isFinite(low), high, highOpen: !Number.isFinite(high) };
}

function meetWords(a: WordSet, b: WordSet): WordSet {
  if (a.only && b.only) return { kind: 'words', only: true, words: new Set([...a.words].filter(w => b.words.has(w))) };
  if (a.only) return { kind: 'words', only: true, words: new Set([...a.words].filter(w => !b.words.has(w))) };
  if (b.only) return meetWords(b, a);
  return { kind: 'words', only: false, words: new Set([...a.words, ...b.words]) };
}

function meet(a: Values, b: Values, whole: boolean): Values | null {
  if (a.kind === 'words' || b.kind === 'words') {
    if (a.kind !== b.kind) return null;
    const words = meetWords(a as WordSet, b as WordSet);
    return words.only && words.words.size === 0 ? null : words;
  }
  const intervals: Interval[] = [];
  for (const x of a.intervals) {
    for (const y of b.intervals) {
      const both = whole ? tighten(meetIntervals(x, y)) : meetIntervals(x, y);
      if (!isEmptyInterval(both)) intervals.push(both);
    }
  }
  return intervals.length > 0 ? { kind: a.kind, intervals } : null;
}

function meetBoxes(a: Box, b: Box, domain: Domain): Box | null {
  const met = new Map(a);
  for (const [name, values] of b) {
    const mine = met.get(name);
    const both = mine ? meet(mine, values, isWhole(name, domain)) : values;
    if (!both) return null;
    met.set(name, both);
  }
  return met;
}

const isWhole = (name: string, { whole, names }: Domain): boolean => whole.has(name) || names[name] === 'date';

function meetUnions(a: readonly Box[], b: readonly Box[], domain: Domain): Box[] {
  const met: Box[] = [];
  for (const x of a) {
    for (const y of b) {
      const both = meetBoxes(x, y, domain);
      if (both) met.push(both);
      if (met.length > mostBoxes) throw new TooMany();
    }
  }
  return met;
}

const opposite: Record<Comparator, Comparator> = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '=': '!=', '!=': '=' };
const turned: Record<Comparator, Comparator> = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '=': '=', '!=': '!=' };

function intervalsOf(comparator: Comparator, v: number): Interval[] {
  switch (comparator) {
    case '<':
      return [{ ...everything, high: v }];
    case '<=':
      return [{ ...everything, high: v, highOpen: false }];
    case '>':
      return [{ ...everything, low: v }];
    case '>=':
      return [{ ...everything, low: v, lowOpen: false }];
    case '=':
      return [{ low: v, lowOpen: false, high: v, highOpen: false }];
    case '!=':
      return [
        { ...everything, high: v },
        { ...everything, low: v },
      ];
  }
}

type Fixed = { kind: 'number' | 'date'; value: number } | { kind: 'words'; value: string };

function fixed(e: Expression): Fixed | undefined {
  switch (e.kind) {
    case 'number':
      return { kind: 'number', value: e.value };
    case 'negate': {
      const inner = fixed(e.of);
      return inner?.kind === 'number' ? { kind: 'number', value: -inner.value } : undefined;
    }
    case 'date':
      return { kind: 'date', value: toDay(e.value) };
    case 'text':
      return { kind: 'words', value: e.value };
    case 'yes/no':
      return { kind: 'words', value: String(e.value) };
    default:
      return undefined;
  }
}

class Regions {
  readonly #source: string;
  readonly #domain: Domain;
  constructor(source: string, domain: Domain) {
    this.#source = source;
    this.#domain = domain;
  }

  #opaque(e: Expression, holds: boolean): Box[] {
    const key = `(${this.#source.slice(e.from, e.to).replace(/\s+/g, ' ').trim()})`;
    return [new Map([[key, { kind: 'words', only: true, words: new Set([String(holds)]) }]])];
  }

  #atom(name: string, comparator: Comparator, value: Fixed): Box[] | undefined {
    if (value.kind === 'words') {
      if (comparator !== '=' && comparator !== '!=') return undefined;
      const isYesNo = this.#domain.names[name] === 'yes/no';
      // Of yes and no, not the one is the other.
      const words =
        isYesNo && comparator === '!='
          ? { only: true, words: new Set([value.value === 'true' ? 'false' : 'true']) }
          : { only: comparator === '=', words: new Set([value.value]) };
      return [new Map([[name, { kind: 'words', ...words }]])];
    }
    const intervals = intervalsOf(comparator, value.value);
    const tight = isWhole(name, this.#domain) ? intervals.map(tighten) : intervals;
    return [new Map([[name, { kind: value.kind, intervals: tight }]])];
  }

  #compare(e: Expression, left: Expression, comparator: Comparator, right: Expression, holds: boolean): Box[] {
    const [name, value, c] =
      left.kind === 'name' ? [left, fixed(right), comparator] : [right, fixed(left), turned[comparator]];
    const boxes = name.kind === 'name' && value ? this.#atom(name.name, holds ? c : opposite[c], value) : undefined;
    return boxes ?? this.#opaque(e, holds);
  }

  #test(e: Expression, of: Expression, test: Test, holds: boolean): Box[] {
    if (test.kind === 'interval') {
      const low = this.#compare(e, of, test.lowOpen ? '>' : '>=', test.low, holds);
      const high = this.#compare(e, of, test.highOpen ? '<' : '<=', test.high, holds);
      return holds ? meetUnions(low, high, this.#domain) : [...low, ...high];
    }
    return this.#compare(e, of, test.kind === 'compare' ? test.comparator : '=', test.value, holds);
  }

  /** The boxes in which an expression is yes, or in which it is no. */
  of(e: Expression, holds: boolean): Box[] {
    switch (e.kind) {
      case 'yes/no':
        return e.value === holds ? [new Map()] : [];
      case 'name':
        return [new Map([[e.name, { kind: 'words', only: true, words: new Set([String(holds)]) }]])];
      case 'and':
      case 'or': {
        const left = this.of(e.left, holds);
        const right = this.of(e.right, holds);
        return (e.kind === 'and') === holds ? meetUnions(left, right, this.#domain) : [...left, ...right];
      }
      case 'call':
        if (e.name === 'not' && e.args.length === 1) return this.of(e.args[0].value, !holds);
        return this.#opaque(e, holds);
      case 'compare':
        return this.#compare(e, e.left, e.comparator, e.right, holds);
      case 'between': {
        const low = this.#compare(e, e.of, '>=', e.low, holds);
        const high = this.#compare(e, e.of, '<=', e.high, holds);
        return holds ? meetUnions(low, high, this.#domain) : [...low, ...high];
      }
      case 'in': {
        const tests = e.tests.map(test => this.#test(e, e.of, test, holds));
        if (holds) return tests.flat();
        return tests.reduce((all, one) => meetUnions(all, one, this.#domain), [new Map()] as Box[]);
      }
      default:
        return this.#opaque(e, holds);
    }
  }
}

function sampleOf(values: Values): string {
  if (values.kind === 'words') {
    const [first] = values.words;
    if (values.only) return first === 'true' ? 'yes' : first === 'false' ? 'no' : `“${first}”`;
    return `anything but ${[...values.words].map(w => `“${w}”`).join(', ')}`;
  }
  const [{ low, lowOpen, high, highOpen }] = values.intervals;
  let value: number;
  if (!lowOpen) value = low;
  else if (!highOpen) value = high;
  else if (Number.isFinite(low) && Number.isFinite(high)) value = (low + high) / 2;
  else if (Number.isFinite(low)) value = low + 1;
  else value = Number.isFinite(high) ? high - 1 : 0;
  return values.kind === 'date' ? fromDay(value) : String(value);
}

/** A case in words: `Days is 5, Kind is “Annual”`. */
const caseWords = (box: Box): string =>
  [...box]
    .map(([name, values]) => {
      const sample = sampleOf(values);
      return name.startsWith('(') ? `${name.slice(1, -1)} is ${sample}` : `${name} is ${sample}`;
    })
    .join(', ') || 'any answers';

export type TableReading = {
  /** Rows that no case reaches, because earlier rows have them all or their condition never holds. */
  never: number[];
  /** A case that no row takes; nothing when every case is taken. */
  gap: string | null;
  /** Pairs of rows that some case fits both of, with that case. */
  overlaps: { rows: [number, number]; example: string }[];
};

/**
 * Reads a table of conditions of which the first that holds counts.
 * @returns nothing when a condition cannot be read, or when there are more cases than can be followed
 */
export function readTable(conditions: readonly string[], domain: Domain): TableReading | undefined {
  try {
    const rows = conditions.map(source => {
      const reading = readFormula(source, domain.names);
      if (!reading.ok) throw new TooMany();
      const regions = new Regions(source, domain);
      return { yes: regions.of(reading.tree, true), no: regions.of(reading.tree, false) };
    });
    const never: number[] = [];
    const overlaps: TableReading['overlaps'] = [];
    let left: Box[] = [new Map()];
    rows.forEach((row, i) => {
      if (meetUnions(left, row.yes, domain).length === 0) never.push(i);
      for (let j = 0; j < i; j++) {
        if (never.includes(j) || never.includes(i)) continue;
        const [both] = meetUnions(rows[j].yes, row.yes, domain);
        if (both) overlaps.push({ rows: [j, i], example: caseWords(both) });
      }
      left = meetUnions(left, row.no, domain);
    });
    return { never, gap: left.length > 0 ? caseWords(left[0]) : null, overlaps };
  } catch (fault) {
    if (fault instanceof TooMany) return undefined;
    throw fault;
  }
}

/** Whether a condition can hold at all; true when that cannot be told. */
export function canHold(condition: string, domain: Domain): boolean {
  const reading = readTable([condition], domain);
  return !reading?.never.includes(0);
}

/** The fixed values that a formula compares a name with: where its answer can turn. */
export function boundaries(
  source: string,
  names: Readonly<Record<string, Type>>,
): { name: string; value: number; from: number; to: number }[] {
  const reading = readFormula(source, names);
  if (!reading.ok) return [];
  const found: { name: string; value: number; from: number; to: number }[] = [];
  const compare = (a: Expression, b: Expression) => {
    const [name, value] = a.kind === 'name' ? [a, b] : [b, a];
    const number = fixed(value);
    if (name.kind === 'name' && number?.kind === 'number')
      found.push({ name: name.name, value: number.value, from: value.from, to: value.to });
  };
  eachPart(reading.tree, e => {
    if (e.kind === 'compare' && e.comparator !== '=' && e.comparator !== '!=') compare(e.left, e.right);
    if (e.kind === 'between') {
      compare(e.of, e.low);
      compare(e.of, e.high);
    }
    if (e.kind !== 'in') return;
    for (const test of e.tests) {
      if (test.kind === 'interval') {
        compare(e.of, test.low);
        compare(e.of, test.high);
      } else if (test.kind === 'compare') compare(e.of, test.value);
    }
  });
  return found;
}

/** Divisions by what is always nothing: `x / 0`. */
export function divisionsByNothing(
  source: string,
  names: Readonly<Record<string, Type>>,
): { from: number; to: number }[] {
  const reading = readFormula(source, names);
  if (!reading.ok) return [];
  const found: { from: number; to: number }[] = [];
  eachPart(reading.tree, e => {
    if (e.kind === 'arithmetic' && e.operator === '/' && constant(e.right) === 0)
      found.push({ from: e.from, to: e.to });
  });
  return found;
}

/** The value of an expression of fixed numbers only. */
function constant(e: Expression): number | undefined {
  if (e.kind === 'number') return e.value;
  if (e.kind === 'negate') {
    const of = constant(e.of);
    return of === undefined ? undefined : -of;
  }
  if (e.kind !== 'arithmetic') return undefined;
  const a = constant(e.left);
  const b = constant(e.right);
  if (a === undefined || b === undefined) return undefined;
  switch (e.operator) {
    case '+':
      return a + b;
    case '-':
      return a - b;
    case '*':
      return a * b;
    case '/':
      return b === 0 ? undefined : a / b;
    case '**':
      return a ** b;
  }
}
