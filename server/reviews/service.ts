/** Rounds of review: begun from what a directory holds, answered, ended on their day. */
import {
  type AnswerReview,
  may,
  type ReviewItemView,
  type ReviewsView,
  type StartReview,
} from '@north-pebble/contract';
import { type ReviewItem, reviewItems } from '@north-pebble/core/access';
import {
  type DirectoryIndex,
  latestDay,
  managerOf,
  type PersonId,
  personName,
  todayFor,
  worksAt,
} from '@north-pebble/core/people';
import { addDays, type CivilDate, fullDate, type Instant } from '@north-pebble/core/time';
import { and, asc, desc, eq, inArray, isNull, lt } from 'drizzle-orm';
import { grantsOf, loadConnection, loadConnections, opened } from '../connections/index.ts';
import { type Executor, inTransaction, type Transaction, tables as t, waiting } from '../database/index.ts';
import { type House, insertMany } from '../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../http/index.ts';
import { waitingRows } from '../requests/index.ts';

type Item = typeof t.reviewItems.$inferSelect;

const keyOf = (item: Pick<Item, 'id'>): string => `review:${item.id}`;
/** Days more for whoever is asked after the one who did not answer. */
const moreDays = 7;
const mostMembers = 5000;

/** Groups that requests have given something in, by connection. */
async function offersOf(house: House): Promise<{ connection: string; groups: string[] }[]> {
  const found: { connection: string; groups: string[] }[] = [];
  for (const stored of await loadConnections(house.db)) {
    if (!opened(stored)?.holds) continue;
    const groups = [...(await grantsOf(house.db, stored.name)).groups].sort();
    if (groups.length > 0) found.push({ connection: stored.name, groups });
  }
  return found;
}

const ownerColumns = ['owner', 'steward'];

/** Who answers for a group: whoever a list of the house names beside it. */
async function ownerOf(house: House, db: Executor, group: string): Promise<PersonId | null> {
  const index = await house.directory(db);
  for (const list of await house.lists(db)) {
    const row = list.rows.find(one => one.title.toLowerCase() === group.toLowerCase());
    for (const column of ownerColumns) {
      const named = row?.cells[column];
      const person = index.directory.people.find(one => one.id === named || one.name === named);
      if (person) return person.id;
    }
  }
  return null;
}

/** Who is asked of somebody’s access; whoever began the round where nobody else is found, and never oneself of one’s own. */
async function reviewerOf(
  house: House,
  db: Executor,
  item: ReviewItem,
  by: StartReview['by'],
  starter: PersonId,
): Promise<PersonId> {
  const { index, now } = await house.moment(db);
  const owner = by === 'owner' ? await ownerOf(house, db, item.group) : null;
  const isThere = (id: PersonId | null) => {
    const person = id && index.person(id);
    return Boolean(person && worksAt(index, person, now) && id !== item.person);
  };
  if (isThere(owner)) return owner!;
  const above = item.person ? managerAbove(index, item.person as PersonId, now) : null;
  return isThere(above) ? above! : starter;
}

function managerAbove(index: DirectoryIndex, person: PersonId, now: Instant): PersonId | null {
  if (!index.person(person)) return null;
  const found = managerOf(index, person, todayFor(index, person, now), 1);
  return 'person' in found ? found.person.id : null;
}

export async function startReview(house: House, caller: Caller, input: StartReview): Promise<void> {
  const { db } = house;
  const stored = await loadConnection(db, input.connection);
  const holds = stored && opened(stored)?.holds;
  if (!holds) throw notFound();
  const { index, now } = await house.moment(db);
  if (input.due <= latestDay(index, now))
    throw refusedField('due', 'Choose a day ahead: those who are asked need time.');
  const read = await holds({ told: async () => {}, stopped: () => false });
  if (!read.ok) throw new ProblemError('refused', `${input.connection} cannot be read now: ${read.reason}.`);
  const items = reviewItems(read.holds, input.groups, (await grantsOf(db, input.connection)).grants);
  if (items.length === 0) throw refusedField('groups', 'Nobody is in these groups.');
  if (items.length > mostMembers)
    throw refusedField('groups', `More than ${mostMembers} accesses are too many for one round. Choose fewer groups.`);
  await inTransaction(db, async tx => {
    const [made] = await tx
      .insert(t.reviews)
      .values({ ...input, startedBy: caller.id, startedAt: now })
      .$returningId();
    const rows: (typeof t.reviewItems.$inferInsert)[] = [];
    for (const item of items) {
      const reviewer = await reviewerOf(house, tx, item, input.by, caller.id);
      rows.push({ ...item, review: made.id, reviewer, due: input.due });
    }
    await insertMany(tx, t.reviewItems, rows);
    await tell(house, tx, made.id, rows, now);
  });
  house.wake();
}

/** One mail to each of those who are asked, of how much and until when. */
async function tell(
  house: House,
  tx: Transaction,
  review: number,
  rows: readonly Pick<Item, 'reviewer' | 'due'>[] | readonly (typeof t.reviewItems.$inferInsert)[],
  now: Instant,
  what = 'asked',
): Promise<void> {
  const counts = new Map<string, { n: number; due: string }>();
  for (const { reviewer, due } of rows)
    counts.set(reviewer, { n: (counts.get(reviewer)?.n ?? 0) + 1, due: String(due) });
  const letters = [...counts].map(([to, { n, due }]) => ({
    kind: 'mail' as const,
    key: `review:${review}:${what}:${due}:${to}`,
    to: to as PersonId,
    subject: `Access to look at: ${n === 1 ? 'one' : n} until ${fullDate(due as CivilDate)}`,
    body: `${n === 1 ? 'One access waits' : `${n} accesses wait`} for your word: does it stay, or is it taken away? Answer as many at once as you like, by ${fullDate(due as CivilDate)}:\n\n${house.address}/reviews`,
  }));
  if (letters.length > 0)
    await tx
      .insert(t.effects)
      .ignore()
      .values(waitingRows(null, letters, now));
}

/** Asks the connection to take somebody out; it is done when it has said so. */
async function takeAway(
  tx: Transaction,
  connection: string,
  items: readonly Item[],
  writtenAt: Instant,
): Promise<void> {
  const rows = items.map(item => ({
    key: keyOf(item),
    connection,
    action: 'take out of group' as const,
    target: `review ${item.account}`.slice(0, 100),
    payload: {
      values: { group: item.group, account: item.account, ...(item.person ? { person: item.person } : {}) },
    } as never,
    ...waiting,
    writtenAt,
  }));
  if (rows.length > 0) await tx.insert(t.effects).ignore().values(rows);
}

/** Answers several at once. What was answered before by anybody stays as it was answered. */
export async function answerReview(house: House, caller: Caller, { items, answer, note }: AnswerReview): Promise<void> {
  await inTransaction(house.db, async tx => {
    const now = await house.now(tx);
    const rows = await tx.select().from(t.reviewItems).where(inArray(t.reviewItems.id, items)).for('update');
    if (rows.length < new Set(items).size || rows.some(row => row.reviewer !== caller.id)) throw notFound();
    if (rows.some(row => row.person === caller.id))
      throw new ProblemError('not allowed', 'Nobody answers for their own access.');
    const open = rows.filter(row => row.answer === null);
    if (open.length === 0)
      throw new ProblemError('stale', 'These were answered already. Look at them as they are now.');
    await tx
      .update(t.reviewItems)
      .set({ answer, note: note || null, answeredBy: caller.id, answeredAt: now })
      .where(
        inArray(
          t.reviewItems.id,
          open.map(row => row.id),
        ),
      );
    if (answer === 'remove') await takeAwayOf(tx, open, now);
    await endRounds(tx, now);
  });
  house.wake();
}

async function takeAwayOf(tx: Transaction, items: readonly Item[], now: Instant): Promise<void> {
  for (const id of new Set(items.map(item => item.review))) {
    const [review] = await tx.select().from(t.reviews).where(eq(t.reviews.id, id));
    if (review)
      await takeAway(
        tx,
        review.connection,
        items.filter(item => item.review === id),
        now,
      );
  }
}

/** A round ends when nothing in it is open. */
async function endRounds(tx: Transaction, now: Instant): Promise<void> {
  const running = await tx.select({ id: t.reviews.id }).from(t.reviews).where(isNull(t.reviews.endedAt)).for('update');
  for (const { id } of running) {
    const left = await tx.$count(t.reviewItems, and(eq(t.reviewItems.review, id), isNull(t.reviewItems.answer)));
    if (left === 0) await tx.update(t.reviews).set({ endedAt: now }).where(eq(t.reviews.id, id));
  }
}

/** What nobody has answered in time goes up once, where the round says so, and is taken away then or at once. */
export async function workReviews(house: House): Promise<{ up: number; removed: number }> {
  const done = { up: 0, removed: 0 };
  const now = await house.now(house.db);
  await inTransaction(house.db, async tx => {
    const index = await house.directory(tx);
    const asked = await tx
      .select({ item: t.reviewItems, review: t.reviews })
      .from(t.reviewItems)
      .innerJoin(t.reviews, eq(t.reviews.id, t.reviewItems.review))
      .where(and(isNull(t.reviewItems.answer), lt(t.reviewItems.due, latestDay(index, now))))
      .for('update');
    // Whoever is asked has their own last day to its end.
    const late = asked.filter(({ item }) => item.due < todayFor(index, item.reviewer as PersonId, now));
    if (late.length === 0) return;
    const raised: Item[] = [];
    const gone: Item[] = [];
    for (const { item, review } of late) {
      const above =
        review.unanswered === 'up' && item.before === null ? managerAbove(index, item.reviewer as PersonId, now) : null;
      if (above === null || above === item.person) gone.push(item);
      else
        raised.push({
          ...item,
          before: item.reviewer,
          reviewer: above,
          due: addDays(todayFor(index, above, now), moreDays),
        });
    }
    for (const { id, before, reviewer, due } of raised)
      await tx.update(t.reviewItems).set({ before, reviewer, due }).where(eq(t.reviewItems.id, id));
    for (const review of new Set(raised.map(item => item.review)))
      await tell(
        house,
        tx,
        review,
        raised.filter(item => item.review === review),
        now,
        'up',
      );
    if (gone.length > 0)
      await tx
        .update(t.reviewItems)
        .set({ answer: 'remove', answeredAt: now })
        .where(
          inArray(
            t.reviewItems.id,
            gone.map(item => item.id),
          ),
        );
    await takeAwayOf(tx, gone, now);
    await endRounds(tx, now);
    done.up = raised.length;
    done.removed = gone.length;
  });
  if (done.up + done.removed > 0) house.wake();
  return done;
}

async function viewsOf(house: House, items: readonly Item[]): Promise<ReviewItemView[]> {
  if (items.length === 0) return [];
  const index = await house.directory(house.db);
  const effects = await house.db
    .select({ key: t.effects.key, state: t.effects.state, fault: t.effects.fault })
    .from(t.effects)
    .where(inArray(t.effects.key, items.map(keyOf)));
  const byKey = new Map(effects.map(one => [one.key, one]));
  const name = (id: string | null) => id && personName(index, id as PersonId);
  return items.map(item => {
    const effect = byKey.get(keyOf(item));
    return {
      id: item.id,
      review: item.review,
      group: item.group,
      account: item.account,
      name: item.name,
      request: item.request,
      lastUsed: item.lastUsed,
      due: item.due as CivilDate,
      reviewer: name(item.reviewer) ?? '',
      before: name(item.before),
      state: stateOf(item, effect?.state),
      note: item.note,
      answeredBy: name(item.answeredBy),
      answeredAt: item.answeredAt as Instant | null,
      reason: effect?.state === 'refused' ? effect.fault : null,
    };
  });
}

function stateOf({ answer }: Item, effect: string | undefined): ReviewItemView['state'] {
  if (answer === null) return 'open';
  if (answer === 'keep') return 'kept';
  if (effect === 'delivered') return 'taken away';
  return effect === 'refused' ? 'refused' : 'to be taken away';
}

const mostReviews = 20;

export async function reviewsView(house: House, caller: Caller): Promise<ReviewsView> {
  const { db } = house;
  const index = await house.directory(db);
  const mine = await db
    .select()
    .from(t.reviewItems)
    .where(and(eq(t.reviewItems.reviewer, caller.id), isNull(t.reviewItems.answer)))
    .orderBy(asc(t.reviewItems.due), asc(t.reviewItems.group), asc(t.reviewItems.name));
  const sees = may(caller, 'read connections');
  const reviews = sees ? await db.select().from(t.reviews).orderBy(desc(t.reviews.id)).limit(mostReviews) : [];
  const counted = [];
  for (const review of reviews) {
    const items = await db
      .select({ answer: t.reviewItems.answer })
      .from(t.reviewItems)
      .where(eq(t.reviewItems.review, review.id));
    const n = (answer: 'keep' | 'remove' | null) => items.filter(item => item.answer === answer).length;
    counted.push({
      id: review.id,
      connection: review.connection,
      groups: review.groups,
      by: review.by,
      unanswered: review.unanswered,
      due: review.due as CivilDate,
      startedBy: personName(index, review.startedBy as PersonId),
      startedAt: review.startedAt as Instant,
      endedAt: review.endedAt as Instant | null,
      counts: { all: items.length, open: n(null), kept: n('keep'), removed: n('remove') },
    });
  }
  const mayStart = may(caller, 'keep connections');
  return {
    mine: await viewsOf(house, mine),
    reviews: counted,
    offers: mayStart ? await offersOf(house) : [],
    mayStart,
  };
}

export async function itemsOf(house: House, id: number): Promise<ReviewItemView[]> {
  const items = await house.db
    .select()
    .from(t.reviewItems)
    .where(eq(t.reviewItems.review, id))
    .orderBy(asc(t.reviewItems.group), asc(t.reviewItems.name));
  if (items.length === 0) throw notFound();
  return viewsOf(house, items);
}
