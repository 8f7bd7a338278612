/**
 * A thread beside the one that answers: one task after another, each within a budget of work. A thread that works too long
 * or breaks is ended, and the next task begins with a new one.
 */
import { parentPort, Worker } from 'node:worker_threads';
import { ownThread, workedBy } from './processor.ts';

/** What comes back for a task by its number. */
type Answer<Done> = { task: number } & (
  | { done: Done }
  | { fault: string; code: string | undefined }
  | { told: unknown }
);

/** What whoever asks may want besides the answer. */
export type Wishes = {
  /** Hears what the work tells of itself while it goes on. */
  readonly told?: (what: unknown) => void;
  /** Ends the work, and the thread with it. */
  readonly signal?: AbortSignal;
};

/** The thread was ended before it had answered. */
export class Ended extends Error {
  constructor() {
    super('the thread was ended');
  }
}

/** So many times its budget may pass by the clock, on a machine that has much else to do. */
const patience = 20;

/** The task took longer than its budget. */
export class TooLong extends Error {}

export class Thread<Asked, Done> {
  readonly #entry: URL;
  readonly #budget: number;
  readonly #begins: () => void;
  readonly #given: unknown;
  #worker: Worker | undefined;
  /** What the kernel calls it. */
  #kernel: string | null = null;
  /** When the thread had begun, by the clock and by the kernel; not known before. */
  #begun: { at: number; worked: number | null } | undefined;
  #last: Promise<unknown> = Promise.resolve();
  #tasks = 0;

  /**
   * @param entry the module that begins the thread
   * @param budget milliseconds of work for one task: of the processor's time, where the kernel tells it, from when the
   * thread has begun. A task that does not work and does not end either is given up after many times that.
   * @param begins told whenever a new thread begins, which knows nothing of what came before
   * @param given what every new thread is given, as it finds it in `workerData`
   */
  constructor(entry: URL, budget: number, begins: () => void = () => {}, given?: unknown) {
    this.#entry = entry;
    this.#budget = budget;
    this.#begins = begins;
    this.#given = given;
  }

  /**
   * @param asked made when its turn comes, so that it fits the thread that is there then
   * @throws TooLong
   * @throws Ended where it was stopped
   */
  ask(asked: () => Asked, wishes: Wishes = {}): Promise<Done> {
    const turn = this.#last.then(() => this.#ask(asked, wishes));
    this.#last = turn.catch(() => {});
    return turn;
  }

  async stop(): Promise<void> {
    await this.#worker?.terminate();
    this.#worker = undefined;
  }

  #ask(asked: () => Asked, { told, signal }: Wishes): Promise<Done> {
    if (signal?.aborted) return Promise.reject(new Ended());
    const worker = this.#worker ?? this.#start();
    const task = ++this.#tasks;
    const message = { ...asked(), task };
    return new Promise((done, fail) => {
      const give = (over: () => void) => {
        clearInterval(timer);
        worker.off('message', hear);
        worker.off('error', end);
        worker.off('exit', gone);
        signal?.removeEventListener('abort', gone);
        over();
      };
      const end = (fault: Error) => {
        this.#worker = undefined;
        void worker.terminate();
        give(() => fail(fault));
      };
      // Ended from outside: whoever waits is told, and waits for nothing.
      const gone = () => end(new Ended());
      const hear = (answer: Answer<Done>) => {
        if (answer.task !== task) return;
        if ('told' in answer) told?.(answer.told);
        else if ('done' in answer) give(() => done(answer.done));
        else end(Object.assign(new Error(answer.fault), answer.code === undefined ? {} : { code: answer.code }));
      };
      const since = Date.now();
      const moment = () => ({ at: Date.now(), worked: workedBy(this.#kernel) });
      // Beginning a thread is no work of the task: on a machine that has much else to do it alone may take as long.
      let begun = this.#begun ? moment() : undefined;
      const look = () => {
        begun ??= this.#begun;
        const now = moment();
        const work = !begun
          ? 0
          : now.worked === null || begun.worked === null
            ? now.at - begun.at
            : now.worked - begun.worked;
        if (work > this.#budget || now.at - since > this.#budget * patience)
          end(new TooLong(`it took longer than ${this.#budget} ms`));
      };
      const timer = setInterval(look, Math.min(500, Math.max(10, this.#budget / 4)));
      worker.on('message', hear);
      worker.on('error', end);
      worker.on('exit', gone);
      signal?.addEventListener('abort', gone);
      worker.postMessage(message);
    });
  }

  #start(): Worker {
    const worker = new Worker(this.#entry, {
      execArgv: [],
      resourceLimits: { maxOldGenerationSizeMb: 1024 },
      workerData: this.#given,
    });
    worker.unref();
    this.#worker = worker;
    this.#kernel = null;
    this.#begun = undefined;
    worker.on('message', (said: { thread?: string | null }) => {
      if (said.thread === undefined || this.#worker !== worker) return;
      this.#kernel = said.thread;
      this.#begun = { at: Date.now(), worked: workedBy(said.thread) };
    });
    this.#begins();
    return worker;
  }
}

/**
 * The other end, on the thread: answers every message with what `work` gives, or with the fault that it met.
 * @param codeOf by which code the main thread tells a fault from others, as that of a database that is away
 */
export function answerOnThread<Asked, Done>(
  work: (asked: Asked, tell: (what: unknown) => void) => Done | Promise<Done>,
  codeOf: (fault: unknown) => string | undefined = () => undefined,
): void {
  parentPort?.postMessage({ thread: ownThread() });
  parentPort?.on('message', async (asked: Asked & { task: number }) => {
    const { task } = asked;
    try {
      const done = await work(asked, told => parentPort?.postMessage({ task, told }));
      parentPort?.postMessage({ task, done });
    } catch (fault) {
      parentPort?.postMessage({ task, fault: String(fault), code: codeOf(fault) });
    }
  });
}
