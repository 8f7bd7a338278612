/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { ConnectionsView, ConnectionView } from '@north-pebble/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { index } from '../../../../core/testing/house.ts';
import { here, open, Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { ConnectionsPlace, standing } from './ConnectionsPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const one = (more: Partial<ConnectionView> = {}): ConnectionView => ({
  name: 'Directory',
  kind: 'http',
  shown: { address: 'https://directory.example/calls', inside: false },
  paused: false,
  usable: true,
  waiting: 0,
  ahead: 0,
  failing: 0,
  refused: 0,
  delivered: 12,
  fault: null,
  ...more,
});
const view = (more: Partial<ConnectionsView> = {}): ConnectionsView => ({
  connections: [one({ name: 'mail', kind: 'mail', shown: {} }), one()],
  kinds: [
    {
      kind: 'http',
      name: 'Signed calls to another system',
      fields: [
        { name: 'address', kind: 'address', label: 'Address', help: null },
        { name: 'secret', kind: 'secret', label: 'Secret that calls are signed with', help: null },
        { name: 'inside', kind: 'yes', label: 'It may be in a private network', help: null },
      ],
    },
  ],
  missing: [],
  failed: [],
  ...more,
});
const administrator = here('tom', ['administrator']);

describe('how a connection goes, in a sentence', () => {
  test.each([
    [one(), '12 delivered.'],
    [one({ waiting: 2, refused: 1 }), '12 delivered, 2 on the way, 1 refused.'],
    [
      one({ waiting: 3, failing: 2, fault: 'it answered 503' }),
      '2 of 3 that wait were tried in vain: it answered 503.',
    ],
    [one({ ahead: 3 }), '12 delivered, 3 to be taken back on their day.'],
    [one({ paused: true, waiting: 4 }), 'Paused; 4 wait.'],
    [one({ usable: false }), 'Its settings are not understood any more. Set it up anew.'],
  ])('%#', (connection, words) => {
    expect(standing(connection)).toBe(words);
  });
});

describe('the page', () => {
  test('sets up what nobody has set up yet, by the name that workflows use, with a secret made for it', async () => {
    const sent = serve({
      'GET /connections': view({ missing: [{ name: 'Door keys', waiting: 3 }] }),
      'PUT /connections/Door%20keys': view(),
    });
    const user = userEvent.setup();
    open(<ConnectionsPlace />, { as: administrator });
    expect(await screen.findByText('Nobody has set up “Door keys”')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Set it up' }));
    const form = screen.getByRole('form', { name: 'A new connection' });
    expect((within(form).getByLabelText(/^Name/) as HTMLInputElement).value).toBe('Door keys');
    await user.type(within(form).getByLabelText(/^Address/), 'keys.example/calls');
    await user.click(within(form).getByRole('button', { name: 'Make one' }));
    await user.click(within(form).getByRole('button', { name: 'Set it up' }));
    const put = sent.find((call: Sent) => call.method === 'PUT');
    expect(put?.body).toMatchObject({
      kind: 'http',
      settings: { address: 'https://keys.example/calls', inside: false },
    });
    expect(put?.body?.settings).toMatchObject({ secret: expect.stringMatching(/^[0-9a-f]{48}$/) });
  });

  test('what is wrong stands at its field, and nothing typed is lost', async () => {
    serve({
      'GET /connections': view(),
      'PUT /connections/Payroll': new Refusal('Use at least sixteen letters and figures.', [
        { field: 'secret', message: 'Use at least sixteen letters and figures.' },
      ]),
    });
    const user = userEvent.setup();
    open(<ConnectionsPlace />, { as: administrator });
    await user.click(await screen.findByRole('button', { name: 'Set up a connection' }));
    const form = screen.getByRole('form', { name: 'A new connection' });
    await user.type(within(form).getByLabelText(/^Name/), 'Payroll');
    await user.type(within(form).getByLabelText(/^Secret/), 'short');
    await user.click(within(form).getByRole('button', { name: 'Set it up' }));
    expect(await within(form).findByText('Use at least sixteen letters and figures.')).toBeTruthy();
    expect((within(form).getByLabelText(/^Secret/) as HTMLInputElement).value).toBe('short');
  });

  test('who is no administrator reads how it goes and changes nothing', async () => {
    serve({ 'GET /connections': view() });
    open(<ConnectionsPlace />);
    expect(await screen.findByText('https://directory.example/calls')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});

describe('groups that go with a post or a place', () => {
  const kinds = [
    {
      kind: 'directory',
      name: 'A directory',
      fields: [
        { name: 'address', kind: 'address' as const, label: 'Base address', help: null },
        { name: 'groups', kind: 'group rules' as const, label: 'Groups that go with a post', help: null },
      ],
    },
  ];
  const shown = { address: 'https://directory.example', groups: [{ by: 'place', value: 'Ovay', group: 'Ovay all' }] };
  test('a line is added from what the house and the directory have, and a fault stands at its place', async () => {
    const mouse = userEvent.setup();
    const sent = serve({
      'GET /connections': view({ kinds, connections: [one({ kind: 'directory', shown })] }),
      'GET /directory': { ...index.directory, next: null, version: 1 },
      'GET /connections/Directory/named': { names: ['Lamp console', 'Tide console'], more: 4, fault: null },
      'PUT /connections/Directory': new Refusal('Say which post.', [
        { field: 'groups.1.value', message: 'Say which post.' },
      ]),
    });
    open(<ConnectionsPlace />, { as: administrator });
    await mouse.click(await screen.findByRole('button', { name: /^Change/ }));
    expect(within(screen.getByRole('group', { name: 'Line 1' })).getByLabelText('Group')).toHaveProperty(
      'value',
      'Ovay all',
    );
    await mouse.click(screen.getByRole('button', { name: 'Add a group' }));
    const line = within(screen.getByRole('group', { name: 'Line 2' }));
    await mouse.click(line.getByLabelText('Group'));
    await mouse.click(await screen.findByRole('option', { name: 'Tide console' }));
    await mouse.click(screen.getByRole('button', { name: 'Save' }));
    await line.findByText('Say which post.');
    expect(sent.find(call => call.method === 'PUT')?.body).toMatchObject({
      settings: { groups: [...shown.groups, { by: 'post', value: '', group: 'Tide console' }] },
    });
  });
});
