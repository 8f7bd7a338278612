/** The leave that answers are about, and why it counts and comes to what it does. */
import {
  balanceAhead,
  daysOf,
  endsBeforeItStarts,
  evidenceDue,
  explainAmount,
  isOpen,
  type LeaveBook,
  type LeaveSpan,
  LeaveSpan as LeaveSpanSchema,
  type LeaveType,
  leaveNotes,
  leaveType,
  limitsMet,
  longestSpan,
  metWords,
  typeOn,
} from '@north-pebble/core/leave';
import { type PersonId, personName } from '@north-pebble/core/people';
import { fullDate } from '@north-pebble/core/time';
import { allSteps, type Definition } from '@north-pebble/core/workflow';

/** The span and the leave type that a set of answers is about, when both can be read. */
export function leaveIn(definition: Definition, answers: Readonly<Record<string, unknown>>, book: LeaveBook) {
  for (const step of allSteps(definition)) {
    if (step.verb !== 'Record' || step.effect.kind !== 'book leave') continue;
    const span = LeaveSpanSchema.safeParse(answers[step.effect.span]);
    const type = answers[step.effect.type];
    const found = typeof type === 'string' ? leaveType(book, type) : undefined;
    if (span.success && found) return { span: span.data, type: found };
  }
  return null;
}

/** What the rules of a leave type say of a span before it is sent: what is asked for, what HR lets pass, when a paper is due. */
function ruleNotes(book: LeaveBook, person: PersonId, type: LeaveType, span: LeaveSpan, request: string): string[] {
  if (!book.index.person(person)) return [];
  const due = evidenceDue(type, span, book.index.person(person));
  return [
    ...limitsMet(book, person, type, span, request).map(({ met, pass }) =>
      pass
        ? `${metWords(met, book.today)} ${personName(book.index, pass.by)} of HR lets it pass.`
        : metWords(met, book.today),
    ),
    ...(due
      ? [
          due.after === 0
            ? 'A paper is due from the first day.'
            : isOpen(span)
              ? `A paper is due on ${fullDate(due.on)} if it goes on until then, for more than ${due.after} days.`
              : `A paper is due on ${fullDate(due.on)}, since it is for more than ${due.after} days.`,
        ]
      : []),
  ];
}

export function leaveReasons(
  definition: Definition,
  answers: Readonly<Record<string, unknown>>,
  book: LeaveBook,
  person: PersonId,
  request: string,
  seesBalance = true,
) {
  const leave = leaveIn(definition, answers, book);
  // Spans that are refused for their length are not explained day by day.
  if (
    !leave ||
    endsBeforeItStarts(leave.span) ||
    daysOf(leave.span) > (typeOn(leave.type, leave.span.from.date).longest ?? longestSpan)
  )
    return null;
  const span: LeaveSpan = leave.span;
  return {
    days: explainAmount(book, person, leave.type, span),
    balance: (seesBalance && balanceAhead(book, person, leave.type, span, request)) || null,
    notes: [...leaveNotes(book, person, span), ...ruleNotes(book, person, leave.type, span, request)],
  };
}
