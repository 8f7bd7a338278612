/** @jest-environment jsdom */
import { afterEach, expect, test } from '@jest/globals';
import type { LinesView } from '@north-pebble/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { date, person } from '../../../../core/testing/house.ts';
import { here, open, serve, unserve } from '../../testing/page.tsx';
import { LinesPlace } from './LinesPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const post = (id: string, title: string, more: Partial<LinesView['posts'][number]> = {}) => ({
  id,
  title,
  where: 'Observatory',
  holder: null,
  holdsOthers: false,
  below: [],
  all: 0,
  dotted: [],
  mine: false,
  ...more,
});
const view = (more: Partial<LinesView> = {}): LinesView => ({
  ...{ next: null, version: 1 },
  day: date('2026-02-02'),
  today: date('2026-02-02'),
  top: ['director'],
  loose: ['ring'],
  posts: [
    post('director', 'Director', { holder: { id: person('dora'), name: 'Dora Quill' }, below: ['lead'], all: 2 }),
    post('lead', 'Lead', { below: ['observer'], all: 1 }),
    post('observer', 'Observer', { holder: { id: person('ina'), name: 'Ina Okell' }, mine: true }),
    post('ring', 'Ring'),
  ],
  mayMove: true,
  ...more,
});
const kay = here('kay', ['designer']);

test('the outline opens branch by branch, says what is vacant and what hangs on nothing', async () => {
  serve({ 'GET /lines': view({ mayMove: false }) });
  const mouse = userEvent.setup();
  open(<LinesPlace />, { as: kay });
  const outline = within(await screen.findByRole('tree', { name: 'Reporting lines' }));
  expect(outline.getByText('vacant: it goes up from here')).toBeTruthy();
  expect(outline.queryByText('Observer')).toBeNull();
  await mouse.click(outline.getByRole('button', { name: 'Lead: 1 below' }));
  expect(outline.getByRole('link', { name: 'Ina Okell' }).getAttribute('href')).toBe('/people/ina');
  expect(screen.getByText(/^Ring: the line goes in a circle/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: /^Move/ })).toBeNull();
  await mouse.click(screen.getByRole('button', { name: 'Close all' }));
  expect(outline.queryByText('Lead')).toBeNull();
});

test('a branch is moved as one, once what follows was seen and why is said; nobody moves their own', async () => {
  const sent = serve({
    'GET /lines': view(),
    'POST /records/preview': {
      digest: 'd'.repeat(64),
      says: ['Lead reports to Observer from Sun 1 March 2026.'],
      managers: [],
      leave: [],
      sums: [],
      balances: [],
      plans: [],
      open: [],
      notes: [],
    },
    'POST /records/changes': { id: 1 },
  });
  const mouse = userEvent.setup();
  open(<LinesPlace />, { as: kay });
  await mouse.click(await screen.findByRole('button', { name: 'Open all' }));
  expect(screen.getAllByRole('button', { name: /^Move/ }).map(one => one.textContent)).toEqual([
    'Move Director',
    'Move Lead',
  ]);
  await mouse.click(screen.getByRole('button', { name: 'Move Lead' }));
  const form = within(screen.getByRole('form', { name: 'Move Lead' }));
  expect(form.getByText('Move Lead, with the one post below it')).toBeTruthy();
  await mouse.click(form.getByRole('combobox', { name: 'Reports to' }));
  await mouse.click(await screen.findByRole('option', { name: /Ring/ }));
  await mouse.click(form.getByRole('spinbutton', { name: 'Day' }));
  await mouse.keyboard('01032026');
  await mouse.click(form.getByRole('button', { name: 'See what follows' }));
  await mouse.type(await form.findByLabelText('Why'), 'A new team.');
  await mouse.click(form.getByRole('button', { name: 'Move it' }));
  expect(sent.find(one => one.path.endsWith('/changes'))?.body).toMatchObject({
    change: { what: 'line', post: 'lead', from: '2026-03-01', reportsTo: 'ring' },
    reason: 'A new team.',
  });
});
