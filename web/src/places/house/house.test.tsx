/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { ListsView, MeasuresView, PostsView, RolesView } from '@north-pebble/contract';
import { cleanup, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { date, instant, person } from '../../../../core/testing/house.ts';
import { here, open, Refusal, serve, unserve } from '../../testing/page.tsx';
import { ChangesPlace } from './ChangesPlace.tsx';
import { CalendarsPlace } from './calendars/CalendarsPlace.tsx';
import { ListsPlace } from './ListsPlace.tsx';
import { PatternsPlace } from './patterns/PatternsPlace.tsx';
import { postChangeOf } from './posts/PostChange.tsx';
import { PostsPlace } from './posts/PostsPlace.tsx';
import { RolesPlace } from './RolesPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});
const kay = here('kay', ['designer']);
const today = date('2026-02-02');
const nothing = {
  digest: 'd'.repeat(64),
  says: [],
  managers: [],
  leave: [],
  sums: [],
  balances: [],
  plans: [],
  open: [],
  notes: [],
};
const tom = { id: person('tom'), name: 'Tom Lund' };

const post = (more: Partial<PostsView['rows'][number]> = {}): PostsView['rows'][number] => ({
  id: 'lead',
  title: 'Lead',
  place: { id: 'ovay', name: 'Ovay Station' },
  department: { id: 'obs', name: 'Observatory' },
  grade: 7,
  spending: 2500,
  closed: null,
  standing: 'held',
  holder: tom,
  meanwhile: null,
  reportsTo: { id: 'director', title: 'Director' },
  reports: 2,
  holders: [{ person: tom, from: date('2020-01-01'), to: null, main: true }],
  ...more,
});
const posts: PostsView = {
  ...{ next: null, version: 1 },
  today,
  rows: [
    post(),
    post({
      id: 'keeper',
      title: 'Keeper',
      standing: 'vacant',
      holder: null,
      meanwhile: 'Dora Quill',
      holders: [],
      reports: 0,
    }),
    post({ id: 'old', title: 'Old post', standing: 'closed', closed: date('2025-12-31'), holder: null, holders: [] }),
  ],
  places: [{ id: 'ovay', name: 'Ovay Station' }],
  departments: [{ id: 'obs', name: 'Observatory' }],
};

describe('posts', () => {
  test('say who holds them, where a vacant one leads, and are found by letters', async () => {
    serve({ 'GET /posts': posts });
    open(<PostsPlace />, { as: kay });
    const table = await screen.findByRole('table', { name: 'Posts' });
    expect(within(table).getByText(/vacant: goes to Dora Quill/)).toBeTruthy();
    expect(within(table).queryByText('Old post')).toBeNull();
    expect(within(table).getAllByText('2,500')).toHaveLength(2);
    await userEvent.type(screen.getByLabelText('Post, holder, place or department'), 'tom');
    expect(screen.getByText('One post')).toBeTruthy();
  });
  test('a vacant one tells what becomes of what would come to it, and nobody can give it up', async () => {
    serve({ 'GET /posts': posts });
    open(<PostsPlace />, { as: kay, at: '/?post=keeper' });
    const detail = within(await screen.findByRole('region', { name: 'Keeper' }));
    expect(detail.getByText(/What would come to it goes to Dora Quill meanwhile/)).toBeTruthy();
    expect(detail.queryByRole('button', { name: 'It falls vacant' })).toBeNull();
    expect(detail.getByText('Nobody yet.')).toBeTruthy();
  });
  const typed = {
    title: 'Diver',
    department: 'obs',
    place: 'ovay',
    grade: '7',
    spending: '1,000',
    closed: '',
    reportsTo: '',
    person: '',
    from: '2026-03-01',
    to: '',
  };
  test.each([
    [
      'a new one',
      'new',
      typed,
      {
        what: 'a post',
        post: { id: 'x', title: 'Diver', department: 'obs', place: 'ovay', grade: 7, spending: 1000, closed: null },
        under: { from: '2026-03-01', reportsTo: null },
      },
    ],
    ['a grade that is no number', 'post', { ...typed, grade: 'high' }, null],
    ['without a title', 'post', { ...typed, title: ' ' }, null],
    [
      'somebody who takes it',
      'holder',
      { ...typed, person: 'ina' },
      { what: 'post', person: 'ina', from: '2026-03-01', post: 'x' },
    ],
    [
      'somebody who acts',
      'acts',
      { ...typed, person: 'ina' },
      { what: 'acts', person: 'ina', post: 'x', from: '2026-03-01', to: null },
    ],
    ['nobody who acts', 'acts', typed, null],
    [
      'given up',
      'leaves',
      { ...typed, to: '2026-03-31' },
      { what: 'leaves post', person: 'tom', post: 'x', last: '2026-03-31' },
    ],
  ] as const)('%s is sent as it is said', (_, doing, given, expected) => {
    expect(postChangeOf(doing, 'x', 'tom', given)).toEqual(expected);
  });
});

const roles: RolesView = {
  today,
  rows: [
    {
      role: 'Diver',
      person: tom,
      place: { id: 'ovay', name: 'Ovay Station' },
      department: null,
      from: date('2026-04-01'),
      to: null,
      standing: 'later',
    },
    {
      role: 'HR partner',
      person: { id: person('dora'), name: 'Dora Quill' },
      place: null,
      department: null,
      from: null,
      to: null,
      standing: 'now',
    },
  ],
  used: [
    { role: 'Diver', in: [], reads: [], opens: [] },
    { role: 'HR partner', in: ['Annual leave'], reads: ['Sick leave'], opens: ['Sees the requests of its people.'] },
  ],
  rights: [{ right: 'designer', people: [tom], opens: ['Designs, tries and publishes workflows.'] }],
  places: [],
  departments: [],
};
test('roles say for whom and from when, what they are asked and what they read; only administrators see as others', async () => {
  serve({ 'GET /roles': roles });
  open(<RolesPlace />, { as: kay });
  const diver = within(await screen.findByRole('region', { name: 'Diver' }));
  expect(diver.getByText(/for Ovay Station from Wed 1 April/)).toBeTruthy();
  expect(diver.getByText(/No workflow asks it/)).toBeTruthy();
  const partner = within(screen.getByRole('region', { name: 'HR partner' }));
  expect(
    partner.getByText(/Asked in Annual leave.*Reads what few may read in Sick leave.*Sees the requests/),
  ).toBeTruthy();
  expect(screen.getByText('Designs, tries and publishes workflows.')).toBeTruthy();
  expect(screen.queryByRole('form', { name: 'See North Pebble as' })).toBeNull();
  cleanup();
  open(<RolesPlace />, { as: here('dora', ['administrator']) });
  expect(await screen.findByRole('form', { name: 'See North Pebble as' })).toBeTruthy();
});

const measures: MeasuresView = {
  today,
  patterns: [
    {
      id: 'office',
      name: 'Office',
      anchor: date('2024-01-01'),
      cycle: [{ am: ['09:00', '12:00'], pm: ['13:00', '17:00'] }, {}],
      count: 1,
      people: [{ person: tom, from: date('2020-01-01') }],
    },
  ],
  calendars: [
    {
      id: 'sound',
      name: 'Sound',
      buildsOn: null,
      rules: [{ name: 'Feast', part: 'day', on: { kind: 'date', monthDay: '06-24' } }],
      holidays: [],
      places: ['Ovay Station'],
    },
  ],
  places: [{ id: 'ovay', name: 'Ovay Station', zone: 'Europe/Lisbon', calendar: 'sound', head: null, people: 3 }],
  departments: [{ id: 'obs', name: 'Observatory', head: 'lead', people: 1 }],
  posts: [{ id: 'lead', name: 'Lead' }],
};

describe('a work pattern', () => {
  test('is changed by keys, undone, and what follows is asked for before it is saved', async () => {
    const sent = serve({ 'GET /measures': measures, 'POST /records/preview': nothing });
    const mouse = userEvent.setup();
    open(<PatternsPlace />, { as: kay });
    expect(await screen.findByText('2 days, 7 hours in a cycle, 24½ a week on average')).toBeTruthy();
    const first = screen.getByRole('button', { name: /^Day 1, first part: 09:00 to 12:00/ });
    fireEvent.keyDown(first, { key: 'ArrowRight' });
    expect(screen.getByRole('button', { name: /^Day 1, first part: 09:15 to 12:15/ })).toBeTruthy();
    fireEvent.keyDown(screen.getByRole('button', { name: /^Day 1, first part/ }), {
      key: 'ArrowRight',
      shiftKey: true,
    });
    expect(screen.getByRole('button', { name: /09:15 to 12:30/ })).toBeTruthy();
    fireEvent.keyDown(screen.getByRole('button', { name: 'Day 2: put a part in' }), { key: 'Enter' });
    expect(screen.getByRole('button', { name: /^Day 2, first part: 09:00/ })).toBeTruthy();
    await mouse.click(screen.getByRole('button', { name: 'Undo' }));
    expect(screen.queryByRole('button', { name: /^Day 2, first part/ })).toBeNull();
    await mouse.click(screen.getByRole('button', { name: 'The same once more' }));
    expect(screen.getByText(/^4 days/)).toBeTruthy();
    await mouse.click(screen.getByRole('button', { name: 'See what follows' }));
    const change = sent.at(-1)?.body?.change as { pattern: { id: string; cycle: object[] } };
    expect(change.pattern.id).toBe('office');
    expect(change.pattern.cycle).toHaveLength(4);
    expect(await screen.findByLabelText('Why')).toBeTruthy();
  });
  test('that cannot be says which day is at fault', async () => {
    serve({
      'GET /measures': measures,
      'POST /records/preview': new Refusal('No.', [
        { field: 'change.pattern.cycle.1', message: 'Two parts are at the same time on day 2.' },
      ]),
    });
    open(<PatternsPlace />, { as: kay });
    fireEvent.keyDown(await screen.findByRole('button', { name: 'Day 2: put a part in' }), { key: 'Enter' });
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    expect((await screen.findByRole('alert')).textContent).toContain('day 2');
  });
  test('shows eight weeks, and who has it', async () => {
    serve({ 'GET /measures': measures });
    open(<PatternsPlace />, { as: kay });
    expect(within(await screen.findByRole('region', { name: 'Eight weeks' })).getAllByRole('listitem')).toHaveLength(
      56,
    );
    expect(within(screen.getByRole('region', { name: 'Who has it' })).getByText('Tom Lund')).toBeTruthy();
  });
});

describe('a calendar', () => {
  test('takes days of every year in words, and says which it cannot read', async () => {
    const sent = serve({ 'GET /measures': measures, 'POST /records/preview': nothing });
    const mouse = userEvent.setup();
    open(<CalendarsPlace />, { as: kay });
    expect(await screen.findByText('Wed 24 June 2026: Feast')).toBeTruthy();
    await mouse.click(screen.getByRole('button', { name: 'A day of every year' }));
    const group = within(screen.getByRole('group', { name: 'A day of every year' }));
    await mouse.type(group.getByLabelText('On'), 'sixth Monday of May');
    expect(group.getByText(/As in 25 December/)).toBeTruthy();
    await mouse.clear(group.getByLabelText('On'));
    await mouse.type(group.getByLabelText('On'), 'Easter + 1');
    await mouse.type(group.getByLabelText('Name'), 'Easter Monday');
    expect(screen.getByText('Mon 6 April 2026: Easter Monday')).toBeTruthy();
    await mouse.click(screen.getByRole('button', { name: 'See what follows' }));
    expect(sent.at(-1)?.body?.change).toMatchObject({
      calendar: { rules: [{ name: 'Feast' }, { on: { kind: 'easter', days: 1 } }] },
    });
  });
  test('begins from a country, without what it has already', async () => {
    serve({
      'GET /measures': measures,
      'GET /ready-holidays': {
        countries: [{ id: 'XX', name: 'Somewhere' }],
        regions: [],
        rules: [
          { name: 'Midsummer', part: 'day', on: { kind: 'date', monthDay: '06-24' } },
          { name: 'Winter', part: 'day', on: { kind: 'date', monthDay: '12-21' } },
        ],
        holidays: [],
      },
    });
    const mouse = userEvent.setup();
    open(<CalendarsPlace />, { as: kay });
    await mouse.click(await screen.findByRole('button', { name: 'From a country' }));
    await mouse.type(screen.getByRole('combobox', { name: 'Country' }), 'Some');
    await mouse.click(await screen.findByRole('option', { name: 'Somewhere' }));
    await mouse.click(await screen.findByRole('button', { name: 'Put them in' }));
    expect(await screen.findByText('Mon 21 December 2026: Winter')).toBeTruthy();
    expect(screen.queryByText('Wed 24 June 2026: Midsummer')).toBeNull();
  });
  test('places and departments say how they are counted and headed', async () => {
    serve({ 'GET /measures': measures });
    open(<CalendarsPlace />, { as: kay });
    expect(await screen.findByText('Europe/Lisbon, Sound, headed by nobody, 3 people')).toBeTruthy();
    expect(screen.getByText('headed by Lead, one person')).toBeTruthy();
  });
});

const lists: ListsView = {
  today,
  lists: [
    {
      id: 'boats',
      name: 'Boats',
      columns: [
        { id: 'seats', label: 'Seats', kind: 'number' },
        { id: 'sails', label: 'Sails', kind: 'yes/no' },
      ],
      owners: [tom],
      rows: [
        { id: 'tern', title: 'Tern', cells: { seats: 8, sails: true }, from: null, to: null },
        { id: 'skua', title: 'Skua', cells: {}, from: null, to: date('2026-01-31') },
      ],
      used: ['Crossing'],
    },
  ],
  mayKeep: false,
};
describe('a list', () => {
  test('says where it is used and until when a row can be picked; its owner adds a row, and cannot change the list', async () => {
    const sent = serve({ 'GET /lists': lists, 'POST /records/preview': nothing });
    const mouse = userEvent.setup();
    open(<ListsPlace />, { as: here('tom') });
    expect(await screen.findByText(/Picked from in Crossing.*kept by Tom Lund too/)).toBeTruthy();
    expect(screen.getByRole('row', { name: /Skua until Sat 31 January/ })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Change the list itself' })).toBeNull();
    await mouse.click(screen.getByRole('button', { name: 'A new row' }));
    const form = within(screen.getByRole('form', { name: 'A new row' }));
    await mouse.type(form.getByLabelText('Title'), 'Auk');
    await mouse.type(form.getByLabelText('Seats'), '4,5');
    await mouse.click(form.getByLabelText('Sails'));
    await mouse.click(form.getByRole('button', { name: 'See what follows' }));
    expect(sent.at(-1)?.body?.change).toEqual({
      what: 'row',
      list: 'boats',
      row: { id: 'new', title: 'Auk', cells: { seats: 4.5, sails: true }, from: null, to: null },
    });
  });
  test('where there is none says what one is for', async () => {
    serve({ 'GET /lists': { ...lists, lists: [] } });
    open(<ListsPlace />, { as: kay });
    expect(await screen.findByText('There is no list')).toBeTruthy();
  });
});

test('what was changed says who, when and why; what a directory told is not said to be a request', async () => {
  const row = {
    id: 1,
    at: instant('2026-02-01T10:00:00Z'),
    who: null,
    request: null,
    reason: 'Told by the directory.',
    from: null,
    says: ['Bo comes.'],
    takesBack: null,
    takenBack: false,
    isShutdown: false,
  };
  const sent = serve({ 'GET /records/changes': { rows: [row] }, 'POST /records/changes/1/back': { id: 2 } });
  const mouse = userEvent.setup();
  open(<ChangesPlace />, { as: kay });
  expect(await screen.findByText(/The directory, .*Told by the directory/)).toBeTruthy();
  await mouse.click(screen.getByRole('button', { name: 'Take it back' }));
  await mouse.type(screen.getByLabelText('Why it is taken back'), 'Never came.');
  await mouse.click(screen.getByRole('button', { name: 'Take it back' }));
  expect(sent.some(one => one.path === '/records/changes/1/back' && one.body?.reason === 'Never came.')).toBe(true);
});
