/** @jest-environment jsdom */
import { afterEach, expect, test } from '@jest/globals';
import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { here, open, Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { SignInPlace } from './SignInPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

test('whoever has a second factor is asked for its code; a wrong one keeps what was typed', async () => {
  const user = userEvent.setup();
  const sent = serve({
    'POST /session': ({ body }: Sent) => {
      if (body?.code === '123456') return {};
      const message = body?.code === undefined ? 'Give the code.' : 'This is not the code of now.';
      return new Refusal(message, [{ field: 'code', message }]);
    },
  });
  open(<SignInPlace demo={false} cards={[]} house="Mill Weir Trust" isNew={false} />, { as: here('ina') });
  expect(screen.queryByLabelText('Code of your second factor')).toBeNull();
  await user.type(screen.getByLabelText('Mail address'), 'ina@house.example');
  await user.type(screen.getByLabelText('Password'), 'a calm sea');
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  const code = await screen.findByLabelText('Code of your second factor');
  expect(screen.getByText('Give the code.')).toBeTruthy();
  expect(code.getAttribute('aria-invalid')).toBe('false');
  await user.type(code, '12');
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  expect(await screen.findByText(/Give the six figures/)).toBeTruthy();
  await user.type(code, '0000');
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  expect(await screen.findByText('This is not the code of now.')).toBeTruthy();
  expect(code.getAttribute('aria-invalid')).toBe('true');
  await user.clear(code);
  await user.type(code, '123 456');
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  await waitFor(() =>
    expect(sent.filter(one => one.method === 'POST').at(-1)?.body).toEqual({
      mail: 'ina@house.example',
      password: 'a calm sea',
      code: '123456',
    }),
  );
});
