/**
 * A thread beside the one that answers: one task after another, each within a budget. A thread that takes too long or
 * breaks is ended, and the next task begins with a new one.
 */
import { parentPort, Worker } from 'node:worker_threads';

/** What comes back for a task by its number. */
type Answer<Done> = { task: number } & ({ done: Done } | { fault: string });

/** The task took longer than its budget. */
export class TooLong extends Error {}

export class Thread<Asked, Done> {
  readonly #entry: URL;
  readonly #budget: number;
  readonly #begins: () => void;
  #worker: Worker | undefined;
  #last: Promise<unknown> = Promise.resolve();
  #tasks = 0;

  /**
   * @param entry the module that begins the thread
   * @param budget milliseconds for one task
   * @param begins told whenever a new thread begins, which knows nothing of what came before
   */
  constructor(entry: URL, budget: number, begins: () => void = () => {}) {
    this.#entry = entry;
    this.#budget = budget;
    this.#begins = begins;
  }

  /**
   * @param asked made when its turn comes, so that it fits the thread that is there then
   * @throws TooLong
   */
  ask(asked: () => Asked): Promise<Done> {
    const turn = this.#last.then(() => this.#ask(asked));
    this.#last = turn.catch(() => {});
    return turn;
  }

  async stop(): Promise<void> {
    await this.#worker?.terminate();
    this.#worker = undefined;
  }

  #ask(asked: () => Asked): Promise<Done> {
    const worker = this.#worker ?? this.#start();
    const task = ++this.#tasks;
    const message = { ...asked(), task };
    return new Promise((done, fail) => {
      const give = (over: () => void) => {
        clearTimeout(timer);
        worker.off('message', hear);
        worker.off('error', end);
        over();
      };
      const end = (fault: Error) => {
        this.#worker = undefined;
        void worker.terminate();
        give(() => fail(fault));
      };
      const hear = (answer: Answer<Done>) => {
        if (answer.task !== task) return;
        if ('done' in answer) give(() => done(answer.done));
        else end(new Error(answer.fault));
      };
      const timer = setTimeout(() => end(new TooLong(`it took longer than ${this.#budget} ms`)), this.#budget);
      worker.on('message', hear);
      worker.on('error', end);
      worker.postMessage(message);
    });
  }

  #start(): Worker {
    const worker = new Worker(this.#entry, { execArgv: [], resourceLimits: { maxOldGenerationSizeMb: 1024 } });
    worker.unref();
    this.#worker = worker;
    this.#begins();
    return worker;
  }
}

/** The other end, on the thread: answers every message with what `work` gives, or with the fault that it met. */
export function answerOnThread<Asked, Done>(work: (asked: Asked) => Done | Promise<Done>): void {
  parentPort?.on('message', async (asked: Asked & { task: number }) => {
    const { task } = asked;
    try {
      const done = await work(asked);
      parentPort?.postMessage({ task, done });
    } catch (fault) {
      parentPort?.postMessage({ task, fault: String(fault) });
    }
  });
}
