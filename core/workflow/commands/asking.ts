/** Asking: who may, for whom, and what is wrong with the answers before they are sent. */
import { type Answers, type FieldFault, isLeaveSpan } from '../../form/index.ts';
import { leaveType, limitsMet, type MetLimit, metWords, obstacles, obstacleWords } from '../../leave/index.ts';
import { isEmployed, type PersonId, resolve } from '../../people/index.ts';
import { civilDateAt, dateWords, fromDay, fullDate, toDay, workingWords, yearOf } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import { allSteps } from '../definition/structure.ts';
import type { Execution } from '../execution/execution.ts';
import { fillIn } from '../figures/filling.ts';
import { lineOf } from '../planning/plan.ts';
import { countedFrom } from '../planning/tasks.ts';
import { type Context, factsOf, houseListsOf, todayOf, whoseWords } from '../request/context.ts';
import { dateIn } from '../request/date.ts';
import { placeOfWork } from '../request/place.ts';
import { consentsNow } from './consents.ts';

/** The leave that a request would book, with every reason why it may not. */
export function leaveFaults(
  definition: Definition,
  given: Answers,
  context: Context,
  subject: PersonId,
  request: string,
  before: Answers = {},
) {
  const faults: FieldFault[] = [];
  for (const step of allSteps(definition)) {
    if (step.verb !== 'Record' || step.effect.kind !== 'book leave') continue;
    const span = given[step.effect.span];
    const type = given[step.effect.type];
    if (!isLeaveSpan(span) || typeof type !== 'string') continue;
    const was = before[step.effect.span];
    const how = { request, before: isLeaveSpan(was) ? was : null };
    for (const obstacle of obstacles(context.book, subject, type, span, how)) {
      const field = obstacle.code === 'unknown type' ? step.effect.type : step.effect.span;
      const message = obstacleWords(obstacle, { ...context.book, whose: whoseWords(context, subject) });
      if (!faults.some(f => f.message === message)) faults.push({ field, message });
    }
  }
  return faults;
}

/** What the rules of a leave type say of the leave that a request would book: what stops it, and what is kept with it. */
export type LeaveLimits = {
  readonly faults: readonly FieldFault[];
  readonly met: readonly MetLimit[];
  /** Whether the dates or the kind are others than before, so that what was met then is of no matter. */
  readonly anew: boolean;
};

/**
 * Limits of the leave type that the dates do not keep to. Dates that were accepted before and stay are not asked about again.
 * @param before the answers that stood before
 */
export function leaveLimits(
  definition: Definition,
  given: Answers,
  context: Context,
  subject: PersonId,
  request: string,
  before: Answers = {},
): LeaveLimits {
  const faults: FieldFault[] = [];
  const met: MetLimit[] = [];
  let anew = false;
  for (const step of allSteps(definition)) {
    if (step.verb !== 'Record' || step.effect.kind !== 'book leave') continue;
    const { span: at, type: kind, why } = step.effect;
    const span = given[at];
    const typeName = given[kind];
    const type = typeof typeName === 'string' ? leaveType(context.book, typeName) : undefined;
    if (!isLeaveSpan(span) || !type || !context.index.person(subject)) continue;
    const isAsBefore = JSON.stringify([before[at], before[kind]]) === JSON.stringify([span, typeName]);
    if (isAsBefore) continue;
    anew = true;
    for (const one of limitsMet(context.book, subject, type, span, request)) {
      const words = metWords(one.met, context.book.today);
      const known = met.some(other => metWords(other.met, context.book.today) === words);
      if (known) continue;
      met.push(one);
      if (one.pass || one.how === 'warns') continue;
      const letsPass = 'HR operations can let it pass.';
      if (one.how === 'stops') faults.push({ field: at, message: `${words} Choose other dates, or ask: ${letsPass}` });
      else if (why === undefined)
        faults.push({ field: at, message: `${words} It takes a reason, and nothing here asks for one; ${letsPass}` });
      else if (String(given[why] ?? '').trim() === '')
        faults.push({ field: why, message: `${words} Say why it is asked for all the same.` });
    }
  }
  return { faults, met, anew };
}

/** Keeps with a request what was met, with who let it pass; what was met by other dates before is taken off. */
export function keepLimits(execution: Execution, { met, anew }: LeaveLimits): void {
  const before = execution.state.against ?? [];
  if (!anew || (met.length === 0 && before.length === 0)) return;
  const limits = met.map(({ how, met: rule, pass }) => ({
    how,
    met: rule,
    pass: pass && { by: pass.by, reason: pass.reason },
  }));
  execution.emit({ kind: 'against rules', limits });
}

/** A date that comes too soon for what must be done before it, with the first one that does not. */
export function noticeFault(
  definition: Definition,
  answers: Answers,
  context: Context,
  { asker, subject }: Pick<Asking, 'asker' | 'subject'>,
  before: Answers = {},
): FieldFault | null {
  const from = countedFrom(definition);
  const date = from && dateIn(answers, from.field.id);
  const notice = from?.countsBack.notice;
  if (!from || !date || notice === undefined || date === dateIn(before, from.field.id)) return null;
  const place = placeOfWork(definition, { answers, asker, subject }, context, date);
  if (place === undefined) return null;
  const zone = context.index.place(place)?.zone ?? 'UTC';
  const today = toDay(civilDateAt(context.now, zone));
  const line = lineOf(context.index, place, today);
  const first = line.onOrAfter(today);
  // As many working days as are asked for lie from today on up to the date, today counted.
  const earliest = first === undefined ? undefined : line.day(first + notice);
  if (earliest === undefined || toDay(date) >= earliest) return null;
  const words = `${workingWords({ workingDays: notice })} are needed before it, so ${dateWords(fromDay(earliest), yearOf(context.now))} is the first day that can be.`;
  return { field: from.field.id, message: words };
}

export type Asking = { asker: PersonId; subject: PersonId | null; request: string };

/** Answers at the first step, with everything that is wrong about them, the leave they would book included. */
export function checkedAnswers(
  definition: Definition,
  input: unknown,
  context: Context,
  asking: Asking,
  before: Answers = {},
) {
  const facts = factsOf(context, asking.asker, asking.subject, asking.request);
  const stamped = consentsNow(definition, input, before, context.now);
  const read = fillIn(definition, definition.steps[0].id, before, stamped, facts, houseListsOf(context));
  const subject = asking.subject ?? asking.asker;
  const leave = leaveFaults(definition, read.filled.answers, context, subject, asking.request, before);
  const short = noticeFault(definition, read.filled.answers, context, asking, before);
  // What is refused for itself is not told to be against a rule as well.
  const none: LeaveLimits = { faults: [], met: [], anew: false };
  const limits =
    leave.length > 0 ? none : leaveLimits(definition, read.filled.answers, context, subject, asking.request, before);
  const faults = [...(read.ok ? [] : read.faults), ...leave, ...limits.faults, ...(short ? [short] : [])];
  return { faults, filled: read.filled, limits };
}

/** The faults that sending these answers would meet now, and the figures: what the asker sees while typing. */
export function preview(
  definition: Definition,
  input: Record<string, unknown>,
  context: Context,
  asker: PersonId,
  request = 'new',
  subject: PersonId | null = null,
) {
  const { faults, filled } = checkedAnswers(definition, input, context, { asker, subject, request });
  return { faults, figures: filled.figures };
}

/** Why a workflow is not open to somebody, for whomever they would ask; nothing when it is. */
export function isNotOpen(
  { opening }: Definition,
  context: Pick<Context, 'index' | 'now'>,
  asker: PersonId,
): string | undefined {
  if (!opening) return undefined;
  const today = todayOf(context, asker);
  if (opening.from && today < opening.from) return `This can be asked from ${fullDate(opening.from)} on.`;
  if (opening.to && today > opening.to) return `This could be asked until ${fullDate(opening.to)}.`;
  if (!opening.who) return undefined;
  const found = resolve(opening.who, {
    index: context.index,
    day: today,
    asker,
    away: [],
    mayBeAsker: true,
    whenAway: 'waits',
  });
  const isAmong = found.ok && found.holders.some(h => h.person === asker);
  return isAmong ? undefined : 'This is not open to you.';
}

/** Why somebody may not ask at all, or for this subject; nothing when they may. */
export function mayAsk(
  definition: Definition,
  context: Pick<Context, 'index' | 'now'>,
  asker: PersonId,
  subject: PersonId = asker,
): string | undefined {
  const { opening } = definition;
  const closed = isNotOpen(definition, context, asker);
  if (closed) return closed;
  if (!opening) return subject === asker ? undefined : 'This can be asked for oneself only.';
  const today = todayOf(context, asker);
  if (subject === asker) return opening.forWhom.includes('self') ? undefined : 'This is asked for somebody else.';
  const person = context.index.person(subject);
  if (!person) return 'The person that it is for is not on file.';
  if (!isEmployed(person, today) && person.joined > today) {
    return opening.forWhom.includes('joiner')
      ? undefined
      : 'This cannot be asked for somebody who has not started yet.';
  }
  return opening.forWhom.includes('report') ? undefined : 'This can be asked for oneself only.';
}
