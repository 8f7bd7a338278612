/**
 * Everybody’s balances made ready before anybody asks: after a start, when people or rules have changed, and on a new day.
 * What is booked meanwhile is brought in by whoever asks, so nothing that is shown is older than the question.
 */
import { type DirectoryIndex, isEmployed, latestDay } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { House } from '../house/index.ts';
import { balanceTypes, few, standingsOf } from './standings.ts';

/** What was made ready last, of each house. */
const last = new WeakMap<House, { index: DirectoryIndex; today: CivilDate }>();

const under = new WeakMap<House, Promise<boolean>>();

/** One after another, so that what was made ready last is of the newest people. @returns whether there was anything to do */
export function makeReady(house: House): Promise<boolean> {
  const before = under.get(house) ?? Promise.resolve(false);
  const next = before.catch(() => false).then(() => work(house));
  under.set(house, next);
  return next;
}

async function work(house: House): Promise<boolean> {
  const { index, now } = await house.moment(house.db);
  const today = latestDay(index, now);
  const before = last.get(house);
  if (before?.index === index && before.today === today) return false;
  const people = index.directory.people.filter(person => isEmployed(person, today)).map(({ id }) => id);
  const [type] = await balanceTypes(house, index, today);
  if (type && people.length > few) await standingsOf(house, index, people, type, today);
  last.set(house, { index, today });
  return true;
}

/** Looks every `pause` milliseconds whether something is to be made ready, until stopped. */
export function keepReady(house: House, pause = 5000): () => Promise<void> {
  let isStopped = false;
  let running: Promise<void> = Promise.resolve();
  let next: NodeJS.Timeout | undefined;
  const round = async () => {
    try {
      await makeReady(house);
    } catch (fault) {
      // Whoever asks is told what is wrong; here it is tried again.
      if (!isStopped) house.log.warn({ err: fault }, 'balances are not made ready');
    }
    if (!isStopped) next = setTimeout(start, pause);
  };
  const start = () => {
    running = round();
  };
  start();
  return async () => {
    isStopped = true;
    clearTimeout(next);
    await house.reckoning.stop();
    await running;
  };
}
