/** Changes of what people are measured by: places, departments, patterns, calendars, and lists to pick from. */
import { cellFits, idFrom } from '../form/index.ts';
import { minutesOf } from '../time/index.ts';
import { type ChangeEdits, type ChangeFault, no, type Of, yes } from './change.ts';
import type { Fact, FactEdit, OnFile } from './fact.ts';
import { factLike } from './shelves.ts';
import { onFile } from './standing.ts';

const put = (file: OnFile, after: Fact): FactEdit => ({ before: factLike(file, after), after });

/** The id of something that comes is made of its name; what stands already keeps its own. */
const idOf = (all: readonly { id: string }[], id: string, name: string): string =>
  id === 'new'
    ? idFrom(
        name,
        all.map(one => one.id),
      )
    : id;

/** Whether something else has the name already: two of one name cannot be told apart where they are picked. */
const nameTaken = (all: readonly { id: string; name: string }[], id: string, name: string): ChangeFault | null =>
  all.some(one => one.id !== id && one.name.toLowerCase() === name.toLowerCase())
    ? { code: 'name taken', field: 'name', name }
    : null;

export function placeEdits(file: OnFile, { place }: Of<'place'>): ChangeEdits {
  const id = idOf(file.places, place.id, place.name);
  const taken = nameTaken(file.places, id, place.name);
  if (taken) return no({ ...taken, field: 'place.name' });
  if (!onFile(file.calendars, place.calendar)) return no({ code: 'not on file', field: 'place.calendar' });
  if (place.head !== null && !onFile(file.posts, place.head)) return no({ code: 'not on file', field: 'place.head' });
  return yes(put(file, { kind: 'place', ...place, id }));
}

export function departmentEdits(file: OnFile, { department }: Of<'department'>): ChangeEdits {
  const id = idOf(file.departments, department.id, department.name);
  const taken = nameTaken(file.departments, id, department.name);
  if (taken) return no({ ...taken, field: 'department.name' });
  if (department.head !== null && !onFile(file.posts, department.head))
    return no({ code: 'not on file', field: 'department.head' });
  return yes(put(file, { kind: 'department', ...department, id }));
}

const dayMinutes = 24 * 60;

/** The first day of a cycle on which two parts are at the same time, those that go past midnight into the next included. */
export function overlapIn(cycle: Of<'pattern'>['pattern']['cycle']): number | null {
  const parts = cycle.flatMap((day, i) =>
    [day.am, day.pm].flatMap(one =>
      one ? [{ i, from: i * dayMinutes + minutesOf(one[0]), to: i * dayMinutes + minutesOf(one[1]) }] : [],
    ),
  );
  const length = cycle.length * dayMinutes;
  for (const [n, one] of parts.entries())
    for (const other of parts.slice(n + 1)) {
      if (other.from < one.to && one.from < other.to) return one.i;
      // The cycle begins again: what goes past its end meets its first day.
      if (other.to > length && one.from < other.to - length) return other.i;
    }
  const alone = parts.find(one => one.to > one.from + length);
  return alone ? alone.i : null;
}

export function patternEdits(file: OnFile, { pattern }: Of<'pattern'>): ChangeEdits {
  const id = idOf(file.patterns, pattern.id, pattern.name);
  const taken = nameTaken(file.patterns, id, pattern.name);
  if (taken) return no({ ...taken, field: 'pattern.name' });
  const twisted = pattern.cycle.findIndex(({ am, pm }) => am && pm && minutesOf(pm[0]) < minutesOf(am[0]));
  const overlap = twisted >= 0 ? twisted : overlapIn(pattern.cycle);
  if (overlap !== null) return no({ code: 'parts overlap', field: `pattern.cycle.${overlap}`, day: overlap + 1 });
  return yes(put(file, { kind: 'pattern', ...pattern, id }));
}

export function calendarEdits(file: OnFile, { calendar }: Of<'calendar'>): ChangeEdits {
  const id = idOf(file.calendars, calendar.id, calendar.name);
  const taken = nameTaken(file.calendars, id, calendar.name);
  if (taken) return no({ ...taken, field: 'calendar.name' });
  const path = [calendar.name];
  for (let at = calendar.buildsOn; at !== null; ) {
    const next = file.calendars.find(one => one.id === at);
    if (!next) return no({ code: 'not on file', field: 'calendar.buildsOn' });
    path.push(next.name);
    if (next.id === id) return no({ code: 'builds on itself', field: 'calendar.buildsOn', calendars: path });
    // Somebody else's circle is not this one's.
    if (path.length > file.calendars.length + 1) break;
    at = next.buildsOn;
  }
  const wanted = calendar.holidays.map(own => ({ kind: 'holiday' as const, calendar: id, ...own }));
  const keys = new Map<string, number>();
  for (const [i, { date, part }] of wanted.entries()) {
    const key = `${date} ${part}`;
    if (keys.has(key)) return no({ code: 'day twice', field: `calendar.holidays.${i}.date`, date });
    keys.set(key, i);
  }
  const there = file.calendars.find(one => one.id === id)?.holidays ?? [];
  const gone = there
    .filter(({ date, part }) => !keys.has(`${date} ${part}`))
    .map(
      ({ date, part, name = 'Holiday' }): FactEdit => ({
        before: { kind: 'holiday', calendar: id, date, part, name },
        after: null,
      }),
    );
  const { holidays: _, ...own } = calendar;
  return yes(put(file, { kind: 'calendar', ...own, id }), ...gone, ...wanted.map(one => put(file, one)));
}

export function listEdits(file: OnFile, { list }: Of<'list'>): ChangeEdits {
  const lists = file.lists ?? [];
  const id = idOf(lists, list.id, list.name);
  const taken = nameTaken(lists, id, list.name);
  if (taken) return no({ ...taken, field: 'list.name' });
  const twice = list.columns.findIndex((one, i) =>
    list.columns.some((other, n) => n < i && (other.id === one.id || other.label === one.label)),
  );
  if (twice >= 0)
    return no({ code: 'name taken', field: `list.columns.${twice}.label`, name: list.columns[twice]?.label ?? '' });
  const stranger = list.owners.findIndex(owner => !onFile(file.people, owner));
  if (stranger >= 0) return no({ code: 'not on file', field: `list.owners.${stranger}` });
  return yes(put(file, { kind: 'list', ...list, id }));
}

export function rowEdits(file: OnFile, { list: listId, row }: Of<'row'>): ChangeEdits {
  const list = file.lists?.find(one => one.id === listId);
  if (!list) return no({ code: 'not on file', field: 'list' });
  const id = idOf(list.rows, row.id, row.title);
  for (const [name, value] of Object.entries(row.cells)) {
    const column = list.columns.find(one => one.id === name);
    if (!column) return no({ code: 'not on file', field: `row.cells.${name}` });
    if (value !== null && !cellFits(column, value))
      return no({ code: 'cell does not fit', field: `row.cells.${name}`, column: column.label, kind: column.kind });
  }
  if (row.from !== null && row.to !== null && row.to < row.from)
    return no({ code: 'ends before it begins', field: 'row.to' });
  return yes(put(file, { kind: 'row', list: listId, ...row, id }));
}
