/** Work patterns: one line for each day of the cycle. */
import type { FactOf } from '../../facts/index.ts';
import { asWholeDay, type CivilDate, isCivilDate, WorkPattern, wholeShift } from '../../time/index.ts';
import { firstNameColumn, idColumn, type Line, type Placed, type TableKind } from '../table.ts';

type Day = FactOf<'pattern'>['cycle'][number];
type Half = 'am' | 'pm';

/** A part of the day from its two clock times; nothing where it is free. */
function partOf(line: Line, half: Half): { part: [string, string] | null; days: number | null } | undefined {
  const text = line.text(half);
  const days = line.number(`${half}Days`);
  if (text === '') return { part: null, days: null };
  const found = /^(\d{1,2}:\d{2}) ?(?:-|–|to) ?(\d{1,2}:\d{2})$/.exec(text);
  const part = found && ([found[1], found[2]].map(time => String(time).padStart(5, '0')) as [string, string]);
  const fits = part && WorkPattern.shape.cycle.safeParse([{ [half]: part }]).success;
  if (!fits)
    return line.fault(
      half,
      'does not fit',
      text,
      'Two times of day, as in 08:30-12:30; past midnight as in 20:00-32:00.',
    );
  return { part, days: days ?? null };
}

/** What a part counts, where it is said; half a day is said of a whole shift, so that it is not taken for a whole one. */
function countsOf(day: Day, half: Half): string {
  const counts = day[half] ? day.days?.[half] : null;
  if (typeof counts === 'number') return String(counts);
  return wholeShift(day) === half ? '0.5' : '';
}

export const patterns: TableKind = {
  id: 'patterns',
  name: 'Work patterns',
  says: 'Who works when: one line for each day of a cycle, which begins anew when it is over.',
  columns: [
    idColumn('Pattern', 'office'),
    firstNameColumn('Office, short Friday'),
    {
      id: 'anchor',
      label: 'First day',
      means: 'The day on which the cycle began once, on its first line.',
      like: '2024-01-01',
    },
    { id: 'day', label: 'Day', means: 'Which day of the cycle, from 1.', needed: true, like: '1' },
    { id: 'am', label: 'Morning', means: 'From when to when; empty where it is free.', like: '08:30-12:30' },
    {
      id: 'amDays',
      label: 'Morning in days',
      means:
        'What it counts in days of leave; half a day where nothing is said, and a whole day for a shift of one part.',
      like: '',
    },
    { id: 'pm', label: 'Afternoon', means: 'From when to when; past midnight as in 20:00-32:00.', like: '13:15-17:00' },
    {
      id: 'pmDays',
      label: 'Afternoon in days',
      means:
        'What it counts in days of leave; half a day where nothing is said, and a whole day for a shift of one part.',
      like: '',
    },
    { id: 'holidays', label: 'Holidays', means: '“worked” where the day is worked on holidays, too.', like: '' },
  ],
  read(lines) {
    const found = new Map<string, { line: Line; name: string; anchor: CivilDate | null; days: Map<number, Day> }>();
    for (const line of lines) {
      const id = line.need('id', 40);
      const n = line.number('day');
      const [am, pm] = [partOf(line, 'am'), partOf(line, 'pm')];
      const anchor = line.date('anchor');
      const name = line.text('name');
      const holidays = line.text('holidays', 20).toLowerCase();
      if (holidays !== '' && holidays !== 'worked')
        line.fault('holidays', 'does not fit', holidays, 'Left empty, or “worked”.');
      if (n === null) line.fault('day', 'needed', '', 'Which day of the cycle, from 1.');
      else if (n !== undefined && (!Number.isInteger(n) || n < 1 || n > 366))
        line.fault('day', 'does not fit', String(n), 'A whole number from 1 to 366.');
      if (line.isBad || !am || !pm || !n || anchor === undefined) continue;
      const own = found.get(id) ?? { line, name: '', anchor: null, days: new Map<number, Day>() };
      if (own.days.has(n)) line.fault('day', 'twice', String(n), 'Each day of a cycle once.');
      const days = { ...(am.days === null ? {} : { am: am.days }), ...(pm.days === null ? {} : { pm: pm.days }) };
      const day: Day = {
        ...(am.part ? { am: am.part } : {}),
        ...(pm.part ? { pm: pm.part } : {}),
        ...(holidays === 'worked' ? { holidays } : {}),
      };
      // A whole shift of one part of which nothing is said would count half a day; half a day said is what it is anyway.
      const half = wholeShift(day);
      const isHalf = half !== null && days[half] === 0.5;
      const said = Object.keys(days).length > 0 && !isHalf ? { ...day, days } : day;
      own.days.set(n, isHalf ? said : asWholeDay(said));
      own.name ||= name;
      own.anchor ??= anchor;
      found.set(id, own);
    }
    return [...found].flatMap(([id, { line, name, anchor, days }]): Placed[] => {
      if (anchor === null || !isCivilDate(anchor)) {
        line.fault('anchor', 'needed', '', 'A day on which the cycle began, on its first line.');
        return [];
      }
      const length = Math.max(...days.keys());
      const cycle = Array.from({ length }, (_, i) => days.get(i + 1) ?? {});
      return [{ line: line.at, fact: { kind: 'pattern', id, name: name || id, anchor, cycle } }];
    });
  },
  write: ({ file }) =>
    file.patterns.flatMap(({ id, name, anchor, cycle }) =>
      cycle.map((day, i) => {
        const cell = (half: Half) => ({
          [half]: day[half] ? `${day[half][0]}-${day[half][1]}` : '',
          [`${half}Days`]: countsOf(day, half),
        });
        return {
          id,
          name: i === 0 ? name : '',
          anchor: i === 0 ? anchor : '',
          day: String(i + 1),
          ...cell('am'),
          ...cell('pm'),
          holidays: day.holidays ?? '',
        };
      }),
    ),
};
