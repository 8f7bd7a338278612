/**
 * The path ahead of a request: who handles it next, one after another, if everybody agrees and nothing changes
 * meanwhile. Played through the same function that runs requests, so a step that will be skipped is not told of.
 */
import type { PersonId } from '../people/index.ts';
import type { Instant } from '../time/index.ts';
import {
  type Command,
  type Context,
  closingById,
  type Definition,
  handle,
  isOpen,
  ownFields,
  type Reason,
  type RequestEvent,
  type RequestState,
  stepById,
  stepNumber,
  type TimerCommand,
} from '../workflow/index.ts';

export type AheadStep = {
  readonly step: string;
  readonly number: string;
  readonly verb: 'Decide' | 'Do' | 'Hold';
  readonly people: readonly { readonly person: PersonId; readonly reasons: readonly Reason[] }[];
  /** Of those who have it now; nobody knows when it comes to the others. */
  readonly due: Instant | null;
  /** Why it waits, where nobody holds it. */
  readonly waits: Reason | null;
};
export type Ahead = {
  readonly steps: readonly AheadStep[];
  /** The name of its closing, when the path can be told to its end. */
  readonly ends: string | null;
};

const longest = 60;

/** What takes a request on in the way that its asker hopes for; nothing when more than a click is needed. */
function onward(
  definition: Definition,
  state: RequestState,
): { command: Command | TimerCommand; actor: PersonId | null; at?: Instant } | null {
  const [task] = state.tasks;
  const seen = state.version;
  if (task) {
    const step = stepById(definition, task.step);
    const needed = ownFields(definition, task.step).some(f => f.required);
    if (task.pool === 'free') return { command: { kind: 'take', seen, task: task.id }, actor: task.holder };
    if (step?.verb === 'Decide') {
      const good = step.outcomes.find(o => o.tone === 'good' && o.leads.to !== 'rework');
      if (!good || good.needs?.length || needed) return null;
      return { command: { kind: 'answer', seen, task: task.id, outcome: good.id, note: '-' }, actor: task.holder };
    }
    if (step?.verb === 'Do' && !needed) {
      const ticked = (step.checklist ?? []).map(item => item.id);
      return {
        command: { kind: 'complete', seen, task: task.id, ticked, answers: {}, note: null },
        actor: task.holder,
      };
    }
    return null;
  }
  const hold = state.holds.find(h => h.until);
  if (!hold?.until) return null;
  return { command: { kind: 'timer', task: hold.step, what: 'hold' }, actor: null, at: hold.until };
}

/** The steps that events brought somebody to, or that they made it wait at, in their order. */
function stepsOf(definition: Definition, events: readonly RequestEvent[], certain: number): AheadStep[] {
  const found = new Map<string, AheadStep>();
  for (const [i, event] of events.entries()) {
    if (event.kind !== 'given' && event.kind !== 'waiting') continue;
    const verb = stepById(definition, event.step)?.verb;
    if (verb !== 'Decide' && verb !== 'Do' && verb !== 'Hold') continue;
    const { people, ...before } = found.get(event.step) ?? {
      step: event.step,
      number: stepNumber(definition, event.step),
      verb,
      people: [],
      due: null,
      waits: null,
    };
    if (event.kind === 'waiting') found.set(event.step, { ...before, people, waits: event.reason });
    else if (!people.some(p => p.person === event.holder)) {
      const due = i < certain && event.due ? event.due : before.due;
      const person = { person: event.holder, reasons: event.reasons };
      found.set(event.step, { ...before, due, people: [...people, person] });
    }
  }
  return [...found.values()];
}

/**
 * @param brought the request as it stands, and the events that gave it to those who have it now
 */
export function pathAhead(
  definition: Definition,
  brought: { state: RequestState; events: readonly RequestEvent[] },
  context: Context,
): Ahead {
  let { state } = brought;
  let { now } = context;
  const events = [...brought.events];
  for (let n = 0; n < longest && isOpen(state); n++) {
    const next = onward(definition, state);
    if (!next) break;
    now = next.at ?? now;
    const result = handle(definition, state, next.command, { ...context, now, actor: next.actor });
    // What is refused, or changes nothing, is not told any further.
    if (!result.ok || result.events.length === 0) break;
    ({ state } = result);
    events.push(...result.events);
  }
  const ends = state.status === 'closed' ? (closingById(definition, state.closing ?? '')?.name ?? null) : null;
  return { steps: stepsOf(definition, events, brought.events.length), ends };
}
