/** What whoever decides about leave is told besides what was asked: the balance before and after it, and who else is away. */
import { isLeaveSpan } from '../../form/index.ts';
import { balanceTypeOf, isOpen, leaveType, othersAway, spanEffect, statementOf } from '../../leave/index.ts';
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
    return [
      ...(readsBalance(context, reader, person, todayOf(context, reader))
        ? balanceLines(context, person, type, span, state.request)
        : []),
      ...awayLines(context, person, span),
    ];
  }
  return [];
}

type Span = Parameters<typeof spanEffect>[3];

function balanceLines(
  { book }: Context,
  person: PersonId,
  type: NonNullable<ReturnType<typeof leaveType>>,
  span: Span,
  request: string,
): string[] {
  const from = balanceTypeOf(book, type, span.from.date);
  const others = book.entries.filter(one => one.request !== request);
  const before = from && statementOf(book, person, from, span.to.date, others);
  const effect = before && spanEffect(book, person, type, span, request);
  if (!before || !effect) return [];
  const day = dateWords(span.to.date, yearOf(book.today));
  return [
    `${from.name} balance on ${day}: ${amountOfUnit(before.balance, before.unit)} before, ${amountOfUnit(effect.after, effect.unit)} after`,
  ];
}

function awayLines({ book }: Context, person: PersonId, span: Span): string[] {
  const names = othersAway(book, person, span).map(one => one.name);
  if (names.length === 0) return [];
  const more = names.length - mostNamed;
  return [`Also away: ${names.slice(0, mostNamed).join(', ')}${more > 0 ? ` and ${more} more` : ''}`];
}
