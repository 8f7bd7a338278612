/** Whether the days of leave that is held have passed. */
import { isOpen as isLeaveOpen, leaveType, typeOn } from '../../leave/index.ts';
import { addDays, type CivilDate } from '../../time/index.ts';
import { type Context, todayOf } from '../request/context.ts';
import type { RequestState } from '../request/state.ts';

/** The last day of what is held, and the day until which it may be decided: as far back as such leave may be asked for. */
export function heldUntil(state: RequestState, { book }: Context): { last: CivilDate; until: CivilDate } | null {
  const { leave } = state;
  const held = leave && (leave.state === 'held' ? leave : leave.instead);
  if (!held || isLeaveOpen(held.span)) return null;
  const type = leaveType(book, held.type);
  const last = held.span.to.date;
  return { last, until: addDays(last, (type && typeOn(type, held.span.from.date).daysBack) ?? 0) };
}

/** The last day of leave that has passed before it was decided; nothing while it may be. */
export function passedOn(state: RequestState, context: Context): CivilDate | null {
  const person = state.subject ?? state.asker;
  const held = person && heldUntil(state, context);
  // It is at most a day later anywhere than in Greenwich: most need no zone to be told that their days are ahead.
  if (!held || held.until > context.now.slice(0, 10)) return null;
  return held.until < todayOf(context, person) ? held.last : null;
}
