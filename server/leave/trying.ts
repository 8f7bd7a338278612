/** What spans would take and leave, before anything is asked for: each by itself, to be compared. */
import type { TriedView, TrySpans } from '@north-pebble/contract';
import {
  amountOf,
  daysOf,
  limitsMet,
  longestSpan,
  metWords,
  obstacles,
  obstacleWords,
  spanEffect,
} from '@north-pebble/core/leave';
import { type PersonId, personName, todayFor } from '@north-pebble/core/people';
import { maySeeBalance } from '../access/index.ts';
import { type House, loadBook } from '../house/index.ts';
import { type Caller, notFound } from '../http/index.ts';

export async function tried(
  house: House,
  caller: Caller,
  id: PersonId,
  { type: typeId, spans }: TrySpans,
): Promise<TriedView> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, id, now);
  if (!index.person(id) || !maySeeBalance(caller, id, index, today)) throw notFound();
  const book = await loadBook(house.db, index, id, today);
  const whose = caller.id === id ? 'your' : `${personName(index, id)}’s`;
  const type = book.types.find(one => one.id === typeId);
  if (!type) throw notFound();
  return spans.map(span => {
    const isLong = daysOf(span) > longestSpan;
    const found = obstacles(book, id, type.id, span);
    const taken = isLong ? undefined : amountOf(book, id, type, span);
    const effect = taken ? spanEffect(book, id, type, span) : undefined;
    const met = found.length > 0 ? [] : limitsMet(book, id, type, span);
    return {
      amount: taken?.amount ?? null,
      unit: taken?.unit ?? 'days',
      fits: found.length === 0 && met.every(one => one.how !== 'stops' || one.pass !== null),
      after: effect?.after ?? null,
      lowest: effect?.lowest ?? null,
      says: [...found.map(one => obstacleWords(one, { ...book, whose })), ...met.map(one => metWords(one.met, today))],
    };
  });
}
