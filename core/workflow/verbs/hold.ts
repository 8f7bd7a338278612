/** Hold: waits until a date, for working time, for a document, for the end of an absence, or for other requests. */

import { datedKinds, isLeaveSpan } from '../../form/index.ts';
import { isOpen } from '../../leave/index.ts';
import { type CivilDate, type Instant, toMilliseconds, workingWords } from '../../time/index.ts';
import type { Findings } from '../checking/finding.ts';
import { fieldReference } from '../checking/references.ts';
import { fieldById, type StepOf, type Until } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { type HoldRemind, isHandedIn } from '../definition/steps/hold.ts';
import { type Placed, stepById, structure } from '../definition/structure.ts';
import type { Execution } from '../execution/execution.ts';
import { workOut } from '../figures/evaluate.ts';
import type { LineParts } from '../language/line.ts';
import { finish, need, type Passage, readFormula, readWhen } from '../language/passage.ts';
import { marked, quoted, say } from '../language/phrase.ts';
import { type Known, readAmount, readField } from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';
import { label, type Writing, when } from '../language/writing.ts';
import { dueFor, morningBefore } from '../request/context.ts';
import type { Reason } from '../request/reason.ts';
import type { VerbModule } from './verb.ts';

function take(execution: Execution, step: StepOf<'Hold'>): void {
  const { until } = step;
  switch (until.kind) {
    case 'time': {
      const due = dueFor(execution.context, execution.subject, until.amount);
      if (!('at' in due)) return execution.stuck(step.id, { code: 'cannot wait', why: due.never });
      return waitUntil(execution, step, due.at, due.reason);
    }
    case 'date': {
      const worked = workOut(execution.definition, until.formula, 'date', execution.scope(), execution.facts().lists);
      if (!worked.known) return execution.stuck(step.id, worked.because);
      return waitForDay(execution, step, worked.value as CivilDate, 0, { formula: until.formula }, until.at);
    }
    case 'before': {
      const date = execution.dateOf(until.field);
      const { field } = until;
      if (!date) return execution.stuck(step.id, { code: 'nothing to count back from', field });
      return waitForDay(execution, step, date, until.workingDays, { field }, until.at);
    }
    case 'document': {
      const label = fieldById(execution.definition, until.field)?.label ?? until.field;
      if (execution.state.answers[until.field])
        return waited(execution, step, { code: 'document is there', field: until.field });
      waitForAsker(execution, step, { code: 'until document', field: until.field });
      return mailWaitedFor(
        execution,
        `Still needed: ${label}, for ${execution.title()}`,
        `Your request waits until ${label} is in.`,
      );
    }
    case 'last day': {
      const span = execution.state.answers[until.field];
      if (!isLeaveSpan(span) || !isOpen(span))
        return waited(execution, step, { code: 'last day is known', field: until.field });
      // Nobody who has just told that they are away is asked at once when they are back.
      return waitForAsker(execution, step, { code: 'until last day', field: until.field });
    }
    case 'requests': {
      const n = execution.state.opened.length;
      if (n === 0) return waited(execution, step, { code: 'no request is open' });
      return execution.emit({
        kind: 'waiting',
        step: step.id,
        until: null,
        reason: { code: 'until requests ended', requests: n },
      });
    }
  }
}

/** Those who can hand it in: whoever asked, and the person whom it is about. */
function mailWaitedFor(execution: Execution, subject: string, body: string): void {
  for (const person of new Set([...execution.askers(), execution.subject])) execution.mail(person, subject, body);
}

/** Waits for what the asker hands in, and sets the next reminder where there are any. */
function waitForAsker(execution: Execution, step: StepOf<'Hold'>, reason: Reason, reminders = 0): void {
  const remind = isHandedIn(step.until) ? step.until.remind : undefined;
  const next =
    remind && reminders < remind.atMost ? dueFor(execution.context, execution.subject, remind.every) : undefined;
  const remindAt = next && 'at' in next ? next.at : undefined;
  execution.emit({
    kind: 'waiting',
    step: step.id,
    until: null,
    reason,
    ...(reminders > 0 ? { reminders } : {}),
    ...(remindAt ? { remindAt } : {}),
  });
  if (remindAt) execution.timer(step.id, 'hold', remindAt);
}

/** What has not been handed in is asked for again. */
export function remindOfHold(execution: Execution, id: string): void {
  const hold = execution.state.holds.find(one => one.step === id);
  const step = stepById(execution.definition, id);
  const isDue = hold?.remindAt && toMilliseconds(hold.remindAt) <= toMilliseconds(execution.context.now);
  if (!hold || !isDue || step?.verb !== 'Hold') return;
  const { until } = step;
  if (!isHandedIn(until)) return;
  const label = fieldById(execution.definition, until.field)?.label ?? until.field;
  waitForAsker(execution, step, hold.reason, (hold.reminders ?? 0) + 1);
  if (until.kind === 'document')
    mailWaitedFor(
      execution,
      `Reminder: ${label}, for ${execution.title()}`,
      `Your request still waits until ${label} is in.`,
    );
  else
    mailWaitedFor(
      execution,
      `Until when? ${execution.title()}`,
      'No last day of this absence is known yet. Say it on the request as soon as it is; until then it stays on the planner.',
    );
}

/** Where the last day has become known in another way, what waited for it goes on. */
export function holdsFollow(execution: Execution): void {
  for (const hold of execution.state.holds) {
    const step = stepById(execution.definition, hold.step);
    if (step?.verb !== 'Hold' || step.until.kind !== 'last day') continue;
    const span = execution.state.answers[step.until.field];
    if (isLeaveSpan(span) && !isOpen(span))
      waited(execution, step, { code: 'last day is known', field: step.until.field });
  }
}

type Counted = { formula: string } | { field: string };

function waitForDay(
  execution: Execution,
  step: StepOf<'Hold'>,
  date: CivilDate,
  days: number,
  what: Counted,
  at: string | undefined,
): void {
  const moment = morningBefore(execution.context, execution.subject, date, days, execution.placeOn(date), at);
  if (!moment) return execution.stuck(step.id, { code: 'no day on file before', date });
  waitUntil(execution, step, moment, { code: 'until day', what, days, date, ...(at ? { at } : {}) });
}

function waitUntil(execution: Execution, step: StepOf<'Hold'>, at: Instant, reason: Reason): void {
  if (toMilliseconds(at) <= toMilliseconds(execution.context.now))
    return waited(execution, step, { code: 'is past', of: reason });
  execution.emit({ kind: 'waiting', step: step.id, until: at, reason });
  execution.timer(step.id, 'hold', at);
}

function waited(execution: Execution, step: StepOf<'Hold'>, reason: Reason): void {
  execution.emit({ kind: 'waited', step: step.id, reason });
  execution.goOn({ to: 'next' }, step.id);
}

const remindWords = (remind: HoldRemind | undefined): string =>
  remind ? `, with a reminder every ${workingWords(remind.every)}, at most ${remind.atMost} of them` : '';

/** `, with a reminder every 3 working days, at most 5 of them`. */
function readRemind(s: Scanner): { remind?: HoldRemind } {
  const found = s.try(() => {
    if (!s.eat(/,?\s*with a reminder every/)) return undefined;
    const every = readAmount(s);
    if (!every || !s.eat(/,?\s*at most/)) return undefined;
    const atMost = s.number();
    return atMost !== undefined && s.words('of them') ? { every, atMost } : undefined;
  });
  return found ? { remind: found } : {};
}

export function untilWords(writing: Writing, until: Until, style: 'shown' | 'written'): string {
  const field = (id: string) => (style === 'shown' ? label(writing, id) : quoted(label(writing, id)));
  const at = 'at' in until && until.at ? `, at ${until.at}` : '';
  switch (until.kind) {
    case 'date':
      return `until ${style === 'shown' ? until.formula : marked(until.formula)}${at}`;
    case 'before':
      return `until ${until.workingDays} working ${until.workingDays === 1 ? 'day' : 'days'} before ${field(until.field)}${at}`;
    case 'time':
      return `for ${workingWords(until.amount)}`;
    case 'document':
      return `until ${field(until.field)} is in${remindWords(until.remind)}`;
    case 'last day':
      return `until the last day of ${field(until.field)} is known${remindWords(until.remind)}`;
    case 'requests':
      return 'until every request that it opened has ended';
  }
}

function sentence(writing: Writing, step: StepOf<'Hold'>, path: Path): LineParts {
  const phrase = {
    text: untilWords(writing, step.until, 'shown'),
    written: untilWords(writing, step.until, 'written'),
    edit: { kind: 'until' as const, path: [...path, 'until'], until: step.until },
  };
  return { sentence: [...when(writing, step, path), say('Wait'), phrase, say('.')], rows: [], after: [] };
}

export function readUntil(s: Scanner, known: Known): Until {
  const amount = s.try(() => (s.words('for') ? readAmount(s) : undefined));
  if (amount) return { kind: 'time', amount };
  need(s, s.words('until') || undefined, '');
  if (s.eat(/every request that it opened has ended/, 'every request that it opened has ended'))
    return { kind: 'requests' };
  const before = s.try(() => {
    const n = s.number();
    if (n === undefined || !s.eat(/(?:working )?days? before/)) return undefined;
    const field = readField(s, known);
    return field ? { kind: 'before' as const, workingDays: n, field } : undefined;
  });
  if (before) return { ...before, ...readAt(s) };
  const document = s.try(() => {
    const field = readField(s, known);
    return field && s.words('is in') ? field : undefined;
  });
  if (document) return { kind: 'document', field: document, ...readRemind(s) };
  const spanOf = s.try(() => {
    if (!s.words('the last day of')) return undefined;
    const field = readField(s, known);
    return field && s.words('is known') ? field : undefined;
  });
  if (spanOf) return { kind: 'last day', field: spanOf, ...readRemind(s) };
  return { kind: 'date', formula: readFormula(s), ...readAt(s) };
}

/** `, at 17:00`. */
function readAt(s: Scanner): { at?: string } {
  const found = s.eat(/,?\s*at (\d{1,2}):(\d{2})(?!\d)/);
  return found ? { at: `${found[1].padStart(2, '0')}:${found[2]}` } : {};
}

function read(passage: Passage, known: Known, id: string): StepOf<'Hold'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  need(s, s.eat(/wait/, 'wait'), '');
  const until = readUntil(s, known);
  finish(s);
  return { verb: 'Hold', id, when, until };
}

function check(findings: Findings, { path }: Placed, step: StepOf<'Hold'>): void {
  const { until } = step;
  const at: Path = [...path, 'until', 'field'];
  if (until.kind === 'before')
    fieldReference(findings, step, until.field, at, datedKinds, 'the date that is counted from');
  if (until.kind === 'document')
    fieldReference(findings, step, until.field, at, ['document', 'files'], 'the document that is waited for');
  if (until.kind === 'last day')
    fieldReference(findings, step, until.field, at, ['leave span'], 'the absence whose last day is waited for');
  if (until.kind === 'requests') {
    const { all } = structure(findings.definition);
    if (!all.some(p => p.step.verb === 'Record' && p.step.effect.kind === 'open'))
      findings.add(
        'stops',
        'requests',
        step,
        [...path, 'until'],
        'There is no request to wait for',
        'No step before it opens another request.',
      );
  }
}

export const hold: VerbModule<'Hold'> = { take, say: sentence, read, check };
