/** Waiting one's turn without holding anything: what waits here has no connection, so that others have one. */

type Waiting = () => void;

/** So many at once; whoever comes later waits in the order in which they came. */
export class Lanes {
  readonly #most: number;
  #running = 0;
  readonly #waiting: Waiting[] = [];
  constructor(most: number) {
    this.#most = most;
  }

  async run<T>(work: () => Promise<T>): Promise<T> {
    if (this.#running >= this.#most) await new Promise<void>(go => this.#waiting.push(go));
    else this.#running += 1;
    try {
      return await work();
    } finally {
      // The place is handed on as it is, so that nobody who comes just now steps in between.
      const next = this.#waiting.shift();
      if (next) next();
      else this.#running -= 1;
    }
  }
}

const turns = new Map<string, Promise<unknown>>();

/** Work under one name is done one after the other; what is under other names goes on beside it. */
export async function inTurn<T>(name: string, work: () => Promise<T>): Promise<T> {
  const before = turns.get(name) ?? Promise.resolve();
  const mine = before.then(work, work);
  const settled = mine.then(
    () => undefined,
    () => undefined,
  );
  turns.set(name, settled);
  try {
    return await mine;
  } finally {
    if (turns.get(name) === settled) turns.delete(name);
  }
}
