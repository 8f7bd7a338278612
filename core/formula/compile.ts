/**
 * Checks the types of a formula against the names it may use, then turns it into closures, once.
 * What is not known (`null`) stays not known: comparing with it or adding to it gives nothing, as FEEL has it.
 */
import { Checker } from './checking/checker.ts';
import { Frame, type Names, type Scope } from './checking/frame.ts';
import { TooMuch } from './meter.ts';
import { readFormula } from './text/reader.ts';
import type { Problem } from './text/tree.ts';
import { fits, spoken, type Type } from './type.ts';
import { givenAs } from './values/boundary.ts';
import type { Value } from './values/value.ts';

export type { Names, Scope } from './checking/frame.ts';

/** Formulas that need no place of their own share this one. */
const none: Value[] = [];

export type Formula = {
  readonly source: string;
  readonly gives: Type;
  /** The names that it looks at, in the order of their first use. */
  readonly uses: readonly string[];
  /** What comes of it; nothing too where it would be more work than a formula may be. */
  readonly run: (scope: Scope) => Value;
  /** The same, with too much work told apart from what is not known. */
  readonly attempt: (scope: Scope) => { readonly value: Value } | { readonly tooMuch: true };
};

export type Compiled = { ok: true; formula: Formula } | { ok: false; problems: Problem[] };

/**
 * @param names what the formula may look at, with types
 * @param wanted the type it must give
 */
export function compile(source: string, names: Names, wanted: Type = 'anything'): Compiled {
  const reading = readFormula(source, names);
  if (!reading.ok) return reading;
  const checker = new Checker(names);
  const { type, run } = checker.check(reading.tree);
  if (checker.problems.length === 0 && !fits(type, wanted)) {
    checker.problems.push({
      from: 0,
      to: source.length,
      message: `This gives ${spoken(type)}; ${spoken(wanted)} is needed here.`,
    });
  }
  if (checker.problems.length > 0) return { ok: false, problems: checker.problems };
  const { slots } = checker;
  const worked = (scope: Scope): Value => {
    const value = run(new Frame(scope, slots === 0 ? none : new Array<Value>(slots).fill(null)));
    return (typeof value === 'object' && value !== null) || wanted === 'money' ? givenAs(value, wanted) : value;
  };
  const attempt: Formula['attempt'] = scope => {
    try {
      return { value: worked(scope) };
    } catch (fault) {
      if (fault instanceof TooMuch) return { tooMuch: true };
      throw fault;
    }
  };
  const formula: Formula = {
    source,
    gives: type,
    uses: [...checker.uses],
    attempt,
    run: scope => {
      try {
        return worked(scope);
      } catch (fault) {
        if (fault instanceof TooMuch) return null;
        throw fault;
      }
    },
  };
  return { ok: true, formula };
}
