/**
 * Events and states as they were stored, by the number of their form; what an older version stored is read as what it
 * means today. Events are never changed where they are stored: their seals are made of what was written.
 *
 * - 1: reasons, and what was asked for, were sentences.
 * - 2: they are codes with what they are about.
 * - 3, of states alone: when each step was finished.
 */
import { type EventBody, eventForm, type RequestEvent } from './events.ts';
import type { Ask, Reason } from './reason.ts';
import { type RequestState, stateForm } from './state.ts';

type Plain = Readonly<Record<string, unknown>>;

const said = (words: unknown): Reason | Ask | null =>
  typeof words === 'string' ? { code: 'said', words } : ((words ?? null) as Reason | Ask | null);
const allSaid = (all: unknown): unknown[] => (Array.isArray(all) ? all.map(said) : []);

/** Events whose reason is what people wrote: it is words still. */
const written: ReadonlySet<string> = new Set<EventBody['kind']>([
  'held',
  'booked',
  'corrected',
  'voided',
  'let end',
  'refused',
  'moved',
]);

/** @param form the number of the form in which it was stored */
export function readEvent(stored: unknown, form: number): RequestEvent {
  if (form >= eventForm) return stored as RequestEvent;
  const event = stored as Plain & { kind: string };
  const { words, ...rest } = event;
  return {
    ...(event.kind === 'recorded' || event.kind === 'provisioned' ? { ...rest, what: said(words) } : event),
    ...('reason' in event && !written.has(event.kind) ? { reason: said(event.reason) } : {}),
    ...(event.reasons === undefined ? {} : { reasons: allSaid(event.reasons) }),
    ...(event.dueReason === undefined ? {} : { dueReason: said(event.dueReason) }),
    ...(event.kind === 'passed limit' ? { next: said(event.next) } : {}),
    ...(event.because === undefined ? {} : { because: allSaid(event.because) }),
  } as unknown as RequestEvent;
}

const rows = (value: unknown): Plain[] => (Array.isArray(value) ? (value as Plain[]) : []);

/** A state as it is shown; one of form 1 has no number. Before it is worked with, an older one is folded anew. */
export function readState(stored: unknown): RequestState {
  const state = stored as Plain;
  if (state.form === stateForm || state.form === 3 || state.form === 2) return stored as RequestState;
  return {
    ...state,
    form: 2,
    tasks: rows(state.tasks).map(task => ({
      ...task,
      reasons: allSaid(task.reasons),
      dueReason: said(task.dueReason),
    })),
    holds: rows(state.holds).map(hold => ({ ...hold, reason: said(hold.reason) })),
    undelivered: rows(state.undelivered).map(({ words, ...one }) => ({ ...one, what: said(words) })),
    stuckAt: rows(state.stuckAt).map(one => ({ ...one, reason: said(one.reason) })),
    stuck: said(state.stuck),
  } as unknown as RequestState;
}
