/** Proving definitions on a thread of its own: whatever somebody has written, those who answer go on answering. */
import type { DirectoryIndex } from '@north-pebble/core/people';
import { Thread, TooLong } from '../threads/index.ts';
import type { House as HouseFacts, Proven, ToProve } from './worker.ts';

export type { CheckFacts, Failed, Proven } from './worker.ts';

/** The definition could not be proven within the budget. */
export class TooMuchToProve extends Error {
  constructor() {
    super('proving the definition took longer than its budget');
  }
}

const budgetMilliseconds = 30_000;

type Task = Omit<ToProve, 'task' | 'house'> & { index: DirectoryIndex; lists: HouseFacts['lists'] };

export class Proving {
  readonly #thread: Thread<Omit<ToProve, 'task'>, Proven>;
  /** The house that the thread knows. */
  #known: DirectoryIndex | undefined;

  constructor(budget = budgetMilliseconds) {
    this.#thread = new Thread(new URL('./start.mjs', import.meta.url), budget, () => {
      this.#known = undefined;
    });
  }

  /** @throws TooMuchToProve when the budget is used up */
  async prove({ index, lists, ...asked }: Task): Promise<Proven> {
    try {
      return await this.#thread.ask(() => {
        const isKnown = this.#known === index;
        this.#known = index;
        return { ...asked, ...(isKnown ? {} : { house: { directory: index.directory, lists } }) };
      });
    } catch (fault) {
      throw fault instanceof TooLong ? new TooMuchToProve() : fault;
    }
  }

  stop(): Promise<void> {
    return this.#thread.stop();
  }
}
