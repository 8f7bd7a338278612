/** What stands in the way of leave that is asked for, and what is worth knowing before it is sent. */
import { holidaysKnownUntil, type Person, type PersonId } from '../people/index.ts';
import { addDays } from '../time/index.ts';
import { amountOf, type LeaveBook, leaveType, longestSpan, sureOf, timeOf } from './book.ts';
import { countsHalf } from './counting.ts';
import type { Obstacle } from './obstacle.ts';
import { type LeaveTypeRules, typeOn } from './rules/type.ts';
import { asKnownOn, daysOf, endsBeforeItStarts, isOpen, isTimed, type LeaveSpan, overlap } from './span.ts';
import { spanEffect } from './statements.ts';

export type AskedHow = {
  /** The request itself, left out of what is held and of overlaps. */
  request?: string;
  /** Being asked now, being booked as it was asked, or entered by HR. */
  how?: 'asked now' | 'asked before' | 'by HR';
  /** The dates of this request as they were, when it is being changed: what has passed of them may stay. */
  before?: LeaveSpan | null;
};

/** Why a span lies too far back to be asked for; nothing when it does not. */
function tooFarBack(
  book: LeaveBook,
  type: LeaveTypeRules,
  span: LeaveSpan,
  before: LeaveSpan | null,
): Obstacle | undefined {
  const back = type.daysBack ?? 0;
  const earliest = addDays(book.today, -back);
  if (span.from.date >= earliest || before?.from.date === span.from.date) return undefined;
  return { code: 'too far back', type: type.id, back, turnTo: type.turnTo ?? 'HR operations' };
}

/** Why a span begins too far ahead to be asked for yet: a month of sickness to come is none. */
function tooFarAhead(
  book: LeaveBook,
  type: LeaveTypeRules,
  span: LeaveSpan,
  before: LeaveSpan | null,
): Obstacle | undefined {
  const { daysAhead: ahead } = type;
  if (ahead === undefined || span.from.date <= addDays(book.today, ahead) || before?.from.date === span.from.date)
    return undefined;
  return { code: 'too far ahead', type: type.id, ahead };
}

/** Leave of the same person that a span falls into and may not. */
function clashOf(book: LeaveBook, person: Person, type: LeaveTypeRules, span: LeaveSpan, request?: string) {
  const time = timeOf(book, person);
  return book.entries.find(entry => {
    if (entry.person !== person.id || entry.request === request) return false;
    const found = book.types.find(t => t.id === entry.type);
    const other = found && typeOn(found, entry.span.from.date);
    const giveBack = [type, other].some(t => t?.insideLeave === 'gives back') && entry.type !== type.id;
    if (giveBack) return false;
    return overlap(
      time,
      entry.span,
      span,
      index => countsHalf(time, type, index) && (other ? countsHalf(time, other, index) : false),
    );
  });
}

/** Why a span may not be asked for, worst first; empty when it may. */
export function obstacles(
  book: LeaveBook,
  id: PersonId,
  typeName: string,
  given: LeaveSpan,
  { request, how = 'asked now', before = null }: AskedHow = {},
): Obstacle[] {
  const person = sureOf(book, id);
  const type = leaveType(book, typeName);
  const span = asKnownOn(given, book.today);
  if (!type) return [{ code: 'unknown type', type: typeName }];
  const rules = typeOn(type, span.from.date);
  if (isOpen(given)) {
    if (!rules.openEnd || rules.takesFrom !== 'nothing') return [{ code: 'no open end', type: type.id }];
    // What goes on until more is told has begun.
    if (span.from.date > book.today) return [{ code: 'not begun', type: type.id }];
  }
  if (endsBeforeItStarts(span)) return [{ code: 'ends before it starts', timed: isTimed(span) }];
  const days = daysOf(span);
  if (days > (rules.longest ?? longestSpan)) return [{ code: 'too long', most: rules.longest ?? null, days }];
  if (isTimed(span) && !rules.times && how === 'asked now') return [{ code: 'no times', type: type.id }];
  if (span.from.date < person.joined || (person.left !== null && span.to.date > person.left)) {
    return [{ code: 'not employed' }];
  }
  const found: Obstacle[] = [];
  const late = how === 'asked now' ? tooFarBack(book, rules, span, before) : undefined;
  if (late) found.push(late);
  const early = how === 'asked now' ? tooFarAhead(book, rules, span, before) : undefined;
  if (early) found.push(early);
  const clash = clashOf(book, person, rules, span, request);
  if (clash) found.push({ code: 'overlaps', type: clash.type, span: clash.span, request: clash.request });
  const taken = amountOf(book, id, type, span);
  if (taken && taken.minutes === 0 && taken.days === 0) found.push({ code: 'no working time' });
  const effect = clash || !taken ? undefined : spanEffect(book, id, type, span, request);
  if (effect && !effect.fits) {
    const { amount, unit, free, lowest } = effect;
    found.push({ code: 'over balance', amount, unit, free, lowest: { balance: lowest.balance, on: lowest.on } });
  }
  return found;
}

/** What is worth knowing about a span before it is sent, though it may be asked for. */
export function leaveNotes(book: LeaveBook, id: PersonId, span: LeaveSpan): string[] {
  const known = holidaysKnownUntil(book.index, sureOf(book, id), book.today);
  return known !== undefined && Number(span.to.date.slice(0, 4)) > known
    ? [`Holidays are known until the end of ${known}; days after that are counted without any.`]
    : [];
}
