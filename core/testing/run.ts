/** A request run through a workflow in a test, by commands, with everything that happened and was asked for outside. */
import {
  type Command,
  type Context,
  type Definition,
  type Effect,
  handle,
  newRequest,
  type Outcome,
  type Reason,
  type RequestEvent,
  type RequestState,
  type Step,
  stuckWords,
  type TrailContext,
  trail,
} from '../workflow/index.ts';
import { base } from './anyWorkflow.ts';
import { bookOf, contextFor, date, halves, instant } from './house.ts';

export const given = {
  kind: 'sick',
  dates: halves('2026-02-09', '2026-02-13'),
  amount: 250,
  start: '2026-03-02',
  urgent: true,
  lead: 'tom',
  post: 'lead',
};
export const later = (now: string, actor: string | null): Context =>
  contextFor(actor, { now: instant(now), book: bookOf([], { today: date(now.slice(0, 10)) }) });

/** A workflow of the base form with these steps between asking and closing. */
export const flow = (...steps: unknown[]): Definition => ({
  ...base,
  steps: [{ verb: 'Ask', id: 'ask' }, ...(steps as Step[]), { verb: 'Close', id: 'end', closing: 'approved' }],
});
export const who = (kind: object) => ({ first: kind, otherwise: [] });
export const good: Outcome = { id: 'yes', label: 'Approve', tone: 'good', note: 'none', leads: { to: 'next' } };
export const bad: Outcome = {
  id: 'no',
  label: 'Decline',
  tone: 'bad',
  note: 'none',
  leads: { to: 'close', closing: 'declined' },
};
export const back: Outcome = {
  id: 'back',
  label: 'Send back',
  tone: 'rework',
  note: 'none',
  leads: { to: 'rework', fields: ['remark', 'amount'], resume: 'decide', atMost: 2 },
};
export const decide = (more: object = {}) => ({
  verb: 'Decide',
  id: 'decide',
  when: null,
  who: who({ kind: 'manager', levels: 1 }),
  whenAway: 'waits',
  limit: null,
  outcomes: [good, back, bad],
  ...more,
});
export const task = (more: object = {}) => ({
  verb: 'Do',
  id: 'do',
  when: null,
  who: who({ kind: 'manager', levels: 1 }),
  whenAway: 'waits',
  task: 'Lay out',
  limit: null,
  ...more,
});

export class Run {
  state: RequestState = newRequest('R-1');
  readonly kinds: string[] = [];
  readonly effects: string[] = [];
  readonly events: RequestEvent[] = [];
  readonly wanted: Effect[] = [];
  constructor(
    readonly definition: Definition,
    answers: Record<string, unknown> = given,
    /** Nobody where it is asked for from outside. */
    asker: string | null = 'ina',
  ) {
    this.do(asker === null ? { kind: 'ask from outside', answers } : { kind: 'submit', answers }, asker);
  }
  do(command: Parameters<typeof handle>[2], actor: string | null, now = '2026-02-02T10:00:00Z'): this {
    const result = handle(this.definition, this.state, command, later(now, actor));
    if (!result.ok) throw new Error(`${result.refusal.code}: ${result.refusal.message}`);
    this.state = result.state;
    this.kinds.push(...result.events.map(e => e.kind));
    this.effects.push(...result.effects.map(e => e.kind));
    this.events.push(...result.events);
    this.wanted.push(...result.effects);
    return this;
  }
  answer(outcome: string, actor: string, more: object = {}): this {
    const found = this.state.tasks.find(t => t.holder === actor);
    return this.do(
      { kind: 'answer', seen: this.state.version, task: found?.id ?? '', outcome, note: null, ...more } as Command,
      actor,
    );
  }
  get holders(): string[] {
    return this.state.tasks.map(t => t.holder);
  }
}
/** A reason in words, as somebody reads it in the test house; nothing for none. */
export const told = (reason: Reason | null | undefined, definition: Definition = flow()): string =>
  reason ? stuckWords(reason, { definition, ...contextFor(null) }) : '';

/** Why a command is refused, or `taken`. */
export const refusal = (run: Run, command: Partial<Command>, actor: string): string => {
  const result = handle(
    run.definition,
    run.state,
    { seen: run.state.version, ...command } as Command,
    later('2026-02-02T10:00:00Z', actor),
  );
  return result.ok ? 'taken' : result.refusal.code;
};

/** The trail as somebody reads it who sees everything. */
export const wholeTrail = (
  definition: Definition,
  events: readonly RequestEvent[],
  context: Omit<TrailContext, 'sights'>,
) => trail(definition, events, { ...context, sights: 'all' });
