/** Papers made and signed on a thread of their own, each within a budget. */
import type { FilledLetter } from '@north-pebble/core/workflow';
import { Thread, TooLong } from '../threads/index.ts';
import { BrokenPaper, digestOf, type Signature, type Strokes } from './pdf.ts';
import type { Made, ToMake } from './worker.ts';

export { letterOf } from './letterPdf.ts';
export { BrokenPaper, digestOf, type Signature, type Strokes };

const budgetMilliseconds = 15_000;

export class Papers {
  readonly #thread: Thread<ToMake, Made>;

  constructor(budget = budgetMilliseconds) {
    this.#thread = new Thread(new URL('./paperThread.mjs', import.meta.url), budget);
  }

  /** @throws BrokenPaper when it would have too many pages */
  paper(title: string, text: string): Promise<Uint8Array> {
    return this.#make({ what: 'paper', title, text });
  }

  /**
   * @throws BrokenPaper when it would have too many pages
   * @throws TooLong when it takes too much work; it may be tried again
   */
  letter(letter: FilledLetter): Promise<Uint8Array> {
    return this.#make({ what: 'letter', letter });
  }

  /** @throws BrokenPaper when the paper cannot be opened, or not within the budget */
  sign(paper: Uint8Array, signature: Signature): Promise<Uint8Array> {
    return this.#make({ what: 'sign', paper, signature });
  }

  /** @throws BrokenPaper when the paper cannot be opened, or not within the budget */
  async mustOpen(paper: Uint8Array): Promise<void> {
    await this.#make({ what: 'open', paper });
  }

  stop(): Promise<void> {
    return this.#thread.stop();
  }

  async #make(asked: ToMake): Promise<Uint8Array> {
    let made: Made;
    try {
      made = await this.#thread.ask(() => asked);
    } catch (fault) {
      // A paper that somebody gave and that takes so much work is none that can be read. What we set ourselves is only slow.
      const isGiven = asked.what === 'sign' || asked.what === 'open';
      throw fault instanceof TooLong && isGiven ? new BrokenPaper('it takes too long to open') : fault;
    }
    if ('broken' in made) throw new BrokenPaper(made.broken);
    return made.bytes;
  }
}
