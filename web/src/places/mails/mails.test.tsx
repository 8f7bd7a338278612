/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import { usualMailChoice } from '@north-pebble/core/people';
import { cleanup, fireEvent, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { open, Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { MailsPlace } from './MailsPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const view = { choice: usualMailChoice, roles: ['HR partner'], zone: 'Europe/Lisbon' };
const house = (put: unknown = (sent: Sent) => ({ ...view, choice: sent.body })) =>
  serve({ 'GET /mail-choice': view, 'PUT /mail-choice': put });
const to = () => screen.getByLabelText(/^To\b(?!gether)/);
const saved = (sent: Sent[]) => sent.filter(s => s.method === 'PUT').map(s => s.body);

describe('how somebody wants their mails', () => {
  test('as usual at first: each at once, no quiet hours', async () => {
    house();
    open(<MailsPlace />);
    const own = await screen.findByRole('radiogroup', { name: 'What comes to you' });
    expect((own.querySelector('input:checked') as HTMLInputElement).value).toBe('each');
    expect(screen.getByText('Whoever holds it gets these too: HR partner.')).toBeTruthy();
    expect(screen.queryByLabelText(/daily mail at/)).toBeNull();
    expect(screen.getByText('Times are those of Europe/Lisbon.')).toBeTruthy();
  });

  test('a daily mail at a time, roles off, quiet hours over night', async () => {
    const sent = house();
    const user = userEvent.setup();
    open(<MailsPlace />);
    await user.click((await screen.findAllByRole('radio', { name: 'Together, once a day' }))[0]);
    expect(screen.getByText('Limits go on counting')).toBeTruthy();
    fireEvent.change(screen.getByLabelText(/The daily mail at/), { target: { value: '815' } });
    fireEvent.blur(screen.getByLabelText(/The daily mail at/));
    await user.click(screen.getByRole('radio', { name: /^None/ }));
    await user.click(screen.getByRole('checkbox', { name: /Quiet hours/ }));
    fireEvent.change(screen.getByLabelText(/^From/), { target: { value: '20' } });
    fireEvent.blur(screen.getByLabelText(/^From/));
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('Saved. It counts from the next mail on.')).toBeTruthy();
    expect(saved(sent)).toEqual([
      { own: 'daily', role: 'off', dailyAt: '08:15', quiet: { from: '20:00', to: '07:00' } },
    ]);
  });

  test('what is wrong is said at its place, and nothing is lost', async () => {
    house(
      new Refusal('The quiet hours end when they begin.', [
        { field: 'quiet.to', message: 'The quiet hours end when they begin.' },
      ]),
    );
    const user = userEvent.setup();
    open(<MailsPlace />);
    await user.click(await screen.findByRole('checkbox', { name: /Quiet hours/ }));
    fireEvent.change(to(), { target: { value: '19:00' } });
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('The quiet hours end when they begin.')).toBeTruthy();
    expect((to() as HTMLInputElement).value).toBe('19:00');
  });
});
