/** Before somebody is back from long absence: HR and their manager hear of the day, the post and the access that they come back to. */
import { spanWords } from '@north-pebble/core/form';
import { asTold, type ComingBack, comingBack } from '@north-pebble/core/leave';
import { type DirectoryIndex, managerOf, type Person, type PersonId, personName } from '@north-pebble/core/people';
import { addDays, type CivilDate, dateWords, listWords, yearOf } from '@north-pebble/core/time';
import { grantsOf } from '../connections/index.ts';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { absencesOf, hrOf, isHere, kindWords, type Letter, writeOnce } from '../leave/index.ts';

/** So many days of other leave may stand behind it. */
const mostBehind = 60;

/** What is told of the post: the one of before, another, or none, and who else has the one of before. */
function postWords(index: DirectoryIndex, { before, now, others }: ComingBack): string {
  const title = (id: string) => index.post(id)?.title ?? id;
  const names = listWords(others.map(id => personName(index, id)));
  if (before === now && now !== null)
    return `Post: ${title(now)}, as before.${names ? ` It is also held by ${names}.` : ''}`;
  const former = before === null ? '' : `Former post: ${title(before)}, held by ${names || 'nobody else'}. `;
  return `${former}${now === null ? 'No post on return.' : `Post on return: ${title(now)}.`}`;
}

/** The groups that people are in, by what requests gave them. */
async function groupsOf(house: House): Promise<ReadonlyMap<string, readonly string[]>> {
  const found = new Map<string, string[]>();
  const connections = await house.db.select({ name: t.connections.name }).from(t.connections);
  for (const { name } of connections)
    for (const { person, group } of (await grantsOf(house.db, name)).grants)
      if (group !== '') found.set(person, [...new Set([...(found.get(person) ?? []), group])]);
  return found;
}

/** @returns how many letters were written */
export async function tellOfComingBack(house: House): Promise<number> {
  const absences = await absencesOf(
    house,
    rules => rules.tellsReturn !== undefined,
    (today, rules) => ({
      // Other leave may go on from it.
      from: addDays(today, -mostBehind),
      to: addDays(today, Math.max(...rules.map(one => one.tellsReturn ?? 0))),
    }),
  );
  if (!absences) return 0;
  const { now, today, book, booked } = absences;
  const { index } = book;
  const due = booked.flatMap(({ entry, person }) => {
    const back = comingBack(book, person.id, entry);
    return back && back.tellOn <= today && today <= back.on ? [{ entry, person, back }] : [];
  });
  if (due.length === 0) return 0;
  const groups = await groupsOf(house);
  const letterTo = (to: PersonId, sees: 'kind' | 'absence', { entry, person, back }: (typeof due)[number]): Letter => {
    const year = yearOf(today);
    const name = personName(index, person.id);
    const held = groups.get(person.id) ?? [];
    return {
      // Another day of coming back is told anew.
      key: `return:${entry.request}:${back.on}:${to}`,
      to,
      subject: `${name} returns on ${dateWords(back.on, year)}`,
      body: [
        `${name} returns to work on ${dateWords(back.on, year)} after ${sees === 'kind' ? kindWords(book, entry) : 'absence'}: ${spanWords(asTold(entry), year)}.`,
        postWords(index, back),
        `Access given on request: ${held.length === 0 ? 'none' : listWords([...held].sort())}.`,
        `${house.address}/people/${person.id}`,
      ].join('\n\n'),
    };
  };
  const letters = due.flatMap(one => {
    const hr = hrOf(index, one.person, today);
    const manager = managerOn(index, one.person, one.back.on, today);
    return [
      ...hr.map(to => letterTo(to, 'kind', one)),
      ...(manager && !hr.includes(manager) ? [letterTo(manager, 'absence', one)] : []),
    ];
  });
  return writeOnce(house, now, letters);
}

/** The manager on the day of coming back, where they are here already to read it. */
function managerOn(index: DirectoryIndex, { id }: Person, on: CivilDate, today: CivilDate): PersonId | null {
  const found = managerOf(index, id, on);
  return 'person' in found && isHere(index, found.person.id, today) ? found.person.id : null;
}

/** Once an hour, until stopped. */
export function keepToldOfReturn(house: House, pause = 60 * 60_000): () => void {
  const timer = setInterval(() => {
    tellOfComingBack(house).catch(fault => house.log.warn({ err: fault }, 'coming back'));
  }, pause);
  return () => clearInterval(timer);
}
