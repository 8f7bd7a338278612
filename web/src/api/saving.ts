/**
 * Saving as one types: the newest value a moment after it was changed, one call at a time, tried again for as long as the
 * house is away, and at once when the page is left. Drafts of sheets, drafts of requests and unsent words are saved by it.
 */
import { isPassing, problemOf } from './client.ts';

export type Saving<Saved> =
  | { readonly kind: 'saving' }
  | { readonly kind: 'saved'; readonly saved: Saved }
  /** The house is away; it is tried again by itself. */
  | { readonly kind: 'away' }
  | { readonly kind: 'refused'; readonly fault: unknown };

type Options<Value, Saved> = {
  /** @param leaving whether the page is being left, so that the call must outlive it */
  readonly save: (value: Value, leaving: boolean) => Promise<Saved>;
  readonly onState?: (state: Saving<Saved>, value: Value) => void;
  /** How long a value stands still before it is saved, in milliseconds. */
  readonly rest?: number;
};

const again = 1500;
const open = new Set<{ flush: (leaving?: boolean) => Promise<void> }>();

/** Saves at once whatever waits to be saved anywhere on the page. */
export function saveAll(): void {
  for (const saver of [...open]) void saver.flush(true);
}
if (typeof window !== 'undefined') window.addEventListener('pagehide', saveAll);

export class Saver<Value, Saved> {
  readonly #options: Options<Value, Saved>;
  /** What is not saved yet, when there is anything. */
  #newest: { readonly value: Value } | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #running: Promise<void> | null = null;
  #sending: { readonly value: Value } | null = null;
  #held = false;

  constructor(options: Options<Value, Saved>) {
    this.#options = options;
  }

  /** Whether something is not saved yet. */
  get isOpen(): boolean {
    return this.#newest !== null;
  }

  get isRunning(): boolean {
    return this.#running !== null;
  }

  /** Nothing is sent while it is held; what is changed meanwhile waits. */
  hold(held: boolean): void {
    this.#held = held;
    if (held) clearTimeout(this.#timer);
  }

  change(value: Value): void {
    this.#newest = { value };
    open.add(this);
    this.#options.onState?.({ kind: 'saving' }, value);
    this.#after(this.#options.rest ?? 600);
  }

  /** Forgets what is not saved. */
  drop(): void {
    clearTimeout(this.#timer);
    this.#newest = null;
    open.delete(this);
  }

  /** Saves what is not saved yet, now; done when nothing is under way any more. */
  async flush(leaving = false): Promise<void> {
    clearTimeout(this.#timer);
    if (this.#running && !leaving) await this.#running;
    const newest = this.#newest;
    // What is on its way already is not sent beside itself.
    if (!newest || this.#held || newest === this.#sending) return;
    this.#running = this.#send(newest, leaving);
    await this.#running;
    this.#running = null;
    // Changed while it was on its way.
    if (this.#newest && this.#newest !== newest) await this.flush(leaving);
  }

  #after(pause: number): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.flush(), pause);
  }

  async #send(newest: { readonly value: Value }, leaving: boolean): Promise<void> {
    const { save, onState } = this.#options;
    const { value } = newest;
    this.#sending = newest;
    onState?.({ kind: 'saving' }, value);
    try {
      const saved = await save(value, leaving);
      if (this.#newest !== newest) return;
      this.drop();
      onState?.({ kind: 'saved', saved }, value);
    } catch (fault) {
      if (isPassing(problemOf(fault))) {
        onState?.({ kind: 'away' }, value);
        this.#after(again);
      } else onState?.({ kind: 'refused', fault }, value);
    } finally {
      this.#sending = null;
    }
  }
}
