/** What a function takes and gives, and how values are looked at before it works with them. */

import type { Meter } from '../meter.ts';
import { atomOf, type Type } from '../type.ts';
import { DaysDuration, MonthsDuration } from '../values/duration.ts';
import { DateTimeValue, DateValue, TimeValue } from '../values/moment.ts';
import { Money } from '../values/money.ts';
import { Range } from '../values/range.ts';
import { FunctionValue, isRow, type Value } from '../values/value.ts';

export type Parameter = {
  /** By this name a value may be given too: `substring(string: "abc", start position: 2)`. */
  readonly name: string;
  readonly of: Type;
  readonly optional?: true;
  /** The last one, given as often as one likes. */
  readonly many?: true;
  /** What is not known may be given as well. */
  readonly unknown?: true;
};

export type Work = (args: readonly Value[], meter: Meter) => Value;

/** One way to call a function. */
export type Form = {
  readonly takes: readonly Parameter[];
  readonly gives: Type | ((given: readonly Type[]) => Type);
  readonly work: Work;
  /** The same for one number that is known to be one, without the way around. */
  readonly ofNumber?: (n: number) => Value;
  /** The same for numbers that are known to be some, taken two by two. */
  readonly twoByTwo?: (a: number, b: number) => number;
};

export type BuiltIn = {
  readonly help: string;
  /** A formula and what it gives. */
  readonly example: readonly [formula: string, gives: string];
  readonly forms: readonly Form[];
};

/** `text`, `text?` where it may be left out, `number*` where there may be many, `anything!` where it may be unknown. */
export function parameter(name: string, of: Type, ...marks: readonly ('optional' | 'many' | 'unknown')[]): Parameter {
  return { name, of, ...Object.fromEntries(marks.map(mark => [mark, true])) };
}

export const form = (takes: readonly Parameter[], gives: Form['gives'], work: Work): Form => ({ takes, gives, work });

type Looks = (value: Value) => boolean;

/** Whether a value is of a kind, made once for each place that asks it. */
function looksFor(type: Type): Looks {
  if (typeof type === 'object' && 'either' in type) {
    const each = type.either.map(looksFor);
    return value => each.some(looks => looks(value));
  }
  switch (atomOf(type)) {
    case 'number':
      return value => typeof value === 'number';
    case 'money':
      return value => value instanceof Money || typeof value === 'number';
    case 'text':
    case 'person':
      return value => typeof value === 'string';
    case 'yes/no':
      return value => typeof value === 'boolean';
    case 'date':
      return value => value instanceof DateValue;
    case 'time':
      return value => value instanceof TimeValue;
    case 'date and time':
      return value => value instanceof DateTimeValue;
    case 'days and time duration':
      return value => value instanceof DaysDuration;
    case 'years and months duration':
      return value => value instanceof MonthsDuration;
    case 'list':
      return Array.isArray;
    case 'row':
      return isRow;
    case 'range':
    case 'date range':
      return value => value instanceof Range;
    case 'function':
      return value => value instanceof FunctionValue;
    case 'leave span':
      return value => typeof value === 'object';
    case 'anything':
      return () => true;
  }
}

/** How a value is taken there; `undefined` when it is of another kind. A list of one and its item stand for each other. */
function taking({ of, unknown }: Parameter): (value: Value) => Value | undefined {
  const looks = looksFor(of);
  const isList = atomOf(of) === 'list';
  return value => {
    if (value === null) return unknown ? null : undefined;
    if (looks(value)) return value;
    if (isList && !Array.isArray(value)) return [value];
    if (Array.isArray(value) && value.length === 1 && looks(value[0] as Value)) return value[0] as Value;
    return undefined;
  };
}

/** The work of a form over values that may be unknown or of another kind: then there is no answer. */
export function guarded({ takes, work }: Form): Work {
  const take = takes.map(taking);
  const [first, second] = take;
  const simple = takes.every(one => !one.optional && !one.many);
  if (simple && take.length === 1)
    return (args, meter) => (first(args[0]) === undefined ? null : work([first(args[0]) as Value], meter));
  if (simple && take.length === 2)
    return (args, meter) => {
      const a = first(args[0]);
      const b = a === undefined ? undefined : second(args[1]);
      return a === undefined || b === undefined ? null : work([a, b], meter);
    };
  const [only] = takes;
  if (takes.length === 1 && only.many && only.of === 'anything' && only.unknown) return work;
  return (args, meter) => {
    const ready = new Array<Value>(args.length);
    for (let i = 0; i < args.length; i++) {
      const at = i < takes.length ? i : takes.length - 1;
      // What may be left out may be unknown too: it is as if it were not there.
      if (args[i] === null && takes[at].optional && !takes[at].unknown) {
        ready[i] = null;
        continue;
      }
      const value = take[at](args[i]);
      if (value === undefined) return null;
      ready[i] = value;
    }
    return work(ready, meter);
  };
}
