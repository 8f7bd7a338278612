/**
 * The date that a request counts back from is moved: everything is planned anew, limits and waits with it, whoever has
 * something in hand is told once, what is done stays, and what is to be taken back outside on a date that follows it is
 * taken back on the new one.
 */
import type { FieldFault } from '../../../form/index.ts';
import { looksAfter, type PersonId, resolve } from '../../../people/index.ts';
import { type CivilDate, dateWords, type Instant, toDay, toMilliseconds, yearOf } from '../../../time/index.ts';
import { type Definition, fieldById, isPersonStep } from '../../definition/definition.ts';
import { stepById, structure } from '../../definition/structure.ts';
import { dueOf, questionFor } from '../../execution/assigning.ts';
import type { Execution } from '../../execution/execution.ts';
import { evaluateFigures, workOut } from '../../figures/evaluate.ts';
import { dueWords } from '../../mail/letters.ts';
import { lineOf, type Plan, planOf } from '../../planning/plan.ts';
import { countedFrom } from '../../planning/tasks.ts';
import { type Command, type Result, refuse, refuseAnswers } from '../../request/command.ts';
import { type Context, factsOf, mayRead, morningBefore, nameOf, todayOf } from '../../request/context.ts';
import { dateIn } from '../../request/date.ts';
import { isOpen, ownerOf, type RequestState } from '../../request/state.ts';
import { executionOf } from '../executionOf.ts';

/** Whether somebody may move the date: the asker, whom the workflow names, and HR of the person. */
export function mayMoveDate(definition: Definition, state: RequestState, context: Context, who: PersonId): boolean {
  const from = countedFrom(definition);
  if (!from || !state.asker || !isOpen(state)) return false;
  const subject = state.subject ?? state.asker;
  if (context.helps && who === context.actor) return true;
  if (
    who === state.asker ||
    who === ownerOf(state) ||
    looksAfter(context.index, who, subject, todayOf(context, subject))
  )
    return true;
  const { movedBy } = from.countsBack;
  if (!movedBy) return false;
  const found = resolve(movedBy, questionFor(executionOf(definition, state, context)));
  return found.ok && found.holders.some(holder => holder.person === who);
}

/** What a date may not be, in words; nothing when it may be tried. */
function dateFault(definition: Definition, state: RequestState, to: CivilDate, context: Context): string | null {
  const from = countedFrom(definition);
  if (!from) return 'This request counts back from no date.';
  const before = dateIn(state.answers, from.field.id);
  if (before === to) return 'It is on this day already.';
  const today = todayOf(context, (state.subject ?? state.asker) as PersonId);
  // A date that has passed may be set right; one that is ahead is not moved behind today.
  if (to < today && !(before !== null && before < today)) return 'This day has passed.';
  return null;
}

/** What is worth a second look before a date is taken, though it may be: codes, which the page tells in words. */
export type DateNote = 'no working day' | 'past the leaving day' | 'less notice' | 'has passed';

export function dateNotes(definition: Definition, state: RequestState, to: CivilDate, context: Context): DateNote[] {
  const notes: DateNote[] = [];
  const person = context.index.person((state.subject ?? state.asker) as PersonId);
  if (person?.left && person.left < to) notes.push('past the leaving day');
  const after = planOf(definition, withDate(definition, state, to), context);
  if (after?.ok) {
    const { place, today, toGo } = after.plan;
    const line = lineOf(context.index, place, toDay(today));
    const next = line.onOrAfter(toDay(to));
    if (next === undefined || line.day(next) !== toDay(to)) notes.push('no working day');
    const { notice } = definition.countsBack ?? {};
    if (notice !== undefined && toGo < notice) notes.push('less notice');
    if (to < today) notes.push('has passed');
  }
  return notes;
}

/** The answers with the other date in them. */
function withDate(definition: Definition, state: RequestState, to: CivilDate): RequestState {
  const from = countedFrom(definition);
  if (!from) return state;
  const before = state.answers[from.field.id];
  // A range keeps its length, and a span its halves.
  const answers = { ...state.answers, [from.field.id]: movedAnswer(before, to) as never };
  return { ...state, answers };
}

function movedAnswer(before: unknown, to: CivilDate): unknown {
  if (typeof before !== 'object' || before === null || !('from' in before)) return to;
  const { from } = before;
  return { ...before, from: typeof from === 'object' ? { ...from, date: to } : to };
}

export type DateMove = {
  readonly before: Plan | null;
  readonly after: Plan | null;
  readonly notes: readonly DateNote[];
  /** Who would be told. */
  readonly told: readonly PersonId[];
  readonly follows: readonly Following[];
};

/** What else follows the date: a wait that goes on at another moment, or what is taken back outside after another day. */
export type Following =
  | {
      readonly what: 'goes on';
      readonly step: string;
      readonly before: Instant | null;
      /** Nothing where it goes on at once, since its day has come. */
      readonly after: Instant | null;
    }
  | {
      readonly what: 'taken back';
      readonly step: string;
      readonly before: CivilDate | null;
      readonly after: CivilDate;
    };

/** Found by moving it for a try, so that what is shown is what is done. */
function followings(definition: Definition, state: RequestState, date: CivilDate, context: Context): Following[] {
  const tried = moveDate(definition, state, { kind: 'move date', seen: state.version, date, reason: '' }, context);
  if (!tried.ok) return [];
  const before = executionOf(definition, state, context);
  const waits = state.holds.flatMap((hold): Following[] => {
    const moved = tried.events.find(event => event.kind === 'waiting' && event.step === hold.step);
    if (moved?.kind === 'waiting')
      return [{ what: 'goes on', step: hold.step, before: hold.until, after: moved.until }];
    const isOver = tried.events.some(event => event.kind === 'waited' && event.step === hold.step);
    return isOver ? [{ what: 'goes on', step: hold.step, before: hold.until, after: null }] : [];
  });
  const ends = tried.effects.flatMap((effect): Following[] => {
    if (effect.kind !== 'undo on') return [];
    const step = askedOutside(state).find(one => one.key === effect.of)?.step;
    if (step === undefined) return [];
    const was = removalOf(before, step);
    return was === effect.on ? [] : [{ what: 'taken back', step, before: was, after: effect.on }];
  });
  return [...waits, ...ends];
}

/** Who is told when the date moves: whoever has something in hand, the asker and the person that it is about. */
function toTell(state: RequestState, context: Context): PersonId[] {
  const all = [
    ...state.tasks.map(task => task.holder),
    ownerOf(state),
    state.asker,
    state.subject,
    ...(state.alerted?.people ?? []),
  ];
  const onFile = all.filter((id): id is PersonId => id !== null && mayRead(context, id));
  return [...new Set(onFile)].filter(id => id !== context.actor);
}

/** What moving the date would do, before it is sent. */
export function previewDate(
  definition: Definition,
  state: RequestState,
  to: CivilDate,
  context: Context,
): { ok: true; move: DateMove } | { ok: false; fault: string } {
  const fault = dateFault(definition, state, to, context);
  if (fault !== null) return { ok: false, fault };
  const [before, after] = [state, withDate(definition, state, to)].map(one => planOf(definition, one, context));
  return {
    ok: true,
    move: {
      before: before?.ok ? before.plan : null,
      after: after?.ok ? after.plan : null,
      notes: dateNotes(definition, state, to, context),
      told: toTell(state, context),
      follows: followings(definition, state, to, context),
    },
  };
}

export function moveDate(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'move date' }>,
  context: Context,
): Result {
  const from = countedFrom(definition);
  if (!from || !state.asker) return refuse('not open', 'This request counts back from no date.');
  if (!context.actor || !mayMoveDate(definition, state, context, context.actor))
    return refuse('not yours', `Only ${nameOf(context.index, ownerOf(state))} and HR operations may move this date.`);
  const message = dateFault(definition, state, command.date, context);
  const faults: FieldFault[] = message === null ? [] : [{ field: 'date', message }];
  if (faults.length > 0) return refuseAnswers(faults);

  const field = from.field.id;
  const before = state.answers[field] ?? null;
  const { answers } = withDate(definition, state, command.date);
  const facts = factsOf(context, state.asker, state.subject, state.request);
  const { figures, scope } = evaluateFigures(definition, answers, facts);
  const execution = executionOf(definition, state, context);
  const changes = [{ field, before, after: answers[field] }];
  execution.emit({ kind: 'date moved', field, reason: command.reason, filled: { answers, figures, changes } });
  execution.reinvite();
  execution.remember(answers, scope);
  execution.hold();
  followDate(execution, state, field, command.reason);
  return { ok: true, ...execution.outcome() };
}

/**
 * What hangs on a date follows it: limits, what is taken back outside, waits; everybody concerned is told once.
 * @param known those who hear of it otherwise
 */
export function followDate(
  execution: Execution,
  before: RequestState,
  field: string,
  reason: string,
  known: readonly (PersonId | null)[] = [],
): void {
  const date = dateIn(execution.state.answers, field);
  const was = dateIn(before.answers, field);
  if (date === null || date === was) return;
  const dues = newLimits(execution, field);
  const isPlanned = countedFrom(execution.definition)?.field.id === field;
  if (isPlanned || dues.size > 0) tell(execution, field, was, { date, reason }, dues, known);
  moveUndoing(execution, before);
  moveWaits(execution, field);
}

/** Limits that hang on the date, of every task in hand, counted anew. */
function newLimits(execution: Execution, field: string): ReadonlySet<string> {
  const changed = new Set<string>();
  for (const task of execution.state.tasks) {
    const step = stepById(execution.definition, task.step);
    if (!isPersonStep(step) || !step.limit) continue;
    const { within } = step.limit;
    const hangs = 'byPlan' in within || ('workingDaysBefore' in within && within.field === field);
    if (!hangs) continue;
    const due = dueOf(execution, step, task.holder, within);
    const at = 'at' in due ? due.at : null;
    if (at === task.due) continue;
    changed.add(task.id);
    execution.emit({
      kind: 'due again',
      task: task.id,
      due: at,
      dueReason: 'at' in due ? due.reason : { code: 'no due time', why: due.never },
    });
    if (at !== null && toMilliseconds(at) > toMilliseconds(execution.context.now))
      execution.timer(task.id, 'limit', at);
  }
  return changed;
}

/** Everybody is told once, with what they have in hand and when it is due now. */
function tell(
  execution: Execution,
  field: string,
  before: CivilDate | null,
  { date, reason }: { date: CivilDate; reason: string },
  dues: ReadonlySet<string>,
  known: readonly (PersonId | null)[],
): void {
  const { context, definition, state } = execution;
  const label = fieldById(definition, field)?.label ?? 'the date';
  const year = yearOf(context.now);
  const was = before ? ` It was ${dateWords(before, year)}.` : '';
  for (const person of toTell(state, context)) {
    if (known.includes(person)) continue;
    const own = state.tasks.filter(task => task.holder === person);
    const lines = own.map(task => {
      const step = stepById(execution.definition, task.step);
      const what = step?.verb === 'Do' ? step.task : 'Your decision';
      if (!task.due) return `- ${what}`;
      return `- ${what}: due ${dueWords(context, person, task.due)}${dues.has(task.id) ? ', which is new' : ', as before'}`;
    });
    const held = lines.length > 0 ? `\n\nWith you:\n${lines.join('\n')}` : '';
    execution.mail(
      person,
      `Moved to ${dateWords(date, year)}: ${execution.title()}`,
      `${execution.who(context.actor)} moved ${label} to ${dateWords(date, year)}.${was} “${reason}”${held}`,
    );
  }
}

/** What is to be taken back outside on a day that is worked out from the date is taken back on the new day. */
export function moveUndoing(execution: Execution, before: RequestState): void {
  for (const { step, key, what } of askedOutside(before)) {
    if (key === undefined) continue;
    const on = removalOf(execution, step);
    if (on !== null && what?.code === 'asked of connection' && (before.provided ?? []).some(one => one.key === key))
      execution.emit({ kind: 'provisioned', step, what: { ...what, until: on }, moves: key });
    if (on !== null) execution.effect({ kind: 'undo on', key: `${key}:undo on`, of: key, on, at: execution.endOf(on) });
  }
}

const askedOutside = (state: RequestState) => [...(state.provided ?? []), ...state.undelivered];

/** The last day of what a step asked for outside, as the answers are; nothing where it is for good or not known. */
function removalOf(execution: Execution, id: string): CivilDate | null {
  const step = stepById(execution.definition, id);
  return step?.verb === 'Provision' && step.removeOn !== undefined ? dateOfFormula(execution, step.removeOn) : null;
}

/** Waits for a day before the date wait for the new one, or are over. */
function moveWaits(execution: Execution, field: string): void {
  const { context, definition } = execution;
  for (const { step: id } of execution.state.holds) {
    const step = structure(definition).of(id)?.step;
    if (step?.verb !== 'Hold' || (step.until.kind !== 'before' && step.until.kind !== 'date')) continue;
    if (step.until.kind === 'before' && step.until.field !== field) continue;
    const days = step.until.kind === 'before' ? step.until.workingDays : 0;
    const date = step.until.kind === 'before' ? execution.dateOf(field) : dateOfFormula(execution, step.until.formula);
    const { at } = step.until;
    const until = date && morningBefore(context, execution.subject, date, days, execution.placeOn(date), at);
    if (!date || !until) continue;
    const what = step.until.kind === 'before' ? { field } : { formula: step.until.formula };
    const reason = { code: 'until day' as const, what, days, date, ...(at ? { at } : {}) };
    if (toMilliseconds(until) <= toMilliseconds(context.now)) {
      execution.emit({ kind: 'waited', step: id, reason: { code: 'is past', of: reason } });
      execution.goOn({ to: 'next' }, id);
    } else if (until !== execution.state.holds.find(hold => hold.step === id)?.until) {
      execution.emit({ kind: 'waiting', step: id, until, reason });
      execution.timer(id, 'hold', until);
    }
  }
}

function dateOfFormula(execution: Execution, formula: string): CivilDate | null {
  const worked = workOut(execution.definition, formula, 'date', execution.scope(), execution.facts().lists);
  return worked.known ? (worked.value as CivilDate) : null;
}
