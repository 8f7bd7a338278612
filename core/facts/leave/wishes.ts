/** Wishes decided together: a booking for each, made and taken back as one change. */
import { takesHalfOf, typeOn, wishBooking } from '../../leave/index.ts';
import { recordOn } from '../../people/index.ts';
import { halfIndex, toDay } from '../../time/index.ts';
import { type ChangeEdits, no, type Of, yes } from '../change.ts';
import type { FactEdit, OnFile } from '../fact.ts';
import { personOf } from '../standing.ts';

/** @param file with every booking of these people in these days, as it stands */
export function wishesEdits(file: OnFile, { name, type: typeId, chosen }: Of<'wishes'>): ChangeEdits {
  const type = (file.leaveTypes ?? []).find(one => one.id === typeId);
  if (!type) return no({ code: 'not on file', field: 'type' });
  const edits: FactEdit[] = [];
  const seen = new Set<string>();
  for (const [n, { person: id, from, to }] of chosen.entries()) {
    const field = `chosen.${n}`;
    const person = personOf(file, id);
    if (!person || seen.has(id)) return no({ code: 'not on file', field });
    seen.add(id);
    const [first, last] = [halfIndex(toDay(from.date), from.half), halfIndex(toDay(to.date), to.half)];
    if (last < first) return no({ code: 'ends before it begins', field });
    if (from.date < person.joined) return no({ code: 'before joining', field, joined: person.joined });
    if (person.left !== null && person.left < to.date) return no({ code: 'after leaving', field, left: person.left });
    const isOfPlan = typeOn(type, from.date).takesFrom !== 'plan' || recordOn(person, from.date).plan !== null;
    const isAway = (file.bookings ?? []).some(booked => {
      if (booked.person !== id) return false;
      for (let half = first; half <= last; half++) if (takesHalfOf(booked.span, half)) return true;
      return false;
    });
    if (!isOfPlan || isAway) return no({ code: 'away already', field, person: id });
    const booking = wishBooking(id, typeId, `${from.date}${from.half}`);
    const after = { kind: 'booking' as const, id: booking, person: id, type: typeId, span: { from, to }, reason: name };
    edits.push({ before: null, after });
  }
  return yes(...edits);
}
