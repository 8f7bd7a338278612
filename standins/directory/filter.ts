/** Filters by RFC 7644 section 3.4.2.2: read into a tree, and matched against resources. */
import { bad } from './fault.ts';
import { type Attribute, named, placeOf, type ResourceType } from './schema.ts';

const operators = ['eq', 'ne', 'co', 'sw', 'ew', 'gt', 'ge', 'lt', 'le'] as const;
type Operator = (typeof operators)[number];
type Literal = string | number | boolean | null;

export type Filter =
  | { kind: 'compare'; path: string; operator: Operator; value: Literal }
  | { kind: 'present'; path: string }
  | { kind: 'and' | 'or'; of: readonly [Filter, Filter] }
  | { kind: 'not'; of: Filter }
  /** One value of a multi-valued attribute for which all of it holds. */
  | { kind: 'value'; path: string; of: Filter };

const longest = 4000;
const deepest = 30;
const word = /^(?:urn:[\w.:-]+:)?[A-Za-z$][\w$-]*(?:\.[A-Za-z$][\w$-]*)?/i;

class Reader {
  readonly text: string;
  at = 0;
  constructor(text: string) {
    this.text = text;
  }
  get rest(): string {
    return this.text.slice(this.at);
  }
  skip(): void {
    while (this.text[this.at] === ' ') this.at++;
  }
  eat(pattern: RegExp): string | undefined {
    this.skip();
    const found = pattern.exec(this.rest);
    if (found?.index !== 0) return undefined;
    this.at += found[0].length;
    return found[0];
  }
  fail(wanted: string): never {
    throw bad('invalidFilter', `At ${this.at + 1}: ${wanted} was expected.`);
  }
  either(depth = 0): Filter {
    if (depth > deepest) this.fail('a shallower filter');
    let left = this.both(depth);
    while (this.eat(/^or(?=[\s(])/i)) left = { kind: 'or', of: [left, this.both(depth)] };
    return left;
  }
  both(depth: number): Filter {
    let left = this.one(depth);
    while (this.eat(/^and(?=[\s(])/i)) left = { kind: 'and', of: [left, this.one(depth)] };
    return left;
  }
  one(depth: number): Filter {
    if (this.eat(/^not\s*(?=\()/i)) return { kind: 'not', of: this.grouped(depth) };
    if (/^\s*\(/.test(this.rest)) return this.grouped(depth);
    const path = this.eat(word) ?? this.fail('an attribute');
    if (this.text[this.at] === '[') {
      this.at++;
      const of = this.either(depth + 1);
      if (!this.eat(/^\]/)) this.fail('“]”');
      // `emails[type eq "work"].value` compares a part of the value that was found.
      return { kind: 'value', path, of };
    }
    if (this.eat(/^pr(?![\w.])/i)) return { kind: 'present', path };
    const operator = this.eat(/^(?:eq|ne|co|sw|ew|gt|ge|lt|le)(?=\s)/i)?.toLowerCase() as Operator | undefined;
    if (!operator) this.fail('a comparison');
    const value = this.literal();
    if (value === null && operator !== 'eq' && operator !== 'ne') this.fail('a value that can be ordered');
    if (typeof value === 'boolean' && operator !== 'eq' && operator !== 'ne') this.fail('eq or ne for yes and no');
    return { kind: 'compare', path, operator, value };
  }
  grouped(depth: number): Filter {
    if (!this.eat(/^\(/)) this.fail('“(”');
    const inner = this.either(depth + 1);
    if (!this.eat(/^\)/)) this.fail('“)”');
    return inner;
  }
  literal(): Literal {
    const found = this.eat(/^(?:"(?:[^"\\]|\\.)*"|-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?|true|false|null)/);
    if (found === undefined) this.fail('a value');
    try {
      return JSON.parse(found) as Literal;
    } catch {
      return this.fail('a value');
    }
  }
}

/** @throws a fault `invalidFilter` with its place */
export function readFilter(text: string): Filter {
  if (text.length > longest) throw bad('invalidFilter', `A filter is at most ${longest} letters long.`);
  const reader = new Reader(text);
  const filter = reader.either();
  reader.skip();
  if (reader.at < text.length) reader.fail('the end');
  return filter;
}

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const get = (value: unknown, name: string): unknown => {
  if (!isObject(value)) return undefined;
  const key = Object.keys(value).find(one => one.toLowerCase() === name.toLowerCase());
  return key === undefined ? undefined : value[key];
};
const listed = (value: unknown): unknown[] =>
  value === undefined || value === null ? [] : Array.isArray(value) ? value : [value];

function holds(found: unknown, operator: Operator, wanted: Literal, attribute: Attribute): boolean {
  if (wanted === null) return operator === 'ne';
  if (attribute.type === 'boolean') {
    if (typeof wanted !== 'boolean') throw bad('invalidFilter', `${attribute.name} is true or false.`);
    return operator === 'eq' ? found === wanted : found !== wanted;
  }
  if (typeof wanted !== 'string') return operator === 'ne';
  const fold = (text: unknown) => (attribute.caseExact ? String(text) : String(text).toLowerCase());
  const [a, b] =
    attribute.type === 'dateTime' ? [Date.parse(String(found)), Date.parse(wanted)] : [fold(found), fold(wanted)];
  switch (operator) {
    case 'eq':
      return a === b;
    case 'ne':
      return a !== b;
    case 'co':
      return String(a).includes(String(b));
    case 'sw':
      return String(a).startsWith(String(b));
    case 'ew':
      return String(a).endsWith(String(b));
    case 'gt':
      return a > b;
    case 'ge':
      return a >= b;
    case 'lt':
      return a < b;
    case 'le':
      return a <= b;
  }
}

/** The values that a path stands for in a resource, with the attribute that they are values of. */
export function valuesAt(
  type: ResourceType,
  resource: unknown,
  path: string,
): { attribute: Attribute; values: unknown[] } {
  const place = placeOf(type, path);
  if (!place) throw bad('invalidFilter', `${type.name} has no attribute “${path}”.`);
  const { extension, attribute, sub } = place;
  const found = listed(get(extension ? get(resource, extension.id) : resource, attribute.name));
  if (sub) return { attribute: sub, values: found.flatMap(one => listed(get(one, sub.name))) };
  if (attribute.type !== 'complex') return { attribute, values: found };
  // A complex attribute with values stands for them: `emails eq "…"`.
  const value = named(attribute.subAttributes, 'value');
  return value
    ? { attribute: value, values: found.flatMap(one => listed(get(one, 'value'))) }
    : { attribute, values: found };
}

const isThere = (value: unknown): boolean =>
  value !== undefined && value !== null && value !== '' && !(isObject(value) && Object.keys(value).length === 0);

export function matches(filter: Filter, type: ResourceType, resource: unknown): boolean {
  switch (filter.kind) {
    case 'and':
      return filter.of.every(one => matches(one, type, resource));
    case 'or':
      return filter.of.some(one => matches(one, type, resource));
    case 'not':
      return !matches(filter.of, type, resource);
    case 'present':
      return valuesAt(type, resource, filter.path).values.some(isThere);
    case 'compare': {
      const { attribute, values } = valuesAt(type, resource, filter.path);
      if (filter.value === null) return (filter.operator === 'eq') === !values.some(isThere);
      if (values.length === 0) return filter.operator === 'ne';
      const one = (value: unknown) => holds(value, filter.operator, filter.value, attribute);
      return filter.operator === 'ne' ? values.every(one) : values.some(one);
    }
    case 'value': {
      const place = placeOf(type, filter.path);
      if (!place || place.sub) throw bad('invalidFilter', `${type.name} has no attribute “${filter.path}”.`);
      const { extension, attribute } = place;
      return listed(get(extension ? get(resource, extension.id) : resource, attribute.name)).some(value =>
        matchesValue(filter.of, attribute, value),
      );
    }
  }
}

/** Whether one value of a multi-valued attribute fits; paths are those of its parts. */
export function matchesValue(filter: Filter, of: Attribute, value: unknown): boolean {
  switch (filter.kind) {
    case 'and':
      return filter.of.every(one => matchesValue(one, of, value));
    case 'or':
      return filter.of.some(one => matchesValue(one, of, value));
    case 'not':
      return !matchesValue(filter.of, of, value);
    case 'value':
      throw bad('invalidFilter', 'Values do not stand in values.');
    default: {
      const sub = named(of.subAttributes, filter.path);
      if (!sub) throw bad('invalidFilter', `${of.name} has no part “${filter.path}”.`);
      const found = get(value, sub.name);
      if (filter.kind === 'present') return isThere(found);
      if (filter.value === null) return (filter.operator === 'eq') === !isThere(found);
      if (!isThere(found)) return filter.operator === 'ne';
      return holds(found, filter.operator, filter.value, sub);
    }
  }
}
