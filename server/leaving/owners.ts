/** A request always has an owner who is here: those of people who have left or are away for long go on to somebody else. */
import { may } from '@north-pebble/contract';
import { hasLeft, type PersonId, todayFor } from '@north-pebble/core/people';
import { addDays, type CivilDate } from '@north-pebble/core/time';
import { longAway } from '@north-pebble/core/workflow';
import { and, eq, gte, inArray, isNotNull, lte, ne, or, sql } from 'drizzle-orm';
import { inTransaction, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { mindOwner } from '../requests/index.ts';

/** So many are looked at in one round; the rest waits for the next. */
const mostAtOnce = 500;
const owner = sql<string>`coalesce(${t.requests.owner}, ${t.requests.asker})`;
const isUnfinished = inArray(t.requests.status, ['open', 'rework', 'stuck']);

/** Those whose leave is on today and lasts long from today on. */
async function awayLong(house: House, people: readonly string[], today: CivilDate): Promise<string[]> {
  const rows = await house.db
    .selectDistinct({ person: t.leaveEntries.person })
    .from(t.leaveEntries)
    .where(
      and(
        inArray(t.leaveEntries.person, [...people]),
        eq(t.leaveEntries.state, 'booked'),
        lte(t.leaveEntries.firstDay, today),
        gte(t.leaveEntries.lastDay, addDays(today, longAway - 1)),
      ),
    );
  return rows.map(row => row.person);
}

/** @returns how many requests were looked at */
export async function mindOwners(house: House): Promise<number> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const owners = await db.selectDistinct({ owner }).from(t.requests).where(isUnfinished);
  const people = owners.map(row => row.owner as PersonId);
  if (people.length === 0) return 0;
  const isGone = (id: PersonId) => {
    const person = index.person(id);
    return person === undefined || hasLeft(person, todayFor(index, id, now));
  };
  const today = now.slice(0, 10) as CivilDate;
  const gone = people.filter(isGone);
  const away = await awayLong(house, people, today);
  if (gone.length + away.length === 0) return 0;
  // Their own request stays with whoever is away: it tells of the absence, as a rule.
  const isOfOthers = or(
    isNotNull(t.requests.outside),
    ne(sql`coalesce(${t.requests.subject}, ${t.requests.asker})`, owner),
  );
  const rows = await db
    .select({ id: t.requests.id })
    .from(t.requests)
    .where(
      and(
        isUnfinished,
        or(
          gone.length > 0 ? inArray(owner, gone) : undefined,
          away.length > 0 ? and(inArray(owner, away), isOfOthers) : undefined,
        ),
      ),
    )
    .orderBy(t.requests.number)
    .limit(mostAtOnce);
  const operations = await operationsOf(house);
  for (const { id } of rows) {
    if (id === null) continue;
    try {
      await inTransaction(db, tx => mindOwner(house, tx, id, operations));
    } catch (fault) {
      // One that cannot be passed on keeps none of the others.
      house.log.warn({ err: fault, request: id }, 'owner');
    }
  }
  if (rows.length > 0) house.wake();
  return rows.length;
}

/** Who may help every request on, and administrators after them: one of those is here always. */
async function operationsOf(house: House): Promise<PersonId[]> {
  const accounts = await house.db
    .select()
    .from(t.accounts)
    .where(eq(t.accounts.closed, false))
    .orderBy(t.accounts.person);
  const helps = accounts.filter(one => may(one, 'help requests on'));
  const others = accounts.filter(one => may(one, 'keep accounts') && !helps.includes(one));
  return [...helps, ...others].map(one => one.person as PersonId);
}

/** Every quarter of an hour, until stopped. */
export function keepOwners(house: House, pause = 15 * 60_000): () => void {
  const timer = setInterval(() => {
    mindOwners(house).catch(fault => house.log.warn({ err: fault }, 'owners'));
  }, pause);
  return () => clearInterval(timer);
}
