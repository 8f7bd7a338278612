/** Functions of rows, the contexts of FEEL (10.3.4.10), and of yes or no. */
import { type Entries, entriesOf, type Type } from '../type.ts';
import { isRow, newRow, type Value } from '../values/value.ts';
import { type BuiltIn, form, parameter } from './signature.ts';

const row = parameter('context', 'row');

function put(of: Value, names: readonly Value[], value: Value): Value {
  const [name, ...more] = names;
  if (typeof name !== 'string' || !isRow(of)) return null;
  const made = Object.assign(newRow(), of);
  made[name] = more.length === 0 ? value : put(of[name] ?? null, more, value);
  return more.length > 0 && made[name] === null ? null : made;
}

/** One row made of several, the last one that says something winning. */
function merged(types: readonly Type[]): Type {
  const rows: Entries[] = [];
  for (const type of types) {
    const own = entriesOf(type);
    if (!own) return 'row';
    rows.push(own);
  }
  return { row: Object.assign({}, ...rows) as Entries };
}

export const rowFunctions = {
  'get value': {
    help: 'what stands in a row under a name',
    example: ['get value({berths: 4}, "berths")', '4'],
    forms: [
      form([parameter('m', 'row'), parameter('key', 'text')], 'anything', ([of, name]) =>
        Object.hasOwn(of as object, name as string) ? ((of as Record<string, Value>)[name as string] ?? null) : null,
      ),
    ],
  },
  'get entries': {
    help: 'the names of a row with what stands under them',
    example: ['get entries({berths: 4})', '[{key: "berths", value: 4}]'],
    forms: [
      form([parameter('m', 'row')], { list: { row: { key: 'text', value: 'anything' } } }, ([of], meter) =>
        meter.list(Object.entries(of as object).map(([key, value]) => Object.assign(newRow(), { key, value }))),
      ),
    ],
  },
  context: {
    help: 'a row made of names and values',
    example: ['context([{key: "berths", value: 4}])', '{berths: 4}'],
    forms: [
      form([parameter('entries', { list: 'row' })], 'row', ([entries]) => {
        const made = newRow();
        for (const entry of entries as Value[]) {
          if (!isRow(entry) || typeof entry.key !== 'string' || !Object.hasOwn(entry, 'value')) return null;
          if (Object.hasOwn(made, entry.key)) return null;
          made[entry.key] = entry.value;
        }
        return made;
      }),
    ],
  },
  'context put': {
    help: 'a row with one more entry, or with another value in one',
    example: ['context put({berths: 4}, "berths", 5)', '{berths: 5}'],
    forms: [
      form([row, parameter('key', 'text'), parameter('value', 'anything', 'unknown')], 'row', ([of, name, value]) =>
        put(of, [name], value),
      ),
      form(
        [row, parameter('keys', { list: 'text' }), parameter('value', 'anything', 'unknown')],
        'row',
        ([of, names, value]) =>
          (names as Value[]).length === 0 || (names as Value[]).length > 20 ? null : put(of, names as Value[], value),
      ),
    ],
  },
  'context merge': {
    help: 'one row made of several; the later ones count',
    example: ['context merge([{berths: 4}, {name: "Gull"}])', '{berths: 4, name: "Gull"}'],
    forms: [
      form([parameter('contexts', { list: 'row' })], 'row', ([rows]) =>
        (rows as Value[]).every(isRow) ? Object.assign(newRow(), ...(rows as object[])) : null,
      ),
      form([parameter('contexts', 'row', 'many')], merged, rows => Object.assign(newRow(), ...(rows as object[]))),
    ],
  },
  not: {
    help: 'yes when the value is no',
    example: ['not(true)', 'false'],
    forms: [form([parameter('negand', 'yes/no')], 'yes/no', ([of]) => !of)],
  },
} as const satisfies Record<string, BuiltIn>;
