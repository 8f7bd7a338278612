/** Lists: which rows hold on a day, and what somebody outside reads of them. */
import { describe, expect, test } from '@jest/globals';
import { date } from '../testing/house.ts';
import { isPickable, type ReferenceList, readOutside } from './list.ts';

const row = (id: string, more: object = {}) => ({
  id,
  title: 'Watch lead',
  cells: { department: 'Lights', profile: 'Leads a watch', cost: 58_000, note: 'for the house' },
  ...more,
});
const list = (...rows: ReturnType<typeof row>[]): ReferenceList => ({
  id: 'open-posts',
  name: 'Open posts',
  columns: [
    { id: 'department', label: 'Department', kind: 'text', outside: true },
    { id: 'profile', label: 'Profile', kind: 'text', outside: true },
    { id: 'cost', label: 'Cost', kind: 'money' },
    { id: 'note', label: 'Note', kind: 'text' },
  ],
  rows,
});
const today = date('2026-02-02');

describe('what somebody outside reads', () => {
  test('is the title, the columns that are for them in their order, and until when', () => {
    expect(readOutside(list(row('a', { to: date('2026-03-01') })), today)).toEqual([
      {
        title: 'Watch lead',
        until: '2026-03-01',
        said: [
          { label: 'Department', words: 'Lights' },
          { label: 'Profile', words: 'Leads a watch' },
        ],
      },
    ]);
  });

  test('has nothing of the other columns in it, however it is read', () => {
    expect(JSON.stringify(readOutside(list(row('a')), today))).not.toMatch(/58|Cost|Note|for the house|"a"/);
  });

  test.each([
    ['has not opened yet', { from: date('2026-02-03') }, 0],
    ['opens today', { from: today }, 1],
    ['is open until today', { to: today }, 1],
    ['was closed yesterday', { to: date('2026-02-01') }, 0],
    ['has no days', {}, 1],
    ['has its days taken off again', { from: null, to: null }, 1],
  ])('a row that %s', (_, days, many) => {
    expect(readOutside(list(row('a', days)), today)).toHaveLength(many);
    expect(isPickable(days, today)).toBe(many === 1);
  });

  test('two posts of one title stand twice, and what is empty is left out', () => {
    const found = readOutside(list(row('a'), row('b', { cells: { department: 'Ferries', profile: null } })), today);
    expect(found.map(({ said }) => said.length)).toEqual([2, 1]);
  });

  test('of a list that is not there, or has no column for them, is nothing but titles', () => {
    expect(readOutside(undefined, today)).toEqual([]);
    const closed = { ...list(row('a')), columns: list().columns.map(({ outside: _, ...column }) => column) };
    expect(readOutside(closed, today)).toEqual([{ title: 'Watch lead', until: null, said: [] }]);
  });
});
