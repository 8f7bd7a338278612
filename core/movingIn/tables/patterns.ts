/** Work patterns: one line for each day of the cycle. */
import type { FactOf } from '../../facts/index.ts';
import { type CivilDate, isCivilDate, WorkPattern } from '../../time/index.ts';
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
      means: 'What it counts in days of leave; half a day where nothing is said.',
      like: '',
    },
    { id: 'pm', label: 'Afternoon', means: 'From when to when; past midnight as in 20:00-32:00.', like: '13:15-17:00' },
    {
      id: 'pmDays',
      label: 'Afternoon in days',
      means: 'What it counts in days of leave; half a day where nothing is said.',
      like: '',
    },
  ],
  read(lines) {
    const found = new Map<string, { line: Line; name: string; anchor: CivilDate | null; days: Map<number, Day> }>();
    for (const line of lines) {
      const id = line.need('id', 40);
      const n = line.number('day');
      const [am, pm] = [partOf(line, 'am'), partOf(line, 'pm')];
      const anchor = line.date('anchor');
      const name = line.text('name');
      if (n === null) line.fault('day', 'needed', '', 'Which day of the cycle, from 1.');
      else if (n !== undefined && (!Number.isInteger(n) || n < 1 || n > 366))
        line.fault('day', 'does not fit', String(n), 'A whole number from 1 to 366.');
      if (line.isBad || !am || !pm || !n || anchor === undefined) continue;
      const own = found.get(id) ?? { line, name: '', anchor: null, days: new Map<number, Day>() };
      if (own.days.has(n)) line.fault('day', 'twice', String(n), 'Each day of a cycle once.');
      const days = { ...(am.days === null ? {} : { am: am.days }), ...(pm.days === null ? {} : { pm: pm.days }) };
      own.days.set(n, {
        ...(am.part ? { am: am.part } : {}),
        ...(pm.part ? { pm: pm.part } : {}),
        ...(Object.keys(days).length > 0 ? { days } : {}),
      });
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
          [`${half}Days`]: day[half] && typeof day.days?.[half] === 'number' ? String(day.days[half]) : '',
        });
        return {
          id,
          name: i === 0 ? name : '',
          anchor: i === 0 ? anchor : '',
          day: String(i + 1),
          ...cell('am'),
          ...cell('pm'),
        };
      }),
    ),
};
