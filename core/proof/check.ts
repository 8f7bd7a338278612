/** Kept rehearsals: what was done and what came of it, tried again on every later draft. */
import { idFrom } from '../form/index.ts';
import type { PersonId } from '../people/index.ts';
import {
  type Act,
  allSteps,
  type Definition,
  type KeptCheck,
  type RequestEvent,
  stepNumber,
} from '../workflow/index.ts';
import { act, begin, commandFor, type Rehearsal, type RehearsalFacts, skip } from './rehearse.ts';

const valueWords = (value: unknown): string =>
  value === null || value === undefined ? 'unknown' : typeof value === 'object' ? JSON.stringify(value) : String(value);

/** A fact by its code and what it is about, so that a line stays the same when somebody or something is renamed. */
function factWords({ code, ...about }: { readonly code: string }): string {
  const values = Object.values(about).filter(value => value !== null);
  return [code, ...values.map(valueWords)].join(' ');
}

/** One event as a short line that stays the same as long as what happened stays the same. */
function lineOf(definition: Definition, event: RequestEvent): string | null {
  switch (event.kind) {
    case 'asked':
      return `asked; ${definition.figures.map(f => `${f.name} ${valueWords(event.figures[f.id])}`).join(', ') || 'no figures'}`;
    case 'chose':
      return `${event.step}: took ${event.row ?? 'otherwise'}`;
    case 'skipped':
      return `${event.step}: skipped`;
    case 'given':
      return `${event.step}: to ${event.holder}${event.due ? `, due ${event.due}` : ''}`;
    case 'answered':
      return `${event.step}: ${event.by} answered ${event.outcome}`;
    case 'kept':
      return `${event.step}: ${event.outcome} of ${event.holder} kept`;
    case 'settled':
      return `${event.step}: settled as ${event.outcome}`;
    case 'done':
      return `${event.step}: ${event.by} did it`;
    case 'could not':
      return `${event.step}: ${event.by} could not`;
    case 'sent back':
      return `${event.step}: sent back for ${event.fields.join(', ')}`;
    case 'reworked':
      return `changed ${event.changes.map(c => c.field).join(', ') || 'nothing'}`;
    case 'passed limit':
      return `limit passed, ${factWords(event.next)}`;
    case 'waiting':
      return `${event.step}: waits${event.until ? ` until ${event.until}` : ''}`;
    case 'waited':
      return `${event.step}: goes on`;
    case 'joined':
      return `${event.step}: lanes done`;
    case 'booked':
      return `booked ${event.type}`;
    case 'recorded':
    case 'provisioned':
      return `${event.step}: ${event.undelivered ? 'asked for ' : ''}${factWords(event.what)}`;
    case 'held back':
      return `not sent: ${event.message}`;
    case 'told':
      return `told ${[...event.people, ...(event.addresses ?? [])].join(', ')}: ${event.message}${event.attached?.invitation ? ', invited' : ''}`;
    case 'uninvited':
      return `${event.step}: not invited any more ${[...event.people, ...event.addresses].join(', ')}`;
    case 'stuck':
      return `${event.step}: stuck, ${factWords(event.reason)}`;
    case 'date moved':
      return `date moved to ${String(event.filled.answers[event.field])}`;
    case 'due again':
      return `due ${event.due ?? 'never'}`;
    case 'alerted':
      return `told ${event.people.join(', ')} that it is not ready`;
    case 'alert over':
      return event.ready ? 'ready' : 'time again';
    case 'invited':
      return `${event.step}: invited ${event.guest}`;
    case 'section in':
      return `${event.step}: ${event.section} handed in`;
    case 'section back':
      return `${event.step}: ${event.section} given back`;
    case 'guest reminded':
      return `${event.step}: guest reminded`;
    case 'withdrawn':
      return 'withdrawn';
    case 'closed':
      return `closed as ${event.closing}`;
    default:
      return null;
  }
}

export const traceOf = (definition: Definition, events: readonly RequestEvent[]): string[] =>
  events.flatMap(event => lineOf(definition, event)?.slice(0, 400) ?? []);

/** A rehearsal as a check that can be kept with the workflow. */
export function keep(rehearsal: Rehearsal, name: string): KeptCheck {
  const { definition, asker, subject, began, answers, acts, events, lastAct, now } = rehearsal;
  const minutes = Math.round((Date.parse(now) - Date.parse(lastAct)) / 60_000);
  const wait: Act[] = minutes > 0 ? [{ minutes, by: null, step: null, what: { kind: 'wait' } }] : [];
  return {
    id: idFrom(
      name,
      (definition.checks ?? []).map(c => c.id),
    ),
    name,
    asker,
    ...(subject === asker ? {} : { subject }),
    ...(rehearsal.outside ? { outside: true as const } : {}),
    at: began,
    answers: { ...answers },
    acts: [...acts, ...wait],
    expect: traceOf(definition, events),
  };
}

export type Difference = { line: number; expected: string | null; found: string | null };
export type CheckResult = {
  check: KeptCheck;
  ok: boolean;
  /** The first things that went otherwise. */
  differences: Difference[];
  /** The values of fields and figures, by name, that it tried. */
  sample: Record<string, unknown>;
};

/** Plays a kept rehearsal on a definition, as far as it can be played. */
export function replay(
  definition: Definition,
  check: KeptCheck,
  facts: RehearsalFacts,
): { course: string[]; rehearsal: Rehearsal | null } {
  const begun = begin(definition, facts, {
    asker: check.asker as PersonId,
    ...(check.subject ? { subject: check.subject as PersonId } : {}),
    at: check.at,
    answers: check.answers,
    ...(check.outside ? { outside: true as const } : {}),
  });
  if (!begun.ok) return { course: [`not sent: ${begun.refusal.message}`.slice(0, 400)], rehearsal: null };
  let at = begun.rehearsal;
  for (const kept of check.acts) {
    at = skip(at, kept.minutes);
    if (kept.what.kind === 'wait') continue;
    const command = commandFor(at, kept);
    const played =
      command && (kept.by || command.kind === 'guest') ? act(at, command, kept.by as PersonId | null) : null;
    if (!played?.ok) {
      const why = played ? played.refusal.message : 'it does not wait for them';
      const course = [
        ...traceOf(definition, at.events),
        `${kept.step ?? 'asker'}: ${kept.by} could not ${kept.what.kind}: ${why}`.slice(0, 400),
      ];
      return { course, rehearsal: at };
    }
    at = played.rehearsal;
  }
  return { course: traceOf(definition, at.events), rehearsal: at };
}

const most = 6;

export function runCheck(definition: Definition, check: KeptCheck, facts: RehearsalFacts): CheckResult {
  const { course, rehearsal } = replay(definition, check, facts);
  const differences: Difference[] = [];
  for (let line = 0; line < Math.max(course.length, check.expect.length) && differences.length < most; line++) {
    const expected = check.expect[line] ?? null;
    const found = course[line] ?? null;
    if (expected !== found) differences.push({ line: line + 1, expected, found });
  }
  return {
    check,
    ok: differences.length === 0,
    differences,
    sample: rehearsal ? sampleOf(definition, rehearsal.events) : {},
  };
}

/** Field and figure values of every round of a request, the last one counting. */
function sampleOf(definition: Definition, events: readonly RequestEvent[]): Record<string, unknown> {
  const sample: Record<string, unknown> = {};
  for (const event of events) {
    if (event.kind !== 'asked' && event.kind !== 'reworked') continue;
    for (const field of definition.form.fields) sample[field.label] = event.answers[field.id];
    for (const figure of definition.figures) sample[figure.name] = event.figures[figure.id];
  }
  return sample;
}

/** The line of a course with steps as people number them. */
export function inWords(definition: Definition, line: string, nameOf: (id: string) => string): string {
  const step = allSteps(definition).find(s => line.startsWith(`${s.id}: `));
  const text = step ? `step ${stepNumber(definition, step.id)}: ${line.slice(step.id.length + 2)}` : line;
  return text.replace(
    /\b(to|of|told) ([a-z][a-z0-9-]*)/g,
    (whole, word: string, id: string) => `${word} ${nameOf(id) === id ? whole.slice(word.length + 1) : nameOf(id)}`,
  );
}
