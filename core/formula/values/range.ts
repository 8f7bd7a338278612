/** Ranges (FEEL 10.3.2.7): from one value to another, each end with or without itself. */
import type { Value } from '../type.ts';

export class Range {
  /** Nothing where it has no beginning. */
  readonly start: Value;
  readonly end: Value;
  readonly startIncluded: boolean;
  readonly endIncluded: boolean;
  constructor(start: Value, end: Value, startIncluded: boolean, endIncluded: boolean) {
    this.start = start;
    this.end = end;
    this.startIncluded = startIncluded && start !== null;
    this.endIncluded = endIncluded && end !== null;
  }
}
