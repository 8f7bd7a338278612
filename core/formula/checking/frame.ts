/** What a checked part of a formula is, and what it is worked out in. */
import { Meter } from '../meter.ts';
import type { Expression, Place } from '../text/tree.ts';
import type { Entries, Type } from '../type.ts';
import type { Value } from '../values/value.ts';

/** Names and their types. */
export type Names = Readonly<Record<string, Type>>;

/** What a formula is worked out over: values by name, and the house's functions. */
export type Scope = {
  readonly values: Readonly<Record<string, Value>>;
  readonly call: (name: string, args: Value[]) => Value;
  /** What formulas over this scope may spend together; each for itself where nothing is said. */
  readonly together?: Meter;
};

/** A scope with what loops and functions of the formula itself have put aside, and the meter of their work. */
export class Frame {
  readonly values: Scope['values'];
  readonly call: Scope['call'];
  locals: Value[];
  kept: Meter | undefined;
  readonly together: Meter | undefined;

  constructor(scope: Scope, locals: Value[], meter?: Meter) {
    this.values = scope.values;
    this.call = scope.call;
    this.locals = locals;
    this.kept = meter;
    this.together = scope.together;
  }

  /** Most formulas need none. */
  get meter(): Meter {
    this.kept ??= new Meter(this.together);
    return this.kept;
  }
}

export type Run = (frame: Frame) => Value;

/** `fixed` where it is the same each time. */
export type Checked = { readonly type: Type; readonly run: Run; readonly fixed?: Value };

/** A name of the formula's own, or the entries of what a filter looks at; nothing is known of them where `entries` is missing. */
export type Bound =
  | { readonly kind: 'name'; readonly name: string; readonly slot: number; readonly type: Type }
  | { readonly kind: 'entries'; readonly slot: number; readonly entries: Entries | undefined };

/** What the check of one kind of expression asks of the checker. */
export type Checking = {
  readonly problems: readonly unknown[];
  readonly names: Names;
  readonly check: (e: Expression) => Checked;
  readonly say: (at: Place, message: string) => void;
  /** Checks an expression that must be of a kind. */
  readonly want: (e: Expression, wanted: Type, why: string) => Run;
  /** Says when two kinds cannot be compared. */
  readonly alike: (a: Type, b: Type, at: Place) => void;
  /** Says when a kind has no order. */
  readonly ordered: (type: Type, at: Place) => void;
  /** Works with more names known than before. */
  readonly with: <T>(bound: readonly Bound[], work: () => T) => T;
  /** A place for a value of the formula's own. */
  readonly slot: () => number;
  readonly isOwn: (name: string) => boolean;
  readonly ownNames: () => string[];
};

export const capital = (text: string): string => text[0].toUpperCase() + text.slice(1);
export const unknown: Run = () => null;
export const nothing: Checked = { type: 'anything', run: unknown };
export const fixed = (type: Type, value: Value): Checked => ({ type, run: () => value, fixed: value });
