/** Wishes for the same days: a round is made, filled, compared in turn, and decided as one change of facts. */
import { createHash, randomBytes } from 'node:crypto';
import { setImmediate as letOthersIn } from 'node:timers/promises';
import type { NewWishRound, OwnWishes, WishesCompared, WishRoundsView } from '@north-pebble/contract';
import { may } from '@north-pebble/contract';
import type { FactEdit } from '@north-pebble/core/facts';
import { spanWords } from '@north-pebble/core/form';
import {
  amountOf,
  booksOf,
  type Given,
  givenInTurn,
  type HalfSpan,
  hadIn,
  type InTheWay,
  inRound,
  inTurn,
  isForPerson,
  isInRound,
  type LeaveBook,
  metWords,
  obstacleWords,
  typeOn,
  type WishRound,
  yearBefore,
} from '@north-pebble/core/leave';
import { type DirectoryIndex, type PersonId, personName, todayFor } from '@north-pebble/core/people';
import { type CivilDate, dateWords, rangeWords, yearOf } from '@north-pebble/core/time';
import { and, eq } from 'drizzle-orm';
import { inTransaction, tables as t, waiting } from '../database/index.ts';
import { adjustmentsOf, type House, insertMany, loadEntriesOf, rulesFor } from '../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../http/index.ts';
import { decided, loadRound, loadRounds, loadWishes, type RoundRow } from './rounds.ts';

const sha = (text: string): string => createHash('sha256').update(text).digest('hex');

/** The lot of somebody: whoever has the seed works it out again. */
const lotOf = (seed: string, person: string): string => sha(`${seed} ${person}`).slice(0, 16);

/** So many rounds are shown; those before are long over. */
const mostRounds = 60;

const roundOf = (row: RoundRow): WishRound => ({
  ...{ name: row.name, type: row.type, place: row.place, department: row.department, mostAway: row.mostAway },
  from: row.from as CivilDate,
  to: row.to as CivilDate,
});

function whereWords(index: DirectoryIndex, { place, department }: Pick<RoundRow, 'place' | 'department'>): string {
  const parts = [
    ...(department === null ? [] : [index.department(department)?.name ?? department]),
    ...(place === null ? [] : [index.place(place)?.name ?? place]),
  ];
  return parts.length === 0 ? 'everybody' : parts.join(' at ');
}

/** What somebody was given by a decision. */
function givenTo(edits: readonly FactEdit[] | undefined, person: PersonId): HalfSpan | null {
  for (const { after } of edits ?? [])
    if (after?.kind === 'booking' && after.person === person && 'half' in after.span.from)
      return { from: after.span.from, to: after.span.to } as HalfSpan;
  return null;
}

type RoundView = WishRoundsView['rounds'][number];

async function viewed(house: House, caller: Caller, rows: readonly RoundRow[]): Promise<RoundView[]> {
  const { db } = house;
  if (rows.length === 0) return [];
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const self = index.person(caller.id);
  const keeps = may(caller, 'keep records');
  const [all, made, { types }] = [
    await loadWishes(
      db,
      rows.map(row => row.id),
    ),
    await decided(db),
    await rulesFor(db, index),
  ];
  return rows.flatMap((row): RoundView[] => {
    const isIn = self !== undefined && isForPerson(self, roundOf(row));
    if (!isIn && !keeps) return [];
    const edits = made.get(row.id);
    const type = types.find(one => one.id === row.type);
    const state = edits ? 'decided' : today > row.closes ? 'closed' : 'open';
    const wishes = all.filter(one => one.round === row.id && one.spans.length > 0);
    return [
      {
        ...{ id: row.id, name: row.name, type: row.type, mostAway: row.mostAway, state },
        typeName: type ? typeOn(type, row.from as CivilDate).name : row.type,
        where: whereWords(index, row),
        from: row.from as CivilDate,
        to: row.to as CivilDate,
        closes: row.closes as CivilDate,
        seal: sha(row.seed),
        seed: state === 'open' ? null : row.seed,
        own: isIn ? (wishes.find(one => one.person === caller.id)?.spans ?? []) : null,
        given: isIn ? givenTo(edits, caller.id) : null,
        people: keeps ? inRound(index, roundOf(row)).length : null,
        wished: keeps ? wishes.length : null,
      },
    ];
  });
}

export async function roundsView(house: House, caller: Caller): Promise<WishRoundsView> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const rows = (await loadRounds(db)).slice(-mostRounds);
  const { types } = await rulesFor(db, index);
  const named = (all: readonly { id: string; name: string }[]) => all.map(({ id, name }) => ({ id, name }));
  return {
    today,
    rounds: await viewed(house, caller, rows),
    choices: may(caller, 'keep records')
      ? {
          types: named(types.filter(type => typeOn(type, today).takesFrom !== 'nothing')),
          places: named(index.directory.places),
          departments: named(index.directory.departments),
        }
      : null,
  };
}

export async function makeRound(house: House, caller: Caller, round: NewWishRound): Promise<{ id: number }> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const { types } = await rulesFor(db, index);
  const type = types.find(one => one.id === round.type);
  if (!type || typeOn(type, round.from).takesFrom === 'nothing')
    throw refusedField('type', 'Choose a leave type that has a balance.');
  if (round.place !== null && !index.place(round.place)) throw refusedField('place', 'There is no such place.');
  if (round.department !== null && !index.department(round.department))
    throw refusedField('department', 'There is no such department.');
  if (round.closes < today) throw refusedField('closes', 'That day has passed. Choose a later one.');
  const people = inRound(index, round);
  if (people.length === 0) throw refusedField('place', 'Nobody works there in these days.');
  const year = yearOf(today);
  const id = await inTransaction(db, async tx => {
    const [{ insertId }] = await tx
      .insert(t.wishRounds)
      .values({ ...round, seed: randomBytes(16).toString('hex'), by: caller.id, at: now });
    await insertMany(
      tx,
      t.effects,
      people.map(person => ({
        key: `wishes-asked:${insertId}:${person.id}`,
        ...waiting,
        writtenAt: now,
        payload: {
          to: person.id,
          subject: `Your wishes for ${round.name}, by ${dateWords(round.closes, year)}`,
          body: [
            `${round.name}: which days from ${rangeWords(round.from, round.to, year)} would you like off? Give up to three wishes by ${dateWords(round.closes, year)}. They are decided together: whoever had fewer of these days last year comes first, and a lot decides between equals.`,
            `${house.address}/wishes`,
          ].join('\n\n'),
        },
      })),
    );
    return insertId;
  });
  house.wake();
  return { id };
}

/** A round with wishes that closed long ago and was never decided may go as well; one that is decided stays with its change. */
export async function dropRound(house: House, id: number): Promise<void> {
  await inTransaction(house.db, async tx => {
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    if (!(await loadRound(tx, id))) throw notFound();
    if ((await decided(tx)).has(id)) throw new ProblemError('refused', 'It is decided. Undo the decision first.');
    await tx.delete(t.wishes).where(eq(t.wishes.round, id));
    await tx.delete(t.wishRounds).where(eq(t.wishRounds.id, id));
  });
}

export async function keepOwnWishes(
  house: House,
  caller: Caller,
  id: number,
  { spans }: OwnWishes,
): Promise<WishRoundsView> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  await inTransaction(house.db, async tx => {
    // Under the lock under which it is decided: nobody wishes for something beside a decision.
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    const row = await loadRound(tx, id);
    const self = index.person(caller.id);
    if (!row || !self || !isForPerson(self, roundOf(row))) throw notFound();
    if (today > row.closes || (await decided(tx)).has(id))
      throw new ProblemError('refused', 'Wishes are closed. What you have wished for before counts.');
    const outside = spans.findIndex(span => !isInRound(roundOf(row), span));
    if (outside >= 0) {
      const days = rangeWords(row.from as CivilDate, row.to as CivilDate, yearOf(today));
      throw refusedField(`spans.${outside}`, `Wish for days from ${days}.`);
    }
    const kept = spans.map(({ from, to }) => ({ from, to }));
    await tx.delete(t.wishes).where(and(eq(t.wishes.round, id), eq(t.wishes.person, caller.id)));
    if (kept.length > 0) await tx.insert(t.wishes).values({ round: id, person: caller.id, spans: kept, at: now });
  });
  return roundsView(house, caller);
}

function wayWords(why: InTheWay, book: LeaveBook): string {
  switch (why.code) {
    case 'obstacle':
      return obstacleWords(why.obstacle, { types: book.types, today: book.today, whose: 'their' });
    case 'limit':
      return metWords(why.met, book.today);
    case 'too many away':
      return `${why.away} would be away on ${dateWords(why.on, yearOf(book.today))}, and at most ${why.most} may be.`;
  }
}

/** So many people are worked out before others are let in between. */
const inOneGo = 10;

export async function compared(house: House, caller: Caller, id: number): Promise<WishesCompared> {
  const { db } = house;
  const row = await loadRound(db, id);
  const [view] = row ? await viewed(house, caller, [row]) : [];
  if (!row || !view) throw notFound();
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const rules = await rulesFor(db, index);
  const round = roundOf(row);
  const type = rules.types.find(one => one.id === row.type);
  if (!type) throw notFound();
  const people = inRound(index, round);
  const ids = people.map(person => person.id);
  const edits = (await decided(db)).get(id);
  const mine = new Set((edits ?? []).flatMap(({ after }) => (after?.kind === 'booking' ? [after.id] : [])));
  // What the decision itself booked is looked at as it was before it.
  const entries = (await loadEntriesOf(db, ids, today)).filter(entry => !mine.has(entry.request));
  const book: LeaveBook = { index, ...rules, entries, adjustments: await adjustmentsOf(db, ids), today };
  const before = yearBefore(round);
  const wishes = new Map((await loadWishes(db, [id])).map(one => [one.person, one.spans]));
  const bookOfOne = booksOf(book);
  const wishers = inTurn(
    people.flatMap(person => {
      const spans = wishes.get(person.id) ?? [];
      if (spans.length === 0) return [];
      const had = hadIn(bookOfOne(person.id), person.id, type, before);
      return [{ person: person.id, wishes: spans, had, lot: lotOf(row.seed, person.id) }];
    }),
  );
  const given = new Map<PersonId, Given>();
  for (const one of givenInTurn(book, round, type, wishers)) {
    given.set(one.person, one);
    if (given.size % inOneGo === 0) await letOthersIn();
  }
  const year = yearOf(today);
  return {
    round: view,
    before,
    rows: wishers.map(({ person, wishes: spans, had, lot }) => {
      const own = given.get(person);
      return {
        ...{ person, had, lot, name: personName(index, person) },
        wishes: spans.map((span, n) => {
          const way = own?.ways.find(one => one.wish === n);
          return {
            span,
            label: spanWords(span, year),
            days: amountOf(book, person, type, span)?.days ?? 0,
            why: way ? wayWords(way.why, book) : null,
          };
        }),
        proposed: own?.wish ?? null,
        given: givenTo(edits, person),
      };
    }),
    silent: people
      .filter(person => (wishes.get(person.id) ?? []).length === 0)
      .map(({ id: person, name }) => ({ person, name })),
  };
}
