/** Lists, rows, ranges, and what goes through them: paths, filters, loops. */
import { type Meter, mostItems, TooMuch } from '../meter.ts';
import { nearest } from '../nearest.ts';
import { both, either } from '../operators.ts';
import { endOfSpan, partOf, partsKnown, partType } from '../paths.ts';
import type { Expression, Through } from '../text/tree.ts';
import { atomOf, common, commonOf, endsOf, entriesOf, fits, itemsOf, spoken, type Type } from '../type.ts';
import { DateValue, isKnownDay } from '../values/moment.ts';
import { Range } from '../values/range.ts';
import { isIn } from '../values/relations.ts';
import { newRow, type Value } from '../values/value.ts';
import { type Bound, type Checked, type Checking, capital, type Frame, nothing, type Run } from './frame.ts';

type Each = (frame: Frame, work: () => boolean) => boolean;

export function checkList(c: Checking, e: Extract<Expression, { kind: 'list' }>): Checked {
  const items = e.items.map(item => c.check(item));
  return {
    type: { list: commonOf(items.map(item => item.type)) },
    run: frame => frame.meter.list(items.map(item => item.run(frame))),
  };
}

/** Each entry may name those before it. */
export function checkRow(c: Checking, e: Extract<Expression, { kind: 'row' }>): Checked {
  const bound: Bound[] = [];
  const entries: { name: string; slot: number; run: Run }[] = [];
  const types: Record<string, Type> = {};
  for (const entry of e.entries) {
    if (Object.hasOwn(types, entry.name)) c.say(entry.nameAt, `“${entry.name}” is there twice.`);
    const { type, run } = c.with(bound, () => c.check(entry.value));
    const slot = c.slot();
    bound.push({ kind: 'name', name: entry.name, slot, type });
    entries.push({ name: entry.name, slot, run });
    Object.defineProperty(types, entry.name, { value: type, enumerable: true });
  }
  return {
    type: { row: types },
    run: frame => {
      const row = newRow();
      for (const { name, slot, run } of entries) {
        const value = run(frame);
        frame.locals[slot] = value;
        row[name] = value;
      }
      frame.meter.spend(entries.length);
      return row;
    },
  };
}

export function checkRange(c: Checking, e: Extract<Expression, { kind: 'range' }>): Checked {
  const { test } = e;
  if (test.kind === 'compare') {
    const { type, run } = c.check(test.value);
    const { comparator } = test;
    c.ordered(type, test.value);
    if (comparator === '=' || comparator === '!=') {
      c.say(e, `Something must stand before “${comparator}”.`);
      return nothing;
    }
    const above = comparator === '>' || comparator === '>=';
    const included = comparator === '>=' || comparator === '<=';
    return {
      type: { range: type },
      run: frame => {
        const value = run(frame);
        if (value === null) return null;
        return above ? new Range(value, null, included, false) : new Range(null, value, false, included);
      },
    };
  }
  const low = c.check(test.low);
  const high = c.check(test.high);
  c.alike(low.type, high.type, e);
  c.ordered(low.type, test.low);
  const ends = common(low.type, high.type) ?? 'anything';
  const { lowOpen, highOpen } = test;
  return {
    type: { range: ends },
    run: frame => {
      const [start, end] = [low.run(frame), high.run(frame)];
      return start === null && end === null ? null : new Range(start, end, !lowOpen, !highOpen);
    },
  };
}

export function checkPath(c: Checking, e: Extract<Expression, { kind: 'path' }>): Checked {
  const of = c.check(e.of);
  const { name } = e;
  const parts = partsKnown(of.type);
  if (!parts)
    return { type: atomOf(of.type) === 'list' ? 'list' : 'anything', run: frame => partOf(of.run(frame), name) };
  if (!Object.hasOwn(parts, name)) {
    const near = nearest(name, Object.keys(parts));
    const what = e.of.kind === 'name' ? `“${e.of.name}”` : capital(spoken(of.type));
    c.say(e.nameAt, `${what} has no “${name}”.${near ? ` Did you mean “${near}”?` : ''}`);
    return nothing;
  }
  const type = partType(of.type, parts[name]);
  if (of.type === 'leave span') return { type, run: frame => endOfSpan(of.run(frame), name) };
  return { type, run: frame => partOf(of.run(frame), name) };
}

/** `list[2]` is an item, `list[item > 2]` those for which it holds. */
export function checkFilter(c: Checking, e: Extract<Expression, { kind: 'filter' }>): Checked {
  const of = c.check(e.of);
  const items = itemsOf(of.type);
  const slot = c.slot();
  const entries = entriesOf(items);
  const isOpen = items === 'anything' || items === 'row';
  const bound: Bound[] = [
    { kind: 'entries', slot, entries: isOpen ? undefined : (entries ?? {}) },
    { kind: 'name', name: 'item', slot, type: items },
  ];
  if (entries && Object.hasOwn(entries, 'item')) bound.reverse();
  const by = c.with(bound, () => c.check(e.by));
  if (atomOf(by.type) === 'number')
    return {
      type: items,
      run: frame => {
        const list = asList(of.run(frame));
        return list && itemAt(list, by.run(frame));
      },
    };
  if (!fits(by.type, 'yes/no'))
    c.say(e.by, `A filter needs yes or no, or the number of an item; this is ${spoken(by.type)}.`);
  return {
    type: atomOf(of.type) === 'list' ? of.type : { list: items },
    run: frame => {
      const list = asList(of.run(frame));
      if (!list) return null;
      const kept: Value[] = [];
      const outside = frame.locals[slot];
      for (let i = 0; i < list.length; i++) {
        frame.meter.spend();
        frame.locals[slot] = list[i];
        const holds = by.run(frame);
        if (holds === true || (typeof holds === 'number' && (holds === i + 1 || holds === i - list.length)))
          kept.push(list[i]);
      }
      frame.locals[slot] = outside;
      return kept;
    },
  };
}

/** The names that loops go through, each of which those after it may look at. */
export function checkLoops(
  c: Checking,
  through: readonly Through[],
  more: readonly Bound[],
): { bound: Bound[]; each: Each } {
  const bound: Bound[] = [...more];
  const loops = through.map(one => {
    const over = c.with(bound, () => c.check(one.over));
    const to = one.to && c.with(bound, () => c.check(one.to as Expression));
    const slot = c.slot();
    const type = to ? over.type : isRangeType(over.type) ? endsOf(over.type) : itemsOf(over.type);
    if (to)
      for (const [end, at] of [
        [over, one.over],
        [to, one.to as Expression],
      ] as const)
        if (!fits(end.type, 'number') && !fits(end.type, 'date'))
          c.say(at, `A loop goes from one number or date to another, this is ${spoken(end.type)}.`);
    bound.push({ kind: 'name', name: one.name, slot, type });
    return { slot, values: valuesOf(over.run, to?.run) };
  });
  const each: Each = (frame, work) => {
    const go = (i: number): boolean => {
      if (i === loops.length) return work();
      const values = loops[i].values(frame);
      if (values === null) return false;
      for (const value of values) {
        frame.meter.spend();
        frame.locals[loops[i].slot] = value;
        if (!go(i + 1)) return false;
      }
      return true;
    };
    return go(0);
  };
  return { bound, each };
}

export function checkFor(c: Checking, e: Extract<Expression, { kind: 'for' }>): Checked {
  const partial = c.slot();
  const { bound, each } = checkLoops(c, e.through, [{ kind: 'name', name: 'partial', slot: partial, type: 'list' }]);
  const gives = c.with(bound, () => c.check(e.gives));
  return {
    type: { list: gives.type },
    run: frame => {
      const made: Value[] = [];
      const whole = each(frame, () => {
        frame.locals[partial] = made;
        const value = gives.run(frame);
        // What has come so far may be part of what comes: it is as it was then.
        if (value === made) frame.meter.spend(made.length);
        made.push(value === made ? [...made] : value);
        return made.length <= mostItems || tooMuch();
      });
      return whole ? made : null;
    },
  };
}

export function checkQuantified(c: Checking, e: Extract<Expression, { kind: 'some' | 'every' }>): Checked {
  const { bound, each } = checkLoops(c, e.through, []);
  const holds = c.with(bound, () => c.want(e.holds, 'yes/no', '“satisfies”'));
  const settles = e.kind === 'some';
  return {
    type: 'yes/no',
    run: frame => {
      let result: Value = !settles;
      let stopped = false;
      const whole = each(frame, () => {
        const one = holds(frame);
        result = settles ? either(result, one) : both(result, one);
        stopped = result === settles;
        return !stopped;
      });
      return whole || stopped ? result : null;
    },
  };
}

function tooMuch(): never {
  throw new TooMuch();
}

const isRangeType = (type: Type): boolean => ['range', 'date range'].includes(atomOf(type));

function asList(value: Value): readonly Value[] | null {
  if (value === null) return null;
  return Array.isArray(value) ? (value as Value[]) : [value];
}

function itemAt(list: readonly Value[], place: Value): Value {
  if (typeof place !== 'number') return null;
  return list[place < 0 ? list.length + place : place - 1] ?? null;
}

/** What a loop goes through: the items of a list, whole numbers or days from one to another, or those of a range. */
function valuesOf(over: Run, to: Run | undefined): (frame: Frame) => readonly Value[] | null {
  return frame => {
    const from = over(frame);
    if (to) return steps(from, to(frame), frame.meter);
    if (from instanceof Range) {
      const { start, end } = from;
      const all = steps(start, end, frame.meter);
      return all?.filter(one => isIn(one, from) === true) ?? null;
    }
    return asList(from);
  };
}

function steps(from: Value, to: Value, meter: Meter): Value[] | null {
  const days = from instanceof DateValue && to instanceof DateValue;
  const [first, last] = days ? [from.day, to.day] : [from, to];
  if (typeof first !== 'number' || typeof last !== 'number') return null;
  if (!days && !(Number.isInteger(first) && Number.isInteger(last))) return null;
  const n = Math.abs(last - first) + 1;
  if (n > mostItems) throw new TooMuch();
  meter.spend(n);
  const step = last >= first ? 1 : -1;
  return Array.from({ length: n }, (_, i) => {
    const at = first + i * step;
    return days ? (isKnownDay(at) ? new DateValue(at) : null) : at;
  });
}
