/** The edits that make a change. */
import { recordOn } from '../people/index.ts';
import { addDays } from '../time/index.ts';
import { type ChangeEdits, type HouseChange, no, type Of, type OneChange, yes } from './change.ts';
import type { FactEdit, OnFile } from './fact.ts';
import { calendarEdits, departmentEdits, listEdits, patternEdits, placeEdits, rowEdits } from './keeping.ts';
import { adjustmentEdits, bookingEdits, openingEdits } from './leave/balances.ts';
import { circumstanceEdits } from './leave/circumstances.ts';
import { leavePlanEdits, leaveTypeEdits, notFromThenEdits, presenceEdits } from './leave/rules.ts';
import { shutdownEdits } from './leave/shutdown.ts';
import { wishesEdits } from './leave/wishes.ts';
import { comingEdits, firstDayEdits, lastDayEdits, ownEdits, type Plans, recordEdits } from './people.ts';
import { actingEdits, aPostEdits, holdingEdits, leavingEdits, lineEdits, roleEdits } from './posts.ts';
import { edited } from './shelves.ts';
import { personOf } from './standing.ts';

/** @returns the edits that make a change of what is on file, or the first thing that stands in its way */
export function editsOf(file: OnFile, change: HouseChange, plans: Plans): ChangeEdits {
  switch (change.what) {
    case 'record':
      return recordEdits(file, change, plans);
    case 'own':
      return ownEdits(file, change);
    case 'first day':
      return firstDayEdits(file, change);
    case 'last day':
      return lastDayEdits(file, change);
    case 'post':
      return holdingEdits(file, change);
    case 'seconded':
      return secondedEdits(file, change, plans);
    case 'acts':
      return actingEdits(file, change);
    case 'leaves post':
      return leavingEdits(file, change);
    case 'line':
      return lineEdits(file, change);
    case 'role':
      return roleEdits(file, change);
    case 'comes':
      return comingEdits(file, change, plans);
    case 'a post':
      return aPostEdits(file, change);
    case 'place':
      return placeEdits(file, change);
    case 'department':
      return departmentEdits(file, change);
    case 'pattern':
      return patternEdits(file, change);
    case 'calendar':
      return calendarEdits(file, change);
    case 'list':
      return listEdits(file, change);
    case 'row':
      return rowEdits(file, change);
    case 'leave type':
      return leaveTypeEdits(file, change);
    case 'leave plan':
      return leavePlanEdits(file, change);
    case 'not from then':
      return notFromThenEdits(file, change);
    case 'opening':
      return openingEdits(file, change);
    case 'circumstance':
      return circumstanceEdits(file, change);
    case 'adjustment':
      return adjustmentEdits(file, change);
    case 'booking':
      return bookingEdits(file, change);
    case 'presence':
      return presenceEdits(file, change);
    case 'shutdown':
      return shutdownEdits(file, change);
    case 'wishes':
      return wishesEdits(file, change);
    case 'several':
      return severalEdits(file, change.changes, plans);
  }
}

/** There and back again: each as it would be said by itself, and what was planned in between stays as it was planned. */
function secondedEdits(file: OnFile, { person: id, from, to, place, post }: Of<'seconded'>, plans: Plans): ChangeEdits {
  const person = personOf(file, id);
  if (!person) return no({ code: 'not on file', field: 'person' });
  if (to < from) return no({ code: 'ends before it begins', field: 'to' });
  const back = addDays(to, 1);
  const isBack = person.left === null || back <= person.left;
  const home = recordOn(person, back).place;
  const held = file.holdings.find(
    one => one.person === id && one.main && one.from <= back && (one.to === null || one.to >= back),
  );
  const there: OneChange[] = [
    { what: 'record', person: id, from, set: { place } },
    ...(post === null ? [] : [{ what: 'post' as const, person: id, from, post }]),
  ];
  const again: OneChange[] = isBack
    ? [
        { what: 'record', person: id, from: back, set: { place: home } },
        ...(post === null || !held ? [] : [{ what: 'post' as const, person: id, from: back, post: held.post }]),
      ]
    : [];
  const found = severalEdits(file, [...there, ...again] as OneChange[], plans);
  // Where it stands in the way is told at the fields of the one change.
  return found.ok ? found : no({ ...found.fault, field: found.fault.field.replace(/^changes\.\d+\./, '') });
}

/** One after the other, each from how the ones before it leave things; what is so already is passed over. */
function severalEdits(file: OnFile, all: readonly OneChange[], plans: Plans): ChangeEdits {
  let now = file;
  const edits: FactEdit[] = [];
  for (let i = 0; i < all.length; i += 1) {
    const one = all[i] as OneChange;
    const found = editsOf(now, one, plans);
    if (!found.ok) {
      if (found.fault.code === 'nothing changes') continue;
      return no({ ...found.fault, field: `changes.${i}.${found.fault.field}` });
    }
    const next = edited(now, found.edits);
    if (!next.ok) throw new Error(`edits of a change do not fit what they were made of: ${next.stale}`);
    now = next.directory;
    edits.push(...found.edits);
  }
  return yes(...edits);
}
