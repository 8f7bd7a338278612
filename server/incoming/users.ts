/** Users told by a directory, kept as people on file: they come, are called otherwise, work elsewhere, and are switched off. */
import { comingOf, type HouseChange, type OneChange } from '@north-pebble/core/facts';
import {
  mainPost,
  managerOf,
  type Person,
  type PersonId,
  recordOn,
  reportsTo,
  todayFor,
} from '@north-pebble/core/people';
import { type CivilDate, civilDateAt } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { type House, type Moment, rulesFor } from '../house/index.ts';
import { keepByHouse } from '../records/index.ts';
import { enterpriseSchema, type IncomingUser, mailOf, nameOf, workSchema } from './resource.ts';

const reason = 'Told by the directory.';

/** Something in what was told cannot be taken over; `uniqueness` where somebody has it already. */
export class NotTaken extends Error {
  readonly type: 'invalidValue' | 'uniqueness' | 'invalidFilter' | 'invalidPath' | 'noTarget' | 'mutability';
  constructor(type: NotTaken['type'], message: string) {
    super(message);
    this.type = type;
  }
}

export async function addUser(house: House, user: IncomingUser): Promise<PersonId> {
  const moment = await house.moment(house.db);
  const { index } = moment;
  const mail = mailOf(user);
  const [there] = await house.db.select().from(t.incomingPeople).where(eq(t.incomingPeople.userName, user.userName));
  if (there) throw new NotTaken('uniqueness', `${user.userName} is there already.`);
  // Somebody who is on file by that address is the same person: the directory is told their id, and adds nobody.
  const same = mail && index.directory.people.find(one => one.mail.toLowerCase() === mail.toLowerCase());
  if (same) {
    await house.db
      .insert(t.incomingPeople)
      .values(known(same.id, user))
      .onDuplicateKeyUpdate({ set: known(same.id, user) });
    return same.id;
  }
  const { plans } = await rulesFor(house.db, index);
  const own = user[enterpriseSchema];
  const from = user[workSchema]?.firstDay ?? firstDayAt(moment, own?.organization);
  const post = vacantPost(moment, user.title, from);
  const read = comingOf(
    index,
    {
      name: nameOf(user) ?? user.userName,
      ...(mail ? { mail } : {}),
      'first day': from,
      place: own?.organization || index.directory.places[0]?.name,
      department: own?.department || index.directory.departments[0]?.name,
      ...(post ? { post } : {}),
    },
    plans,
  );
  if (!read.ok)
    throw new NotTaken(
      'invalidValue',
      `${'property' in read.why ? read.why.property : 'Something'} cannot be taken over.`,
    );
  const { change } = read;
  const line = lineOf(moment, { post: change.post, manager: own?.manager?.value, from });
  const all: HouseChange = line ? { what: 'several', changes: [change, line] } : change;
  await keepByHouse(house, all, reason, async tx => {
    await tx.insert(t.incomingPeople).values(known(change.person.id, user));
  });
  if (!user.active) await switchUser(house, change.person.id, false);
  return change.person.id;
}

const known = (person: PersonId, { userName, externalId }: IncomingUser) => ({
  person,
  userName,
  externalId: externalId ?? null,
});

/** The one post of a title that nobody holds on a day; a title that is none is refused, so that nobody takes it for kept. */
function vacantPost({ index }: Moment, title: string | null | undefined, day: CivilDate): string | undefined {
  if (!title) return undefined;
  const [vacant, ...more] = index.directory.posts.filter(
    one =>
      one.title === title &&
      (one.closed ?? day) >= day &&
      !index.holdingsOfPost(one.id).some(held => held.from <= day && (held.to === null || held.to >= day)),
  );
  if (!vacant) throw new NotTaken('invalidValue', `There is no vacant post ${title}.`);
  if (more.length > 0) throw new NotTaken('invalidValue', `Several vacant posts are called ${title}.`);
  return vacant.id;
}

/** A manager is whoever holds the post above one's own: another manager is another line of the post. */
function lineOf(
  { index }: Moment,
  { post, manager, from }: { post: string | null; manager: string | null | undefined; from: CivilDate },
): OneChange | undefined {
  if (!manager) return undefined;
  const above = index.person(manager as PersonId) && mainPost(index, manager as PersonId, from);
  if (!above) throw new NotTaken('invalidValue', `${manager} is nobody who holds a post on ${from}.`);
  const own = post === null ? undefined : index.directory.posts.find(one => one.id === post);
  if (!own) throw new NotTaken('invalidValue', 'Whoever holds no post has no manager: send a title too.');
  return reportsTo(own, from) === above.id ? undefined : { what: 'line', post: own.id, from, reportsTo: above.id };
}

/** Whose first day is not said begins today where they will work. */
function firstDayAt({ index, now }: Moment, place: string | null | undefined): CivilDate {
  const { places } = index.directory;
  const found = places.find(one => one.name === place || one.id === place) ?? places[0];
  return civilDateAt(now, found?.zone ?? 'UTC');
}

const later = (a: CivilDate, b: CivilDate): CivilDate => (a < b ? b : a);

async function switchUser(house: House, person: PersonId, active: boolean): Promise<void> {
  const moment = await house.moment(house.db);
  const found = moment.index.person(person);
  if (!found) return;
  const today = todayFor(moment.index, person, moment.now);
  // Whoever is still to come and is switched off never came: their first day is their last.
  const last = later(found.joined, today);
  const left = active ? null : found.left !== null && found.left <= last ? found.left : last;
  await keepByHouse(house, { what: 'last day', person, left }, reason);
}

/** Takes over what a user says now: name, mail, place and department from today, and whether they are still here. */
export async function changeUser(house: House, person: Person, user: IncomingUser): Promise<void> {
  const moment = await house.moment(house.db);
  const { index } = moment;
  const today = todayFor(index, person.id, moment.now);
  const mail = mailOf(user);
  const own = user[enterpriseSchema];
  const named = (all: readonly { id: string; name: string }[], name: string | null | undefined, what: string) => {
    if (!name) return undefined;
    const found = all.find(one => one.name.toLowerCase() === name.toLowerCase() || one.id === name);
    if (!found) throw new NotTaken('invalidValue', `There is no ${what} ${name}.`);
    return found.id;
  };
  const place = named(index.directory.places, own?.organization, 'place');
  const department = named(index.directory.departments, own?.department, 'department');
  const day = later(person.joined, today);
  const record = recordOn(person, day);
  const set = {
    ...(place && place !== record?.place ? { place } : {}),
    ...(department && department !== record?.department ? { department } : {}),
  };
  const isHere = person.left === null || person.left >= day;
  const firstDay = user[workSchema]?.firstDay;
  if (firstDay && firstDay !== person.joined)
    throw new NotTaken('mutability', 'The first day of somebody on file is changed by HR operations.');
  const held = mainPost(index, person.id, day);
  const post = user.title && user.title !== held?.title ? vacantPost(moment, user.title, day) : undefined;
  const manager = managerOf(index, person.id, day);
  const isSame = 'person' in manager && manager.person.id === own?.manager?.value;
  const line = isSame
    ? undefined
    : lineOf(moment, { post: post ?? held?.id ?? null, manager: own?.manager?.value, from: day });
  const changes: OneChange[] = [
    { what: 'own', person: person.id, set: { name: nameOf(user) ?? person.name, ...(mail ? { mail } : {}) } },
    ...(post ? [{ what: 'post' as const, person: person.id, from: day, post }] : []),
    ...(line ? [line] : []),
    ...(Object.keys(set).length > 0 && isHere ? [{ what: 'record' as const, person: person.id, from: day, set }] : []),
  ];
  const change: HouseChange = { what: 'several', changes };
  await keepByHouse(house, change, reason, async tx => {
    await tx
      .insert(t.incomingPeople)
      .values(known(person.id, user))
      .onDuplicateKeyUpdate({ set: known(person.id, user) });
  });
  const isActive = person.left === null || person.left > today;
  if (user.active !== isActive) await switchUser(house, person.id, user.active);
}
