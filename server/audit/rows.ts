/** What stands of requests beside their events, for seeking and counting: held against what the events come to. */
import { isDeepStrictEqual } from 'node:util';
import { daysWith } from '@north-pebble/core/leave';
import type { RequestState } from '@north-pebble/core/workflow';
import { rowText, type tables as t } from '../database/index.ts';

type RequestRow = typeof t.requests.$inferSelect;
type Entry = typeof t.leaveEntries.$inferSelect;
type TaskRow = typeof t.tasks.$inferSelect;

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value ?? null)) as T;

/** The columns of a request. @param bears whether a seal bears out a text */
export function columnFaults(
  row: RequestRow,
  folded: RequestState,
  firstAt: string | undefined,
  bears: (seal: string | null, text: string) => boolean,
): string[] {
  const faults: string[] = [];
  if (!bears(row.rowSeal, rowText({ ...row, subject: row.subject === row.asker ? null : row.subject })))
    faults.push('its columns are not the ones that were sealed');
  if (row.asker !== (folded.asker ?? row.asker)) faults.push('it says that somebody else asked');
  if ((row.owner ?? null) !== (folded.owner ?? null)) faults.push('it says that somebody else owns it');
  if (firstAt !== undefined && row.askedAt !== firstAt) faults.push('it says another time at which it was asked for');
  if ((row.outside ?? null) !== (folded.outside?.mail.toLowerCase() ?? null))
    faults.push('it says another address from outside');
  return faults;
}

/** The leave that it holds or has booked. */
export function leaveFaults(entry: Entry | undefined, folded: RequestState): string[] {
  const { leave } = folded;
  if (!leave) return entry ? ['leave is booked that no event booked'] : [];
  if (!entry) return ['leave that was booked is gone'];
  const wanted = {
    person: folded.subject ?? folded.asker,
    type: leave.type,
    state: leave.state,
    ...daysWith(leave.span, leave.instead ?? null),
    span: plain(leave.span),
    instead: plain(leave.instead ?? null),
    planner: leave.planner,
    reason: leave.reason ?? null,
  };
  const { request: _, sequence: __, ...stands } = entry;
  return isDeepStrictEqual(plain(stands), plain(wanted))
    ? []
    : ['the leave that is booked is not what its events come to'];
}

/** Who holds it. */
export function taskFaults(open: readonly TaskRow[], folded: RequestState): string[] {
  const of = (rows: readonly { id: string; holder: string; coverFor: string | null }[]) =>
    rows.map(({ id, holder, coverFor }) => `${id} ${holder} ${coverFor ?? ''}`).sort();
  return isDeepStrictEqual(of(open), of(folded.tasks))
    ? []
    : ['those who hold it are not those whom its events gave it to'];
}
