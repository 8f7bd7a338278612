/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import type { FormOutside } from '@north-pebble/contract';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { ApplyPlace } from './ApplyPlace.tsx';

const token = 'a'.repeat(43);
const field = (id: string, label: string, more: object = {}) => ({
  field: { kind: 'text', id, label, required: true, section: 'you', ...more },
  needed: true,
});
const form = (more: Partial<FormOutside> = {}): FormOutside => ({
  house: 'Selkie Sound Lights',
  name: 'Application',
  purpose: 'Tell us who you are.',
  shut: null,
  who: { name: 'name', mail: 'mail' },
  changes: false,
  until: null,
  later: ['Your application'],
  keptMonths: 6,
  sections: [
    {
      id: 'you',
      title: 'About you',
      help: null,
      fields: [
        field('name', 'Name'),
        field('mail', 'Mail'),
        field('post', 'Open post', { kind: 'pick', list: 'open-posts' }),
      ] as never,
    },
  ],
  lists: [
    {
      id: 'open-posts',
      rows: [
        { id: 'lead', title: 'Watch lead' },
        { id: 'mate', title: 'Mate' },
      ],
    },
  ],
  ...more,
});

// jsdom lays nothing out, so nothing scrolls.
Element.prototype.scrollIntoView = () => undefined;

let sent: unknown;
const shown = (more: Partial<FormOutside> = {}, hash = token): Sent[] => {
  window.location.hash = hash;
  const seen = serve({
    [`GET /public/${token}`]: form(more),
    [`POST /public/${token}`]: () => sent,
    [`POST /public/${token}/asked`]: { sections: form(more).sections },
  });
  render(<ApplyPlace />);
  return seen;
};
const posted = (seen: Sent[]) => seen.filter(one => one.method === 'POST' && one.path === `/public/${token}`);

beforeEach(() => {
  sent = { mail: 'lea@example.test' };
  localStorage.clear();
});
afterEach(() => {
  cleanup();
  unserve();
});

describe('the form at a public address', () => {
  test('says what it is, what comes later, and for how long it is kept', async () => {
    shown();
    expect(await screen.findByRole('heading', { name: 'Application' })).toBeTruthy();
    expect(screen.getByText(/There you go on with: Your application/)).toBeTruthy();
    expect(screen.getByText(/deleted 6 months after/)).toBeTruthy();
  });

  test('says at its place what is missing, and sends nothing before it is there', async () => {
    const user = userEvent.setup();
    const seen = shown();
    await user.click(await screen.findByRole('button', { name: 'Send, and go on by mail' }));
    expect(screen.getByText('Still missing: Name, Mail, Open post')).toBeTruthy();
    expect(screen.getAllByText('This is needed.')).toHaveLength(3);
    expect(document.activeElement).toBe(screen.getByRole('textbox', { name: 'Name' }));
    expect(posted(seen)).toEqual([]);
  });

  test('sends what was typed, with what was chosen on the way, and says where the link goes', async () => {
    const user = userEvent.setup();
    const seen = shown({}, `${token}.mate`);
    await user.type(await screen.findByRole('textbox', { name: 'Name' }), 'Léa O’Neill');
    await user.type(screen.getByRole('textbox', { name: 'Mail' }), 'lea@example.test');
    await user.click(screen.getByRole('button', { name: 'Send, and go on by mail' }));
    expect(await screen.findByText('A link is on its way to lea@example.test')).toBeTruthy();
    const [{ body }] = posted(seen);
    expect(body).toMatchObject({
      answers: { name: 'Léa O’Neill', mail: 'lea@example.test', post: 'mate' },
      website: '',
    });
    // What was sent is not left in the browser.
    expect(localStorage.length).toBe(0);
  });

  test('keeps what is typed when the page is closed, and what is sent again goes under the same id', async () => {
    const user = userEvent.setup();
    sent = new Refusal('The house does not answer.', [], 503);
    const first = shown({}, `${token}.lead`);
    await user.type(await screen.findByRole('textbox', { name: 'Name' }), 'Bo');
    await user.type(screen.getByRole('textbox', { name: 'Mail' }), 'bo@example.test');
    await user.click(screen.getByRole('button', { name: /^Send/ }));
    await screen.findByText('The house does not answer.');
    cleanup();
    unserve();
    sent = { mail: 'bo@example.test' };
    const again = shown();
    expect(((await screen.findByRole('textbox', { name: 'Name' })) as HTMLInputElement).value).toBe('Bo');
    await user.click(screen.getByRole('button', { name: /^Send/ }));
    await screen.findByText('A link is on its way to bo@example.test');
    expect(posted(again)[0].body?.id).toBe(posted(first)[0].body?.id);
  });

  test('says at its field what the house refuses, and leads there', async () => {
    const user = userEvent.setup();
    sent = new Refusal('Write the mail address.', [{ field: 'mail', message: 'Write the mail address.' }], 400);
    shown({}, `${token}.lead`);
    await user.type(await screen.findByRole('textbox', { name: 'Name' }), 'Bo');
    await user.type(screen.getByRole('textbox', { name: 'Mail' }), 'bo');
    await user.click(screen.getByRole('button', { name: /^Send/ }));
    expect((await screen.findByRole('alert')).textContent).toBe('Write the mail address.');
    await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('textbox', { name: 'Mail' })));
  });

  test('is cleared by hand, and shut where nothing is taken in', async () => {
    const user = userEvent.setup();
    shown();
    await user.type(await screen.findByRole('textbox', { name: 'Name' }), 'Bo');
    await user.click(screen.getByRole('button', { name: 'Clear it' }));
    expect((screen.getByRole('textbox', { name: 'Name' }) as HTMLInputElement).value).toBe('');
    expect(localStorage.length).toBe(0);
    cleanup();
    unserve();
    shown({ shut: 'This is not taken in now.', sections: [] });
    expect(await screen.findByText('This is not taken in now.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Send/ })).toBeNull();
  });

  test('asks the house what is asked with other answers, where that may be something else', async () => {
    const user = userEvent.setup();
    const seen = shown({ changes: true });
    await user.type(await screen.findByRole('textbox', { name: 'Name' }), 'B');
    await waitFor(() => expect(seen.some(one => one.path.endsWith('/asked'))).toBe(true));
  });

  test('has a line that people neither see nor come to, and says where it opens nothing', async () => {
    shown();
    await screen.findByRole('heading', { name: 'Application' });
    const line = document.querySelector<HTMLInputElement>('input[name=website]');
    expect([line?.tabIndex, line?.closest('[aria-hidden=true]') !== null]).toEqual([-1, true]);
    cleanup();
    unserve();
    window.location.hash = token;
    serve({ [`GET /public/${token}`]: new Refusal('This address does not work.', [], 404) });
    render(<ApplyPlace />);
    expect(await screen.findByText('This address does not work.')).toBeTruthy();
  });
});
