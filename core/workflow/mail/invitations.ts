/** Invitations for calendars (RFC 5546): what they are over, and how an earlier one is changed or taken back. */
import { isLeaveSpan, type TableRow } from '../../form/index.ts';
import { asKnownOn } from '../../leave/index.ts';
import { type CivilDate, isCivilDate } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import { type Context, zoneOfPerson } from '../request/context.ts';
import type { CalendarTime, Invitation } from '../request/outgoing.ts';
import type { RequestState } from '../request/state.ts';
import { fill, insertions } from './letters.ts';

/** What an invitation is over. */
export type Over = { readonly start: CalendarTime; readonly end: CalendarTime };

/** From the first date of the first row to the last date of the last one, each with the time and the place beside it. */
function overRows(
  columns: readonly { readonly id: string; readonly kind: string }[],
  rows: readonly TableRow[],
  zoneAt: (place: unknown) => string | null,
): Over | null {
  const of = (kind: string) => columns.filter(column => column.kind === kind).map(column => column.id);
  const [dates, times, places] = [of('date'), of('time'), of('place')];
  const at = (row: TableRow, n: 0 | -1): CalendarTime | null => {
    const date = row[dates.at(n) ?? ''];
    if (typeof date !== 'string' || !isCivilDate(date)) return null;
    const time = row[times.at(n) ?? ''];
    if (typeof time !== 'string' || time === '') return { date: date as CivilDate };
    // Where nobody knows which clocks count, the day is all that can be said.
    const zone = zoneAt(places.length === 0 ? null : row[places.at(n) as string]);
    return zone === null ? { date: date as CivilDate } : { date: date as CivilDate, time, zone };
  };
  const key = ({ date, ...rest }: CalendarTime) => `${date}T${'time' in rest ? rest.time : ''}`;
  const starts = rows.flatMap(row => at(row, 0) ?? []).sort((a, b) => key(a).localeCompare(key(b)));
  const ends = rows.flatMap(row => at(row, -1) ?? []).sort((a, b) => key(a).localeCompare(key(b)));
  const [start, end] = [starts[0], ends.at(-1)];
  return start && end ? alike(start, end) : null;
}

/** A calendar has a day at both ends or a time at both. */
function alike(start: CalendarTime, end: CalendarTime): Over {
  if ('time' in start === 'time' in end) return { start, end };
  return { start: { date: start.date }, end: { date: end.date } };
}

/** What an invitation over a field is over; nothing where no date is given. */
export function overOf(definition: Definition, state: RequestState, context: Context, of: string): Over | null {
  const field = definition.form.fields.find(one => one.id === of);
  const answer = state.answers[of];
  if (!field || answer === null || answer === undefined) return null;
  const own = zoneOfPerson(context, state.subject ?? state.asker, context.now);
  if (field.kind === 'table') {
    // A place of the house has its zone; without a place it is where the person works; of another place nobody knows.
    const zoneOfPlace = (place: unknown) =>
      place === null || place === undefined || place === ''
        ? own
        : (context.index.directory.places.find(one => one.name === place)?.zone ?? null);
    return overRows(field.columns, answer as readonly TableRow[], zoneOfPlace);
  }
  if (isLeaveSpan(answer)) {
    const { from, to } = asKnownOn(answer, context.book.today);
    return { start: { date: from.date as CivilDate }, end: { date: to.date as CivilDate } };
  }
  if (typeof answer === 'string' && isCivilDate(answer))
    return { start: { date: answer as CivilDate }, end: { date: answer as CivilDate } };
  if (typeof answer === 'object' && 'from' in answer && 'to' in answer)
    return { start: { date: answer.from as CivilDate }, end: { date: answer.to as CivilDate } };
  return null;
}

/** The invitation that a step sends now: the first one, or a change of the one before. */
export function invitationOf(
  definition: Definition,
  state: RequestState,
  context: Context,
  step: string,
  attachment: { readonly of: string; readonly title: string },
): Invitation | null {
  const over = overOf(definition, state, context, attachment.of);
  if (!over) return null;
  const before = state.invitations?.[step];
  return {
    uid: `${state.request}-${step}`,
    sequence: before ? before.invitation.sequence + 1 : 0,
    method: 'REQUEST',
    title: fill(attachment.title, insertions(definition, state, context)).slice(0, 200),
    ...over,
  };
}

/** The same invitation taken back. */
export const takenBack = (invitation: Invitation): Invitation => ({
  ...invitation,
  sequence: invitation.sequence + 1,
  method: 'CANCEL',
});
