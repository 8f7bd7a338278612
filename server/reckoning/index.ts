/** Working out on a thread of its own what follows from a change of facts, and what files would bring. */
import type { Consequences } from '@north-pebble/core/consequences';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { Thread, TooLong, type Wishes } from '../threads/index.ts';
import type {
  Asked,
  Ended,
  Files,
  FilesRead,
  Findings,
  Follows,
  Found,
  Rules,
  Standings,
  Stood,
  Taken,
  TakenDays,
  YearEnds,
} from './worker.ts';

export type { FilesRead } from './worker.ts';

/** It could not be worked out within the budget. */
export class TooMuchToReckon extends Error {
  constructor() {
    super('working out what follows took longer than its budget');
  }
}

const budgetMilliseconds = 60_000;

export class Reckoning {
  readonly #thread: Thread<Omit<Asked, 'task'>, Consequences | FilesRead | Found | Stood | Ended | TakenDays>;
  /** The directory that the thread knows. */
  #known: DirectoryIndex | undefined;
  /** The leave types and plans that it knows. */
  #rules: Rules | undefined;

  /** @param database where the house is stored: the thread reads everybody’s leave by itself */
  constructor(database: string, budget = budgetMilliseconds) {
    const begins = () => {
      this.#known = undefined;
      this.#rules = undefined;
    };
    this.#thread = new Thread(new URL('./reckonThread.mjs', import.meta.url), budget, begins, { database });
  }

  /** @throws TooMuchToReckon when the budget is used up */
  follows(
    index: DirectoryIndex,
    rules: Rules,
    asked: Omit<Follows, 'what'>,
    wishes: Wishes = {},
  ): Promise<Consequences> {
    return this.#ask(index, { what: 'follows', ...asked }, rules, wishes) as Promise<Consequences>;
  }

  /** @throws TooMuchToReckon when the budget is used up */
  files(index: DirectoryIndex, asked: Omit<Files, 'what'>): Promise<FilesRead> {
    return this.#ask(index, { what: 'files', ...asked }) as Promise<FilesRead>;
  }

  /** @throws TooMuchToReckon when the budget is used up */
  findings(index: DirectoryIndex, asked: Omit<Findings, 'what'>): Promise<Found> {
    return this.#ask(index, { what: 'findings', ...asked }) as Promise<Found>;
  }

  /** @throws TooMuchToReckon when the budget is used up */
  standings(index: DirectoryIndex, rules: Rules, asked: Omit<Standings, 'what'>): Promise<Stood> {
    return this.#ask(index, { what: 'standings', ...asked }, rules) as Promise<Stood>;
  }

  /** @throws TooMuchToReckon when the budget is used up */
  yearEnds(index: DirectoryIndex, rules: Rules, asked: Omit<YearEnds, 'what'>): Promise<Ended> {
    return this.#ask(index, { what: 'year ends', ...asked }, rules) as Promise<Ended>;
  }

  /** @throws TooMuchToReckon when the budget is used up */
  taken(index: DirectoryIndex, rules: Rules, asked: Omit<Taken, 'what'>): Promise<TakenDays> {
    return this.#ask(index, { what: 'taken', ...asked }, rules) as Promise<TakenDays>;
  }

  stop(): Promise<void> {
    return this.#thread.stop();
  }

  async #ask(
    index: DirectoryIndex,
    asked: Follows | Files | Findings | Standings | YearEnds | Taken,
    rules?: Rules,
    wishes: Wishes = {},
  ): Promise<Consequences | FilesRead | Found | Stood | Ended | TakenDays> {
    try {
      return await this.#thread.ask(() => {
        const isKnown = this.#known === index;
        this.#known = index;
        // Rules are those beside the directory, so the thread keeps the two together.
        const areKnown = rules === undefined || this.#rules === rules;
        if (rules) this.#rules = rules;
        return {
          ...asked,
          ...(isKnown ? {} : { directory: index.directory }),
          ...(areKnown ? {} : { leaveRules: { types: rules.types, plans: rules.plans } }),
        };
      }, wishes);
    } catch (fault) {
      throw fault instanceof TooLong ? new TooMuchToReckon() : fault;
    }
  }
}
