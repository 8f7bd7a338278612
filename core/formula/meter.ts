/** How much work a formula may do, so that none keeps a request or a page waiting. */

/** Steps of work: a turn of a loop, a value put into a list, some letters of a text. */
export const mostSteps = 100_000;
/** Steps that all formulas of one request may take together, so that many that are each within bounds are so too. */
export const mostStepsTogether = 100_000;
/** Values in one list, and letters in one text. */
export const mostItems = 20_000;
export const mostLetters = 100_000;

/** A formula that would not come to an end in time. */
export class TooMuch extends Error {}

export class Meter {
  readonly #together: Meter | undefined;
  #left: number;
  #deep = 0;

  /** @param together the meter of all formulas that are worked out with this one */
  constructor(together?: Meter, most = mostSteps) {
    this.#together = together;
    this.#left = most;
  }

  spend(steps = 1): void {
    this.#left -= steps;
    if (this.#left < 0) throw new TooMuch();
    this.#together?.spend(steps);
  }

  /** A list that is not longer than lists may be. */
  list<T>(items: T[]): T[] {
    this.spend(items.length);
    if (items.length > mostItems) throw new TooMuch();
    return items;
  }

  text(text: string): string {
    this.spend(text.length >> 6);
    if (text.length > mostLetters) throw new TooMuch();
    return text;
  }

  /** Functions that call functions go only so deep. */
  inside<T>(work: () => T): T {
    this.#deep += 1;
    if (this.#deep > 100) throw new TooMuch();
    try {
      return work();
    } finally {
      this.#deep -= 1;
    }
  }
}
