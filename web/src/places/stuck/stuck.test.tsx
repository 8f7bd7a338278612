/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { StuckRow } from '@north-pebble/contract';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { person } from '../../../../core/testing/house.ts';
import { commandsOf, now, open, Refusal, serve, unserve } from '../../testing/page.tsx';
import { StuckPlace } from './StuckPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const row = (request: string, change: Partial<StuckRow> = {}): StuckRow => ({
  request,
  version: 5,
  title: 'Travel',
  workflowName: 'Travel',
  askerName: `Asker of ${request}`,
  since: now,
  cause: 'no holder',
  step: 'decide',
  number: '3',
  words: 'Nobody has the role “Harbour master”.',
  remedies: ['appoint', 'try again'],
  ...change,
});
const people = { people: [{ id: person('kay'), name: 'Kay Voss', what: 'Keeper' }], roles: [] };
const sent = { request: 'R-1', version: 9 };

describe('what cannot go on', () => {
  test('says so when everything goes on', async () => {
    serve({ 'GET /requests/stuck': [] });
    open(<StuckPlace />);
    expect(await screen.findByText('Everything goes on')).toBeTruthy();
  });

  test('stands by cause, each with its reason and what helps', async () => {
    const mail = row('R-3', {
      cause: 'mail not delivered',
      workflowName: '',
      outbox: 7,
      number: '',
      remedies: ['send again', 'done by hand'],
    });
    serve({ 'GET /requests/stuck': [row('R-1'), mail, row('R-2')] });
    const user = userEvent.setup();
    open(<StuckPlace />);
    const holders = await screen.findByRole('region', { name: 'Nobody is found for a step' });
    expect(within(holders).getAllByRole('listitem')).toHaveLength(2);
    expect(holders.textContent).toContain('Step 3: Nobody has the role “Harbour master”.');
    const mails = screen.getByRole('region', { name: 'A mail does not go out' });
    await user.click(within(mails).getByRole('checkbox', { name: /^All/ }));
    expect(
      within(mails)
        .getAllByRole('button')
        .map(b => b.textContent),
    ).toEqual(['Send again (1)', 'Done by hand (1)']);
  });

  test('is given to somebody, all of one cause at once; what is refused stays with its reason', async () => {
    const seen = serve({
      'GET /requests/stuck': [row('R-1'), row('R-2', { cause: 'no holder', task: 'R-2.4' })],
      'GET /people': people,
      'POST /requests/R-1/commands': sent,
      'POST /requests/R-2/commands': new Refusal('Kay Voss is asked here already.'),
    });
    const user = userEvent.setup();
    open(<StuckPlace />);
    await user.click(await screen.findByRole('checkbox', { name: /^All/ }));
    await user.click(screen.getByRole('combobox', { name: 'Who is to do it' }));
    await user.click(await screen.findByRole('option', { name: /Kay Voss/ }));
    await user.click(screen.getByRole('button', { name: 'Assign 2 to them' }));
    expect((await screen.findByRole('alert')).textContent).toBe('Kay Voss is asked here already.');
    expect(commandsOf(seen)).toEqual([
      { seen: 5, kind: 'appoint', step: 'decide', to: 'kay' },
      { seen: 5, kind: 'appoint', step: 'decide', task: 'R-2.4', to: 'kay' },
    ]);
    expect(screen.getByRole('button', { name: 'Assign 1 to them' })).toBeTruthy();
  });

  test('a mail is marked as done by hand', async () => {
    const mail = row('R-3', { cause: 'mail not delivered', outbox: 7, remedies: ['send again', 'done by hand'] });
    const seen = serve({ 'GET /requests/stuck': [mail], 'POST /effects/7': null });
    const user = userEvent.setup();
    open(<StuckPlace />);
    await user.click(await screen.findByRole('checkbox', { name: /^All/ }));
    await user.click(screen.getByRole('button', { name: 'Done by hand (1)' }));
    await waitFor(() => expect(seen.find(s => s.path === '/effects/7')?.body).toEqual({ how: 'done' }));
  });
});
