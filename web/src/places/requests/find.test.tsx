/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { RequestRow, SavedSet } from '@north-pebble/contract';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { person } from '../../../../core/testing/house.ts';
import { address, here, now, open, type Sent, serve, unserve } from '../../testing/page.tsx';
import { Find } from './Find.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const row = (n: number): RequestRow => ({
  id: `R-${n}`,
  title: `Annual leave ${n}`,
  workflow: 'annual',
  workflowName: 'Annual leave',
  asker: person('ina'),
  askerName: 'Ina Okell',
  status: 'open',
  standing: 'waits for Tom Lund',
  askedAt: now,
  closedAt: null,
});
const sets: SavedSet[] = [
  {
    place: 'requests',
    id: 1,
    name: 'Open ones',
    query: 'status=open',
    shared: false,
    role: null,
    count: null,
    own: true,
    ownerName: 'Tom Lund',
  },
  {
    place: 'requests',
    id: 2,
    name: 'Stuck ones',
    query: 'whose=all&status=stuck',
    shared: true,
    role: null,
    count: null,
    own: false,
    ownerName: 'Dora Quill',
  },
];
const house = (rows: RequestRow[] = [row(2), row(1)], total = rows.length) =>
  serve({
    'GET /requests/find': { rows, total, next: null },
    'GET /askable': [{ id: 'annual', name: 'Annual leave', area: 'Leave', purpose: '' }],
    'GET /sets': sets,
    'POST /sets': sets,
    'DELETE /sets/1': null,
  });
const asked = (seen: Sent[]) =>
  seen
    .filter(s => s.path === '/requests/find')
    .at(-1)
    ?.query.toString();

describe('looking through requests', () => {
  test('says how many there are; the filters stand in the address and are asked for', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<Find />, { at: '/requests' });
    expect(await screen.findByText('2 requests')).toBeTruthy();
    await user.type(screen.getByRole('textbox', { name: 'Number, name or words' }), 'leave');
    await waitFor(() => expect(asked(seen)).toBe('words=leave'));
    expect(address()).toBe('/requests?words=leave');
    await user.click(screen.getByRole('combobox', { name: /Status/ }));
    await user.click(screen.getByRole('option', { name: 'cannot go on' }));
    await user.click(screen.getByRole('option', { name: 'going on' }));
    await user.keyboard('{Escape}');
    await waitFor(() => expect(asked(seen)).toBe('words=leave&status=open%2Cstuck'));
  });

  test.each([
    ['those who only ask', here('tom'), ['Yours', 'Those you have or had', 'Your people’s']],
    ['an auditor', here('tom', ['auditor']), ['Yours', 'Those you have or had', 'Your people’s', 'Everybody’s']],
  ])('whose it may be, for %s', async (_, as, expected) => {
    house();
    const user = userEvent.setup();
    open(<Find />, { as });
    await user.click(await screen.findByRole('combobox', { name: /Whose/ }));
    expect(screen.getAllByRole('option').map(o => o.textContent)).toEqual(expected);
  });

  test('columns are chosen, at least one, and the files have the same', async () => {
    house();
    const user = userEvent.setup();
    open(<Find />, { at: '/requests?columns=request,closed', as: here('kay', ['designer']) });
    const heads = async () => (await screen.findAllByRole('columnheader')).map(h => h.textContent);
    expect(await heads()).toEqual(['Request', 'Closed']);
    expect(screen.getByRole('link', { name: 'Download CSV' }).getAttribute('href')).toBe(
      '/api/requests/export.csv?columns=request%2Cclosed',
    );
    await user.click(screen.getByRole('combobox', { name: /Columns/ }));
    await user.click(screen.getByRole('option', { name: 'Closed' }));
    await user.click(screen.getByRole('option', { name: 'Request' }));
    await user.keyboard('{Escape}');
    expect(await heads()).toEqual(['Request']);
  });

  test('narrowed down by days, and widened again; whose they are stays', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<Find />, { at: '/requests?whose=held' });
    const from = await screen.findByRole('group', { name: 'Asked from' });
    await user.click(within(from).getByRole('spinbutton', { name: 'Day' }));
    await user.keyboard('02022026');
    expect(address()).toBe('/requests?whose=held&from=2026-02-02');
    await waitFor(() => expect(asked(seen)).toBe('whose=held&from=2026-02-02'));
    await user.click(screen.getByRole('button', { name: 'Without filters' }));
    expect(address()).toBe('/requests?whose=held');
    expect(screen.queryByRole('button', { name: 'Without filters' })).toBeNull();
  });

  test('nothing found says why there may be nothing', async () => {
    house([], 0);
    open(<Find />, { at: '/requests?words=whale' });
    expect(await screen.findByText('Nothing here fits these filters.')).toBeTruthy();
    cleanup();
    open(<Find />, { at: '/requests' });
    expect(await screen.findByText(/What you ask for stands here/)).toBeTruthy();
  });
});

describe('named sets', () => {
  test('are taken up with a click; only one’s own can go', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<Find />, { at: '/requests' });
    await user.click(await screen.findByRole('button', { name: 'Stuck ones (Dora Quill)' }));
    expect(address()).toBe('/requests?whose=all&status=stuck');
    expect(screen.getAllByTestId('CancelIcon')).toHaveLength(1);
    await user.click(screen.getByTestId('CancelIcon'));
    await waitFor(() => expect(seen.some(s => s.method === 'DELETE' && s.path === '/sets/1')).toBe(true));
  });

  test('keep the filters as they stand, for oneself or for others', async () => {
    const seen = house();
    const user = userEvent.setup();
    open(<Find />, { at: '/requests?status=rework' });
    await user.click(await screen.findByRole('button', { name: 'Keep these filters' }));
    const form = screen.getByRole('textbox', { name: 'Name of the set' }).closest('form') as HTMLElement;
    await user.type(within(form).getByRole('textbox'), 'Sent back');
    await user.click(within(form).getByRole('checkbox', { name: 'Others may use it' }));
    await user.click(within(form).getByRole('button', { name: 'Keep' }));
    await waitFor(() => expect(seen.find(s => s.method === 'POST')?.body).toBeTruthy());
    expect(seen.find(s => s.method === 'POST')?.body).toEqual({
      name: 'Sent back',
      query: 'status=rework',
      role: null,
      shared: true,
      place: 'requests',
    });
  });
});
