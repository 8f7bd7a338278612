/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { AccountRow, SessionRow } from '@north-pebble/contract';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { here, open, Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { AccountsPlace } from './AccountsPlace.tsx';
import { OwnAccountPlace } from './OwnAccountPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const account = (more: Partial<AccountRow> = {}): AccountRow => ({
  person: 'ina',
  name: 'Ina Okell',
  mail: 'ina@house.example',
  rights: [],
  isOpen: true,
  closed: false,
  hasFactor: false,
  ...more,
});
const administrator = here('tom', ['administrator']);

describe('accounts', () => {
  test('say who was invited and has no password yet; they are invited again, and switched off', async () => {
    const rows = [account(), account({ person: 'per', name: 'Per Askim', isOpen: false })];
    const sent = serve({
      'GET /accounts': rows,
      'POST /accounts/per/invitation': rows,
      'PUT /accounts/ina': [account({ closed: true })],
    });
    const user = userEvent.setup();
    open(<AccountsPlace />, { as: administrator });
    const per = (await screen.findByText('Per Askim')).closest('li') as HTMLElement;
    expect(within(per).getByText(/invited, no password yet/)).toBeTruthy();
    await user.click(within(per).getByRole('button', { name: 'Invite again' }));
    expect(await within(per).findByText(/invited again/)).toBeTruthy();
    const ina = screen.getByText('Ina Okell').closest('li') as HTMLElement;
    await user.click(within(ina).getByRole('button', { name: 'Switch off' }));
    expect(await screen.findByText(/switched off/)).toBeTruthy();
    expect(sent.find(call => call.method === 'PUT')?.body).toEqual({ closed: true });
  });

  test('what is refused is said beside the account, and stays as it was', async () => {
    serve({
      'GET /accounts': [account({ rights: ['administrator'] })],
      'PUT /accounts/ina': new Refusal('Somebody must look after the house: make another person administrator first.'),
    });
    const user = userEvent.setup();
    open(<AccountsPlace />, { as: administrator });
    const right = await screen.findByRole('checkbox', { name: 'administrator' });
    await user.click(right);
    expect((await screen.findByRole('alert')).textContent).toContain('Somebody must look after the house');
    expect((right as HTMLInputElement).checked).toBe(true);
  });
});

describe('one’s own account', () => {
  const sessions: SessionRow[] = [
    { id: 'a', expires: '2026-03-01T10:00:00.000Z', isThis: true },
    { id: 'b', expires: '2026-03-02T10:00:00.000Z', isThis: false },
  ];

  test('a wrong password is said at its field, and nothing typed is lost', async () => {
    serve({
      'GET /sessions': sessions,
      'PUT /password': new Refusal('This is not your password.', [
        { field: 'before', message: 'This is not your password.' },
      ]),
    });
    const user = userEvent.setup();
    open(<OwnAccountPlace />);
    await user.type(screen.getByLabelText('The password you have'), 'wrong');
    await user.type(screen.getByLabelText('Another password'), 'a calm sea at low tide');
    await user.click(screen.getByRole('button', { name: 'Change the password' }));
    expect(await screen.findByText('This is not your password.')).toBeTruthy();
    expect((screen.getByLabelText('Another password') as HTMLInputElement).value).toBe('a calm sea at low tide');
  });

  test('one signs out everywhere else', async () => {
    const sent = serve({ 'GET /sessions': sessions, 'DELETE /sessions/others': null });
    const user = userEvent.setup();
    open(<OwnAccountPlace />);
    expect(await screen.findByText(/^Here, until/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Sign out everywhere else' }));
    expect(sent.some(call => call.method === 'DELETE')).toBe(true);
  });
});

describe('a second factor', () => {
  test('is set up with its first code, and shows its written codes once', async () => {
    const user = userEvent.setup();
    let isOn = false;
    const sent = serve({
      'GET /sessions': [],
      'GET /factor': () => ({ isOn, codesLeft: isOn ? 8 : 0, hasPassword: true }),
      'POST /factor': { address: 'otpauth://totp/a?secret=ABCDEFGH', secret: 'ABCDEFGH' },
      'PUT /factor': ({ body }: Sent) => {
        if (body?.code !== '123456')
          return new Refusal('No.', [{ field: 'code', message: 'This is not the code of now.' }]);
        isOn = true;
        return { codes: ['abcdefgh22', 'ijklmnop33'] };
      },
    });
    open(<OwnAccountPlace />, { as: here('ina') });
    await user.type(await screen.findByLabelText('Your password'), 'low-tide');
    await user.click(screen.getByRole('button', { name: 'Set one up' }));
    expect(await screen.findByText('ABCD EFGH')).toBeTruthy();
    expect(screen.getByRole('img', { name: /secret/i }).getAttribute('src')).toContain('svg');
    const code = screen.getByLabelText('Code');
    await user.type(code, '000000');
    await user.click(screen.getByRole('button', { name: 'Take it into use' }));
    expect(await screen.findByText('This is not the code of now.')).toBeTruthy();
    await user.clear(code);
    await user.type(code, '123456');
    await user.click(screen.getByRole('button', { name: 'Take it into use' }));
    expect(await screen.findByText('ijklmnop33')).toBeTruthy();
    expect(await screen.findByText(/8 are left/)).toBeTruthy();
    expect(sent.filter(one => one.path === '/factor' && one.method === 'PUT')).toHaveLength(2);
  });

  test('is required of a right, and the reason why not is said where that would lock out', async () => {
    const user = userEvent.setup();
    serve({
      'GET /accounts': [account({ hasFactor: true })],
      'GET /factor/required': { rights: [] },
      'PUT /factor/required': ({ body }: Sent) => {
        const rights = body?.rights as string[];
        if (rights.includes('administrator')) return new Refusal('Set a second factor up for yourself first.');
        return { rights };
      },
    });
    open(<AccountsPlace />, { as: administrator });
    const group = await screen.findByRole('group', { name: 'Second factor needed' });
    const [designers, administrators] = within(group).getAllByRole<HTMLInputElement>('checkbox');
    await user.click(designers);
    await waitFor(() => expect(designers.checked).toBe(true));
    await user.click(administrators);
    expect(await within(group).findByText(/for yourself first/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Take the second factor away' })).toBeTruthy();
  });
});
