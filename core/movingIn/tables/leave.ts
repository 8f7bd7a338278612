/** What people bring with them: balances on a day, and leave that was decided elsewhere. */
import { beginsOf, childId, type FactOf, paperId } from '../../facts/index.ts';
import type { LeaveSpan } from '../../leave/index.ts';
import { bookingId, isTimed } from '../../leave/index.ts';
import type { PersonId } from '../../people/index.ts';
import { type Line, namesOf, type Placed, peopleNames, personColumn, type TableKind } from '../table.ts';

const typeColumn = {
  id: 'type',
  label: 'Leave',
  means: 'The kind of leave, by its short name or its name.',
  needed: true,
  like: 'annual',
} as const;

export const children: TableKind = {
  id: 'children',
  name: 'Children',
  says: 'Children, for leave that goes by them. Only the parent and HR read this.',
  columns: [
    personColumn,
    { id: 'born', label: 'Born on', means: 'The day of birth; twins are two lines.', needed: true, like: '2019-09-30' },
  ],
  read(all, { file }) {
    const persons = peopleNames(file);
    const seen = new Map<string, number>();
    return all.flatMap((line): Placed[] => {
      const [person, born] = [line.needNamed('person', persons), line.needDate('born')];
      if (line.isBad || !person || !born) return [];
      const n = (seen.get(`${person} ${born}`) ?? 0) + 1;
      seen.set(`${person} ${born}`, n);
      const holds = { is: 'child' as const, born };
      return [
        { line: line.at, fact: { kind: 'circumstance', person: person as PersonId, id: childId(born, n), holds } },
      ];
    });
  },
  write: ({ file }) =>
    file.people.flatMap(({ id, circumstances = [] }) =>
      circumstances.flatMap(({ holds }) => (holds.is === 'child' ? [{ person: id, born: holds.born }] : [])),
    ),
};

export const papers: TableKind = {
  id: 'papers',
  name: 'Papers from the first day',
  says: 'Who brings a paper from the first day of a leave, whatever its rules say of others. Only the person and HR read this.',
  columns: [
    personColumn,
    { ...typeColumn, like: 'sick' },
    { id: 'from', label: 'From', means: 'The first day on which it holds.', needed: true, like: '2026-02-01' },
    { id: 'to', label: 'To', means: 'The last day, where there is one.', like: '2026-07-31' },
  ],
  read(all, { file, types }) {
    const [persons, names] = [peopleNames(file), namesOf(types)];
    return all.flatMap((line): Placed[] => {
      const [person, type] = [line.needNamed('person', persons), line.needNamed('type', names)];
      const [from, to] = [line.needDate('from'), line.date('to')];
      if (from && to && to < from) line.fault('to', 'does not fit', to, `On or after ${from}.`);
      if (line.isBad || !person || !type || !from || to === undefined) return [];
      const holds = { is: 'paper at once' as const, type, from, to };
      return [
        { line: line.at, fact: { kind: 'circumstance', person: person as PersonId, id: paperId(type, from), holds } },
      ];
    });
  },
  write: ({ file }) =>
    file.people.flatMap(({ id, circumstances = [] }) =>
      circumstances.flatMap(({ holds }) =>
        holds.is === 'paper at once' ? [{ person: id, type: holds.type, from: holds.from, to: holds.to ?? '' }] : [],
      ),
    ),
};

export const openings: TableKind = {
  id: 'openings',
  name: 'Opening balances',
  says: 'What is left of everybody’s leave on the day on which the house begins here. Nothing before that day is worked out.',
  columns: [
    personColumn,
    typeColumn,
    { id: 'on', label: 'On', means: 'The day, as it stands in the morning.', needed: true, like: '2026-01-12' },
    {
      id: 'own',
      label: 'Own',
      means: 'What is left of this leave year’s own, in days, or in hours where the plan counts hours.',
      needed: true,
      like: '21.5',
    },
    { id: 'carried', label: 'Carried over', means: 'What is left of the leave year before.', like: '3' },
    { id: 'lapses', label: 'Lapses on', means: 'The last day on which that can be taken.', like: '2026-03-31' },
    { id: 'source', label: 'Source', means: 'Said on the statement.', like: 'Payroll, closing of 2025' },
  ],
  read(all, { file, types }) {
    const [persons, names] = [peopleNames(file), namesOf(types)];
    return all.flatMap((line): Placed[] => {
      const [person, type] = [line.needNamed('person', persons), line.needNamed('type', names)];
      const [on, own] = [line.needDate('on'), line.number('own')];
      const [carried, lapses] = [line.number('carried'), line.date('lapses')];
      const source = line.text('source', 200);
      if (own === null) line.fault('own', 'needed', '', 'A number, as in 21.5.');
      for (const [column, amount] of [['own', own] as const, ['carried', carried] as const])
        if (amount && Math.abs(amount) > 10_000) line.fault(column, 'does not fit', String(amount), 'At most 10,000.');
      if (carried && carried < 0)
        line.fault('carried', 'does not fit', String(carried), 'Nothing below zero is carried over.');
      if (line.isBad || !person || !type || !on || own === null || own === undefined) return [];
      const fact = { kind: 'opening' as const, person: person as PersonId, type, on, own, carried: carried ?? 0 };
      return [{ line: line.at, fact: { ...fact, lapses: lapses ?? null, source } }];
    });
  },
  write: ({ file }) =>
    file.people.flatMap(({ id, openings: own = [] }) =>
      own.map(one => ({
        ...one,
        person: id,
        own: String(one.own),
        carried: one.carried === 0 ? '' : String(one.carried),
        lapses: one.lapses ?? '',
      })),
    ),
};

export const balances: TableKind = {
  id: 'balances',
  name: 'Leave balances',
  says: 'Amounts that are put on balances on a day: a correction, or days granted besides. What is left from before is an opening balance.',
  columns: [
    personColumn,
    typeColumn,
    { id: 'date', label: 'On', means: 'The day on which it is put there.', needed: true, like: '2026-01-01' },
    {
      id: 'amount',
      label: 'Amount',
      means: 'In days, or in hours where the plan counts hours.',
      needed: true,
      like: '3.5',
    },
    { id: 'reason', label: 'Why', means: 'Said on the statement.', like: 'Brought from before' },
  ],
  read(all, { file, types }) {
    const [persons, names] = [peopleNames(file), namesOf(types)];
    return all.flatMap((line): Placed[] => {
      const [person, type] = [line.needNamed('person', persons), line.needNamed('type', names)];
      const [date, amount] = [line.needDate('date'), line.number('amount')];
      const reason = line.text('reason', 500) || 'Brought from before';
      if (amount === null) line.fault('amount', 'needed', '', 'A number, as in 3.5.');
      if (amount && Math.abs(amount) > 10_000) line.fault('amount', 'does not fit', String(amount), 'At most 10,000.');
      if (line.isBad || !person || !type || !date || amount === null || amount === undefined) return [];
      return [{ line: line.at, fact: { kind: 'adjustment', person: person as PersonId, type, date, amount, reason } }];
    });
  },
  write: ({ file }) =>
    file.adjustments
      // Letters that were written are no amounts.
      .filter(one => !one.warns)
      .map(({ warns: _, ...one }) => ({ ...one, amount: String(one.amount) })),
};

type End = LeaveSpan['from'];
/** `am`, `pm` or a time of day. */
function endOf(line: Line, column: 'from' | 'to'): End | undefined {
  const date = line.needDate(column);
  const text = line.text(`${column}Half`).toLowerCase();
  if (!date) return undefined;
  if (text === '') return { date, half: column === 'from' ? 'am' : 'pm' };
  if (text === 'am' || text === 'morning') return { date, half: 'am' };
  if (text === 'pm' || text === 'afternoon') return { date, half: 'pm' };
  if (/^([01]\d|2[0-3]):[0-5]\d$|^24:00$/.test(text)) return { date, time: text };
  return line.fault(`${column}Half`, 'does not fit', text, 'morning, afternoon, or a time as in 09:30.');
}

export const bookings: TableKind = {
  id: 'bookings',
  name: 'Booked leave',
  says: 'Leave that was decided elsewhere. It is counted by the records here.',
  columns: [
    personColumn,
    typeColumn,
    { id: 'from', label: 'From', means: 'The first day.', needed: true, like: '2026-07-06' },
    {
      id: 'fromHalf',
      label: 'From half',
      means: 'morning, afternoon, or a time; the morning where nothing is said.',
      like: '',
    },
    { id: 'to', label: 'To', means: 'The last day.', needed: true, like: '2026-07-17' },
    {
      id: 'toHalf',
      label: 'To half',
      means: 'morning, afternoon, or a time; the afternoon where nothing is said.',
      like: '',
    },
  ],
  read(all, { file, types }) {
    const [persons, names] = [peopleNames(file), namesOf(types)];
    return all.flatMap((line): Placed[] => {
      const [person, type] = [line.needNamed('person', persons), line.needNamed('type', names)];
      const [from, to] = [endOf(line, 'from'), endOf(line, 'to')];
      if (from && to && to.date < from.date) line.fault('to', 'does not fit', to.date, `On or after ${from.date}.`);
      if (from && to && 'time' in from !== 'time' in to)
        line.fault('toHalf', 'does not fit', line.text('toHalf'), 'Both ends by halves, or both with times.');
      if (line.isBad || !person || !type || !from || !to) return [];
      const span = { from, to } as LeaveSpan;
      const id = bookingId(person, type, beginsOf(span));
      const fact: FactOf<'booking'> = { kind: 'booking', id, person: person as PersonId, type, span };
      return [{ line: line.at, fact }];
    });
  },
  write: ({ file }) =>
    file.bookings.map(({ person, type, span }) => ({
      person,
      type,
      from: span.from.date,
      fromHalf: isTimed(span) ? span.from.time : span.from.half,
      to: span.to.date,
      toHalf: isTimed(span) ? span.to.time : span.to.half,
    })),
};
