/** Calendars, holidays, places and departments. */
import type { Fact } from '../../facts/index.ts';
import { type HolidayRule, isZone, monthNames, weekdayNames } from '../../time/index.ts';
import { headColumn, idColumn, type Line, nameColumn, namesOf, type Placed, type TableKind } from '../table.ts';

export const calendars: TableKind = {
  id: 'calendars',
  name: 'Calendars',
  says: 'Calendars of holidays; one builds on another and adds its own days.',
  columns: [
    idColumn('Calendar', 'sound'),
    nameColumn('The Sound'),
    { id: 'buildsOn', label: 'Builds on', means: 'The calendar whose days it takes over.', like: '' },
  ],
  read(lines, { file }) {
    const named = lines.map(line => ({ line, id: line.own('id', 'name'), name: line.need('name') }));
    const names = namesOf([...file.calendars, ...named]);
    return named.flatMap(({ line, id, name }): Placed[] => {
      const buildsOn = line.named('buildsOn', names);
      if (line.isBad || buildsOn === undefined) return [];
      const rules = file.calendars.find(one => one.id === id)?.rules ?? [];
      return [{ line: line.at, fact: { kind: 'calendar', id, name, buildsOn, rules: [...rules] } }];
    });
  },
  write: ({ file }) => file.calendars.map(({ id, name, buildsOn }) => ({ id, name, buildsOn: buildsOn ?? '' })),
};

const ordinals = ['first', 'second', 'third', 'fourth', 'fifth'];
const dayLike = '2026-12-24, 25 December, last Monday of August, or Easter + 1';

/** A day of every year in words, as in `25 December`, `last Monday of August`, `Easter - 2`. */
export function readRuleDay(text: string): HolidayRule['on'] | undefined {
  const small = text.toLowerCase().replaceAll(/\s+/g, ' ').trim();
  const month = (name: string | undefined) => monthNames.findIndex(one => one.toLowerCase() === name) + 1;
  const date = /^(\d{1,2})\.? ([a-z]+)$/.exec(small);
  if (date) {
    const n = month(date[2]);
    const day = Number(date[1]);
    if (n > 0 && day >= 1 && day <= [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][n - 1])
      return { kind: 'date', monthDay: `${String(n).padStart(2, '0')}-${String(day).padStart(2, '0')}` };
  }
  const nth = /^(first|second|third|fourth|fifth|last) ([a-z]+) of ([a-z]+)$/.exec(small);
  if (nth) {
    const weekday = weekdayNames.findIndex(one => one.toLowerCase() === nth[2]) + 1;
    const n = month(nth[3]);
    if (weekday > 0 && n > 0)
      return {
        kind: 'weekday',
        month: n,
        weekday,
        nth: nth[1] === 'last' ? 'last' : ordinals.indexOf(nth[1] ?? '') + 1,
      };
  }
  const easter = /^easter(?: sunday)?(?: ?([+-]) ?(\d{1,3}))?$/.exec(small);
  if (easter) return { kind: 'easter', days: Number(`${easter[1] ?? ''}${easter[2] ?? 0}`) };
  return undefined;
}

export function ruleDayWords(on: HolidayRule['on']): string {
  switch (on.kind) {
    case 'date': {
      const [month, day] = on.monthDay.split('-').map(Number);
      return `${day} ${monthNames[(month ?? 1) - 1]}`;
    }
    case 'weekday':
      return `${on.nth === 'last' ? 'last' : ordinals[on.nth - 1]} ${weekdayNames[on.weekday - 1]} of ${monthNames[on.month - 1]}`;
    case 'easter':
      return on.days === 0 ? 'Easter' : `Easter ${on.days < 0 ? '-' : '+'} ${Math.abs(on.days)}`;
  }
}

const parts = { day: 'day', am: 'morning', pm: 'afternoon' } as const;
function partOf(line: Line): 'day' | 'am' | 'pm' | undefined {
  const text = line.text('part').toLowerCase();
  if (text === '' || text === 'day') return 'day';
  if (text === 'morning' || text === 'am') return 'am';
  if (text === 'afternoon' || text === 'pm') return 'pm';
  return line.fault('part', 'does not fit', text, 'day, morning or afternoon.');
}

const ruleKey = (rule: HolidayRule): string => `${rule.name} ${rule.part} ${ruleDayWords(rule.on)} ${rule.from ?? ''}`;

export const holidays: TableKind = {
  id: 'holidays',
  name: 'Holidays',
  says: 'The days of the calendars: single ones, and those of every year.',
  columns: [
    { id: 'calendar', label: 'Calendar', means: 'The calendar that it belongs to.', needed: true, like: 'sound' },
    { id: 'name', label: 'Name', means: 'What the day is called.', needed: true, like: 'Lantern day' },
    { id: 'on', label: 'On', means: `A date, or a day of every year: ${dayLike}.`, needed: true, like: '25 December' },
    {
      id: 'part',
      label: 'Part',
      means: 'day, morning or afternoon; the whole day where nothing is said.',
      like: 'day',
    },
    { id: 'from', label: 'First year', means: 'For a day of every year: from when.', like: '' },
    { id: 'to', label: 'Last year', means: 'For a day of every year: until when.', like: '' },
  ],
  read(lines, { file }) {
    const names = namesOf(file.calendars);
    const found: Placed[] = [];
    const rules = new Map<string, { line: number; rules: Map<string, HolidayRule> }>();
    for (const line of lines) {
      const calendar = line.needNamed('calendar', names);
      const name = line.need('name');
      const text = line.need('on');
      const part = partOf(line);
      const from = line.number('from');
      const to = line.number('to');
      if (line.isBad || calendar === undefined || part === undefined) continue;
      const on = readRuleDay(text);
      if (on) {
        const known = file.calendars.find(one => one.id === calendar)?.rules ?? [];
        const own = rules.get(calendar) ?? { line: line.at, rules: new Map(known.map(one => [ruleKey(one), one])) };
        const rule: HolidayRule = { name, part, on, ...(from ? { from } : {}), ...(to ? { to } : {}) };
        own.rules.set(ruleKey(rule), rule);
        rules.set(calendar, own);
        continue;
      }
      const date = line.date('on');
      if (date) found.push({ line: line.at, fact: { kind: 'holiday', calendar, date, part, name } });
    }
    for (const [id, own] of rules) {
      const calendar = file.calendars.find(one => one.id === id);
      if (!calendar) continue;
      const { name, buildsOn } = calendar;
      const fact: Fact = { kind: 'calendar', id, name, buildsOn, rules: [...own.rules.values()] };
      found.push({ line: own.line, fact });
    }
    return found;
  },
  write: ({ file }) =>
    file.calendars.flatMap(({ id: calendar, rules = [], holidays: days }) => [
      ...rules.map(({ name, part, on, from, to }) => ({
        calendar,
        name,
        on: ruleDayWords(on),
        part: parts[part],
        from: from ? String(from) : '',
        to: to ? String(to) : '',
      })),
      ...days.map(({ date, part, name = 'Holiday' }) => ({ calendar, name, on: date, part: parts[part] })),
    ]),
};

export const places: TableKind = {
  id: 'places',
  name: 'Places',
  says: 'Where people work: with the clock and the holidays that hold there.',
  columns: [
    idColumn('Place', 'ovay'),
    nameColumn('Ovay Station'),
    {
      id: 'zone',
      label: 'Time zone',
      means: 'By the name of the time zone database.',
      needed: true,
      like: 'Europe/Lisbon',
    },
    { id: 'calendar', label: 'Calendar', means: 'Whose holidays hold there.', needed: true, like: 'sound' },
    headColumn,
  ],
  read(lines, { file }) {
    const names = namesOf(file.calendars);
    return lines.flatMap((line): Placed[] => {
      const [id, name, zone] = [line.own('id', 'name'), line.need('name'), line.need('zone')];
      const calendar = line.needNamed('calendar', names);
      const head = line.text('head', 40) || null;
      if (zone && !isZone(zone)) line.fault('zone', 'does not fit', zone, 'A time zone, as in Europe/Lisbon.');
      return line.isBad || calendar === undefined
        ? []
        : [{ line: line.at, fact: { kind: 'place', id, name, zone, calendar, head } }];
    });
  },
  write: ({ file }) => file.places.map(one => ({ ...one, head: one.head ?? '' })),
};

export const departments: TableKind = {
  id: 'departments',
  name: 'Departments',
  says: 'Departments, with the post that heads each.',
  columns: [idColumn('Department', 'observatory'), nameColumn('Observatory'), headColumn],
  read: lines =>
    lines.flatMap((line): Placed[] => {
      const [id, name, head] = [line.own('id', 'name'), line.need('name'), line.text('head', 40) || null];
      return line.isBad ? [] : [{ line: line.at, fact: { kind: 'department', id, name, head } }];
    }),
  write: ({ file }) => file.departments.map(one => ({ ...one, head: one.head ?? '' })),
};
