/** Functions of texts (FEEL 10.3.4.3). Letters are counted as people count them: one for each sign of any script. */
import type { Meter } from '../meter.ts';
import type { Type } from '../type.ts';
import { type Found, Pattern } from '../values/pattern.ts';
import { asText, type Value } from '../values/value.ts';
import { type BuiltIn, form, parameter } from './signature.ts';

const string = parameter('string', 'text');
const match = parameter('match', 'text');
const input = parameter('input', 'text');
const pattern = parameter('pattern', 'text');
const flags = parameter('flags', 'text', 'optional');
const texts: Type = { list: 'text' };

const both = (
  help: string,
  example: BuiltIn['example'],
  gives: Type,
  work: (a: string, b: string) => Value,
): BuiltIn => ({
  help,
  example,
  forms: [form([string, match], gives, ([a, b]) => work(a as string, b as string))],
});

const one = (help: string, example: BuiltIn['example'], gives: Type, work: (a: string) => Value): BuiltIn => ({
  help,
  example,
  forms: [form([string], gives, ([a]) => work(a as string))],
});

/** The part of a list from a place on, counted from 1, or from the end below zero. */
export function part<T>(items: readonly T[], start: number, length: Value | undefined): T[] | null {
  if (!Number.isInteger(start) || start === 0 || Math.abs(start) > items.length)
    return start === 0 || !Number.isInteger(start) ? null : [];
  const from = start > 0 ? start - 1 : items.length + start;
  if (length === undefined || length === null) return items.slice(from);
  return typeof length === 'number' && length >= 0 ? items.slice(from, from + Math.floor(length)) : null;
}

/** One step of a pattern is as much work as so many of a formula. */
const costOfPattern = 2;

function find(found: Pattern, letters: readonly string[], from: number, meter: Meter): Found | null {
  return found.find(letters, from, work => meter.spend(work * costOfPattern));
}

/** All places of a pattern, one after another; nothing when it finds what has no letters. */
function places(found: Pattern, letters: readonly string[], meter: Meter): Found[] | null {
  const all: Found[] = [];
  let from = 0;
  for (let at = find(found, letters, from, meter); at; at = find(found, letters, from, meter)) {
    const [start, end] = at.groups[0] as readonly [number, number];
    if (start === end) return null;
    all.push(at);
    from = end;
    if (from > letters.length) break;
  }
  return all;
}

function replaced(text: string, found: Pattern, by: string, meter: Meter): string | null {
  const letters = [...text];
  const all = places(found, letters, meter);
  // A dollar stands for a group, unless a backslash takes that from it.
  if (!all || /(^|[^\\])\$(?!\d)/.test(by)) return null;
  let out = '';
  let from = 0;
  for (const { groups } of all) {
    const [start, end] = groups[0] as readonly [number, number];
    out += letters.slice(from, start).join('');
    out += by.replace(/\\([$\\])|\$(\d)/g, (_, plain: string | undefined, digit: string | undefined) => {
      if (plain) return plain;
      const group = groups[Number(digit)];
      return group ? letters.slice(group[0], group[1]).join('') : '';
    });
    meter.text(out);
    from = end;
  }
  return meter.text(out + letters.slice(from).join(''));
}

export const textFunctions = {
  substring: {
    help: 'part of a text, from a place on; places are counted from 1, or from the end with -1',
    example: ['substring("Harbour", 1, 4)', '"Harb"'],
    forms: [
      form(
        [string, parameter('start position', 'number'), parameter('length', 'number', 'optional')],
        'text',
        ([text, start, length]) => part([...(text as string)], start as number, length)?.join('') ?? null,
      ),
    ],
  },
  'string length': one(
    'how many letters the text has',
    ['string length("Ovay")', '4'],
    'number',
    text => [...text].length,
  ),
  'upper case': one('all letters large', ['upper case("quay")', '"QUAY"'], 'text', text => text.toUpperCase()),
  'lower case': one('all letters small', ['lower case("QUAY")', '"quay"'], 'text', text => text.toLowerCase()),
  'substring before': both(
    'what stands before the first place of another text',
    ['substring before("ON-114", "-")', '"ON"'],
    'text',
    (text, of) => (text.includes(of) ? text.slice(0, text.indexOf(of)) : ''),
  ),
  'substring after': both(
    'what stands after the first place of another text',
    ['substring after("ON-114", "-")', '"114"'],
    'text',
    (text, of) => (text.includes(of) ? text.slice(text.indexOf(of) + of.length) : ''),
  ),
  contains: both(
    'whether the first text has the second in it',
    ['contains("Harbour", "bou")', 'true'],
    'yes/no',
    (text, of) => text.includes(of),
  ),
  'starts with': both(
    'whether the first text begins with the second',
    ['starts with("Harbour", "Ha")', 'true'],
    'yes/no',
    (text, of) => text.startsWith(of),
  ),
  'ends with': both(
    'whether the first text ends with the second',
    ['ends with("Harbour", "our")', 'true'],
    'yes/no',
    (text, of) => text.endsWith(of),
  ),
  replace: {
    help: 'each place of a pattern replaced; $1 is what its first brackets found',
    example: ['replace("12 34", "\\s", "-")', '"12-34"'],
    forms: [
      form([input, pattern, parameter('replacement', 'text'), flags], 'text', ([text, source, by, flag], meter) => {
        const found = Pattern.of(source as string, (flag as string | undefined) ?? '');
        return found && replaced(text as string, found, by as string, meter);
      }),
    ],
  },
  matches: {
    help: 'whether a text has a pattern in it; ^ is its beginning, $ its end',
    example: ['matches("AB-12", "^[A-Z]{2}-[0-9]+$")', 'true'],
    forms: [
      form([input, pattern, flags], 'yes/no', ([text, source, flag], meter) => {
        const found = Pattern.of(source as string, (flag as string | undefined) ?? '');
        return found && find(found, [...(text as string)], 0, meter) !== null;
      }),
    ],
  },
  split: {
    help: 'the parts of a text between the places of a pattern',
    example: ['split("Ovay;Skarn", ";")', '["Ovay", "Skarn"]'],
    forms: [
      form([string, parameter('delimiter', 'text')], texts, ([text, source], meter) => {
        const found = Pattern.of(source as string);
        const letters = [...(text as string)];
        const all = found && places(found, letters, meter);
        if (!all) return null;
        let from = 0;
        const parts = all.map(({ groups }) => {
          const [start, end] = groups[0] as readonly [number, number];
          const before = letters.slice(from, start).join('');
          from = end;
          return before;
        });
        return meter.list([...parts, letters.slice(from).join('')]);
      }),
    ],
  },
  'string join': {
    help: 'texts put together, with another between them; what is unknown is left out',
    example: ['string join(["Ovay", "Skarn"], ", ")', '"Ovay, Skarn"'],
    forms: [
      form([parameter('list', texts), parameter('delimiter', 'text', 'optional')], 'text', ([list, between], meter) => {
        const all = (list as Value[]).filter(text => text !== null);
        if (!all.every(text => typeof text === 'string')) return null;
        return meter.text(all.join((between as string | null | undefined) ?? ''));
      }),
    ],
  },
  string: {
    help: 'any value as a text',
    example: ['string(12.5)', '"12.5"'],
    forms: [form([parameter('from', 'anything')], 'text', ([of], meter) => meter.text(asText(of)))],
  },
  number: {
    help: 'the number that a text says, with its own marks for thousands and decimals',
    example: ['number("1 000,5", " ", ",")', '1000.5'],
    forms: [
      form(
        [
          parameter('from', 'text'),
          parameter('grouping separator', 'text', 'optional'),
          parameter('decimal separator', 'text', 'optional'),
        ],
        'number',
        ([text, group, point]) => numberIn(text as string, group as string | undefined, point as string | undefined),
      ),
    ],
  },
} as const satisfies Record<string, BuiltIn>;

function numberIn(text: string, group: string | null | undefined, point: string | null | undefined): number | null {
  if (group && (![' ', ',', '.'].includes(group) || group === point)) return null;
  if (point && !['.', ','].includes(point)) return null;
  let plain = group ? text.split(group).join('') : text;
  if (point && point !== '.') plain = plain.includes('.') ? 'no number' : plain.split(point).join('.');
  if (!/^\s*[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d{1,3})?\s*$/.test(plain)) return null;
  const number = Number(plain);
  return Number.isFinite(number) ? number : null;
}
