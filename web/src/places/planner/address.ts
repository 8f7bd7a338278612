/** What the address of the planner says: whose days, from when, how much time, and how it is shown. */
import { addDays, addMonths, type CivilDate, fromDay, isCivilDate, toDay, weekday } from '@north-pebble/core/time';
import type { Turned } from './drawing/lines.ts';

export const zooms = { 'a week': 7, '2 weeks': 14, '5 weeks': 35, '13 weeks': 91, 'a year': 365 } as const;
export type Zoom = keyof typeof zooms;
const allZooms = Object.keys(zooms) as Zoom[];

const whoseKeys = ['place', 'department', 'line', 'house', 'words'] as const;
export const shows = ['drawing', 'list', 'paper'] as const;
export type Show = (typeof shows)[number];

export type Asked = {
  readonly zoom: Zoom;
  readonly from: CivilDate;
  readonly to: CivilDate;
  readonly show: Show;
  /** Whose days, as the API is asked for them; empty for one’s own teams. */
  readonly whose: string;
  /** Whose and which days. */
  readonly look: string;
  /** The choice of whose days, as `place=ovay`. */
  readonly group: string;
};

const mondayOf = (day: CivilDate): CivilDate => fromDay(toDay(day) - weekday(toDay(day)) + 1);

/** A year goes to the day before the same one of the next, also over a leap day. */
const lastOf = (from: CivilDate, zoom: Zoom): CivilDate =>
  zoom === 'a year' ? fromDay(addMonths(toDay(from), 12) - 1) : addDays(from, zooms[zoom] - 1);

export function askedOf(search: URLSearchParams, today: CivilDate): Asked {
  const zoom = allZooms.find(one => one === search.get('zoom')) ?? '5 weeks';
  const given = search.get('from');
  const from = given && isCivilDate(given) ? (given as CivilDate) : mondayOf(today);
  const to = lastOf(from, zoom);
  const whose = new URLSearchParams();
  for (const key of whoseKeys) {
    const value = search.get(key);
    if (value) whose.set(key, value);
  }
  const look = new URLSearchParams(whose);
  look.set('from', from);
  look.set('to', to);
  const kind = whoseKeys.find(key => key !== 'words' && whose.has(key));
  return {
    ...{ zoom, from, to },
    show: shows.find(one => one === search.get('show')) ?? 'drawing',
    whose: String(whose),
    look: String(look),
    group: kind ? `${kind}=${whose.get(kind)}` : '',
  };
}

/** The address with some of it changed; what is empty is left out. */
export function withChanged(search: URLSearchParams, changed: Readonly<Record<string, string>>): URLSearchParams {
  const next = new URLSearchParams(search);
  for (const [key, value] of Object.entries(changed)) {
    if (value) next.set(key, value);
    else next.delete(key);
  }
  return next;
}

/** @param group as `place=ovay`; one’s own teams where it is empty */
export function withGroup(search: URLSearchParams, group: string): URLSearchParams {
  const [kind, ...id] = group.split('=');
  const none = { place: '', department: '', line: '', house: '', open: '', shut: '' };
  return withChanged(search, { ...none, ...(kind ? { [kind]: id.join('=') } : {}) });
}

export const turnedIn = (search: URLSearchParams): Turned => ({
  open: new Set(search.getAll('open')),
  shut: new Set(search.getAll('shut')),
});

/** A team is folded or unfolded, and the others stay as they are. */
export function withTurned(search: URLSearchParams, team: string, to: 'open' | 'shut'): URLSearchParams {
  const turned = turnedIn(search);
  const next = new URLSearchParams(search);
  for (const key of ['open', 'shut'] as const) {
    next.delete(key);
    for (const one of turned[key]) if (one !== team) next.append(key, one);
  }
  next.append(to, team);
  return next;
}
