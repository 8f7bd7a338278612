/** Hold: waits until a date, for working time, for a document, or for other requests. */

import { datedKinds } from '../../form/index.ts';
import { type CivilDate, type Instant, toMilliseconds, workingWords } from '../../time/index.ts';
import type { Findings } from '../checking/finding.ts';
import { fieldReference } from '../checking/references.ts';
import { fieldById, type StepOf, type Until } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { type Placed, structure } from '../definition/structure.ts';
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
      execution.emit({
        kind: 'waiting',
        step: step.id,
        until: null,
        reason: { code: 'until document', field: until.field },
      });
      return execution.mailAsker(
        `Still needed: ${label}, for ${execution.title()}`,
        `Your request waits until ${label} is in.`,
      );
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
      return `until ${field(until.field)} is in`;
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
  if (document) return { kind: 'document', field: document };
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
