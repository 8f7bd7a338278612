/** How ranges and points lie to one another (table 78 of DMN 1.5); nothing where that cannot be told. */
import { Range } from './range.ts';
import { inOrder, type Value } from './value.ts';

/** Whether a value is in a range; nothing when that cannot be told. */
export function isIn(value: Value, range: Range): boolean | null {
  if (value === null) return null;
  const low = range.start === null ? -1 : inOrder(range.start, value);
  const high = range.end === null ? -1 : inOrder(value, range.end);
  if (low === null || high === null) return null;
  return (low < 0 || (low === 0 && range.startIncluded)) && (high < 0 || (high === 0 && range.endIncluded));
}

type Point = { at: Value; included: boolean };
const startOf = (of: Value): Point =>
  of instanceof Range ? { at: of.start, included: of.startIncluded } : { at: of, included: true };
const endOf = (of: Value): Point =>
  of instanceof Range ? { at: of.end, included: of.endIncluded } : { at: of, included: true };

type Told = boolean | null;
const told = (order: number | null, holds: (order: number) => boolean): Told => (order === null ? null : holds(order));
const all = (...parts: Told[]): Told => (parts.includes(false) ? false : parts.includes(null) ? null : true);
const any = (...parts: Told[]): Told => (parts.includes(true) ? true : parts.includes(null) ? null : false);

const sameStart = (a: Range, b: Range): Told =>
  all(
    told(inOrder(a.start, b.start), o => o === 0),
    a.startIncluded === b.startIncluded,
  );
const sameEnd = (a: Range, b: Range): Told =>
  all(
    told(inOrder(a.end, b.end), o => o === 0),
    a.endIncluded === b.endIncluded,
  );
const startsBefore = (a: Range, b: Range): Told =>
  told(inOrder(a.start, b.start), o => o < 0 || (o === 0 && a.startIncluded && !b.startIncluded));
const endsBefore = (a: Range, b: Range): Told =>
  told(inOrder(a.end, b.end), o => o < 0 || (o === 0 && !a.endIncluded && b.endIncluded));

export function before(a: Value, b: Value): Told {
  const [left, right] = [endOf(a), startOf(b)];
  return told(inOrder(left.at, right.at), o => o < 0 || (o === 0 && !(left.included && right.included)));
}

export const meets = (a: Range, b: Range): Told =>
  all(
    a.endIncluded,
    b.startIncluded,
    told(inOrder(a.end, b.start), o => o === 0),
  );

/** Whether some point is in both. */
export function overlaps(a: Range, b: Range): Told {
  const touch = (x: Range, y: Range) =>
    told(inOrder(x.end, y.start), o => o > 0 || (o === 0 && x.endIncluded && y.startIncluded));
  return all(touch(a, b), touch(b, a));
}

export const overlapsBefore = (a: Range, b: Range): Told =>
  all(
    startsBefore(a, b),
    told(inOrder(a.end, b.start), o => o > 0 || (o === 0 && a.endIncluded && b.startIncluded)),
    any(endsBefore(a, b), sameEnd(a, b)),
  );

export const finishes = (of: Value, range: Range): Told =>
  of instanceof Range
    ? all(sameEnd(of, range), any(startsBefore(range, of), sameStart(of, range)))
    : all(
        range.endIncluded,
        told(inOrder(range.end, of), o => o === 0),
      );

export const starts = (of: Value, range: Range): Told =>
  of instanceof Range
    ? all(sameStart(of, range), any(endsBefore(of, range), sameEnd(of, range)))
    : all(
        range.startIncluded,
        told(inOrder(range.start, of), o => o === 0),
      );

export const includes = (range: Range, of: Value): Told =>
  of instanceof Range
    ? all(any(startsBefore(range, of), sameStart(range, of)), any(endsBefore(of, range), sameEnd(range, of)))
    : isIn(of, range);

export const coincides = (a: Value, b: Value): Told =>
  a instanceof Range && b instanceof Range ? all(sameStart(a, b), sameEnd(a, b)) : told(inOrder(a, b), o => o === 0);
