/** How many are needed where. */
import { weekdayNames } from '../../time/index.ts';
import { idColumn, nameColumn, namesOf, type Placed, type TableKind, whereColumns } from '../table.ts';

export const presence: TableKind = {
  id: 'presence',
  name: 'Least presence',
  says: 'How many must be there, of a place, of a department, or of a department at a place.',
  columns: [
    idColumn('Need', 'watch'),
    nameColumn('The watch'),
    { id: 'people', label: 'People', means: 'How many are needed.', needed: true, like: '3' },
    ...whereColumns.map(({ needed: _, ...column }) => ({ ...column, means: 'By its name; everywhere if left empty.' })),
    { id: 'weekdays', label: 'Weekdays', means: 'Every day if left empty.', like: 'Saturday, Sunday' },
    { id: 'from', label: 'From', means: 'The first day; always if left empty.', like: '' },
    { id: 'to', label: 'To', means: 'The last day; without an end if left empty.', like: '' },
  ],
  read(all, { file }) {
    const [places, departments] = [namesOf(file.places), namesOf(file.departments)];
    return all.flatMap((line): Placed[] => {
      const [id, name] = [line.own('id', 'name'), line.need('name')];
      const [place, department] = [line.named('place', places), line.named('department', departments)];
      const people = line.number('people');
      if (people === null) line.fault('people', 'needed', '', 'A whole number, as in 3.');
      else if (people !== undefined && !(Number.isInteger(people) && people >= 1 && people <= 10_000))
        line.fault('people', 'does not fit', String(people), 'A whole number from 1 to 10,000.');
      const [from, to] = [line.date('from'), line.date('to')];
      if (from && to && to < from) line.fault('to', 'does not fit', to, `On or after ${from}.`);
      const weekdays: number[] = [];
      for (const word of line.text('weekdays').split(/[,;]/)) {
        const day = weekdayNames.findIndex(one => one.toLowerCase() === word.trim().toLowerCase());
        if (day >= 0 && !weekdays.includes(day + 1)) weekdays.push(day + 1);
        else if (word.trim() !== '' && day < 0)
          line.fault('weekdays', 'does not fit', word.trim(), 'Weekdays in full, as in Saturday, Sunday.');
      }
      if (line.isBad || !people || place === undefined || department === undefined) return [];
      if (from === undefined || to === undefined) return [];
      const days = { weekdays: weekdays.toSorted(), from, to };
      return [{ line: line.at, fact: { kind: 'presence', id, name, place, department, people, ...days } }];
    });
  },
  write: ({ file }) =>
    file.presence.map(one => ({
      ...{ id: one.id, name: one.name, people: String(one.people) },
      ...{ place: one.place ?? '', department: one.department ?? '' },
      ...{
        weekdays: one.weekdays.map(day => weekdayNames[day - 1]).join(', '),
        from: one.from ?? '',
        to: one.to ?? '',
      },
    })),
};
