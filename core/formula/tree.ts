/** FEEL (the expression language of the DMN standard) read into a small tree of our own, with the place of every part. */
import type { SyntaxNode } from '@lezer/common';
import { parser, trackVariables } from 'lezer-feel';

/** Offsets into the formula's text; `to` is not included. */
export type Place = { readonly from: number; readonly to: number };

export type Comparator = '<' | '<=' | '>' | '>=' | '=' | '!=';
export type Operator = '+' | '-' | '*' | '/' | '**';

export type Expression = Place &
  (
    | { kind: 'number'; value: number }
    | { kind: 'text'; value: string }
    | { kind: 'date'; value: string }
    | { kind: 'yes/no'; value: boolean }
    | { kind: 'nothing' }
    | { kind: 'name'; name: string }
    | { kind: 'negate'; of: Expression }
    | { kind: 'arithmetic'; operator: Operator; left: Expression; right: Expression }
    | { kind: 'compare'; comparator: Comparator; left: Expression; right: Expression }
    | { kind: 'between'; of: Expression; low: Expression; high: Expression }
    | { kind: 'in'; of: Expression; tests: Test[] }
    | { kind: 'and' | 'or'; left: Expression; right: Expression }
    | { kind: 'if'; condition: Expression; holds: Expression; otherwise: Expression }
    | { kind: 'call'; name: string; nameAt: Place; args: Expression[] }
  );

export type Test =
  | { kind: 'value'; value: Expression }
  | { kind: 'compare'; comparator: Comparator; value: Expression }
  | { kind: 'interval'; low: Expression; high: Expression; lowOpen: boolean; highOpen: boolean };

export type Problem = Place & { message: string };

export type Reading = { ok: true; tree: Expression } | { ok: false; problems: Problem[] };

/** What the reader cannot take: thrown inside this file only, returned as a problem. */
class NotUnderstood extends Error {
  readonly place: Place;
  constructor(place: Place, message: string) {
    super(message);
    this.place = place;
  }
}

const symbols = new Set(['(', ')', '[', ']', 'in', 'between', 'and', 'or', 'if', 'then', 'else', '..', ',']);

function parts(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let child = node.firstChild; child; child = child.nextSibling) {
    if (!symbols.has(child.name)) found.push(child);
  }
  return found;
}

class Reader {
  readonly #source: string;
  constructor(source: string) {
    this.#source = source;
  }

  #text(node: Place): string {
    return this.#source.slice(node.from, node.to);
  }

  #string(node: SyntaxNode): string {
    try {
      return JSON.parse(this.#text(node)) as string;
    } catch {
      throw new NotUnderstood(node, 'This text has a mark in it that cannot be read.');
    }
  }

  expression(node: SyntaxNode): Expression {
    const place = { from: node.from, to: node.to };
    const inside = parts(node);
    switch (node.name) {
      case 'ParenthesizedExpression':
      case 'Expression':
      case 'PositiveUnaryTest':
        return this.expression(inside[0]);
      case 'NumericLiteral':
        return { kind: 'number', value: Number(this.#text(node)), ...place };
      case 'StringLiteral':
        return { kind: 'text', value: this.#string(node), ...place };
      case 'BooleanLiteral':
        return { kind: 'yes/no', value: this.#text(node) === 'true', ...place };
      case 'null':
        return { kind: 'nothing', ...place };
      case 'DateTimeLiteral': {
        const literal = /"(\d{4}-\d{2}-\d{2})"/.exec(this.#text(node));
        if (!literal) throw new NotUnderstood(place, 'Write a date as date("2026-02-09").');
        return { kind: 'date', value: literal[1], ...place };
      }
      case 'VariableName':
        return { kind: 'name', name: this.#text(node).replace(/\s+/g, ' '), ...place };
      case 'PathExpression': {
        // A column of a picked row or of a table: `Programme.Lead`, `Costs.Amount`.
        const text = this.#text(node)
          .replace(/\s*\.\s*/, '.')
          .replace(/\s+/g, ' ');
        if (inside[0]?.name !== 'VariableName') throw new NotUnderstood(place, 'Only a field has columns.');
        return { kind: 'name', name: text, ...place };
      }
      case 'ArithmeticExpression': {
        if (inside.length === 2 && inside[0].name === 'ArithOp') {
          return { kind: 'negate', of: this.expression(inside[1]), ...place };
        }
        const [left, operator, right] = inside;
        return {
          kind: 'arithmetic',
          operator: this.#text(operator) as Operator,
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
      case 'FunctionInvocation': {
        const [name, args] = inside;
        if (name.name !== 'VariableName') throw new NotUnderstood(name, 'A function is called by its name.');
        if (args && args.name !== 'PositionalParameters') {
          throw new NotUnderstood(args, 'Give the values in their order, without names.');
        }
        return {
          kind: 'call',
          name: this.#text(name).replace(/\s+/g, ' '),
          nameAt: { from: name.from, to: name.to },
          args: args ? parts(args).map(arg => this.expression(arg)) : [],
          ...place,
        };
      }
      default:
        throw new NotUnderstood(place, `“${this.#text(node)}” is more than a formula can be here.`);
    }
  }

  #comparison(node: SyntaxNode, inside: SyntaxNode[], place: Place): Expression {
    const of = this.expression(inside[0]);
    if (node.getChild('between')) {
      return { kind: 'between', of, low: this.expression(inside[1]), high: this.expression(inside[2]), ...place };
    }
    if (node.getChild('in')) {
      const tests = inside.slice(1).flatMap(n => (n.name === 'PositiveUnaryTests' ? parts(n) : [n]));
      return { kind: 'in', of, tests: tests.flatMap(test => this.#tests(test)), ...place };
    }
    const comparator = this.#text(inside[1]) as Comparator;
    return { kind: 'compare', comparator, left: of, right: this.expression(inside[2]), ...place };
  }

  #tests(node: SyntaxNode): Test[] {
    if (node.name === 'PositiveUnaryTest' || node.name === 'ParenthesizedExpression')
      return this.#tests(parts(node)[0]);
    if (node.name === 'List') return parts(node).map(value => ({ kind: 'value', value: this.expression(value) }));
    if (node.name !== 'SimplePositiveUnaryTest') return [{ kind: 'value', value: this.expression(node) }];
    const [first, second] = parts(node);
    if (first.name === 'CompareOp') {
      return [{ kind: 'compare', comparator: this.#text(first) as Comparator, value: this.expression(second) }];
    }
    if (first.name !== 'Interval') return [{ kind: 'value', value: this.expression(first) }];
    const text = this.#text(first);
    const [low, high] = parts(first);
    return [
      {
        kind: 'interval',
        low: this.expression(low),
        high: this.expression(high),
        lowOpen: text[0] !== '[',
        highOpen: text[text.length - 1] !== ']',
      },
    ];
  }
}

/**
 * Reads one formula.
 * @param names every name that may be used, so that names of several words are told apart from operators
 */
export function readFormula(source: string, names: Iterable<string>): Reading {
  if (source.trim() === '')
    return { ok: false, problems: [{ from: 0, to: source.length, message: 'Nothing is written here yet.' }] };
  const context: Record<string, unknown> = {};
  for (const name of names) {
    const dot = name.indexOf('.');
    if (dot < 0) context[name] ??= 1;
    else {
      const columns = context[name.slice(0, dot)];
      context[name.slice(0, dot)] = { ...(typeof columns === 'object' ? columns : {}), [name.slice(dot + 1)]: 1 };
    }
  }
  const tree = parser.configure({ top: 'Expression', contextTracker: trackVariables(context) }).parse(source);
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
    const top = tree.topNode.firstChild;
    if (!top) return { ok: false, problems: [{ from: 0, to: source.length, message: 'Nothing is written here yet.' }] };
    if (top.nextSibling)
      throw new NotUnderstood(top.nextSibling, 'One formula ends here; what follows is not part of it.');
    return { ok: true, tree: new Reader(source).expression(top) };
  } catch (fault) {
    if (fault instanceof NotUnderstood)
      return { ok: false, problems: [{ from: fault.place.from, to: fault.place.to, message: fault.message }] };
    throw fault;
  }
}
