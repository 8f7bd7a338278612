/**
 * What waits, told by itself: a stream of server-sent events to each page that is open. Every server looks once a
 * second for requests that changed, by whichever server, and tells the people of those requests that are listening to it.
 */
import { type DeskCount, may } from '@north-pebble/contract';
import { asc, gt, inArray } from 'drizzle-orm';
import { type Response, Router } from 'express';
import { isDatabaseAway, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { type Caller, callerByNow, serving } from '../http/index.ts';
import { waitingFor } from '../requests/index.ts';

type Listener = { caller: Caller; response: Response; byNow: () => Promise<Caller | null> };

const pause = 1000;
/** Servers’ clocks differ a little, and a change is stored a moment after its time is taken. */
const overlap = 3000;
const heartbeat = 25_000;
const mostChanged = 2000;

export class Live {
  readonly #house: House;
  readonly #listeners = new Set<Listener>();
  readonly #told = new Map<string, number>();
  #timer: NodeJS.Timeout | undefined;
  #beat: NodeJS.Timeout | undefined;
  #since = Date.now();
  #stopped = false;

  constructor(house: House) {
    this.#house = house;
    this.#timer = setTimeout(() => void this.#look(), pause);
    this.#beat = setInterval(() => {
      for (const { response } of this.#listeners) response.write(': still here\n\n');
    }, heartbeat);
  }

  routes(): Router {
    const router = Router();
    serving(router)('GET /live', async ({ caller, request, response }) => {
      response.writeHead(200, {
        'Content-Type': 'text/event-stream',
        'Cache-Control': 'no-cache, no-transform',
        Connection: 'keep-alive',
      });
      const listener: Listener = { caller, response, byNow: () => callerByNow(request) };
      this.#listeners.add(listener);
      request.on('close', () => this.#listeners.delete(listener));
      await this.#tell(listener);
    });
    return router;
  }

  stop(): void {
    this.#stopped = true;
    clearTimeout(this.#timer);
    clearInterval(this.#beat);
    for (const { response } of this.#listeners) response.end();
  }

  async #tell({ caller, response }: Listener): Promise<void> {
    const count: DeskCount = { waiting: await waitingFor(this.#house, caller) };
    response.write(`event: desk\ndata: ${JSON.stringify(count)}\n\n`);
  }

  async #look(): Promise<void> {
    try {
      if (this.#listeners.size > 0) {
        await this.#endOld();
        await this.#tellChanged();
      } else this.#since = Date.now() - overlap;
    } catch (fault) {
      if (!isDatabaseAway(fault)) this.#house.log.error({ err: fault }, 'live');
    }
    if (!this.#stopped) this.#timer = setTimeout(() => void this.#look(), pause);
  }

  /** Whoever has signed out, left, or been switched off hears nothing more; others go on with the rights of now. */
  async #endOld(): Promise<void> {
    const open = [...this.#listeners];
    const callers = await Promise.all(open.map(listener => listener.byNow()));
    for (const [i, listener] of open.entries()) {
      const caller = callers[i];
      if (caller) listener.caller = caller;
      else {
        this.#listeners.delete(listener);
        listener.response.end();
      }
    }
  }

  async #tellChanged(): Promise<void> {
    const now = Date.now();
    const rows = await this.#house.db
      .select({
        id: t.requests.id,
        touched: t.requests.touched,
        asker: t.requests.asker,
        subject: t.requests.subject,
        owner: t.requests.owner,
      })
      .from(t.requests)
      .where(gt(t.requests.touched, this.#since))
      .orderBy(asc(t.requests.touched))
      .limit(mostChanged);
    const news = rows.filter(({ id, touched }) => id && this.#told.get(id) !== touched);
    for (const { id, touched } of news) this.#told.set(id ?? '', touched);
    this.#since = now - overlap;
    for (const [id, touched] of this.#told) if (touched < this.#since - overlap) this.#told.delete(id);
    if (news.length === 0) return;
    // Whoever held it before must hear that it is gone.
    const held = await this.#house.db
      .select({ holder: t.tasks.holder, coverFor: t.tasks.coverFor })
      .from(t.tasks)
      .where(
        inArray(
          t.tasks.request,
          news.map(({ id }) => id ?? ''),
        ),
      );
    const people = new Set([
      ...held.flatMap(row => [row.holder, row.coverFor]),
      ...news.flatMap(row => [row.asker, row.subject, row.owner]),
    ]);
    // Those who look after requests hear of every change: one may be stuck, or go on again.
    for (const listener of this.#listeners) {
      if (people.has(listener.caller.id) || may(listener.caller, 'help requests on')) await this.#tell(listener);
    }
  }
}
