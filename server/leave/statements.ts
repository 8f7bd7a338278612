/** Statements of leave of one person. */
import { type BalanceView, may } from '@north-pebble/contract';
import { spanWords } from '@north-pebble/core/form';
import {
  type ClosedYear,
  hasNoRequest,
  heldOf,
  isBookedBefore,
  type LeaveType,
  type StatementOf,
  standing,
  statementOf,
  typeOn,
  withClosed,
  withRestated,
} from '@north-pebble/core/leave';
import { type PersonId, type PersonOpening, todayFor } from '@north-pebble/core/people';
import { type CivilDate, yearOf } from '@north-pebble/core/time';
import { mayKeepLeave, maySeeBalance } from '../access/index.ts';
import { type House, loadBook, restatementsOf } from '../house/index.ts';
import { type Caller, notFound } from '../http/index.ts';
import { closedOf } from './yearEnd.ts';

/** The newest; what lies longer back is corrected by a file. */
const mostElsewhere = 300;

export async function balances(house: House, caller: Caller, id: PersonId): Promise<BalanceView> {
  const index = await house.directory(house.db);
  const person = index.person(id);
  const today = todayFor(index, id, await house.now(house.db));
  if (!person || !maySeeBalance(caller, id, index, today)) throw notFound();
  const book = await loadBook(house.db, index, id, today);
  const restated = standing(await restatementsOf(house.db, id), book.entries);
  const closed = await closedOf(
    house.db,
    id,
    book.types.map(type => type.id),
  );
  const openingOf = (type: string) => person.openings?.find(one => one.type === type) ?? null;
  /** Bookings as they were booked, and what was counted anew beneath them. */
  const told = (type: string, found: StatementOf): StatementOf => ({
    ...found,
    lines: withRestated(
      withClosed(found.lines, closedSince(openingOf(type)?.on ?? null, closed.get(type) ?? null)),
      restated.filter(one => one.type === type && one.unit === found.unit),
    ).map(({ request, ...line }) => (request && !hasNoRequest(request) ? { ...line, request } : line)),
  });
  const hasBalance = (type: LeaveType) => typeOn(type, today).takesFrom !== 'nothing';
  const yearEnd = `${today.slice(0, 4)}-12-31` as CivilDate;
  return {
    person: id,
    name: person.name,
    today,
    types: book.types.flatMap(type => {
      const now = statementOf(book, id, type, today);
      const ahead = statementOf(book, id, type, yearEnd, book.entries);
      return now && ahead
        ? [
            {
              id: type.id,
              name: type.name,
              held: heldOf(book, id, type),
              opening: shownOpening(openingOf(type.id)),
              statement: told(type.id, now),
              ahead: told(type.id, ahead),
            },
          ]
        : [];
    }),
    others: book.types.filter(type => !hasBalance(type)).map(type => type.name),
    elsewhere: may(caller, 'keep records')
      ? book.entries
          .filter(one => one.person === id && isBookedBefore(one.request))
          .toSorted((a, b) => (a.span.from.date < b.span.from.date ? 1 : -1))
          .slice(0, mostElsewhere)
          .map(({ request, type, span }) => ({
            ...{ id: request, type, span },
            says: `${book.types.find(one => one.id === type)?.name ?? type}, ${spanWords(span, yearOf(today))}`,
          }))
      : [],
    bookable: mayKeepLeave(caller, id, index, today)
      ? book.types.map(type => ({ id: type.id, name: type.name, hasBalance: hasBalance(type) }))
      : [],
  };
}

/** A year that was closed before the opening is of the house before. */
const closedSince = (on: CivilDate | null, closed: ClosedYear | null): ClosedYear | null =>
  closed && on !== null && closed.on < on ? null : closed;

const shownOpening = (opening: PersonOpening | null) =>
  opening && {
    on: opening.on,
    own: opening.own,
    carried: opening.carried,
    lapses: opening.lapses,
    source: opening.source,
  };
