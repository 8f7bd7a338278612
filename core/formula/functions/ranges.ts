/** Functions of ranges (FEEL 10.3.4.9): how points and ranges lie to one another. */
import { readDuration } from '../values/duration.ts';
import { readDate, readDateTime, readTime } from '../values/moment.ts';
import { Range } from '../values/range.ts';
import { before, coincides, finishes, includes, meets, overlaps, overlapsBefore, starts } from '../values/relations.ts';
import { FunctionValue, inOrder, isRow, type Value } from '../values/value.ts';
import { type BuiltIn, form, parameter } from './signature.ts';

const hasNoOrder = (value: Value): boolean =>
  Array.isArray(value) || typeof value === 'boolean' || value instanceof FunctionValue || isRow(value);

const either = (help: string, example: BuiltIn['example'], work: (a: Value, b: Value) => boolean | null): BuiltIn => ({
  help,
  example,
  forms: [
    form([parameter('a', 'anything'), parameter('b', 'anything')], 'yes/no', ([a, b]) =>
      hasNoOrder(a) || hasNoOrder(b) ? null : work(a, b),
    ),
  ],
});

const ranges = (help: string, example: BuiltIn['example'], work: (a: Range, b: Range) => boolean | null): BuiltIn => ({
  help,
  example,
  forms: [
    form([parameter('range1', 'range'), parameter('range2', 'range')], 'yes/no', ([a, b]) =>
      work(a as Range, b as Range),
    ),
  ],
});

const inside = (
  help: string,
  example: BuiltIn['example'],
  work: (of: Value, range: Range) => boolean | null,
): BuiltIn => ({
  help,
  example,
  forms: [
    form([parameter('point', 'anything'), parameter('range', 'range')], 'yes/no', ([of, range]) =>
      hasNoOrder(of) ? null : work(of, range as Range),
    ),
  ],
});

const around = (
  help: string,
  example: BuiltIn['example'],
  work: (of: Value, range: Range) => boolean | null,
): BuiltIn => ({
  help,
  example,
  forms: [
    form([parameter('range', 'range'), parameter('point', 'anything')], 'yes/no', ([range, of]) =>
      hasNoOrder(of) ? null : work(of, range as Range),
    ),
  ],
});

export const rangeFunctions = {
  before: either('whether the first is over when the second begins', ['before(1, [2..5])', 'true'], before),
  after: either('whether the first begins when the second is over', ['after([5..9], [1..4])', 'true'], (a, b) =>
    before(b, a),
  ),
  meets: ranges('whether the first ends where the second begins', ['meets([1..5], [5..9])', 'true'], meets),
  'met by': ranges('whether the first begins where the second ends', ['met by([5..9], [1..5])', 'true'], (a, b) =>
    meets(b, a),
  ),
  overlaps: ranges('whether both have something in common', ['overlaps([1..5], [3..8])', 'true'], overlaps),
  'overlaps before': ranges(
    'whether both have something in common, and the first begins first',
    ['overlaps before([1..5], [3..8])', 'true'],
    overlapsBefore,
  ),
  'overlaps after': ranges(
    'whether both have something in common, and the second begins first',
    ['overlaps after([3..8], [1..5])', 'true'],
    (a, b) => overlapsBefore(b, a),
  ),
  finishes: inside('whether the first ends a range', ['finishes(10, [1..10])', 'true'], finishes),
  'finished by': around('whether a range ends with the second', ['finished by([1..10], 10)', 'true'], finishes),
  includes: around('whether a range has the second in it', ['includes([1..10], 5)', 'true'], (of, range) =>
    includes(range, of),
  ),
  during: inside('whether the first is in a range', ['during(5, [1..10])', 'true'], (of, range) => includes(range, of)),
  starts: inside('whether the first begins a range', ['starts(1, [1..10])', 'true'], starts),
  'started by': around('whether a range begins with the second', ['started by([1..10], 1)', 'true'], starts),
  coincides: either('whether both are the same', ['coincides([1..5], [1..5])', 'true'], coincides),
  range: {
    help: 'a range from its text',
    example: ['range("[1..10]")', '[1..10]'],
    forms: [form([parameter('from', 'text')], 'range', ([text]) => readRange(text as string))],
  },
} as const satisfies Record<string, BuiltIn>;

/** An end of a range as it is written: a number, a text, a date, a time, a duration, or nothing. */
function endOf(text: string): Value | undefined {
  const plain = text.trim();
  if (plain === '') return null;
  if (/^-?\d+(\.\d+)?$/.test(plain)) return Number(plain);
  const said = /^(?:@|(date|time|date and time|duration)\(\s*)?("[^"]*")\s*(\))?$/.exec(plain);
  if (!said) return undefined;
  const inside = said[2].slice(1, -1);
  switch (said[1]) {
    case 'date':
      return readDate(inside) ?? undefined;
    case 'time':
      return readTime(inside) ?? undefined;
    case 'date and time':
      return readDateTime(inside) ?? undefined;
    case 'duration':
      return readDuration(inside) ?? undefined;
    default:
      return plain.startsWith('@') ? (atText(inside) ?? undefined) : inside;
  }
}

/** What stands after an `@`: a duration, a time, a date and time or a date. */
export function atText(text: string): Value {
  if (/^-?P/.test(text)) return readDuration(text);
  if (/^\d{2}:/.test(text)) return readTime(text);
  return text.includes('T') ? readDateTime(text) : readDate(text);
}

function readRange(text: string): Range | null {
  const found = /^\s*([[(\]])(.*)\.\.(.*)([\])[])\s*$/.exec(text);
  if (!found) return null;
  const [start, end] = [endOf(found[2]), endOf(found[3])];
  if (start === undefined || end === undefined || (start === null && end === null)) return null;
  if (start !== null && end !== null && inOrder(start, end) === null) return null;
  return new Range(start, end, found[1] === '[', found[4] === ']');
}
