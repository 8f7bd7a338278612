/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { BalanceView, ChangePreview, StandingsView, TriedView, YearEndView } from '@north-pebble/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { date, instant, person } from '../../../../core/testing/house.ts';
import { here, open, Refusal, serve, unserve } from '../../testing/page.tsx';
import { EveryonePlace } from './EveryonePlace.tsx';
import { Adjust } from './kept/Adjust.tsx';
import { FromElsewhere } from './kept/FromElsewhere.tsx';
import { OpeningBalance } from './kept/OpeningBalance.tsx';
import { WhatIf } from './WhatIf.tsx';
import { YearEndPlace } from './YearEndPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const statement = { balance: 20, expiring: [], lines: [], unit: 'days' as const, plan: 'Standard' };
const balance: BalanceView = {
  person: person('ina'),
  name: 'Ina Okell',
  today: date('2026-02-02'),
  types: [{ id: 'annual', name: 'Annual leave', held: 0, opening: null, statement, ahead: statement }],
  others: [],
  elsewhere: [],
  bookable: [],
};
const row = (
  id: string,
  name: string,
  more: Partial<StandingsView['rows'][number]> = {},
): StandingsView['rows'][number] => ({
  ...{ person: person(id), name, place: 'ovay', department: 'stores', unit: 'days', plan: 'Standard' },
  ...{ from: date('2026-01-01'), to: date('2026-12-31'), carried: 0, entitled: 26, adjusted: 0, taken: 0, planned: 0 },
  ...{ held: 0, lapsed: 0, lapsing: 0, atTurn: 0, lapsesOn: null, now: 26, free: 26 },
  ...more,
});
const standings: StandingsView = {
  today: date('2026-02-02'),
  type: 'annual',
  types: [{ id: 'annual', name: 'Annual leave' }],
  places: [{ id: 'ovay', name: 'Ovay Station' }],
  departments: [],
  plans: ['Standard'],
  rows: [
    row('ina', 'Ina Okell', { free: 20 }),
    row('per', 'Per Lauder', { now: -1, free: -3 }),
    row('kay', 'Kay Voss', { unit: 'hours', free: 96 }),
  ],
};

describe('everybody’s balances', () => {
  const look = (path = '/balances/everyone') => {
    serve({ 'GET /leave/balances': standings, 'GET /sets': [] });
    return open(<EveryonePlace />, { as: here('dora', ['administrator']), at: path });
  };

  test('are summed in each unit by itself, and what is below zero says so', async () => {
    look();
    expect(await screen.findByText(/3 people; 17 days left.*; 96 hours left/)).toBeTruthy();
    expect(screen.queryByRole('columnheader', { name: /Adjusted/ })).toBeNull();
  });

  test('are found by letters and filters that stand in the address', async () => {
    look('/balances/everyone?only=below+zero');
    expect(await screen.findByText(/^One person; -3 days left|^One person; −3 days left/)).toBeTruthy();
    await userEvent.type(screen.getByRole('textbox', { name: 'Name' }), 'zzz');
    expect(await screen.findByText('Nobody is found')).toBeTruthy();
  });
});

describe('the end of the leave year', () => {
  const end = (name: string, more: Partial<YearEndView['rows'][number]> = {}): YearEndView['rows'][number] => ({
    ...{
      person: person(name),
      name,
      on: date('2025-12-31'),
      unit: 'days',
      plan: 'Standard',
      balance: 9,
      carried: 5,
      lapses: 4,
    },
    ...{ open: 0, closed: null },
    ...more,
  });
  const view: YearEndView = {
    today: date('2026-02-02'),
    type: 'annual',
    types: [{ id: 'annual', name: 'Annual leave' }],
    until: date('2025-12-31'),
    rows: [
      end('Ina'),
      end('Per', { open: 1 }),
      end('Kay', { closed: { by: 'Dora Quill', at: instant('2026-01-05T09:00:00Z') } }),
    ],
  };

  test('says what closing does before it is done, and closes those that were looked at', async () => {
    const sent = serve({ 'GET /leave/year-end': view, 'GET /leave/pay': [], 'POST /leave/year-end': { closed: 2 } });
    open(<YearEndPlace />, { as: here('dora', ['administrator']), at: '/balances/year-end' });
    expect(await screen.findByText('3 leave years; 15 days carried, 12 days lapse')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Close what is over' }));
    expect(screen.getByText('Close 2 leave years?')).toBeTruthy();
    expect(screen.getByText(/1 of them has days that are still asked for/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Close them' }));
    expect(sent.find(one => one.method === 'POST')?.body).toEqual({ type: 'annual', until: '2025-12-31', years: 2 });
  });

  test('says why pay cannot be told of a period', async () => {
    serve({
      'GET /leave/year-end': { ...view, rows: [] },
      'GET /leave/pay': [{ id: 3, from: '2026-01-01', to: '2026-01-31', by: 'Dora Quill', at: '2026-02-01T09:00:00Z' }],
      'POST /leave/pay': new Refusal('No', [{ field: 'to', message: 'Tell pay of at most 400 days at once.' }]),
    });
    open(<YearEndPlace />, { as: here('dora', ['administrator']), at: '/balances/year-end' });
    expect(await screen.findByText('No leave year ended by then')).toBeTruthy();
    const told = await screen.findByRole('list', { name: 'What pay was told' });
    expect(within(told).getByRole('link').getAttribute('href')).toBe('/api/leave/pay/3/file.csv');
  });
});

describe('a balance of somebody', () => {
  const preview: ChangePreview = {
    digest: 'd'.repeat(64),
    says: ['Ina Okell: 2 put on the balance.'],
    managers: [],
    leave: [],
    sums: ['1 gains 2 days in all.'],
    balances: [{ name: 'Ina Okell', what: 'Annual leave', before: '20 days', after: '22 days' }],
    plans: [],
    open: [],
    notes: [],
  };

  test('is adjusted once what follows is shown and a reason is given', async () => {
    const sent = serve({ 'POST /records/preview': preview, 'POST /records/changes': { id: 1 } });
    open(<Adjust view={balance} />, { as: here('dora', ['administrator']) });
    await userEvent.click(screen.getByRole('button', { name: 'Adjust' }));
    await userEvent.type(screen.getByLabelText('Amount, in days'), 'two');
    expect(screen.getByText('Write a number, as 2 or -1.5.')).toBeTruthy();
    await userEvent.clear(screen.getByLabelText('Amount, in days'));
    await userEvent.type(screen.getByLabelText('Amount, in days'), '2');
    await userEvent.type(screen.getByLabelText('What the statement says'), 'Bought days');
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    expect(await screen.findByText('Balances: 1 gains 2 days in all.')).toBeTruthy();
    await userEvent.type(screen.getByLabelText('Why'), 'Paid in January');
    await userEvent.click(screen.getByRole('button', { name: 'Put it on the balance' }));
    expect(sent.at(-1)?.body ?? sent.find(one => one.path === '/records/changes')?.body).toBeDefined();
    expect(sent.find(one => one.path === '/records/changes')?.body).toMatchObject({
      change: { what: 'adjustment', person: 'ina', type: 'annual', amount: 2, reason: 'Bought days' },
      reason: 'Paid in January',
    });
  });

  test('has leave from elsewhere put right by the hour, and taken away', async () => {
    const sent = serve({ 'POST /records/preview': preview, 'POST /records/changes': { id: 1 } });
    const span = { from: { date: date('2026-03-02'), time: '09:00' }, to: { date: date('2026-03-02'), time: '11:30' } };
    const elsewhere = [{ id: 'before-1', type: 'annual', span, says: 'Annual leave, Mon 2 March' }] as never;
    const bookable = [{ id: 'annual', name: 'Annual leave', hasBalance: true }];
    open(<FromElsewhere view={{ ...balance, elsewhere, bookable }} />, { as: here('dora', ['administrator']) });
    await userEvent.click(screen.getByRole('button', { name: 'Leave from elsewhere' }));
    // Nothing is sent while its days are missing.
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'See what follows' }).disabled).toBe(true);
    await userEvent.click(screen.getByRole('combobox', { name: 'Booking' }));
    await userEvent.click(await screen.findByRole('option', { name: 'Annual leave, Mon 2 March' }));
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    await screen.findByText('Balances: 1 gains 2 days in all.');
    expect(sent.at(-1)?.body).toMatchObject({
      change: { what: 'booking', person: 'ina', id: 'before-1', booking: { type: 'annual', ...span } },
    });
    await userEvent.click(screen.getByRole('switch', { name: 'This leave is booked' }));
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    await userEvent.type(await screen.findByLabelText('Why'), 'Never taken');
    await userEvent.click(screen.getByRole('button', { name: 'Save the booking' }));
    expect(sent.find(one => one.path === '/records/changes')?.body).toMatchObject({
      change: { what: 'booking', person: 'ina', id: 'before-1', booking: null },
      reason: 'Never taken',
    });
  });

  test('begins with an opening balance, with what follows before it is saved, and without one again', async () => {
    const sent = serve({ 'POST /records/preview': preview, 'POST /records/changes': { id: 1 } });
    const opening = { on: date('2026-01-12'), own: 21.5, carried: 3, lapses: date('2026-03-31'), source: 'Payroll' };
    const [type] = balance.types;
    open(<OpeningBalance view={{ ...balance, types: [{ ...type!, opening }] }} />, {
      as: here('dora', ['administrator']),
    });
    await userEvent.click(screen.getByRole('button', { name: 'Opening balance' }));
    const own = screen.getByLabelText<HTMLInputElement>('Left of this leave year, in days');
    expect(own.value).toBe('21.5');
    await userEvent.clear(own);
    expect(screen.getByRole('button', { name: 'See what follows' }).hasAttribute('disabled')).toBe(true);
    await userEvent.type(own, '20,x');
    expect(screen.getByText('Write a number, as 21.5.')).toBeTruthy();
    await userEvent.clear(own);
    await userEvent.type(own, '20,5');
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    expect(await screen.findByText('Balances: 1 gains 2 days in all.')).toBeTruthy();
    expect(sent.find(one => one.path === '/records/preview')?.body).toMatchObject({
      change: { what: 'opening', person: 'ina', type: 'annual', opening: { ...opening, own: 20.5 } },
    });
    // Changed after it was shown, it is shown again before it is saved.
    await userEvent.click(screen.getByRole('switch', { name: /begins with an opening balance/ }));
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    await userEvent.type(await screen.findByLabelText('Why'), 'Never moved in');
    await userEvent.click(screen.getByRole('button', { name: 'Save the opening balance' }));
    expect(sent.find(one => one.path === '/records/changes')?.body).toMatchObject({
      change: { what: 'opening', opening: null },
      reason: 'Never moved in',
    });
  });

  test('answers what if, span by span, with what does not fit in its words', async () => {
    const tried: TriedView = [
      {
        amount: 5,
        unit: 'days',
        fits: false,
        after: -3,
        lowest: null,
        says: ['Only the first 2 days of them are free.'],
      },
    ];
    serve({ 'POST /balances/ina/try': tried });
    open(<WhatIf view={balance} type="annual" />, { as: here('dora', ['administrator']) });
    expect(screen.getByRole('heading', { name: 'What if Ina Okell took …' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Work it out' }).hasAttribute('disabled')).toBe(true);
    for (let n = 0; n < 3; n++) await userEvent.click(screen.getByRole('button', { name: 'Compare another' }));
    expect(screen.getByRole('button', { name: 'Compare another' }).hasAttribute('disabled')).toBe(true);
  });
});
