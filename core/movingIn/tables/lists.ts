/** Reference lists and their rows. */
import { type Cell, type Column, cellFits, columnKinds, idFrom } from '../../form/index.ts';
import type { PersonId } from '../../people/index.ts';
import {
  closest,
  firstNameColumn,
  idColumn,
  type Line,
  namesOf,
  type Placed,
  peopleNames,
  type TableKind,
} from '../table.ts';

/** What a column says besides its kind; what does not fit is said at its place. */
function columnMore(line: Line, kind: string): Pick<Column, 'currency' | 'options' | 'outside'> {
  const currency = line.text('currency', 3).toUpperCase();
  const options = line
    .text('options', 2000)
    .split(';')
    .map(one => one.trim())
    .filter(Boolean);
  if (currency && !/^[A-Z]{3}$/.test(currency))
    line.fault('currency', 'does not fit', currency, 'Three letters, as EUR.');
  if (kind === 'choice' && options.length === 0)
    line.fault('options', 'does not fit', '', 'Say what there is to choose from.');
  const outside = line.yesNo('outside', false);
  return {
    ...(currency && kind === 'money' ? { currency } : {}),
    ...(options.length > 0 && kind === 'choice' ? { options } : {}),
    ...(outside ? { outside: true as const } : {}),
  };
}

export const lists: TableKind = {
  id: 'lists',
  name: 'Lists',
  says: 'Lists that forms let people pick from: one line for each column of a list beside its title.',
  columns: [
    idColumn('List', 'equipment'),
    firstNameColumn('Equipment'),
    {
      id: 'owners',
      label: 'Owners',
      means: 'Who may edit it besides HR operations, with semicolons between them.',
      like: '',
    },
    {
      id: 'column',
      label: 'Column',
      means: 'What the column is called; empty for a list of titles alone.',
      like: 'Price',
    },
    { id: 'kind', label: 'Kind', means: `What stands in it: ${columnKinds.join(', ')}.`, like: 'money' },
    {
      id: 'currency',
      label: 'Currency',
      means: 'Of a column of money: its three letters; EUR when empty.',
      like: 'EUR',
    },
    {
      id: 'options',
      label: 'Choices',
      means: 'Of a column of choices: what it offers, with semicolons between them.',
      like: '',
    },
    {
      id: 'outside',
      label: 'Outside',
      means: 'yes, when anybody outside may read it on the page of open posts.',
      like: '',
    },
  ],
  read(all, { file }) {
    const persons = peopleNames(file);
    type Own = { line: Line; name: string; owners: PersonId[]; columns: Column[] };
    const found = new Map<string, Own>();
    for (const line of all) {
      const id = line.need('id', 40);
      const [name, label, kind] = [line.text('name'), line.text('column', 80), line.text('kind') || 'text'];
      const owners = line
        .text('owners', 1000)
        .split(';')
        .map(one => one.trim())
        .filter(Boolean);
      const own: Own = found.get(id) ?? { line, name: '', owners: [], columns: [] };
      for (const owner of owners) {
        const person = persons.get(owner.toLowerCase());
        if (person) own.owners.push(person as PersonId);
        else
          line.fault(
            'owners',
            'not on file',
            owner,
            `Perhaps “${closest(persons, owner) ?? 'a mail address on file'}”.`,
          );
      }
      const more = columnMore(line, kind);
      const known = columnKinds.find(one => one === kind);
      if (label && !known) line.fault('kind', 'does not fit', kind, `One of ${columnKinds.join(', ')}.`);
      if (own.columns.some(one => one.label === label)) line.fault('column', 'twice', label, 'Each column once.');
      if (line.isBad) continue;
      own.name ||= name;
      const there = file.lists.find(one => one.id === id)?.columns.find(one => one.label === label);
      const taken = own.columns.map(one => one.id);
      if (label && known) own.columns.push({ id: there?.id ?? idFrom(label, taken), label, kind: known, ...more });
      found.set(id, own);
    }
    return [...found].map(
      ([id, { line, name, owners, columns }]): Placed => ({
        line: line.at,
        fact: { kind: 'list', id, name: name || id, columns, owners },
      }),
    );
  },
  write: ({ file }) =>
    file.lists.flatMap(({ id, name, owners = [], columns }): Record<string, string>[] => {
      const first = { id, name, owners: owners.join('; ') };
      if (columns.length === 0) return [first];
      return columns.map(({ label, kind, currency, options, outside }, i) => ({
        ...(i === 0 ? first : { id }),
        column: label,
        kind,
        ...(currency ? { currency } : {}),
        ...(options ? { options: options.join('; ') } : {}),
        ...(outside ? { outside: 'yes' } : {}),
      }));
    }),
};

function cellOf(line: Line, column: Column): Cell | undefined {
  switch (column.kind) {
    case 'text':
    case 'time':
    case 'choice':
    case 'place': {
      const text = line.text(column.label, 300) || null;
      if (text !== null && !cellFits(column, text))
        line.fault(
          column.label,
          'does not fit',
          text,
          column.options ? `One of ${column.options.join(', ')}.` : 'A time is written as 08:30.',
        );
      return text;
    }
    case 'number':
    case 'money':
      return line.number(column.label);
    case 'date':
      return line.date(column.label);
    case 'yes/no':
      return line.text(column.label) === '' ? null : line.yesNo(column.label, false);
  }
}

const cellText = (cell: Cell | undefined): string => {
  if (cell === null || cell === undefined) return '';
  return typeof cell === 'boolean' ? (cell ? 'yes' : 'no') : String(cell);
};

export const rows: TableKind = {
  id: 'rows',
  name: 'Rows of lists',
  says: 'What can be picked, with the columns of its list after the first ones. A row that is in use is ended, not taken away.',
  columns: [
    { id: 'list', label: 'List', means: 'By its short name or its name.', needed: true, like: 'equipment' },
    { id: 'id', label: 'Row', means: 'A short name that never changes.', like: 'radio' },
    { id: 'title', label: 'Title', means: 'What is picked.', needed: true, like: 'Hand radio' },
    { id: 'from', label: 'From', means: 'The first day on which it can be picked.', like: '' },
    { id: 'to', label: 'To', means: 'The last day on which it can be picked.', like: '' },
  ],
  own: true,
  read(all, { file }) {
    const names = namesOf(file.lists);
    return all.flatMap((line): Placed[] => {
      const [listId, title, id] = [line.needNamed('list', names), line.need('title'), line.own('id', 'title')];
      const list = file.lists.find(one => one.id === listId);
      const [from, to] = [line.date('from'), line.date('to')];
      if (!list) return [];
      const cells: Record<string, Cell> = {};
      for (const column of list.columns) {
        const cell = cellOf(line, column);
        if (cell !== null && cell !== undefined) cells[column.id] = cell;
      }
      if (from && to && to < from) line.fault('to', 'does not fit', to, `On or after the first day, ${from}.`);
      if (line.isBad || from === undefined || to === undefined) return [];
      return [{ line: line.at, fact: { kind: 'row', list: list.id, id, title, cells, from, to } }];
    });
  },
  write: ({ file }) =>
    file.lists.flatMap(list =>
      list.rows.map(({ id, title, cells, from, to }) => ({
        list: list.id,
        id,
        title,
        from: from ?? '',
        to: to ?? '',
        ...Object.fromEntries(list.columns.map(column => [column.label, cellText(cells[column.id])])),
      })),
    ),
};
