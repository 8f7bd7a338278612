/**
 * Days on which a place is closed and leave is taken from everybody who works there: a booking each, made and taken back as
 * one change. Whoever has leave on one of these days keeps what they have.
 */
import { shutdownBooking, takesHalfOf, typeOn } from '../../leave/index.ts';
import { type Person, recordOn } from '../../people/index.ts';
import { type CivilDate, halfIndex, toDay } from '../../time/index.ts';
import { type ChangeEdits, no, type Of, yes } from '../change.ts';
import type { FactEdit, OnFile } from '../fact.ts';
import { onFile } from '../standing.ts';

/** Those who work there on its first day, or come in the middle of it; with the day on which it begins for them. */
export function inShutdown(
  { people }: Pick<OnFile, 'people'>,
  { place, department, from, to, except }: Of<'shutdown'>,
): { readonly person: Person; readonly from: CivilDate }[] {
  const spared = new Set<string>(except);
  return people.flatMap(person => {
    const begins = [person.joined, from.date].toSorted()[1] as CivilDate;
    if (spared.has(person.id) || begins > to.date || (person.left !== null && person.left < begins)) return [];
    const record = recordOn(person, begins);
    const isThere =
      (place === null || record.place === place) && (department === null || record.department === department);
    return isThere ? [{ person, from: begins }] : [];
  });
}

/** @param file with every booking of these people in these days, as it stands */
export function shutdownEdits(file: OnFile, change: Of<'shutdown'>): ChangeEdits {
  const { place, department, type: typeId, from, to, name } = change;
  if (place !== null && !onFile(file.places, place)) return no({ code: 'not on file', field: 'place' });
  if (department !== null && !onFile(file.departments, department))
    return no({ code: 'not on file', field: 'department' });
  const type = (file.leaveTypes ?? []).find(one => one.id === typeId);
  if (!type || typeOn(type, from.date).takesFrom === 'nothing') return no({ code: 'not on file', field: 'type' });
  if (to.date < from.date || (to.date === from.date && from.half === 'pm' && to.half === 'am'))
    return no({ code: 'ends before it begins', field: 'to' });
  const [first, last] = [halfIndex(toDay(from.date), from.half), halfIndex(toDay(to.date), to.half)];
  const away = new Set<string>();
  for (const { person, span } of file.bookings ?? [])
    for (let half = first; half <= last && !away.has(person); half++) if (takesHalfOf(span, half)) away.add(person);
  const edits = inShutdown(file, change).flatMap(({ person, from: begins }): FactEdit[] => {
    // Whoever earns no leave here has none to take.
    const { plan } = recordOn(person, begins);
    if (away.has(person.id) || plan === null) return [];
    const own = begins === from.date ? from : { date: begins, half: 'am' as const };
    const id = shutdownBooking(person.id, typeId, begins);
    const after = {
      kind: 'booking' as const,
      id,
      person: person.id,
      type: typeId,
      span: { from: own, to },
      reason: name,
    };
    return [{ before: null, after }];
  });
  return edits.length === 0 ? no({ code: 'nobody there', field: 'place' }) : yes(...edits);
}
