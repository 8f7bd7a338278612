/** Leave that a change of facts books: for many at once, and by hand what was decided elsewhere. */
import {
  type Booking,
  type FactEdit,
  type HouseChange,
  inShutdown,
  type Of,
  type OneChange,
} from '@north-pebble/core/facts';
import { spanWords } from '@north-pebble/core/form';
import {
  booksOf,
  isTimed,
  type LeaveSpan,
  lastDayOf,
  type Obstacle,
  obstacles,
  obstacleWords,
} from '@north-pebble/core/leave';
import { latestDay, type PersonId, personName } from '@north-pebble/core/people';
import { type CivilDate, type Instant, yearOf } from '@north-pebble/core/time';
import { type Executor, type Transaction, tables as t, waiting } from '../database/index.ts';
import { adjustmentsOf, insertMany, loadEntries, loadEntriesOf, type Moment, type rulesFor } from '../house/index.ts';
import { refusedField } from '../http/index.ts';
import { mustBeWished } from '../wishes/index.ts';

/** A change by itself, or those that are made together, each with where it stands in what was sent. */
const eachOf = (change: HouseChange): { readonly one: OneChange; readonly at: string }[] =>
  change.what === 'several'
    ? change.changes.map((one, n) => ({ one, at: `change.changes.${n}` }))
    : [{ one: change, at: 'change' }];

/** What a change says by hand of leave that was decided elsewhere. */
export const bookedByHand = (change: HouseChange): Of<'booking'>[] =>
  eachOf(change).flatMap(({ one }) => (one.what === 'booking' ? [one] : []));

/** Changes that book leave for many at once: HR’s own among it, since it is as for everybody else. */
export const booksForMany = (change: HouseChange): change is Of<'shutdown'> | Of<'wishes'> =>
  change.what === 'shutdown' || change.what === 'wishes';

/** Leave on the days that are booked for many: whoever has some keeps it, and is not booked once more. */
export async function bookedIn(
  db: Executor,
  change: HouseChange,
  { index, now }: Moment,
  rules: Awaited<ReturnType<typeof rulesFor>>,
): Promise<Booking[] | null> {
  if (!booksForMany(change)) return bookingsOf(db, bookedByHand(change), latestDay(index, now));
  const people =
    change.what === 'wishes'
      ? change.chosen.map(one => one.person)
      : inShutdown(index.directory, change).map(({ person }) => person.id);
  const spans = change.what === 'wishes' ? change.chosen : [change];
  const to = spans
    .map(span => span.to.date)
    .sort()
    .at(-1) as CivilDate;
  const days = { from: spans.map(span => span.from.date).sort()[0] as CivilDate, to, known: to };
  const entries = await loadEntries(db, people, days);
  const known = new Set(rules.types.map(type => type.id));
  return entries
    .filter(one => known.has(one.type))
    .map(({ request, person, type, span }, n) => ({ id: `${request}-${n}`.slice(0, 40), person, type, span }));
}

/** All leave of those whose leave from elsewhere is changed by hand. */
export async function bookingsOf(
  db: Executor,
  byHand: readonly { readonly person: PersonId }[],
  today: CivilDate,
): Promise<Booking[] | null> {
  if (byHand.length === 0) return null;
  const people = [...new Set(byHand.map(one => one.person))];
  const entries = await loadEntriesOf(db, people, today);
  return entries
    .filter(one => one.state === 'booked')
    .map(({ request, person, type, span }) => ({ id: request, person, type, span }));
}

/** Leave from elsewhere was taken as it was; only what cannot be stands in its way. */
const cannotBe: ReadonlySet<Obstacle['code']> = new Set(['too long', 'overlaps', 'no working time']);

export async function mustBePossible(
  db: Executor,
  change: HouseChange,
  { index, now }: Moment,
  rules: Awaited<ReturnType<typeof rulesFor>>,
): Promise<void> {
  const today = latestDay(index, now);
  for (const { one, at } of eachOf(change)) {
    if (one.what !== 'booking' || !one.booking) continue;
    const { person, id, booking } = one;
    const entries = await loadEntriesOf(db, [person], today);
    const book = booksOf({ index, ...rules, entries, adjustments: await adjustmentsOf(db, [person]), today })(person);
    const { type, from, to } = booking;
    const found = obstacles(book, person, type, { from, to } as LeaveSpan, { how: 'by HR', request: id });
    const [first] = found.filter(one => cannotBe.has(one.code));
    if (first) throw refusedField(`${at}.booking.from`, obstacleWords(first, { types: rules.types, today, whose: '' }));
  }
}

/** An absence that a circumstance is of is one of theirs, and stages begin within it. */
export async function mustBeTheirs(db: Executor, change: HouseChange, today: CivilDate): Promise<void> {
  for (const { one, at: place } of eachOf(change)) {
    if (one.what !== 'circumstance' || one.holds === null) continue;
    const { holds } = one;
    if (holds.is !== 'same cause' && holds.is !== 'stages') continue;
    const at = `${place}.holds`;
    const own = new Map((await loadEntriesOf(db, [one.person], today)).map(({ request, span }) => [request, span]));
    const named = holds.is === 'stages' ? (['request'] as const) : (['request', 'follows'] as const);
    for (const field of named)
      if (!own.has(holds.is === 'stages' ? holds.request : holds[field]))
        throw refusedField(`${at}.${field}`, 'They have no such absence. Choose one of theirs.');
    if (holds.is !== 'stages') continue;
    const span = own.get(holds.request) as LeaveSpan;
    const outside = holds.stages.findIndex(({ from }) => from < span.from.date || from > lastDayOf(span));
    if (outside >= 0) throw refusedField(`${at}.stages.${outside}.from`, 'A stage begins on a day of the absence.');
  }
}

/** What is given to people of their wishes is theirs to take: their balance bears it, on these days they work, and are here. */
export async function mustBeBorne(
  db: Executor,
  change: Of<'wishes'>,
  { index, now }: Moment,
  rules: Awaited<ReturnType<typeof rulesFor>>,
): Promise<void> {
  const today = latestDay(index, now);
  await mustBeWished(db, change, today);
  const { type, chosen } = change;
  const people = chosen.map(one => one.person);
  const entries = await loadEntriesOf(db, people, today);
  const bookOfOne = booksOf({ index, ...rules, entries, adjustments: await adjustmentsOf(db, people), today });
  const names = { types: rules.types, today, whose: '' };
  chosen.forEach(({ person, from, to }, n) => {
    const [found] = obstacles(bookOfOne(person), person, type, { from, to }, { how: 'by HR' });
    if (found) throw refusedField(`change.chosen.${n}`, `${personName(index, person)}: ${obstacleWords(found, names)}`);
  });
}

/** Everybody whose leave it is reads of it: that it is booked, or that it is theirs again. */
export async function tellOfLeaveForMany(
  tx: Transaction,
  change: number,
  at: Instant,
  many: Of<'shutdown'> | Of<'wishes'>,
  edits: readonly FactEdit[],
): Promise<void> {
  const { name } = many;
  const isWishes = many.what === 'wishes';
  const without = isWishes ? many.without : [];
  const isBack = edits.every(({ after }) => after === null);
  const letter = (to: PersonId, subject: string, body: string) => ({
    key: `${many.what}:${change}:${to}`,
    ...waiting,
    writtenAt: at,
    payload: { to, subject, body },
  });
  if (!isBack)
    await insertMany(
      tx,
      t.effects,
      without.map(person =>
        letter(
          person,
          `Not possible this time: ${name}`,
          `${name}: none of your wishes could be met beside those of others. Your balance is as it was.`,
        ),
      ),
    );
  await insertMany(
    tx,
    t.effects,
    edits.flatMap(({ before, after }) => {
      const fact = after ?? before;
      if (fact?.kind !== 'booking' || isTimed(fact.span)) return [];
      const days = spanWords(fact.span, yearOf(at));
      const be = isOneDay(fact.span) ? 'is' : 'are';
      if (isWishes)
        return [
          after
            ? letter(
                fact.person,
                `Booked: ${name}`,
                `${name}: ${days} ${be} booked as your leave, as you wished. Your statement shows what it takes.`,
              )
            : letter(
                fact.person,
                `Undone: ${name}`,
                `${name} is decided anew: ${days} ${be} not your leave any more. You will hear when it is decided.`,
              ),
        ];
      const body = after
        ? `${name}: ${days} ${isOneDay(fact.span) ? 'is' : 'are'} booked as your leave, as for everybody who works there. Your statement shows what it takes.`
        : `${name} is called off: ${days} ${isOneDay(fact.span) ? 'is' : 'are'} not your leave any more, and what it took is yours again.`;
      return [letter(fact.person, after ? `Shutdown: ${name}` : `Called off: ${name}`, body)];
    }),
  );
}
const isOneDay = ({ from, to }: LeaveSpan): boolean => from.date === to.date;
