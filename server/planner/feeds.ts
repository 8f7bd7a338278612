/**
 * Calendars on secret addresses: oneself, one’s teams, or a place or department as a whole. Only the hash of an address is
 * kept. What its owner may not see any more is not in it: rights are looked at each time that it is read.
 */
import { createHash, randomBytes } from 'node:crypto';
import { type FeedMade, type FeedsView, type NewFeed, WhoseDays } from '@north-pebble/contract';
import { calendarTimes, type FeedEvent, toldGoneFor, writeFeed } from '@north-pebble/core/formats';
import { asKnownOn, isOpen, type LeaveEntry, typeOn, withinWork } from '@north-pebble/core/leave';
import {
  type DirectoryIndex,
  hasLeft,
  type PersonId,
  personName,
  todayFor,
  workingTimeOf,
  zoneOf,
} from '@north-pebble/core/people';
import { addDays, type CivilDate, type Instant, toDay } from '@north-pebble/core/time';
import { and, desc, eq, gte, inArray, lt, lte, or } from 'drizzle-orm';
import type { RequestHandler } from 'express';
import { tables as t } from '../database/index.ts';
import { type House, loadLines, requiredRights, rulesFor } from '../house/index.ts';
import { type Caller, notFound, ProblemError } from '../http/index.ts';
import { groupsFor } from './groups.ts';
import { readsKind, readsLine } from './reading.ts';

const mostFeeds = 20;
/** Days back and ahead that a calendar shows. */
const back = 90;
const ahead = 400;

/** So many days an absence without an end may go on between two changes that are told. */
const dailyChanges = 4096;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

type Row = typeof t.feeds.$inferSelect;
type Of = Pick<Row, 'of' | 'group'>;

/** A set of the planner that somebody may take up; nothing where it is gone or kept to another. */
async function setOf(
  house: House,
  caller: Caller,
  id: string,
): Promise<{ name: string; whose: WhoseDays } | undefined> {
  const [set] = await house.db
    .select()
    .from(t.savedSets)
    .where(
      and(
        eq(t.savedSets.id, Number(id)),
        eq(t.savedSets.place, 'planner'),
        or(eq(t.savedSets.owner, caller.id), eq(t.savedSets.shared, true)),
      ),
    );
  if (!set) return undefined;
  const said = Object.fromEntries([...new URLSearchParams(set.query)].filter(([key]) => key in WhoseDays.shape));
  const whose = WhoseDays.safeParse(said);
  return whose.success ? { name: set.name, whose: whose.data } : undefined;
}

/** Whose days a calendar is of, as the planner is asked for them, and what it is called. */
async function whoseOf(
  house: House,
  index: DirectoryIndex,
  caller: Caller,
  { of, group }: Of,
): Promise<{ name: string; whose: WhoseDays | 'self' }> {
  const id = group ?? '';
  switch (of) {
    case 'self':
      return { name: 'Me', whose: 'self' };
    case 'team':
      return { name: 'My teams', whose: {} };
    case 'house':
      return { name: 'Everybody', whose: { house: 'yes' } };
    case 'place':
      return { name: index.place(id)?.name ?? 'A place that is no more', whose: { place: id } };
    case 'department':
      return { name: index.department(id)?.name ?? 'A department that is no more', whose: { department: id } };
    case 'line':
      return { name: `Everybody under ${personName(index, id as PersonId)}`, whose: { line: id as PersonId } };
    case 'set': {
      const set = await setOf(house, caller, id);
      if (!set) throw notFound();
      return set;
    }
    default:
      return of satisfies never;
  }
}

export async function feedsView(house: House, caller: Caller): Promise<FeedsView> {
  const index = await house.directory(house.db);
  const rows = await house.db.select().from(t.feeds).where(eq(t.feeds.owner, caller.id)).orderBy(desc(t.feeds.id));
  return Promise.all(
    rows.map(async row => ({
      id: row.id,
      of: row.of,
      group: row.group,
      name: await nameOf(house, index, caller, row),
      madeAt: row.madeAt as Instant,
      readAt: row.readAt as Instant | null,
    })),
  );
}

/** The name of a calendar; one whose set is gone stays to be taken away. */
async function nameOf(house: House, index: DirectoryIndex, caller: Caller, of: Of): Promise<string> {
  if (of.of === 'set' && !(await setOf(house, caller, of.group ?? ''))) return 'A set that is no more';
  return (await whoseOf(house, index, caller, of)).name;
}

/** @throws ProblemError where its owner may not look at them, or not any more */
async function peopleOf(house: House, index: DirectoryIndex, caller: Caller, of: Of, today: CivilDate) {
  const { name, whose } = await whoseOf(house, index, caller, of);
  if (whose === 'self') {
    const self = index.person(caller.id);
    return { name, people: self ? [self] : [] };
  }
  const looked = { from: addDays(today, -back), to: addDays(today, ahead), today };
  return { name, people: [...new Set(groupsFor(index, caller, whose, looked).flatMap(one => one.people))] };
}

/** A new address; it is told once and cannot be asked for again. */
export async function makeFeed(house: House, caller: Caller, { of, group }: NewFeed): Promise<FeedMade> {
  const { index, now } = await house.moment(house.db);
  // Whoever may not look at it has no address of it.
  await peopleOf(house, index, caller, { of, group }, todayFor(index, caller.id, now));
  const own = await house.db.$count(t.feeds, eq(t.feeds.owner, caller.id));
  if (own >= mostFeeds) throw new ProblemError('refused', `Keep at most ${mostFeeds} calendars. Take one away first.`);
  const token = randomBytes(32).toString('base64url');
  const [{ insertId }] = await house.db
    .insert(t.feeds)
    .values({ owner: caller.id, of, group, hash: hashOf(token), madeAt: now });
  return { id: insertId, address: addressOf(house, token) };
}

const addressOf = (house: House, token: string): string => `${house.address}/feeds/${token}.ics`;

const own = (caller: Caller, id: number) => and(eq(t.feeds.id, id), eq(t.feeds.owner, caller.id));

/** The same calendar on another address; the one before leads nowhere any more. */
export async function renewFeed(house: House, caller: Caller, id: number): Promise<FeedMade> {
  const token = randomBytes(32).toString('base64url');
  const [changed] = await house.db
    .update(t.feeds)
    .set({ hash: hashOf(token), readAt: null })
    .where(own(caller, id));
  if (changed.affectedRows === 0) throw notFound();
  return { id, address: addressOf(house, token) };
}

export async function dropFeed(house: House, caller: Caller, id: number): Promise<void> {
  const [gone] = await house.db.delete(t.feeds).where(own(caller, id));
  if (gone.affectedRows === 0) throw notFound();
}

type Away = Pick<LeaveEntry, 'request' | 'type' | 'span'> & {
  person: string;
  sequence: number;
  state: FeedEvent['state'];
};

async function awayOf(house: House, people: readonly PersonId[], first: CivilDate, last: CivilDate): Promise<Away[]> {
  if (people.length === 0) return [];
  const { request, person, type, span, state, sequence } = t.leaveEntries;
  const there = await house.db
    .select({ request, person, type, span, state, sequence })
    .from(t.leaveEntries)
    .where(
      and(
        inArray(person, [...people]),
        gte(t.leaveEntries.lastDay, first),
        lte(t.leaveEntries.firstDay, last),
        eq(t.leaveEntries.planner, true),
      ),
    );
  const known = new Set(there.map(one => one.request));
  const gone = await house.db
    .select()
    .from(t.leaveGone)
    .where(and(inArray(t.leaveGone.person, [...people]), gte(t.leaveGone.lastDay, first)));
  return [...there, ...gone.flatMap(one => (known.has(one.request) ? [] : [{ ...one, state: 'gone' as const }]))].sort(
    (a, b) => (a.request < b.request ? -1 : 1),
  );
}

/** What no calendar tells any more is not kept: days more than a person’s zone can be behind. */
export async function dropOldGone(house: House): Promise<void> {
  const today = (await house.now(house.db)).slice(0, 10) as CivilDate;
  const before = addDays(today, -toldGoneFor - 2);
  await house.db.delete(t.leaveGone).where(lt(t.leaveGone.lastDay, before));
  await house.db.delete(t.plannerLines).where(and(eq(t.plannerLines.gone, true), lt(t.plannerLines.lastDay, before)));
}

/** The text of a calendar, as its owner may see it now. */
export async function feedText(house: House, caller: Caller, feed: Of): Promise<string> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const { name, people } = await peopleOf(house, index, caller, feed, today);
  const ids = people.map(person => person.id);
  const [first, last] = [addDays(today, -back), addDays(today, ahead)];
  const { types } = await rulesFor(house.db, index);
  const away = withinWork(index, await awayOf(house, ids, first, last));
  const lines = await loadLines(house.db, ids, first, last, 'with gone');
  const times = new Map(
    people.map(person => [
      person.id as string,
      {
        person,
        time: workingTimeOf(index, person, { first: toDay(today), last: toDay(today) }),
      },
    ]),
  );
  const isOwnOnly = feed.of === 'self';
  const goneSince = addDays(today, -toldGoneFor);
  const events = away.flatMap(({ request, person: id, type: typeId, span, state, sequence }): FeedEvent[] => {
    const own = times.get(id);
    if (!own || (state === 'gone' && span.to.date < goneSince)) return [];
    const { person, time } = own;
    const type = types.find(one => one.id === typeId);
    const what =
      type && readsKind(index, caller, person, typeOn(type, span.from.date).kindReadBy, today) ? type.name : 'Away';
    const asked = state === 'held' ? ', asked for' : '';
    const title = isOwnOnly ? `${what}${asked}` : `${person.name}: ${what}${asked}`;
    // What goes on until more is told ends with today, and each day is a change of it.
    const known = asKnownOn(span, today);
    const changes =
      sequence * dailyChanges + (isOpen(span) ? (toDay(known.to.date) - toDay(span.from.date)) % dailyChanges : 0);
    // By the clock of the place where they were on that day.
    const zone = zoneOf(index, person, known.from.date);
    const isOwn = id === caller.id;
    return [{ uid: request, sequence: changes, title, state, own: isOwn, ...calendarTimes(known, time, zone) }];
  });
  const trips = lines.flatMap(({ request, step, person: id, from, to, label, sequence, gone }): FeedEvent[] => {
    const person = times.get(id)?.person;
    if (!person || (gone && to < goneSince)) return [];
    const title = isOwnOnly
      ? label
      : `${person.name}: ${readsLine(index, caller, person, today) ? label : 'At work elsewhere'}`;
    const state = gone ? 'gone' : 'booked';
    return [
      {
        uid: `${request}-${step}`,
        sequence,
        title,
        state,
        own: id === caller.id,
        start: { date: from },
        end: { date: to },
      },
    ];
  });
  return writeFeed(isOwnOnly ? 'Away' : `Away: ${name}`, [...events, ...trips], {
    domain: house.domain,
    stamp: `${today}T00:00:00Z`,
  });
}

/** What has changed since a calendar was read last is told by this; when it was written is no change. */
const tagOf = (text: string): string =>
  `"${createHash('sha256')
    .update(text.replace(/^DTSTAMP:.*\r\n/gm, ''))
    .digest('base64url')}"`;

/** Whether a tag is among those that a reader has; a weak one is the same (RFC 9110, 13.1.2). */
const isKnown = (had: string | undefined, tag: string): boolean =>
  had?.split(',').some(one => one.trim() === '*' || one.trim().replace(/^W\//, '') === tag) ?? false;

/** Reads a calendar by its address: whoever has the address is whoever it was given to. */
export const readFeed =
  (house: House): RequestHandler =>
  async (request, response, next) => {
    const found = /^\/([\w-]{1,100})\.ics$/.exec(request.path);
    if (!found || (request.method !== 'GET' && request.method !== 'HEAD')) return next();
    const token = found[1] as string;
    const [feed] = await house.db
      .select()
      .from(t.feeds)
      .where(eq(t.feeds.hash, hashOf(token)));
    const [account] = feed
      ? await house.db.select().from(t.accounts).where(eq(t.accounts.person, feed.owner))
      : [undefined];
    const { index, now } = await house.moment(house.db);
    const owner = feed && index.person(feed.owner as PersonId);
    // Whoever has left or has no account any more has no calendars here either.
    if (!feed || !account || account.closed || !owner || hasLeft(owner, todayFor(index, owner.id, now))) {
      response.status(404).type('text').send('There is no calendar at this address.');
      return;
    }
    // Whoever reads an address has given no second factor: what needs one is not in it.
    const required = await requiredRights(house.db);
    const caller: Caller = { id: owner.id, rights: account.rights.filter(right => !required.includes(right)) };
    let text: string;
    try {
      text = await feedText(house, caller, feed);
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault;
      response.status(404).type('text').send('There is no calendar at this address any more.');
      return;
    }
    const tag = tagOf(text);
    response.setHeader('ETag', tag);
    response.setHeader('Cache-Control', 'private, no-cache');
    if (feed.readAt?.slice(0, 13) !== now.slice(0, 13))
      await house.db.update(t.feeds).set({ readAt: now }).where(eq(t.feeds.id, feed.id));
    if (isKnown(request.headers['if-none-match'], tag)) {
      response.status(304).end();
      return;
    }
    response.type('text/calendar').send(text);
  };
