/** What a command on a request may look at, read in as few trips as it needs. */
import { type PersonId, todayFor } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import type { Context } from '@north-pebble/core/workflow';
import { bookAndAwayStatements, readBookAndAway, rulesFor } from '../book/index.ts';
import type { Executor } from '../database/index.ts';
import { askInMoment, type House, type Moment } from './house.ts';

/** Whose leave, team and calendar a request is about. */
export const subjectOf = (stored: { asker: string; subject: string | null }): PersonId =>
  (stored.subject ?? stored.asker) as PersonId;

/** About whom, by whom, and in which workflow; at another time than now when a timer has come due. */
export type About = { subject: PersonId; actor: PersonId | null; workflow: string; at?: Instant };

/** What a command on somebody’s request may look at. */
export async function contextOf(house: House, db: Executor, about: About): Promise<Context> {
  const { subject, actor, workflow, at } = about;
  const todayIn = ({ index, now }: Moment) => todayFor(index, subject, at ?? now);
  const { moment, found } = await askInMoment(house, db, todayIn, moment =>
    bookAndAwayStatements(moment.index, subject, todayIn(moment)),
  );
  const { index, lists, now } = moment;
  const around = await readBookAndAway(db, index, subject, todayIn(moment), found);
  return { now: at ?? now, actor, index, lists, workflow, ...around };
}

/** Thrown where leave is looked at that has not been read. */
class NotRead extends Error {}

function notRead(): never {
  throw new NotRead();
}

async function withoutLeave(db: Executor, { index, lists, now }: Moment, about: About): Promise<Context> {
  const { subject, actor, workflow, at } = about;
  const today = todayFor(index, subject, at ?? now);
  const leave = {
    get entries() {
      return notRead();
    },
    get adjustments() {
      return notRead();
    },
    get passes() {
      return notRead();
    },
  };
  const book = Object.assign(leave, { index, today, ...(await rulesFor(db, index)) });
  return {
    now: at ?? now,
    actor,
    index,
    lists,
    workflow,
    book,
    get away() {
      return notRead();
    },
  };
}

/**
 * Does work that may look at leave and at who is away. Most commands do not, so it is begun without reading them;
 * work that comes to look at them is begun anew once they are read.
 * @param work depends on the context alone and changes nothing, so that it may be begun twice
 */
export async function inContext<T>(
  house: House,
  db: Executor,
  moment: Moment,
  about: About,
  work: (context: Context) => T,
): Promise<{ result: T; context: Context }> {
  const first = await withoutLeave(db, moment, about);
  try {
    return { result: work(first), context: first };
  } catch (fault) {
    if (!(fault instanceof NotRead)) throw fault;
  }
  const context = await contextOf(house, db, about);
  return { result: work(context), context };
}
