/** FEEL (the expression language of the DMN standard, version 1.5) read into a tree of our own. */
import type { SyntaxNode } from '@lezer/common';
import { parser, trackVariables } from 'lezer-feel';
import { functionNames } from '../functions/index.ts';
import { entriesOf, itemsOf, type Type } from '../type.ts';
import type { Argument, Comparator, Expression, Operator, Place, Problem, Test, Through } from './tree.ts';

export type Reading = { ok: true; tree: Expression } | { ok: false; problems: Problem[] };

/** The longest formula that is read. */
export const longestFormula = 10_000;
/** How deep brackets may stand in one another. */
const deepest = 200;

/** What the reader cannot take: thrown inside this file only, returned as a problem. */
class NotUnderstood extends Error {
  readonly place: Place;
  constructor(place: Place, message: string) {
    super(message);
    this.place = place;
  }
}

const symbols = new Set([
  ...['(', ')', '[', ']', '{', '}', ',', '..', '.', ':', '<', '>'],
  ...['in', 'between', 'and', 'or', 'if', 'then', 'else', 'for', 'return', 'some', 'every', 'satisfies'],
  ...['function', 'instance', 'of', '@'],
]);

function parts(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let child = node.firstChild; child; child = child.nextSibling) {
    if (!symbols.has(child.name) && !child.type.isSkipped) found.push(child);
  }
  return found;
}

const oneSpace = (text: string): string => text.trim().replace(/\s+/g, ' ');

/** A date that is one: what is not stays a call, which gives nothing. */
const writtenDate = /^\d{4}-\d{2}-\d{2}$/;

class Reader {
  readonly #source: string;
  readonly #isName: (name: string) => boolean;
  #deep = 0;

  constructor(source: string, isName: (name: string) => boolean) {
    this.#source = source;
    this.#isName = isName;
  }

  #text(node: Place): string {
    return this.#source.slice(node.from, node.to);
  }

  #string(node: SyntaxNode): string {
    const inside = this.#text(node).slice(1, -1);
    return inside.replace(/\\(u[0-9a-fA-F]{4}|U[0-9a-fA-F]{6}|[\s\S])/g, (all, after: string) => {
      const plain: Record<string, string> = { n: '\n', r: '\r', t: '\t', '"': '"', '\\': '\\', "'": "'" };
      if (after in plain) return plain[after];
      const code = /^[uU]([0-9a-fA-F]+)$/.exec(after);
      if (!code) return all;
      const point = Number.parseInt(code[1], 16);
      if (point > 0x10ffff) throw new NotUnderstood(node, 'This text has a mark in it that cannot be read.');
      return after[0] === 'u' ? String.fromCharCode(point) : String.fromCodePoint(point);
    });
  }

  #name(node: SyntaxNode): string {
    const text = this.#text(node);
    return oneSpace(text.startsWith('`') ? text.slice(1, -1) : text);
  }

  expression(node: SyntaxNode): Expression {
    this.#deep += 1;
    if (this.#deep > deepest) throw new NotUnderstood(node, 'This stands in too many brackets.');
    try {
      return this.#expression(node);
    } finally {
      this.#deep -= 1;
    }
  }

  #expression(node: SyntaxNode): Expression {
    const place = { from: node.from, to: node.to };
    const inside = parts(node);
    switch (node.name) {
      case 'ParenthesizedExpression':
      case 'Expression':
      case 'PositiveUnaryTest':
      case 'FunctionBody':
        return this.expression(inside[0]);
      case 'NumericLiteral': {
        const text = this.#text(node).replace(/\s+/g, '');
        const value = text.startsWith('-') ? -Number(text.slice(1)) : Number(text);
        if (!Number.isFinite(value)) throw new NotUnderstood(place, 'This number is too large.');
        if (!text.startsWith('-')) return { kind: 'number', value, ...place };
        const digits = { from: node.to - text.length + 1, to: node.to };
        return { kind: 'negate', of: { kind: 'number', value: -value, ...digits }, ...place };
      }
      case 'StringLiteral':
        return { kind: 'text', value: this.#string(node), ...place };
      case 'BooleanLiteral':
        return { kind: 'yes/no', value: this.#text(node) === 'true', ...place };
      case 'null':
        return { kind: 'nothing', ...place };
      case 'DateTimeLiteral':
        return this.#moment(inside, place);
      case 'VariableName':
        return { kind: 'name', name: this.#name(node), ...place };
      case 'PathExpression':
        return this.#path(inside, place);
      case 'FilterExpression':
        return { kind: 'filter', of: this.expression(inside[0]), by: this.expression(inside[1]), ...place };
      case 'ArithmeticExpression': {
        if (inside.length === 2) return { kind: 'negate', of: this.expression(inside[1]), ...place };
        const [left, operator, right] = inside;
        const written = this.#text(operator);
        return {
          kind: 'arithmetic',
          operator: (written === '^' ? '**' : written) as Operator,
          left: this.expression(left),
          right: this.expression(right),
          ...place,
        };
      }
      case 'Conjunction':
      case 'Disjunction':
        return {
          kind: node.name === 'Conjunction' ? 'and' : 'or',
          left: this.expression(inside[0]),
          right: this.expression(inside[1]),
          ...place,
        };
      case 'IfExpression': {
        const [condition, then, otherwise] = inside;
        if (!otherwise) throw new NotUnderstood(place, '“if … then …” needs an “else”.');
        return {
          kind: 'if',
          condition: this.expression(condition),
          holds: this.expression(then),
          otherwise: this.expression(otherwise),
          ...place,
        };
      }
      case 'Comparison':
        return this.#comparison(node, inside, place);
      case 'FunctionInvocation':
        return this.#call(inside, place);
      case 'List':
        return { kind: 'list', items: inside.map(item => this.expression(item)), ...place };
      case 'Context':
        return {
          kind: 'row',
          entries: inside.map(entry => {
            const [key, value] = parts(entry);
            const written = parts(key)[0] ?? key;
            const name = written.name === 'StringLiteral' ? this.#string(written) : this.#name(written);
            return { name, nameAt: { from: key.from, to: key.to }, value: this.expression(value) };
          }),
          ...place,
        };
      case 'SimplePositiveUnaryTest': {
        const [test] = this.#tests(node);
        if (test.kind === 'value') return test.value;
        return { kind: 'range', test, ...place };
      }
      case 'Interval':
        return { kind: 'range', test: this.#interval(node), ...place };
      case 'ForExpression':
        return { kind: 'for', through: this.#through(inside[0]), gives: this.expression(inside[1]), ...place };
      case 'QuantifiedExpression':
        return {
          kind: node.firstChild?.name === 'every' ? 'every' : 'some',
          through: this.#through(inside[0]),
          holds: this.expression(inside[1]),
          ...place,
        };
      case 'FunctionDefinition': {
        const [parameters, body] = inside.length === 1 ? [undefined, inside[0]] : inside;
        if (body?.name !== 'FunctionBody' || this.#text(node).includes(') external'))
          throw new NotUnderstood(place, 'A function says what it gives: function(a, b) a < b.');
        const names = parameters ? parts(parameters).map(one => this.#name(parts(one)[0] ?? one)) : [];
        return { kind: 'function', parameters: names, gives: this.expression(body), ...place };
      }
      case 'InstanceOfExpression':
        return { kind: 'instance of', of: this.expression(inside[0]), type: oneSpace(this.#text(inside[1])), ...place };
      default:
        throw new NotUnderstood(place, `“${this.#text(node)}” is more than a formula can be here.`);
    }
  }

  /** A date that is written out is a date; what else is made by a text or by parts is a call. */
  #moment(inside: SyntaxNode[], place: Place): Expression {
    const [made, args] = inside;
    if (made.name === 'AtLiteral') {
      const text = this.#string(parts(made)[0]);
      return writtenDate.test(text) ? { kind: 'date', value: text, ...place } : { kind: 'moment', text, ...place };
    }
    return this.#called(oneSpace(this.#text(made)), made, args ? this.#arguments(args) : [], place);
  }

  /** A call; a date that is written out is no call, but a date. */
  #called(name: string, at: Place, args: Argument[], place: Place): Expression {
    const [first] = args;
    if (name === 'date' && args.length === 1 && first.value.kind === 'text' && writtenDate.test(first.value.value))
      return { kind: 'date', value: first.value.value, ...place };
    return { kind: 'call', name, nameAt: { from: at.from, to: at.to }, args, ...place };
  }

  /** A column of a picked row or of a table is a name of its own: `Programme.Lead`, `Costs.Amount`. */
  #path(inside: SyntaxNode[], place: Place): Expression {
    const [of, name] = inside;
    const nameAt = { from: name.from, to: name.to };
    if (of.name === 'VariableName') {
      const whole = `${this.#name(of)}.${this.#name(name)}`;
      if (this.#isName(whole)) return { kind: 'name', name: whole, ...place };
    }
    return { kind: 'path', of: this.expression(of), name: this.#name(name), nameAt, ...place };
  }

  #arguments(node: SyntaxNode): Argument[] {
    if (node.name !== 'NamedParameters') return parts(node).map(arg => ({ value: this.expression(arg) }));
    return parts(node).map(pair => {
      const [name, value] = parts(pair);
      return { name: this.#name(name), nameAt: { from: name.from, to: name.to }, value: this.expression(value) };
    });
  }

  #call(inside: SyntaxNode[], place: Place): Expression {
    const [called, args] = inside;
    const given = args ? this.#arguments(args) : [];
    if (called.name !== 'VariableName') return { kind: 'use', of: this.expression(called), args: given, ...place };
    return this.#called(this.#name(called), called, given, place);
  }

  #through(node: SyntaxNode): Through[] {
    return parts(node).map(one => {
      const [name, context] = parts(one);
      const [over, to] = parts(context);
      const bound = this.#name(name);
      return to
        ? { name: bound, over: this.expression(over), to: this.expression(to) }
        : { name: bound, over: this.expression(over) };
    });
  }

  #comparison(node: SyntaxNode, inside: SyntaxNode[], place: Place): Expression {
    const of = this.expression(inside[0]);
    if (node.getChild('between'))
      return { kind: 'between', of, low: this.expression(inside[1]), high: this.expression(inside[2]), ...place };
    const [, only] = inside;
    if (node.getChild('in') && inside.length === 2 && only.name === 'PositiveUnaryTest')
      return this.#in(of, parts(only)[0], place.from);
    if (node.getChild('in')) {
      const tests = inside
        .slice(1)
        .flatMap(test => (test.name === 'PositiveUnaryTests' ? parts(test) : [test]))
        .flatMap(test => this.#tests(test));
      return { kind: 'in', of, tests, ...place };
    }
    const comparator = this.#text(inside[1]) as Comparator;
    return { kind: 'compare', comparator, left: of, right: this.expression(inside[2]), ...place };
  }

  /** The parser takes what follows `in` as far as it goes, but `in` binds more than `and` and `or` (grammar rules 49 to 51). */
  #in(of: Expression, node: SyntaxNode, from: number): Expression {
    const place = { from, to: node.to };
    if (node.name === 'Disjunction' || node.name === 'Conjunction') {
      const [first, rest] = parts(node);
      const kind = node.name === 'Conjunction' ? 'and' : 'or';
      return { kind, left: this.#in(of, first, from), right: this.expression(rest), ...place };
    }
    const [compared, value] = node.name === 'SimplePositiveUnaryTest' ? parts(node) : [];
    if (compared?.name !== 'CompareOp' || !value) return { kind: 'in', of, tests: this.#tests(node), ...place };
    const comparator = this.#text(compared) as Comparator;
    const test = (end: SyntaxNode): Expression => {
      if (end.name === 'Disjunction' || end.name === 'Conjunction') {
        const [first, rest] = parts(end);
        const kind = end.name === 'Conjunction' ? 'and' : 'or';
        return { kind, left: test(first), right: this.expression(rest), from, to: end.to };
      }
      return {
        kind: 'in',
        of,
        tests: [{ kind: 'compare', comparator, value: this.expression(end) }],
        from,
        to: end.to,
      };
    };
    return test(value);
  }

  #interval(node: SyntaxNode): Extract<Test, { kind: 'interval' }> {
    const text = this.#text(node);
    const [low, high] = parts(node);
    return {
      kind: 'interval',
      low: this.expression(low),
      high: this.expression(high),
      lowOpen: text[0] !== '[',
      highOpen: text[text.length - 1] !== ']',
    };
  }

  #tests(node: SyntaxNode): Test[] {
    if (node.name === 'PositiveUnaryTest' || node.name === 'ParenthesizedExpression')
      return this.#tests(parts(node)[0]);
    if (node.name === 'List') return parts(node).map(value => ({ kind: 'value', value: this.expression(value) }));
    if (node.name === 'Interval') return [this.#interval(node)];
    if (node.name !== 'SimplePositiveUnaryTest') return [{ kind: 'value', value: this.expression(node) }];
    const [first, second] = parts(node);
    if (first.name === 'CompareOp')
      return [{ kind: 'compare', comparator: this.#text(first) as Comparator, value: this.expression(second) }];
    if (first.name === 'Interval') return [this.#interval(first)];
    return [{ kind: 'value', value: this.expression(first) }];
  }
}

/** A value of a kind, as far as the parser looks at it: only to know the names of what is in it. */
function shapeOf(type: Type, depth = 0): unknown {
  if (depth > 4) return 1;
  const entries = entriesOf(type);
  if (entries) return Object.fromEntries(Object.entries(entries).map(([name, of]) => [name, shapeOf(of, depth + 1)]));
  if (typeof type === 'object' && 'list' in type) return [shapeOf(itemsOf(type), depth + 1)];
  return 1;
}

/** Names with what they are. */
type Types = Readonly<Record<string, Type>>;

/** What the parser is told of names, so that names of several words are told apart from operators. */
function shapes(names: Iterable<string>, types: Types): Record<string, unknown> {
  const context: Record<string, unknown> = {};
  const isRow = (value: unknown): value is Record<string, unknown> =>
    typeof value === 'object' && value !== null && !Array.isArray(value);
  for (const name of names) {
    const dot = name.indexOf('.');
    if (dot < 0) {
      if (!isRow(context[name])) context[name] = Object.hasOwn(types, name) ? shapeOf(types[name]) : 1;
      continue;
    }
    const whole = name.slice(0, dot);
    const before = context[whole];
    if (Array.isArray(before)) continue;
    context[whole] = { ...(isRow(before) ? before : {}), [name.slice(dot + 1)]: 1 };
  }
  return context;
}

type Configured = Pick<typeof parser, 'parse'>;
type Ready = {
  readonly known: ReadonlySet<string>;
  readonly parser: Configured;
  readonly readings: Map<string, Reading>;
};

/** A parser made ready for names, and what it read with them: a sheet asks many things of few formulas over the same names. */
const made = new WeakMap<Types, Ready>();
/** So many formulas are kept for one set of names. */
const mostReadings = 500;

function readyFor(types: Types): Ready {
  const before = made.get(types);
  if (before) return before;
  const known = new Set([...Object.keys(types), ...functionNames]);
  const ready: Ready = {
    known,
    parser: parser.configure({ top: 'Expression', contextTracker: trackVariables(shapes(known, types)) }),
    readings: new Map(),
  };
  made.set(types, ready);
  return ready;
}

/**
 * Reads one formula.
 * @param types every name that may be used with what it is, so that names in its rows are known too; functions are known
 * always. It is not changed afterwards: what was read with it is kept.
 */
export function readFormula(source: string, types: Types): Reading {
  const whole = { from: 0, to: source.length };
  if (source.trim() === '') return { ok: false, problems: [{ ...whole, message: 'Nothing is written here yet.' }] };
  if (source.length > longestFormula)
    return {
      ok: false,
      problems: [{ from: longestFormula, to: source.length, message: 'A formula has at most 10,000 letters.' }],
    };
  const ready = readyFor(types);
  const before = ready.readings.get(source);
  if (before) return before;
  const reading = readWith(ready, source);
  if (ready.readings.size < mostReadings) ready.readings.set(source, reading);
  return reading;
}

function readWith({ known, parser }: Ready, source: string): Reading {
  const whole = { from: 0, to: source.length };
  const tree = parser.parse(source);
  const broken: Problem[] = [];
  tree.iterate({
    enter: node => {
      if (!node.type.isError || broken.length > 0) return;
      const at = Math.min(node.from, source.length);
      const word = /^\S*/.exec(source.slice(at))?.[0] ?? '';
      broken.push({
        from: at,
        to: Math.max(at + word.length, node.to),
        message: word ? `“${word}” is not expected here.` : 'Something is missing at the end.',
      });
    },
  });
  if (broken.length > 0) return { ok: false, problems: broken };
  try {
    let top = tree.topNode.firstChild;
    while (top?.type.isSkipped) top = top.nextSibling;
    if (!top) return { ok: false, problems: [{ ...whole, message: 'Nothing is written here yet.' }] };
    let after = top.nextSibling;
    while (after?.type.isSkipped) after = after.nextSibling;
    if (after) throw new NotUnderstood(after, 'One formula ends here; what follows is not part of it.');
    const isName = (name: string): boolean => {
      const dot = name.indexOf('.');
      return known.has(name) || known.has(`${name.slice(0, dot)}.*`);
    };
    return { ok: true, tree: new Reader(source, isName).expression(top) };
  } catch (fault) {
    if (fault instanceof NotUnderstood)
      return { ok: false, problems: [{ from: fault.place.from, to: fault.place.to, message: fault.message }] };
    throw fault;
  }
}
