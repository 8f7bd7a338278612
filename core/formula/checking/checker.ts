/** The kinds of a formula checked against the names it may use, and its closures made, in one walk. */
import { atText } from '../functions/index.ts';
import { nearest } from '../nearest.ts';
import { both, either } from '../operators.ts';
import { partOf } from '../paths.ts';
import type { Expression, Place, Problem } from '../text/tree.ts';
import { fits, hasOrder, spoken, type Type } from '../type.ts';
import { momentType, typeNamed, valueIs } from '../typeNames.ts';
import { loading } from '../values/boundary.ts';
import { readDate } from '../values/moment.ts';
import { checkCall, checkFunction, checkUse } from './calls.ts';
import { checkFilter, checkFor, checkList, checkPath, checkQuantified, checkRange, checkRow } from './collections.ts';
import {
  type Bound,
  type Checked,
  type Checking,
  capital,
  fixed,
  type Names,
  nothing,
  type Run,
  unknown,
} from './frame.ts';
import { checkArithmetic, checkBetween, checkComparison, checkIf, checkIn, checkMinus } from './operations.ts';

export class Checker implements Checking {
  readonly problems: Problem[] = [];
  readonly uses = new Set<string>();
  /** How many places for values of its own the formula needs. */
  slots = 0;

  readonly names: Names;
  #bound: Bound[] = [];

  constructor(names: Names) {
    this.names = names;
  }

  say(at: Place, message: string): void {
    this.problems.push({ from: at.from, to: at.to, message });
  }

  want(expression: Expression, wanted: Type, why: string): Run {
    const { type, run } = this.check(expression);
    if (!fits(type, wanted)) this.say(expression, `${why} needs ${spoken(wanted)}, this is ${spoken(type)}.`);
    return run;
  }

  alike(a: Type, b: Type, at: Place): void {
    if (!fits(a, b) && !fits(b, a)) this.say(at, `${capital(spoken(a))} cannot be compared with ${spoken(b)}.`);
  }

  ordered(type: Type, at: Place): void {
    if (!hasOrder(type)) this.say(at, `${capital(spoken(type))} has no order; only = and != make sense here.`);
  }

  /** Works with more names known than before. */
  with<T>(bound: readonly Bound[], work: () => T): T {
    const before = this.#bound;
    this.#bound = [...before, ...bound];
    try {
      return work();
    } finally {
      this.#bound = before;
    }
  }

  slot(): number {
    this.slots += 1;
    return this.slots - 1;
  }

  check(e: Expression): Checked {
    switch (e.kind) {
      case 'number':
      case 'text':
      case 'yes/no':
        return fixed(e.kind, e.value);
      case 'date': {
        const day = readDate(e.value);
        if (!day) this.say(e, `There is no day ${e.value}.`);
        return fixed('date', day);
      }
      case 'moment':
        return this.#moment(e);
      case 'nothing':
        return { type: 'anything', run: unknown, fixed: null };
      case 'name':
        return this.#name(e);
      case 'negate':
        return checkMinus(this, e);
      case 'arithmetic':
        return checkArithmetic(this, e);
      case 'compare':
        return checkComparison(this, e);
      case 'between':
        return checkBetween(this, e);
      case 'in':
        return checkIn(this, e);
      case 'and':
      case 'or': {
        const word = e.kind === 'and' ? '“and”' : '“or”';
        const left = this.want(e.left, 'yes/no', word);
        const right = this.want(e.right, 'yes/no', word);
        const [join, settles] = e.kind === 'and' ? [both, false] : [either, true];
        return {
          type: 'yes/no',
          run: frame => {
            const first = left(frame);
            return first === settles ? settles : join(first, right(frame));
          },
        };
      }
      case 'if':
        return checkIf(this, e);
      case 'call':
        return checkCall(this, e);
      case 'use':
        return checkUse(this, e);
      case 'list':
        return checkList(this, e);
      case 'row':
        return checkRow(this, e);
      case 'range':
        return checkRange(this, e);
      case 'path':
        return checkPath(this, e);
      case 'filter':
        return checkFilter(this, e);
      case 'for':
        return checkFor(this, e);
      case 'some':
      case 'every':
        return checkQuantified(this, e);
      case 'function':
        return checkFunction(this, e, []);
      case 'instance of': {
        const { run } = this.check(e.of);
        const named = typeNamed(e.type);
        if (!named) {
          this.say(e, `There is no kind “${e.type}”. Try number, string, boolean, date, time, list or context.`);
          return { type: 'yes/no', run: unknown };
        }
        return { type: 'yes/no', run: frame => valueIs(run(frame), named) };
      }
    }
  }

  #moment(e: Extract<Expression, { kind: 'moment' }>): Checked {
    const value = atText(e.text);
    if (value === null)
      this.say(e, `“${e.text}” is no date, time or duration. Write @"2026-02-09", @"08:30:00" or @"P5D".`);
    return fixed(momentType(value), value);
  }

  #name(e: Extract<Expression, { kind: 'name' }>): Checked {
    const { name } = e;
    let guess: number | undefined;
    for (let i = this.#bound.length - 1; i >= 0; i--) {
      const bound = this.#bound[i];
      const { slot } = bound;
      if (bound.kind === 'name') {
        if (bound.name === name) return { type: bound.type, run: frame => frame.locals[slot] ?? null };
      } else if (bound.entries && Object.hasOwn(bound.entries, name)) {
        return { type: bound.entries[name], run: frame => partOf(frame.locals[slot], name) };
      } else if (!bound.entries) guess ??= slot;
    }
    if (Object.hasOwn(this.names, name)) {
      this.uses.add(name);
      const type = this.names[name];
      const load = loading(type);
      if (!load) return { type, run: frame => frame.values[name] ?? null };
      return { type, run: frame => load(frame.values[name] ?? null) };
    }
    const dot = name.indexOf('.');
    if (dot > 0 && Object.hasOwn(this.names, `${name.slice(0, dot)}.*`)) {
      this.uses.add(name);
      return { type: 'anything', run: frame => frame.values[name] ?? null };
    }
    if (guess !== undefined) {
      const slot = guess;
      return { type: 'anything', run: frame => partOf(frame.locals[slot], name) };
    }
    const near = nearest(name, [...this.ownNames(), ...Object.keys(this.names)]);
    this.say(e, `There is no “${name}”.${near ? ` Did you mean “${near}”?` : ''}`);
    return nothing;
  }

  isOwn(name: string): boolean {
    return this.#bound.some(bound => bound.kind === 'name' && bound.name === name);
  }

  ownNames(): string[] {
    return this.#bound.flatMap(bound => (bound.kind === 'name' ? [bound.name] : Object.keys(bound.entries ?? {})));
  }
}
