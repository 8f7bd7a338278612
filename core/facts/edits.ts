/** The edits that make a change. */
import { type ChangeEdits, type HouseChange, no, type OneChange, yes } from './change.ts';
import type { FactEdit, OnFile } from './fact.ts';
import { calendarEdits, departmentEdits, listEdits, patternEdits, placeEdits, rowEdits } from './keeping.ts';
import {
  adjustmentEdits,
  leavePlanEdits,
  leaveTypeEdits,
  notFromThenEdits,
  openingEdits,
  presenceEdits,
} from './leave.ts';
import { comingEdits, firstDayEdits, lastDayEdits, ownEdits, type Plans, recordEdits } from './people.ts';
import { actingEdits, aPostEdits, holdingEdits, leavingEdits, lineEdits, roleEdits } from './posts.ts';
import { edited } from './shelves.ts';
import { shutdownEdits } from './shutdown.ts';

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
    case 'adjustment':
      return adjustmentEdits(file, change);
    case 'presence':
      return presenceEdits(file, change);
    case 'shutdown':
      return shutdownEdits(file, change);
    case 'several':
      return severalEdits(file, change.changes, plans);
  }
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
