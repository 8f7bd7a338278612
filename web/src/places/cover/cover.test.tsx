/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { CoversView } from '@north-pebble/contract';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { date, person } from '../../../../core/testing/house.ts';
import { here, open, Refusal, serve, unserve } from '../../testing/page.tsx';
import { CoverPlace } from './CoverPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const view = (change: Partial<CoversView> = {}): CoversView => ({
  person: person('tom'),
  personName: 'Tom Lund',
  mine: [],
  others: [],
  suggested: [],
  workflows: [
    { id: 'annual', name: 'Annual leave' },
    { id: 'travel', name: 'Travel' },
  ],
  forOthers: false,
  ...change,
});
const row = {
  person: person('tom'),
  personName: 'Tom Lund',
  by: person('kay'),
  byName: 'Kay Voss',
  from: date('2026-02-09'),
  to: date('2026-02-13'),
  workflows: null,
  setByName: null,
};
const people = { people: [{ id: person('kay'), name: 'Kay Voss', what: 'Keeper' }], roles: [] };
const house = (covers: CoversView, put: unknown = covers) =>
  serve({ 'GET /covers': covers, 'GET /people': people, 'PUT /covers': put, 'DELETE /covers/tom/2026-02-09': null });

describe('who stands in', () => {
  test('says what happens when nobody does', async () => {
    house(view());
    open(<CoverPlace />, { at: '/cover' });
    expect(await screen.findByText(/Nobody stands in for you\. What comes while you are away waits/)).toBeTruthy();
    expect(screen.queryByRole('combobox', { name: /somebody else/ })).toBeNull();
  });

  test('names who stands in, for what, and who set it', async () => {
    const limited = { ...row, workflows: ['Annual leave'], setByName: 'Dora Quill' };
    house(view({ mine: [limited], others: [{ ...row, person: person('per'), personName: 'Per Lauder' }] }));
    open(<CoverPlace />, { at: '/cover' });
    const mine = await screen.findByRole('list', { name: 'In for you' });
    expect(mine.textContent).toContain('Kay Voss, Mon 9 to Fri 13 February');
    expect(mine.textContent).toContain('Annual leave · set by Dora Quill');
    expect(screen.getByText(/For Per Lauder/)).toBeTruthy();
  });

  test('is ended by whom it is for', async () => {
    const seen = house(view({ mine: [row] }));
    const user = userEvent.setup();
    open(<CoverPlace />, { at: '/cover' });
    await user.click(await screen.findByRole('button', { name: 'End it' }));
    await waitFor(() => expect(seen.some(s => s.method === 'DELETE')).toBe(true));
  });

  test('takes the days of approved leave, and only some workflows', async () => {
    const seen = house(view({ suggested: [{ from: date('2026-03-02'), to: date('2026-03-06') }] }));
    const user = userEvent.setup();
    open(<CoverPlace />, { at: '/cover' });
    await user.click(await screen.findByRole('button', { name: 'Take these days' }));
    await user.click(screen.getByRole('combobox', { name: 'Who stands in' }));
    await user.click(await screen.findByRole('option', { name: /Kay Voss/ }));
    await user.click(screen.getByRole('checkbox', { name: 'In every workflow' }));
    await user.click(screen.getByRole('checkbox', { name: 'Travel' }));
    await user.click(screen.getByRole('button', { name: 'Set it' }));
    await waitFor(() => expect(seen.some(s => s.method === 'PUT')).toBe(true));
    expect(seen.find(s => s.method === 'PUT')?.body).toEqual({
      person: 'tom',
      by: 'kay',
      from: '2026-03-02',
      to: '2026-03-06',
      workflows: ['travel'],
    });
  });

  test('a refusal stands at its field', async () => {
    const words = 'Kay Voss does not work here in that time.';
    house(
      view({ suggested: [{ from: date('2026-03-02'), to: date('2026-03-06') }] }),
      new Refusal(words, [{ field: 'by', message: words }]),
    );
    const user = userEvent.setup();
    open(<CoverPlace />, { at: '/cover' });
    await user.click(await screen.findByRole('button', { name: 'Take these days' }));
    await user.click(screen.getByRole('combobox', { name: 'Who stands in' }));
    await user.click(await screen.findByRole('option', { name: /Kay Voss/ }));
    await user.click(screen.getByRole('button', { name: 'Set it' }));
    const form = screen.getByRole('form', { name: 'New cover' });
    expect(await within(form).findByText(words)).toBeTruthy();
  });

  test('is set for somebody else by HR operations', async () => {
    const seen = house(view({ forOthers: true }));
    const user = userEvent.setup();
    open(<CoverPlace />, { at: '/cover', as: here('tom', ['designer']) });
    await user.click(await screen.findByRole('combobox', { name: 'For somebody else, who is ill' }));
    await user.click(await screen.findByRole('option', { name: /Kay Voss/ }));
    expect(screen.getByLabelText('Address').textContent).toBe('/cover?person=kay');
    await waitFor(() => expect(seen.at(-1)?.query.get('person')).toBe('kay'));
  });
});
