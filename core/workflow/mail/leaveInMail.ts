/** What whoever decides about leave is told besides what was asked: the balance before and after it, and who else is away. */
import { isLeaveSpan } from '../../form/index.ts';
import {
  balanceTypeOf,
  isOpen,
  type LeaveBook,
  type LeaveType,
  leaveType,
  othersAway,
  spanEffect,
  statementOf,
} from '../../leave/index.ts';
import { isAbove, looksAfter, type PersonId } from '../../people/index.ts';
import { amountOfUnit, type CivilDate, dateWords, yearOf } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import { allSteps } from '../definition/structure.ts';
import { levelAt } from '../figures/filling.ts';
import { type Context, todayOf } from '../request/context.ts';
import type { RequestState } from '../request/state.ts';
import { sightsInMail } from '../request/visibility.ts';

const mostNamed = 8;

/** Whether a balance is theirs to read: the line above the person, and those in HR who look after them. */
const readsBalance = (context: Context, reader: PersonId, person: PersonId, day: CivilDate): boolean =>
  isAbove(context.index, reader, person, day) || looksAfter(context.index, reader, person, day);

/**
 * @param reader who decides, or for whom they stand in
 * @returns a line each; nothing where no leave would be booked, or the reader does not read its dates and kind
 */
export function leaveInMail(
  definition: Definition,
  state: RequestState,
  context: Context,
  step: string,
  reader: PersonId,
): string[] {
  const sights = sightsInMail(definition);
  const reads = (id: string): boolean => {
    const field = definition.form.fields.find(one => one.id === id);
    return field !== undefined && levelAt(definition, step, field) !== 'hidden' && sights.get(id) === 'open';
  };
  for (const { effect } of allSteps(definition).filter(one => one.verb === 'Record')) {
    if (effect.kind !== 'book leave' || !reads(effect.span) || !reads(effect.type)) continue;
    const [span, typeName] = [state.answers[effect.span], state.answers[effect.type]];
    const person = state.subject ?? state.asker;
    const type = typeof typeName === 'string' ? leaveType(context.book, typeName) : undefined;
    if (!isLeaveSpan(span) || isOpen(span) || !type || !person) continue;
    const { balance, away } = linesOf(context, person, type, span, state.request);
    return [...(readsBalance(context, reader, person, todayOf(context, reader)) ? balance : []), ...away];
  }
  return [];
}

type Span = Parameters<typeof spanEffect>[3];

type Lines = { readonly balance: readonly string[]; readonly away: readonly string[] };
/** What was told last, and of what: a request goes from one to the next and back, and its leave is the same for all of them. */
type Told = { readonly of: readonly unknown[]; readonly lines: Lines };
const lastTold = new WeakMap<LeaveBook['index'], Told>();

function linesOf({ book }: Context, person: PersonId, type: LeaveType, span: Span, request: string): Lines {
  const others = book.entries.filter(one => one.request !== request);
  const { types, plans, adjustments, today } = book;
  const of = [person, type, JSON.stringify(span), request, types, plans, adjustments, today, ...others];
  const before = lastTold.get(book.index);
  if (before && before.of.length === of.length && of.every((one, n) => one === before.of[n])) return before.lines;
  const lines = {
    balance: balanceLines(book, person, type, span, request, others),
    away: awayLines(book, person, span),
  };
  lastTold.set(book.index, { of, lines });
  return lines;
}

function balanceLines(
  book: LeaveBook,
  person: PersonId,
  type: LeaveType,
  span: Span,
  request: string,
  others: LeaveBook['entries'],
): string[] {
  const from = balanceTypeOf(book, type, span.from.date);
  const before = from && statementOf(book, person, from, span.to.date, others);
  const effect = before && spanEffect(book, person, type, span, request);
  if (!before || !effect) return [];
  const day = dateWords(span.to.date, yearOf(book.today));
  return [
    `${from.name} balance on ${day}: ${amountOfUnit(before.balance, before.unit)} before, ${amountOfUnit(effect.after, effect.unit)} after`,
  ];
}

function awayLines(book: LeaveBook, person: PersonId, span: Span): string[] {
  const names = othersAway(book, person, span).map(one => one.name);
  if (names.length === 0) return [];
  const more = names.length - mostNamed;
  return [`Also away: ${names.slice(0, mostNamed).join(', ')}${more > 0 ? ` and ${more} more` : ''}`];
}
