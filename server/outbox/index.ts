/**
 * Delivers what commands left to be done outside: at least once, with a key that lets the receiver tell a repeat, tried
 * again with growing pauses. Every connection has a round of its own, so that a slow one holds up no other.
 */
import { randomUUID } from 'node:crypto';
import { loadConnections, type MailConnection, type StoredConnection } from '../connections/index.ts';
import { isDatabaseAway } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { askReady, ConnectionAway } from './calls.ts';
import { leaseMilliseconds } from './claims.ts';
import { deliverReady, MailAway } from './letters.ts';
import { makeReady } from './making.ts';

export { askReady } from './calls.ts';
export { deliverReady, type Sender } from './letters.ts';
export { makeReady } from './making.ts';

/** Every command wakes what seldom has anything to do; many commands at once are one round. */
const gathering = 50;

/** How long a connection that cannot be reached is left alone at most. */
const longestSilence = 15_000;

/** Rounds of one connection: woken while one is under way, it goes round once more. */
class Rounds {
  readonly #house: () => House;
  readonly #go: () => Promise<unknown>;
  readonly #name: string;
  #running: Promise<void> | null = null;
  #again = false;
  #stopped = false;
  #notBefore = 0;
  #failures = 0;

  readonly #gathers: number;

  /** @param gathers how long it waits for more to come before it goes round, in milliseconds */
  constructor(name: string, house: () => House, go: () => Promise<unknown>, gathers = 0) {
    this.#name = name;
    this.#house = house;
    this.#go = go;
    this.#gathers = gathers;
  }

  wake(): void {
    if (this.#stopped || Date.now() < this.#notBefore) return;
    if (this.#running) this.#again = true;
    else this.#running = this.#round();
  }

  async #round(): Promise<void> {
    do {
      if (this.#gathers > 0) await new Promise(done => setTimeout(done, this.#gathers));
      this.#again = false;
      try {
        await this.#go();
        this.#failures = 0;
        if (this.#name === 'connections') this.#house().beats.set('delivery', Date.now());
      } catch (fault) {
        if (fault instanceof MailAway || fault instanceof ConnectionAway) {
          this.#failures += 1;
          this.#notBefore = Date.now() + Math.min(longestSilence, 500 * 2 ** this.#failures);
          this.#again = false;
        } else if (isDatabaseAway(fault)) this.#house().log.warn(`${this.#name} waits for the database`);
        else this.#house().log.error({ err: fault, connection: this.#name }, 'delivering');
      }
    } while (this.#again && !this.#stopped);
    this.#running = null;
  }

  async stop(): Promise<void> {
    this.#stopped = true;
    await this.#running;
  }
}

export type Postman = { wake: () => void; stop: () => Promise<void> };

/** Delivers when woken, and every `pause` milliseconds for what is to be tried again. */
export function keepDelivering(
  house: () => House,
  mail: MailConnection,
  { pause = 1000, lease = leaseMilliseconds }: { pause?: number; lease?: number } = {},
): Postman {
  const id = randomUUID();
  const letters = new Rounds('mail', house, () => deliverReady(house(), { id, mail, lease }));
  const making = new Rounds('letters', house, () => makeReady(house(), { id, lease }), gathering);
  const others = new Map<string, { rounds: Rounds; stored: StoredConnection }>();
  const ending = new Set<Promise<void>>();
  // Which connections there are is looked up in a round of its own: it may change at any time, on any server.
  const looking = new Rounds(
    'connections',
    house,
    async () => {
      const now = await loadConnections(house().db);
      for (const [name, { rounds }] of others) {
        if (now.some(stored => stored.name === name)) continue;
        others.delete(name);
        // What is in hand may take long, and nothing else waits for it.
        const ends = rounds.stop().finally(() => ending.delete(ends));
        ending.add(ends);
      }
      for (const stored of now) {
        const known = others.get(stored.name);
        if (known) known.stored = stored;
        else {
          const one: { rounds: Rounds; stored: StoredConnection } = {
            stored,
            rounds: new Rounds(stored.name, house, () => askReady(house(), { id, lease }, one.stored)),
          };
          others.set(stored.name, one);
        }
        others.get(stored.name)?.rounds.wake();
      }
    },
    gathering,
  );
  const wake = () => {
    letters.wake();
    making.wake();
    looking.wake();
  };
  const timer = setInterval(wake, pause);
  return {
    wake,
    stop: async () => {
      clearInterval(timer);
      await Promise.all([letters.stop(), making.stop(), looking.stop()]);
      await Promise.all([...ending, ...[...others.values()].map(one => one.rounds.stop())]);
      mail.close();
    },
  };
}
