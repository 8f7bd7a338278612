/** Letters filled in: what stands in them, for whom, and what does not. */
import { describe, expect, test } from '@jest/globals';
import { base } from '../../testing/anyWorkflow.ts';
import { contextFor, directory, instant, person, withDirectory } from '../../testing/house.ts';
import type { Definition, Letter } from '../definition/definition.ts';
import type { Block } from '../request/outgoing.ts';
import { newRequest, type RequestState } from '../request/state.ts';
import { fillLetter, insertedInLetter, letterInsertionNames, readableIn } from './papers.ts';

const files = (readers?: string[]) =>
  ({ kind: 'files', id: 'paper', label: 'Paper', required: false, ...(readers ? { readers } : {}) }) as never;
const definition: Definition = {
  ...base,
  form: {
    fields: [
      { kind: 'text', id: 'title', label: 'Title', required: true },
      { kind: 'money', id: 'pay', label: 'Pay', required: true, currency: 'EUR' },
      { kind: 'text', id: 'account', label: 'Account', required: false, readers: ['Payroll'] },
      {
        kind: 'table',
        id: 'legs',
        label: 'Legs',
        required: false,
        columns: [
          { id: 'to', label: 'To', kind: 'text' },
          { id: 'price', label: 'Price', kind: 'money' },
        ],
      },
      { kind: 'long text', id: 'note', label: 'Note', required: false },
    ],
  },
  figures: [
    { id: 'double', name: 'Double', formula: 'Pay * 2', unit: 'money' },
    { id: 'secret', name: 'Digits', formula: 'string length(Account)', unit: 'number' },
  ],
} as Definition;

const state = (change: Partial<RequestState> = {}): RequestState => ({
  ...newRequest('R-7'),
  asker: person('ina'),
  subject: person('per'),
  answers: {
    title: 'Gauge <b>fitter</b>',
    pay: 1200,
    account: 'NO93 8601',
    legs: [
      { to: 'Ovay', price: 43 },
      { to: 'Skarn', price: null },
    ],
  } as never,
  figures: { double: { amount: 2400, currency: 'EUR' }, secret: 9 } as never,
  ...change,
});
const letter = (body: string, change: Partial<Letter> = {}): Letter => ({
  id: 'one',
  name: 'One',
  title: '{Title} for {asker}',
  body,
  ...change,
});
const filled = (body: string, into = files(), change: Partial<RequestState> = {}, context = contextFor(null)) =>
  fillLetter(letter(body), definition, state(change), context, into);
const textOf = (block: Block): string =>
  block.kind === 'table'
    ? [block.head, ...block.rows].map(row => row.join('|')).join('\n')
    : block.kind === 'list'
      ? block.items.map(item => item.map(run => run.text).join('')).join('\n')
      : block.runs.map(run => run.text).join('');
const words = (...of: Parameters<typeof filled>) =>
  filled(...of)
    .blocks.map(textOf)
    .join('\n');

describe('a letter', () => {
  test('has its values put in, in its head, its text, its lists and its foot', () => {
    const made = fillLetter(
      letter('<h3>{request}</h3><p>{Pay}, twice {Double}</p><ul><li>{subject}</li></ul>', { foot: 'As of {today}' }),
      definition,
      state(),
      contextFor(null),
      files(),
    );
    expect(made.title).toBe('Gauge <b>fitter</b> for Ina Okell');
    expect(made.foot).toBe('As of Mon 2 February 2026');
    expect(made.blocks.map(textOf)).toEqual(['R-7', '1,200.00 EUR, twice 2,400.00 EUR', 'Per Lauder']);
  });

  test('what somebody typed is words on it, never marks of it', () => {
    const [block] = filled('<p>{Title}</p>').blocks;
    expect(block).toMatchObject({ kind: 'paragraph', runs: [{ text: 'Gauge <b>fitter</b>' }] });
  });

  test('a name that is not known stays to be seen', () => {
    expect(words('<p>Dear {Nobody at all}</p>')).toContain('{Nobody at all}');
  });

  test('a paragraph with the name of a table alone is that table, and within a sentence it is not', () => {
    const [table] = filled('<p>{Legs}</p>').blocks;
    expect(table).toEqual({
      kind: 'table',
      head: ['To', 'Price'],
      rows: [
        ['Ovay', '43.00 EUR'],
        ['Skarn', ''],
      ],
      numeric: [false, true],
    });
    expect(filled('<p>Legs: {Legs}</p>').blocks[0].kind).toBe('paragraph');
  });

  test('all answers are those that were given and may be read', () => {
    const said = words('<p>{answers}</p>');
    expect(said).toContain('Title|Gauge <b>fitter</b>');
    expect(said).toContain('Pay|1,200.00 EUR');
    expect(said).not.toMatch(/Note|Account|NO93/);
  });
});

describe('what named readers read alone', () => {
  test.each<[string, string[] | undefined, boolean]>([
    ['everybody reads', undefined, false],
    ['the same readers read alone', ['Payroll'], true],
    ['others read too', ['Payroll', 'HR partner'], false],
    ['others read instead', ['HR partner'], false],
    ['nobody is named for', [], false],
  ])('in a letter that %s', (_, readers, stands) => {
    const said = words('<p>{Account}, {Digits}</p>', files(readers));
    expect(said.includes('NO93 8601')).toBe(stands);
    expect(said.includes('9')).toBe(stands);
    expect(said.includes('not written here')).toBe(!stands);
  });

  test('does not open what everybody may read', () => {
    const [title, , account] = definition.form.fields;
    expect(readableIn(title, files(['Payroll']))).toBe(true);
    expect(readableIn(account, files())).toBe(false);
  });
});

describe('who decided what when', () => {
  const settled = [
    { step: 'manager', outcome: 'approve', people: [person('tom')] },
    { step: 'gone', outcome: 'approve', people: [person('tom'), person('dora')] },
  ];
  const finished = { manager: instant('2026-07-01T23:30:00Z') };

  test('is told by step, by name and by the word of the answer', () => {
    const said = words('<p>{decisions}</p>', files(), { settled, finished } as never);
    expect(said.split('\n')[0]).toBe('Step|Who|What|When');
    expect(said).toContain('Tom Lund');
    expect(said).toContain('Tom Lund, Dora Quill');
  });

  test('days are those where the asker works, late in the evening too', () => {
    const evening = contextFor(null, { now: instant('2026-07-01T23:30:00Z') });
    const said = words('<p>{today}</p><p>{decisions}</p>', files(), { settled, finished } as never, evening);
    // Half past midnight in Lisbon, in summer.
    expect(said).toContain('Thu 2 July 2026');
    expect(said).not.toContain('Wed 1 July');
    const elsewhere = withDirectory({
      places: directory.places.map(place => ({ ...place, zone: 'America/St_Johns' })),
    });
    const there = contextFor(null, { now: instant('2026-07-01T23:30:00Z'), index: elsewhere });
    expect(words('<p>{today}</p>', files(), {}, there)).toBe('Wed 1 July 2026');
  });
});

test('a letter may put in what a message may, but for its reason, and three names of its own', () => {
  const names = letterInsertionNames(definition);
  for (const name of ['asker', 'request', 'Title', 'Double', 'answers', 'decisions', 'today'])
    expect(names).toContain(name);
  expect(names).not.toContain('reason');
  expect(insertedInLetter(letter('<p>{Pay}</p>', { foot: '{today}' }))).toEqual(['Title', 'asker', 'Pay', 'today']);
});
