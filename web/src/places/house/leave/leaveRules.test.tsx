/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { ChangePreview, LeaveRulesView } from '@north-pebble/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { annual, date, sick, standard } from '../../../../../core/testing/house.ts';
import { here, open, Refusal, serve, unserve } from '../../../testing/page.tsx';
import { LeaveRulesPlace } from './LeaveRulesPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const view: LeaveRulesView = {
  today: date('2026-02-02'),
  mayKeep: true,
  types: [{ ...annual, limits: [{ rule: 'presence', how: 'stops' }] }, sick],
  plans: [
    {
      ...standard,
      people: 8,
      rules: {
        ...standard.rules,
        later: [
          { from: date('2026-01-01'), rules: { ...standard.rules, perYear: [{ fromServiceYears: 0, amount: 27 }] } },
          { from: date('2027-01-01'), rules: { ...standard.rules, perYear: [{ fromServiceYears: 0, amount: 28 }] } },
        ],
      },
    },
  ],
  presence: [
    {
      id: 'watch',
      name: 'the watch',
      place: 'ovay',
      department: null,
      people: 3,
      weekdays: [1],
      from: null,
      to: null,
      there: 8,
      short: { days: 3, first: date('2026-02-07') },
    },
  ],
  places: [{ id: 'ovay', name: 'Ovay Station' }],
  departments: [],
};
const preview: ChangePreview = {
  digest: 'd'.repeat(64),
  says: ['Annual leave from Wed 1 July 2026 on: It is asked for at least 7 days before; otherwise it takes a reason.'],
  ...{ managers: [], leave: [], sums: [], balances: [], plans: [], open: [], notes: [] },
};
const look = (at: string, more: object = {}, shown: LeaveRulesView = view) => {
  const sent = serve({
    'GET /leave/rules': shown,
    'POST /records/preview': preview,
    'POST /records/changes': { id: 1 },
    ...more,
  });
  open(<LeaveRulesPlace />, { as: here('dora', ['administrator']), at });
  return sent;
};

describe('leave rules', () => {
  test('are read by everybody, and opened by whoever keeps them', async () => {
    look('/house/leave', {}, { ...view, mayKeep: false });
    const rules = within(await screen.findByRole('list', { name: 'Rules' }));
    expect(rules.getByText('The balance may not go below zero.')).toBeTruthy();
    expect(rules.queryByRole('button')).toBeNull();
    expect(screen.queryByRole('button', { name: 'New' })).toBeNull();
  });

  test('a rule is added, changed in its place, and what it says is sent with the day from which it holds', async () => {
    const sent = look('/house/leave');
    await userEvent.click(await screen.findByRole('button', { name: 'Another rule' }));
    await userEvent.click(screen.getByRole('menuitem', { name: 'How long before it is asked for' }));
    await userEvent.click(
      screen.getByRole('button', { name: 'It is asked for at least 7 days before; otherwise it takes a reason.' }),
    );
    const before = screen.getByLabelText('Days before');
    await userEvent.clear(before);
    await userEvent.type(before, '10');
    await userEvent.click(screen.getByRole('button', { name: 'Done' }));
    expect(screen.getByText('It is asked for at least 10 days before; otherwise it takes a reason.')).toBeTruthy();
    // Without the day from which it holds nothing can be looked at.
    expect(screen.getByRole('button', { name: 'See what follows' }).hasAttribute('disabled')).toBe(true);
    await userEvent.click(screen.getByRole('combobox', { name: 'It says so' }));
    await userEvent.click(screen.getByRole('option', { name: 'as it always should have' }));
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    expect(await screen.findByRole('region', { name: 'What follows' })).toBeTruthy();
    expect(sent.find(one => one.path === '/records/preview')?.body).toMatchObject({
      change: {
        what: 'leave type',
        from: null,
        type: { id: 'annual', limits: [{ rule: 'presence' }, { rule: 'notice', over: 0, days: 10, how: 'asks why' }] },
      },
    });
  });

  test('says how far what follows is, and shows none of it once it was stopped', async () => {
    let answer = (_: ChangePreview) => {};
    const worked = new Promise<ChangePreview>(done => {
      answer = done;
    });
    const routes: Record<string, unknown> = {
      'GET /leave/rules': view,
      'POST /records/preview': () => worked,
    };
    const underway = (key: string) =>
      key.startsWith('GET /records/preview/') ? { done: 100, all: 241 } : key.startsWith('DELETE') ? null : undefined;
    const sent = serve(new Proxy(routes, { get: (all, key: string) => all[key] ?? underway(key) }));
    open(<LeaveRulesPlace />, { as: here('dora', ['administrator']), at: '/house/leave' });
    await userEvent.click(await screen.findByRole('button', { name: 'Another rule' }));
    await userEvent.click(screen.getByRole('menuitem', { name: 'How long before it is asked for' }));
    await userEvent.click(screen.getByRole('combobox', { name: 'It says so' }));
    await userEvent.click(screen.getByRole('option', { name: 'as it always should have' }));
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    expect(await screen.findByText('It is worked out for everybody whom it concerns: 41 %.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Stop' }));
    answer(preview);
    expect(screen.getByRole('button', { name: 'See what follows' }).hasAttribute('disabled')).toBe(false);
    await worked;
    expect(screen.queryByRole('progressbar')).toBeNull();
    expect(screen.queryByRole('region', { name: 'What follows' })).toBeNull();
    expect(sent.filter(one => one.method === 'DELETE').map(one => one.path)).toEqual([
      expect.stringMatching(/^\/records\/preview\/[\w-]+$/),
    ]);
  });

  test('a plan through time shows what holds today, and takes a version away', async () => {
    const sent = look('/house/leave?rule=plan:standard');
    const versions = within(await screen.findByRole('group', { name: 'Through time' }));
    expect(
      versions.getByRole('button', { name: 'From Thu 1 January 2026, holds today' }).getAttribute('aria-pressed'),
    ).toBe('true');
    expect(screen.getByText('It earns 27 days a year.')).toBeTruthy();
    await userEvent.click(versions.getByRole('button', { name: 'From Fri 1 January 2027' }));
    expect(screen.getByText('It earns 28 days a year.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take away what it says from Fri 1 January 2027 on' }));
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    await screen.findByRole('region', { name: 'What follows' });
    expect(sent.find(one => one.path === '/records/preview')?.body).toMatchObject({
      change: { what: 'not from then', of: 'leave plan', id: 'standard', from: '2027-01-01' },
    });
  });

  test('a least number says what is wrong at its place, and nothing typed is lost', async () => {
    const fault = new Refusal('No', [
      { field: 'change.presence.people', message: '50 would be needed of 8 who are there. Nobody could ever be away.' },
    ]);
    look('/house/leave?rule=here:watch', { 'POST /records/preview': fault });
    expect(await screen.findByText('3 are needed at Ovay Station, on Monday. 8 are there today.')).toBeTruthy();
    expect(screen.getByText('On 3 days in the next eight weeks it cannot be met')).toBeTruthy();
    const many = screen.getByLabelText('So many are needed');
    await userEvent.clear(many);
    await userEvent.type(many, '50');
    await userEvent.click(screen.getByRole('button', { name: 'See what follows' }));
    expect(await screen.findByText(/50 would be needed of 8/)).toBeTruthy();
    expect((screen.getByLabelText('So many are needed') as HTMLInputElement).value).toBe('50');
  });

  test('what is not there says so', async () => {
    look('/house/leave?rule=plan:gone');
    expect(await screen.findByText('There is no such rule')).toBeTruthy();
  });
});
