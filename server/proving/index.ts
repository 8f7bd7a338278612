/**
 * Proving definitions on a thread of its own, one after another, each within a budget: whatever somebody has written, those
 * who answer go on answering. A thread that takes too long is ended, and the next task begins with a new one.
 */
import { Worker } from 'node:worker_threads';
import type { DirectoryIndex } from '@north-pebble/core/people';
import type { FromProving, House as HouseFacts, Proven, ToProve } from './worker.ts';

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
  readonly #budget: number;
  #worker: Worker | undefined;
  /** The house that the thread knows. */
  #known: DirectoryIndex | undefined;
  #last: Promise<unknown> = Promise.resolve();
  #tasks = 0;

  constructor(budget = budgetMilliseconds) {
    this.#budget = budget;
  }

  /** @throws TooMuchToProve when the budget is used up */
  prove(task: Task): Promise<Proven> {
    const turn = this.#last.then(() => this.#prove(task));
    this.#last = turn.catch(() => {});
    return turn;
  }

  async stop(): Promise<void> {
    await this.#worker?.terminate();
    this.#worker = undefined;
  }

  #prove({ index, lists, ...asked }: Task): Promise<Proven> {
    const worker = this.#worker ?? this.#start();
    const task = ++this.#tasks;
    const isKnown = this.#known === index;
    this.#known = index;
    const house = isKnown ? {} : { house: { directory: index.directory, lists } };
    return new Promise((done, fail) => {
      const give = (over: () => void) => {
        clearTimeout(timer);
        worker.off('message', hear);
        worker.off('error', broken);
        over();
      };
      const end = (fault: Error) => {
        this.#worker = undefined;
        this.#known = undefined;
        void worker.terminate();
        give(() => fail(fault));
      };
      const hear = (answer: FromProving) => {
        if (answer.task !== task) return;
        if ('proven' in answer) give(() => done(answer.proven));
        else end(new Error(answer.fault));
      };
      const broken = (fault: Error) => end(fault);
      const timer = setTimeout(() => end(new TooMuchToProve()), this.#budget);
      worker.on('message', hear);
      worker.on('error', broken);
      const message: ToProve = { ...asked, ...house, task };
      worker.postMessage(message);
    });
  }

  #start(): Worker {
    const worker = new Worker(new URL('./start.mjs', import.meta.url), {
      execArgv: [],
      resourceLimits: { maxOldGenerationSizeMb: 1024 },
    });
    worker.unref();
    this.#worker = worker;
    this.#known = undefined;
    return worker;
  }
}
