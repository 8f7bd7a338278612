/** A queue in the order of time; deeds of one instant keep the order in which they came. */
export class Agenda<Deed> {
  readonly #deeds: { at: number; order: number; deed: Deed }[] = [];
  #order = 0;

  add(at: number, deed: Deed): void {
    this.#deeds.push({ at, order: this.#order++, deed });
    let i = this.#deeds.length - 1;
    while (i > 0) {
      const parent = (i - 1) >> 1;
      if (this.#before(parent, i)) break;
      [this.#deeds[parent], this.#deeds[i]] = [this.#deeds[i], this.#deeds[parent]];
      i = parent;
    }
  }

  #before(a: number, b: number): boolean {
    const x = this.#deeds[a];
    const y = this.#deeds[b];
    return x.at < y.at || (x.at === y.at && x.order < y.order);
  }

  next(until: number): { at: number; deed: Deed } | undefined {
    const [first] = this.#deeds;
    if (!first || first.at > until) return undefined;
    const last = this.#deeds.pop()!;
    if (this.#deeds.length > 0) {
      this.#deeds[0] = last;
      for (let i = 0; ; ) {
        let least = i;
        for (const child of [2 * i + 1, 2 * i + 2]) {
          if (child < this.#deeds.length && this.#before(child, least)) least = child;
        }
        if (least === i) break;
        [this.#deeds[i], this.#deeds[least]] = [this.#deeds[least], this.#deeds[i]];
        i = least;
      }
    }
    return first;
  }
}
