/** Kinds by the names that FEEL has for them, as in `x instance of list<number>` (10.3.2.9.2, table 50). */
import { atomOf, type Entries, entriesOf, itemsOf, type Type } from './type.ts';
import { DaysDuration, MonthsDuration } from './values/duration.ts';
import { DateTimeValue, DateValue, TimeValue } from './values/moment.ts';
import { Money } from './values/money.ts';
import { Range } from './values/range.ts';
import { FunctionValue, isRow, type Value } from './values/value.ts';

type Named = Type | 'Null' | 'duration';

const names: Readonly<Record<string, Named>> = {
  Any: 'anything',
  Null: 'Null',
  number: 'number',
  string: 'text',
  boolean: 'yes/no',
  date: 'date',
  time: 'time',
  'date and time': 'date and time',
  'days and time duration': 'days and time duration',
  'years and months duration': 'years and months duration',
  duration: 'duration',
  list: 'list',
  context: 'row',
  range: 'range',
  function: 'function',
  money: 'money',
};

/** Splits what stands between brackets at its commas, those inside of other brackets not counted. */
function splitParts(text: string): string[] {
  const found: string[] = [];
  let deep = 0;
  let from = 0;
  for (let i = 0; i < text.length; i++) {
    if ('<('.includes(text[i])) deep += 1;
    else if (')'.includes(text[i]) || (text[i] === '>' && text[i - 1] !== '-')) deep -= 1;
    else if (text[i] === ',' && deep === 0) {
      found.push(text.slice(from, i));
      from = i + 1;
    }
  }
  return [...found, text.slice(from)].map(part => part.trim());
}

/** The kind of a name; nothing when there is none of that name. */
export function typeNamed(text: string, depth = 0): Named | undefined {
  const plain = text.trim();
  if (Object.hasOwn(names, plain)) return names[plain];
  if (depth > 5) return undefined;
  const inside = /^(list|range|context)\s*<(.*)>$/s.exec(plain);
  if (/^function\s*</.test(plain)) return 'function';
  if (!inside) return undefined;
  if (inside[1] !== 'context') {
    const of = typeNamed(inside[2], depth + 1);
    if (of === undefined || of === 'Null' || of === 'duration') return undefined;
    return inside[1] === 'list' ? { list: of } : { range: of };
  }
  const row: Record<string, Type> = {};
  for (const part of splitParts(inside[2])) {
    const [name, ...rest] = part.split(':');
    const of = typeNamed(rest.join(':'), depth + 1);
    if (of === undefined || of === 'Null' || of === 'duration') return undefined;
    row[name.trim()] = of;
  }
  return { row };
}

/** The kind of a date, a time or a duration. */
export function momentType(value: Value): Type {
  if (value instanceof DateValue) return 'date';
  if (value instanceof TimeValue) return 'time';
  if (value instanceof DateTimeValue) return 'date and time';
  if (value instanceof DaysDuration) return 'days and time duration';
  return value instanceof MonthsDuration ? 'years and months duration' : 'anything';
}

/** Whether a value is of a kind; what is not known is of none. */
export function valueIs(value: Value, type: Named): boolean {
  if (type === 'Null') return value === null;
  if (value === null) return false;
  if (type === 'duration') return value instanceof DaysDuration || value instanceof MonthsDuration;
  switch (atomOf(type)) {
    case 'anything':
      return true;
    case 'number':
      return typeof value === 'number';
    case 'text':
      return typeof value === 'string';
    case 'yes/no':
      return typeof value === 'boolean';
    case 'money':
      return value instanceof Money;
    case 'list':
      return (
        Array.isArray(value) &&
        value.every(item => itemsOf(type) === 'anything' || valueIs(item as Value, itemsOf(type)))
      );
    case 'range':
      return (
        value instanceof Range &&
        (type === 'range' ||
          [value.start, value.end].every(end => end === null || valueIs(end, (type as { range: Type }).range)))
      );
    case 'row':
      return isRow(value) && hasAll(value, entriesOf(type));
    case 'function':
      return value instanceof FunctionValue;
    default:
      return momentType(value) === type;
  }
}

const hasAll = (row: Readonly<Record<string, Value>>, entries: Entries | undefined): boolean =>
  !entries || Object.entries(entries).every(([name, type]) => Object.hasOwn(row, name) && valueIs(row[name], type));
