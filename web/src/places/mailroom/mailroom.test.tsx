/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import type { MailroomView, MailView } from '@north-pebble/contract';
import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { open, Refusal, serve, unserve } from '../../testing/page.tsx';
import { MailroomPlace } from './MailroomPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const mail = (change: Partial<MailView> = {}): MailView => ({
  id: '<1@selkie.example>',
  at: '2026-02-02T10:00:00.000Z',
  from: '"North Pebble" <north-pebble@selkie.example>',
  to: '"Tom Lund" <tom@selkie.example>',
  replyTo: 'decide+r-1.1@selkie.example',
  subject: 'For you to decide',
  text: 'Ina asks.',
  ...change,
});
const room = (mails: MailView[], change: Partial<MailroomView> = {}): MailroomView => ({
  mails,
  reachable: true,
  waiting: [],
  ...change,
});

describe('the Mailroom', () => {
  test('lets one answer as the recipient, where a reply is read', async () => {
    const seen = serve({ 'GET /mailroom': room([mail()]), 'POST /mailroom/answers': { sent: true } });
    const user = userEvent.setup();
    open(<MailroomPlace />, { at: '/mailroom' });
    await user.type(await screen.findByRole('textbox', { name: 'Answer as Tom Lund' }), 'Approve');
    await user.click(screen.getByRole('button', { name: 'Send the answer' }));
    expect(await screen.findByText(/^Sent\./)).toBeTruthy();
    expect(seen.find(s => s.method === 'POST')?.body).toEqual({ id: '<1@selkie.example>', text: 'Approve' });
  });

  test('offers no answer to a mail that cannot be answered', async () => {
    const { replyTo: _, ...plain } = mail();
    serve({ 'GET /mailroom': room([plain]) });
    open(<MailroomPlace />, { at: '/mailroom' });
    expect(await screen.findByText('Ina asks.')).toBeTruthy();
    expect(screen.queryByRole('textbox', { name: /^Answer as/ })).toBeNull();
  });

  test('keeps the answer when it could not be sent', async () => {
    serve({ 'GET /mailroom': room([mail()]), 'POST /mailroom/answers': new Refusal('The stand-in is shut.') });
    const user = userEvent.setup();
    open(<MailroomPlace />, { at: '/mailroom' });
    const field = await screen.findByRole('textbox', { name: 'Answer as Tom Lund' });
    await user.type(field, 'Approve');
    await user.click(screen.getByRole('button', { name: 'Send the answer' }));
    expect(await screen.findByText('The stand-in is shut.')).toBeTruthy();
    expect(field).toHaveProperty('value', 'Approve');
  });

  test('finds mails by recipient or subject, and says what waits to go out', async () => {
    const other = mail({ id: '<2@selkie.example>', to: 'per@selkie.example', subject: 'Approved' });
    const waiting = [{ to: 'ina' as never, subject: 'Reminder: boat', attempts: 3 }];
    serve({ 'GET /mailroom': room([mail(), other], { waiting, reachable: false }) });
    const user = userEvent.setup();
    open(<MailroomPlace />, { at: '/mailroom' });
    expect((await screen.findByRole('alert')).textContent).toContain('The stand-in for mail does not answer');
    expect(screen.getByText('Reminder: boat')).toBeTruthy();
    await user.type(screen.getByRole('textbox', { name: /^Filter/ }), 'per@');
    await waitFor(() => expect(screen.queryByRole('button', { name: /For you to decide/ })).toBeNull());
    expect(screen.getByRole('button', { name: /Approved/ })).toBeTruthy();
  });
});
