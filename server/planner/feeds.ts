/**
 * Calendars on secret addresses: oneself, one’s teams, or a place or department as a whole. Only the hash of an address is
 * kept. What its owner may not see any more is not in it: rights are looked at each time that it is read.
 */
import { createHash, randomBytes } from 'node:crypto';
import type { FeedMade, FeedsView, NewFeed } from '@north-pebble/contract';
import { calendarTimes, type FeedEvent, toldGoneFor, writeFeed } from '@north-pebble/core/formats';
import { type LeaveEntry, typeOn } from '@north-pebble/core/leave';
import {
  type DirectoryIndex,
  hasLeft,
  isAbove,
  type Person,
  type PersonId,
  workingTimeOf,
  zoneOf,
} from '@north-pebble/core/people';
import { addDays, type CivilDate, type Instant, toDay } from '@north-pebble/core/time';
import { and, desc, eq, gte, inArray, lte } from 'drizzle-orm';
import type { RequestHandler } from 'express';
import { mayPlan } from '../access/index.ts';
import { tables as t } from '../database/index.ts';
import { type House, loadLines, rulesFor, todayFor } from '../house/index.ts';
import { type Caller, notFound, ProblemError } from '../http/index.ts';
import { groupsFor } from './groups.ts';

const mostFeeds = 20;
/** Days back and ahead that a calendar shows. */
const back = 90;
const ahead = 400;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

type Row = typeof t.feeds.$inferSelect;
type Of = Pick<Row, 'of' | 'group'>;

const groupName = (index: DirectoryIndex, { of, group }: Of): string => {
  if (of === 'self') return 'Me';
  if (of === 'team') return 'My teams';
  return (of === 'place' ? index.place(group ?? '')?.name : index.department(group ?? '')?.name) ?? 'What is no more';
};

export async function feedsView(house: House, caller: Caller): Promise<FeedsView> {
  const index = await house.directory(house.db);
  const rows = await house.db.select().from(t.feeds).where(eq(t.feeds.owner, caller.id)).orderBy(desc(t.feeds.id));
  return rows.map(row => ({
    id: row.id,
    of: row.of,
    group: row.group,
    name: groupName(index, row),
    madeAt: row.madeAt as Instant,
    readAt: row.readAt as Instant | null,
  }));
}

function peopleOf(index: DirectoryIndex, caller: Caller, { of, group }: Of, today: CivilDate): Person[] {
  const self = index.person(caller.id);
  if (of === 'self') return self ? [self] : [];
  const asked = of === 'team' || group === null ? {} : of === 'place' ? { place: group } : { department: group };
  return [...new Set(groupsFor(index, caller, asked as never, today).flatMap(one => one.people))];
}

/** A new address; it is told once and cannot be asked for again. */
export async function makeFeed(house: House, caller: Caller, { of, group }: NewFeed): Promise<FeedMade> {
  const { index, now } = await house.moment(house.db);
  // Whoever may not look at it has no address of it.
  peopleOf(index, caller, { of, group }, todayFor(index, caller.id, now));
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

/** The text of a calendar, as its owner may see it now. */
export async function feedText(house: House, caller: Caller, feed: Of): Promise<string> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const people = peopleOf(index, caller, feed, today);
  const ids = people.map(person => person.id);
  const [first, last] = [addDays(today, -back), addDays(today, ahead)];
  const { types } = await rulesFor(house.db, index);
  const away = await awayOf(house, ids, first, last);
  const lines = await loadLines(house.db, ids, first, last);
  const times = new Map(
    people.map(person => [
      person.id as string,
      {
        person,
        zone: zoneOf(index, person, today),
        time: workingTimeOf(index, person, { first: toDay(today), last: toDay(today) }),
      },
    ]),
  );
  const isOwnOnly = feed.of === 'self';
  const goneSince = addDays(today, -toldGoneFor);
  const events = away.flatMap(({ request, person: id, type: typeId, span, state, sequence }): FeedEvent[] => {
    const own = times.get(id);
    if (!own || (state === 'gone' && span.to.date < goneSince)) return [];
    const { person, zone, time } = own;
    const type = types.find(one => one.id === typeId);
    const what =
      type && readsKind(index, caller, person, typeOn(type, span.from.date).kindReadBy, today) ? type.name : 'Away';
    const asked = state === 'held' ? ', asked for' : '';
    const title = isOwnOnly ? `${what}${asked}` : `${person.name}: ${what}${asked}`;
    return [{ uid: request, sequence, title, state, ...calendarTimes(span, time, zone) }];
  });
  const trips = lines.flatMap(({ person: id, from, to, label }, n): FeedEvent[] => {
    const person = times.get(id)?.person;
    if (!person) return [];
    const mine = id === caller.id || mayPlan(caller, person.id, index, today);
    const title = isOwnOnly ? label : `${person.name}: ${mine ? label : 'Away'}`;
    return [
      { uid: `line-${id}-${from}-${n}`, sequence: 0, title, state: 'booked', start: { date: from }, end: { date: to } },
    ];
  });
  return writeFeed(isOwnOnly ? 'Away' : `Away: ${groupName(index, feed)}`, [...events, ...trips], {
    domain: house.domain,
    stamp: `${today}T00:00:00Z`,
  });
}

/** Whether somebody reads which kind of leave it is, and not only that somebody is away. */
export function readsKind(
  index: DirectoryIndex,
  caller: Caller,
  person: Person,
  by: 'line' | 'HR' | undefined,
  today: CivilDate,
): boolean {
  if (person.id === caller.id || mayPlan(caller, person.id, index, today)) return true;
  return by !== 'HR' && isAbove(index, caller.id, person.id, today);
}

/** What has changed since a calendar was read last is told by this; when it was written is no change. */
const tagOf = (text: string): string =>
  `"${createHash('sha256')
    .update(text.replace(/^DTSTAMP:.*\r\n/gm, ''))
    .digest('base64url')}"`;

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
    const caller: Caller = { id: owner.id, rights: account.rights };
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
    if (request.headers['if-none-match'] === tag) {
      response.status(304).end();
      return;
    }
    response.type('text/calendar').send(text);
  };
