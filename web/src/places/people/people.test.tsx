/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { ChangePreview, PeopleView, PersonPageView } from '@north-pebble/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { date, person } from '../../../../core/testing/house.ts';
import { here, open, Refusal, serve, unserve } from '../../testing/page.tsx';
import { PeoplePlace } from './PeoplePlace.tsx';
import { PersonPlace } from './PersonPlace.tsx';
import { changeOf } from './RecordChange.tsx';
import { window } from './Through.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const page = (more: Partial<PersonPageView> = {}): PersonPageView => ({
  today: date('2026-02-02'),
  id: person('ina'),
  name: 'Ina Okell',
  reads: ['manager', 'mail', 'joined', 'left'],
  mail: 'ina@selkie.example',
  number: null,
  joined: date('2020-01-01'),
  left: null,
  standing: 'here',
  place: 'Ovay Station',
  department: 'Observatory',
  manager: { id: person('tom'), name: 'Tom Lund' },
  managerWhy: ['Tom Lund is Observatory lead'],
  dottedTo: null,
  posts: [{ title: 'Tide observer', main: true }],
  reports: [],
  roles: [],
  lines: [
    {
      of: 'Work pattern',
      stretches: [
        { from: date('2020-01-01'), to: date('2026-04-30'), words: 'Office' },
        { from: date('2026-05-01'), to: null, words: 'Three days' },
      ],
    },
  ],
  changes: [],
  circumstances: null,
  now: null,
  mayChange: true,

  sees: { balance: true },
  ...more,
});
const choices = {
  places: [],
  departments: [],
  patterns: [{ id: 'three', name: 'Three days' }],
  plans: [],
  posts: [],
  roles: [],
};
const preview: ChangePreview = {
  digest: 'd'.repeat(64),
  says: ['Work pattern from Fri 1 May 2026: Office → Three days.'],
  managers: [],
  leave: [{ name: 'Ina Okell', what: 'Annual leave, May', request: 'R-1', before: '5 days', after: '3 days' }],
  sums: [],
  balances: [],
  plans: [],
  open: [],
  notes: ['Nobody has the role Diver then.'],
};
const at = (path: string) =>
  open(
    <Routes>
      <Route path="/people" element={<PeoplePlace />} />
      <Route path="/people/:person" element={<PersonPlace />} />
    </Routes>,
    { at: path, as: here('kay', ['designer']) },
  );

describe('people', () => {
  const view: PeopleView = {
    today: date('2026-02-02'),
    rows: [],
    more: 0,
    places: [{ id: 'ovay', name: 'Ovay Station' }],
    departments: [],
    mayAdd: false,
    mayExport: true,
    reads: [],
  };
  test('what is looked for stands in the address and is asked of the server', async () => {
    const sent = serve({ 'GET /records': view });
    at('/people?standing=left');
    expect(await screen.findByText('Nobody is found')).toBeTruthy();
    await userEvent.type(screen.getByLabelText('Name, post, place or department'), 'oke');
    expect(sent.at(-1)?.query.get('standing')).toBe('left');
    expect(sent.at(-1)?.query.get('words')).toBe('oke');
  });
});

describe('a person', () => {
  test('through time, each stretch is said with its days, and what is now or planned', async () => {
    serve({ 'GET /records/ina': page({ changes: null, mayChange: false }) });
    at('/people/ina');
    const line = within(await screen.findByRole('list', { name: 'Work pattern' }));
    expect(line.getAllByRole('listitem').map(one => one.title)).toEqual([
      'Office from Wed 1 January 2020 to Thu 30 April 2026',
      'Three days from Fri 1 May 2026',
    ]);
    expect(line.getByText(/, planned$/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Change the record' })).toBeNull();
  });

  test('without the right to see it, nothing of the record is there', async () => {
    serve({ 'GET /records/ina': page({ lines: null, changes: null, mayChange: false }) });
    at('/people/ina');
    expect(await screen.findByText(/is seen by them, by the line above/)).toBeTruthy();
  });

  test('what leave goes by is seen by them, and added and removed by HR', async () => {
    const circumstances = {
      all: [{ id: '1', words: 'A child, born Mon 30 September 2019' }],
      absences: [{ request: 'R-7', label: 'Sick leave, 2 to 13 March' }],
      types: [{ id: 'sick', name: 'Sick leave' }],
    };
    const sent = serve({
      'GET /records/ina': page({ circumstances }),
      'POST /records/preview': preview,
      'POST /records/changes': { id: 3 },
    });
    const mouse = userEvent.setup();
    at('/people/ina');
    const part = within(await screen.findByRole('region', { name: 'For leave' }));
    expect(part.getByText('A child, born Mon 30 September 2019')).toBeTruthy();
    await mouse.click(part.getByRole('button', { name: 'Add' }));
    const form = within(part.getByRole('form', { name: 'Add for leave' }));
    await mouse.click(form.getByRole('combobox', { name: 'What' }));
    await mouse.click(await screen.findByRole('option', { name: 'Back by stages' }));
    await mouse.click(form.getByRole('combobox', { name: 'While this absence goes on' }));
    await mouse.click(await screen.findByRole('option', { name: 'Sick leave, 2 to 13 March' }));
    await mouse.click(form.getByRole('spinbutton', { name: 'Day' }));
    await mouse.keyboard('09032026');
    expect(form.getByRole('button', { name: 'See what follows' })).toHaveProperty('disabled', true);
    await mouse.type(form.getByRole('textbox', { name: 'Hours a day' }), '2,5');
    await mouse.click(form.getByRole('button', { name: 'See what follows' }));
    await form.findByRole('region', { name: 'What follows' });
    expect(sent.find(one => one.path === '/records/preview')?.body).toMatchObject({
      change: {
        ...{ what: 'circumstance', person: 'ina', id: 'new' },
        holds: { is: 'stages', request: 'R-7', stages: [{ from: '2026-03-09', minutes: 150 }] },
      },
    });
  });

  test('a change shows what follows before it is made, and is made with a reason', async () => {
    const sent = serve({
      'GET /records/ina': page(),
      'GET /records/choices': choices,
      'POST /records/preview': preview,
      'POST /records/changes': { id: 3 },
    });
    const mouse = userEvent.setup();
    at('/people/ina');
    await mouse.click(await screen.findByRole('button', { name: 'Change the record' }));
    const form = within(screen.getByRole('form', { name: 'Change the record' }));
    expect(form.getByRole('button', { name: 'See what follows' })).toHaveProperty('disabled', true);
    await mouse.click(form.getByRole('combobox', { name: 'Work pattern' }));
    await mouse.click(await screen.findByRole('option', { name: 'Three days' }));
    await mouse.click(form.getByRole('spinbutton', { name: 'Day' }));
    await mouse.keyboard('01052026');
    await mouse.click(form.getByRole('button', { name: 'See what follows' }));
    const follows = within(await form.findByRole('region', { name: 'What follows' }));
    expect(follows.getByText(/5 days → 3 days/)).toBeTruthy();
    expect(follows.getByText('Nobody has the role Diver then.')).toBeTruthy();
    const make = form.getByRole('button', { name: 'Make the change' });
    expect(make).toHaveProperty('disabled', true);
    await mouse.type(form.getByLabelText('Why'), 'She asked for it.');
    await mouse.click(make);
    expect(sent.find(one => one.path.endsWith('/records/changes'))?.body).toEqual({
      change: { what: 'record', person: 'ina', from: '2026-05-01', set: { pattern: 'three' } },
      digest: preview.digest,
      reason: 'She asked for it.',
    });
  });

  test('what stands in the way is said at its place', async () => {
    serve({
      'GET /records/ina': page(),
      'GET /records/choices': choices,
      'POST /records/preview': new Refusal('Their first day is later.', [
        { field: 'change.from', message: 'Their first day is Wed 1 January 2020.' },
      ]),
    });
    const mouse = userEvent.setup();
    at('/people/ina');
    await mouse.click(await screen.findByRole('button', { name: 'Change the record' }));
    const form = within(screen.getByRole('form', { name: 'Change the record' }));
    await mouse.click(form.getByRole('combobox', { name: 'What changes' }));
    await mouse.click(await screen.findByRole('option', { name: 'Hours, as a share of full time' }));
    await mouse.type(form.getByLabelText('Hours in percent of full time'), '60');
    await mouse.click(form.getByRole('spinbutton', { name: 'Day' }));
    await mouse.keyboard('01012010');
    await mouse.click(form.getByRole('button', { name: 'See what follows' }));
    expect(await form.findByText('Their first day is Wed 1 January 2020.')).toBeTruthy();
  });

  test('several things are changed together, with one preview, and one that does not fit is said at its own field', async () => {
    const wrong = new Refusal('That cannot be.', [
      { field: 'change.changes.1.set.fte', message: 'More than nothing.' },
    ]);
    const sent = serve({ 'GET /records/ina': page(), 'GET /records/choices': choices, 'POST /records/preview': wrong });
    const mouse = userEvent.setup();
    at('/people/ina');
    await mouse.click(await screen.findByRole('button', { name: 'Change the record' }));
    const form = within(screen.getByRole('form', { name: 'Change the record' }));
    await mouse.click(form.getByRole('combobox', { name: 'Work pattern' }));
    await mouse.click(await screen.findByRole('option', { name: 'Three days' }));
    await mouse.click(form.getByRole('spinbutton', { name: 'Day' }));
    await mouse.keyboard('01052026');
    await mouse.click(form.getByRole('button', { name: 'Add another change' }));
    // It begins on the same day, and what is changed already is not offered again.
    const second = within(form.getByRole('group', { name: 'Hours, as a share of full time' }));
    await mouse.click(second.getByRole('combobox', { name: 'What changes' }));
    expect(screen.queryByRole('option', { name: 'Work pattern' })).toBeNull();
    await mouse.keyboard('{Escape}');
    expect(form.getByRole('button', { name: 'See what follows' })).toHaveProperty('disabled', true);
    await mouse.type(second.getByLabelText('Hours in percent of full time'), '60');
    await mouse.click(form.getByRole('button', { name: 'See what follows' }));
    expect(await second.findByText('More than nothing.')).toBeTruthy();
    expect(sent.find(one => one.path === '/records/preview')?.body).toMatchObject({
      change: {
        what: 'several',
        changes: [
          { what: 'record', person: 'ina', from: '2026-05-01', set: { pattern: 'three' } },
          { what: 'record', person: 'ina', from: '2026-05-01', set: { fte: 0.6 } },
        ],
      },
    });
    await mouse.click(second.getByRole('button', { name: /^Remove/ }));
    expect(form.queryByRole('group', { name: 'Hours, as a share of full time' })).toBeNull();
  });
});

describe('somebody new', () => {
  const choices = {
    places: [{ id: 'ovay', name: 'Ovay Station' }],
    departments: [{ id: 'observatory', name: 'Observatory' }],
    patterns: [{ id: 'office', name: 'Office' }],
    plans: [],
    posts: [{ id: 'lead', name: 'Lead', where: 'Observatory', holder: 'Tom Lund' }],
    roles: [],
  };
  test('is put on file once everything needed is said, with what stands in the way at its field', async () => {
    const sent = serve({
      'GET /records': { today: date('2026-02-02'), rows: [], more: 0, places: [], departments: [], mayAdd: true },
      'GET /records/choices': choices,
      'POST /records/preview': new Refusal('Tom Lund holds it.', [
        { field: 'change.post', message: 'Tom Lund holds it on Fri 13 March 2026.' },
      ]),
    });
    const mouse = userEvent.setup();
    at('/people');
    await mouse.click(await screen.findByRole('button', { name: 'Somebody new' }));
    const form = within(screen.getByRole('form', { name: 'Somebody new' }));
    const see = form.getByRole('button', { name: 'See what follows' });
    expect(see).toHaveProperty('disabled', true);
    await mouse.type(form.getByLabelText('Name'), 'Mika Ødegård');
    await mouse.type(form.getByLabelText('Mail address'), 'mika@selkie.example');
    await mouse.click(form.getByRole('spinbutton', { name: 'Day' }));
    await mouse.keyboard('13032026');
    for (const [field, value] of [
      ['Post (may stay empty)', /Lead/],
      ['Place', 'Ovay Station'],
      ['Department', 'Observatory'],
      ['Work pattern', 'Office'],
    ] as const) {
      await mouse.click(form.getByRole('combobox', { name: field }));
      await mouse.click(await screen.findByRole('option', { name: value }));
    }
    await mouse.click(see);
    expect(await form.findByText('Tom Lund holds it on Fri 13 March 2026.')).toBeTruthy();
    expect(sent.find(one => one.method === 'POST')?.body).toEqual({
      id: expect.any(String),
      change: {
        what: 'comes',
        person: {
          id: 'new',
          name: 'Mika Ødegård',
          mail: 'mika@selkie.example',
          joined: '2026-03-13',
          place: 'ovay',
          department: 'observatory',
          pattern: 'office',
          fte: 1,
          plan: null,
        },
        post: 'lead',
      },
    });
  });
});

describe('a change as it is sent', () => {
  test.each([
    ['fte', '62,5', '2026-03-01', { what: 'record', person: 'ina', from: '2026-03-01', set: { fte: 0.625 } }],
    ['fte', '', '2026-03-01', null],
    ['pattern', 'three', '', null],
    ['plan', '', '2026-03-01', { what: 'record', person: 'ina', from: '2026-03-01', set: { plan: null } }],
    ['left', '', '', { what: 'last day', person: 'ina', left: null }],
    ['dottedTo', '', '', { what: 'own', person: 'ina', set: { dottedTo: null } }],
    ['name', ' ', '', null],
  ] as const)('%s “%s” from “%s”', (kind, value, from, expected) => {
    expect(changeOf('ina', kind, value, from)).toEqual(expected);
  });
  test('a secondment needs its place and both of its days, and perhaps a post', () => {
    const seconded = (until: string, post = '') => changeOf('ina', 'seconded', 'hollin', '2026-03-02', { until, post });
    expect(seconded('')).toBeNull();
    const whole = { what: 'seconded', person: 'ina', from: '2026-03-02', to: '2026-05-29', place: 'hollin' };
    expect(seconded('2026-05-29')).toEqual({ ...whole, post: null });
    expect(seconded('2026-05-29', 'quay')).toEqual({ ...whole, post: 'quay' });
  });
  test('a cost centre and a personnel number may be taken away', () => {
    expect(changeOf('ina', 'costCentre', ' ', '2026-03-02')).toMatchObject({ set: { costCentre: null } });
    expect(changeOf('ina', 'number', ' 10412 ', '')).toMatchObject({ what: 'own', set: { number: '10412' } });
  });
});

test('the line of time reaches over what is planned, and not far behind the first day', () => {
  const { lines, joined, left, today } = page();
  expect(window({ lines: lines ?? [], joined: joined!, left, today })).toEqual({
    first: '2024-02-03',
    last: '2027-02-25',
  });
  const comes = { lines: [], joined: date('2026-03-13'), left: null, today };
  expect(window(comes).first).toBe('2026-02-02');
});
