/** Long absence: HR hears of it on the days that its type says, once each. */
import { spanWords } from '@north-pebble/core/form';
import { asTold, heardOn } from '@north-pebble/core/leave';
import { personName } from '@north-pebble/core/people';
import { addDays, dateWords, yearOf } from '@north-pebble/core/time';
import type { House } from '../../house/index.ts';
import { absencesOf, hrOf, kindWords, type Letter, writeOnce } from './told.ts';

/** So many days back it is told of what nobody has heard yet: an absence may be booked after it began. */
const daysBack = 14;

/** @returns how many letters were written */
export async function tellOfLongAbsence(house: House): Promise<number> {
  const absences = await absencesOf(
    house,
    rules => (rules.tellsHr ?? []).length > 0,
    today => ({ from: addDays(today, -daysBack), to: today }),
  );
  if (!absences) return 0;
  const { now, today, book, booked } = absences;
  const { index } = book;
  const year = yearOf(today);
  const letters = booked.flatMap(({ entry, person }) => {
    const name = kindWords(book, entry);
    return heardOn(book, person.id, entry)
      .filter(({ on }) => addDays(today, -daysBack) <= on && on <= today)
      .flatMap(({ after, on, earlier }) =>
        hrOf(index, person, today).map(
          (to): Letter => ({
            key: `absence:${entry.request}:${after}:${to}`,
            to,
            subject: `${personName(index, person.id)}: day ${after} of ${name}`,
            body: [
              `${personName(index, person.id)} reaches day ${after} of ${name} on ${dateWords(on, year)}.${earlier > 0 ? ` ${earlier} days of earlier absence are counted in.` : ''}`,
              `This absence: ${spanWords(asTold(entry), year)}.`,
              `${house.address}/people/${person.id}`,
            ].join('\n\n'),
          }),
        ),
      );
  });
  return writeOnce(house, now, letters);
}

/** Once an hour, until stopped. */
export function keepToldOfAbsence(house: House, pause = 60 * 60_000): () => void {
  const timer = setInterval(() => {
    tellOfLongAbsence(house).catch(fault => house.log.warn({ err: fault }, 'long absence'));
  }, pause);
  return () => clearInterval(timer);
}
