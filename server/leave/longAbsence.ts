/** Long absence: HR hears of it on the days that its type says, once each. */
import { spanWords } from '@north-pebble/core/form';
import { asTold, heardOn, typeOn } from '@north-pebble/core/leave';
import {
  type DirectoryIndex,
  hrOperations,
  hrPartner,
  isEmployed,
  isHeldFor,
  type PersonId,
  personName,
  recordOn,
} from '@north-pebble/core/people';
import { addDays, type CivilDate, dateWords, yearOf } from '@north-pebble/core/time';
import { tables as t, waiting } from '../database/index.ts';
import { type House, loadEntries, loadEntriesOf, rulesFor } from '../house/index.ts';

/** So many days back it is told of what nobody has heard yet: an absence may be booked after it began. */
const daysBack = 14;

/** Whoever left, or is still to come, reads no letters here. */
function isHere(index: DirectoryIndex, id: PersonId, today: CivilDate): boolean {
  const person = index.person(id);
  return person !== undefined && isEmployed(person, today);
}

/** @returns how many letters were written */
export async function tellOfLongAbsence(house: House): Promise<number> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = now.slice(0, 10) as CivilDate;
  const year = yearOf(today);
  const rules = await rulesFor(db, index);
  const told = new Set(
    rules.types
      .filter(type => [type, ...(type.later ?? []).map(one => one.rules)].some(one => (one.tellsHr ?? []).length > 0))
      .map(one => one.id),
  );
  if (told.size === 0) return 0;
  const near = await loadEntries(db, 'everybody', { from: addDays(today, -daysBack), to: today, known: today });
  const going = near.filter(entry => entry.state === 'booked' && told.has(entry.type));
  const people = [...new Set(going.map(entry => entry.person))];
  const book = { index, ...rules, adjustments: [], today, entries: await loadEntriesOf(db, people, today) };
  const letters = going.flatMap(entry => {
    const person = index.person(entry.person);
    if (!person) return [];
    const record = recordOn(person, today);
    const partners = index
      .holdersOfRole(hrPartner, today)
      .filter(holding => holding.person !== person.id && record !== undefined && isHeldFor(holding, record))
      .map(holding => holding.person)
      .filter(id => isHere(index, id, today));
    // Where nobody looks after them, whoever keeps the house hears of it.
    const hr = partners.length > 0 ? partners : [hrOperations];
    return heardOn(book, person.id, entry)
      .filter(({ on }) => addDays(today, -daysBack) <= on && on <= today)
      .flatMap(({ after, on, earlier }) =>
        [...new Set<PersonId>(hr)].map(to => {
          const type = book.types.find(one => one.id === entry.type);
          const name = type ? typeOn(type, entry.span.from.date).name : entry.type;
          return {
            key: `absence:${entry.request}:${after}:${to}`,
            ...waiting,
            writtenAt: now,
            payload: {
              to,
              subject: `${personName(index, person.id)}: day ${after} of ${name.toLowerCase()}`,
              body: [
                `${personName(index, person.id)} reaches day ${after} of ${name.toLowerCase()} on ${dateWords(on, year)}.${earlier > 0 ? ` ${earlier} days of earlier absence are counted in.` : ''}`,
                `This absence: ${spanWords(asTold(entry), year)}.`,
                `${house.address}/people/${person.id}`,
              ].join('\n\n'),
            },
          };
        }),
      );
  });
  if (letters.length === 0) return 0;
  // The key is of the day that was reached: whoever looks again writes nothing again.
  await db.insert(t.effects).ignore().values(letters);
  house.wake();
  return letters.length;
}

/** Once an hour, until stopped. */
export function keepToldOfAbsence(house: House, pause = 60 * 60_000): () => void {
  const timer = setInterval(() => {
    tellOfLongAbsence(house).catch(fault => house.log.warn({ err: fault }, 'long absence'));
  }, pause);
  return () => clearInterval(timer);
}
