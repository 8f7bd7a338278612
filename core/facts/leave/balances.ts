/** What stands on balances by hand: openings, amounts, and leave that was decided elsewhere. */
import { bookingId, endsBeforeItStarts, isBookedBefore, type LeaveSpan } from '../../leave/index.ts';
import type { Person, PersonOpening } from '../../people/index.ts';
import { type ChangeEdits, type ChangeFault, no, type Of, yes } from '../change.ts';
import { type Booking, fromTheFirst, type OnFile } from '../fact.ts';
import { factLike } from '../shelves.ts';
import { onFile, personOf } from '../standing.ts';
import { hasOwnBalance } from './rules.ts';

/** An opening lies within the employment that it opens, and what it carries lapses on that day or later. */
export function openingFault(
  { joined, left }: Pick<Person, 'joined' | 'left'>,
  { on, lapses }: Pick<PersonOpening, 'on' | 'lapses'>,
): ChangeFault | null {
  if (on < joined) return { code: 'before joining', field: 'on', joined };
  if (left !== null && on > left) return { code: 'after leaving', field: 'on', left };
  return lapses !== null && lapses < on ? { code: 'ends before it begins', field: 'lapses' } : null;
}

/** What the house before said of a balance, or that nothing is said of it. */
export function openingEdits(file: OnFile, { person: id, type: typeId, opening }: Of<'opening'>): ChangeEdits {
  const person = file.people.find(one => one.id === id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  const type = (file.leaveTypes ?? []).find(one => one.id === typeId);
  if (!type || !hasOwnBalance(type, opening?.on ?? fromTheFirst)) return no({ code: 'not on file', field: 'type' });
  const before = person.openings?.find(one => one.type === typeId) ?? null;
  const fact = (own: PersonOpening) => ({ kind: 'opening' as const, person: id, ...own });
  if (!opening)
    return before ? yes({ before: fact(before), after: null }) : no({ code: 'nothing changes', field: 'on' });
  const fault = openingFault(person, opening);
  if (fault) return no({ ...fault, field: `opening.${fault.field}` });
  return yes({ before: before && fact(before), after: fact({ ...opening, type: typeId }) });
}

/** What is put on a balance by hand; the same twice, on one day for one reason, is one thing said twice. */
export function adjustmentEdits(file: OnFile, { what: _, ...own }: Of<'adjustment'>): ChangeEdits {
  const person = file.people.find(one => one.id === own.person);
  if (!person) return no({ code: 'not on file', field: 'person' });
  const type = (file.leaveTypes ?? []).find(one => one.id === own.type);
  if (!type || !hasOwnBalance(type, own.date)) return no({ code: 'not on file', field: 'type' });
  if (own.date < person.joined) return no({ code: 'before joining', field: 'date', joined: person.joined });
  if (person.left !== null && own.date > person.left)
    return no({ code: 'after leaving', field: 'date', left: person.left });
  const fact = { kind: 'adjustment' as const, ...own };
  return factLike(file, fact) ? no({ code: 'nothing changes', field: 'reason' }) : yes({ before: null, after: fact });
}

/** What leave from elsewhere begins with, for its id: the same by hand and by file. */
export const beginsOf = ({ from }: LeaveSpan): string => from.date + ('time' in from ? from.time : from.half);

/**
 * Leave that was decided elsewhere, by hand. What was decided here has a request, and is changed by it.
 * @param file with the bookings of this person as they stand
 */
export function bookingEdits(file: OnFile, { person: id, id: own, booking }: Of<'booking'>): ChangeEdits {
  const person = personOf(file, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  const all = file.bookings ?? [];
  const known = all.find(one => one.id === own && one.person === id && isBookedBefore(one.id));
  if (own !== 'new' && !known) return no({ code: 'not on file', field: 'id' });
  const fact = (one: Booking) => ({ kind: 'booking' as const, ...one });
  const before = known ? fact(known) : null;
  if (!booking) return before ? yes({ before, after: null }) : no({ code: 'nothing changes', field: 'id' });
  const { type, from, to } = booking;
  if (!onFile(file.leaveTypes ?? [], type)) return no({ code: 'not on file', field: 'booking.type' });
  if ('time' in from !== 'time' in to) return no({ code: 'ends of two kinds', field: 'booking.to' });
  const span = { from, to } as LeaveSpan;
  if (endsBeforeItStarts(span)) return no({ code: 'ends before it begins', field: 'booking.to' });
  if (from.date < person.joined) return no({ code: 'before joining', field: 'booking.from', joined: person.joined });
  if (person.left !== null && to.date > person.left)
    return no({ code: 'after leaving', field: 'booking.to', left: person.left });
  const after = fact({ id: bookingId(id, type, beginsOf(span)), person: id, type, span });
  if (known?.id === after.id) return yes({ before, after });
  if (all.some(one => one.id === after.id)) return no({ code: 'nothing changes', field: 'booking.from' });
  // Its id is made of its beginning, by hand as by file: the same file again finds it as it is now.
  return yes(...(before ? [{ before, after: null }] : []), { before: null, after });
}
