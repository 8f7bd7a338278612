/** Letters that came back and invitations that calendars answered, over real SMTP. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import type { Definition } from '@north-pebble/core/workflow';
import { and, eq, like } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import { decide, flow, good, who } from '../../core/testing/run.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, putLive, type Small, signedIn, startSmall } from '../testing/serving.ts';

const meeting = {
  ...flow(
    {
      verb: 'Tell',
      id: 'invite',
      when: null,
      to: [who({ kind: 'asker' })],
      addresses: ['guest@post.example'],
      message: 'come',
      attach: [{ what: 'invitation', of: 'day', title: 'Talk' }],
    },
    decide({ who: who({ kind: 'role', role: 'HR partner' }), outcomes: [good] }),
  ),
  name: 'Meeting',
  form: { fields: [{ kind: 'date', id: 'day', label: 'Day', required: true }] },
  figures: [],
  messages: [{ id: 'come', name: 'Come', subject: 'Come', body: 'On {Day}.' }],
  closings: [{ id: 'approved', name: 'Done', tone: 'good', message: null }],
} as unknown as Definition;

let small: Small;
let ina: Browser;
beforeAll(async () => {
  small = await startSmall({ NP_SMTP_IN: '0' });
  await putLive(small.db, 'meeting', meeting);
  ina = await signedIn(small.base, 'ina');
});
afterAll(() => small.stop());

async function asked(): Promise<string> {
  const { body } = await ina.call<{ request: string }>('POST', '/requests', {
    id: randomUUID(),
    workflow: 'meeting',
    answers: { day: '2026-03-10' },
  });
  return body.request;
}
const trailOf = async (request: string) => (await ina.get<RequestView>(`/requests/${request}`)).body.trail;
const lettersTo = async (person: string, request: string) =>
  (
    await small.db
      .select()
      .from(t.effects)
      .where(and(like(t.effects.key, `${request}:%`), eq(t.effects.request, request)))
  ).filter(row => row.payload.to === person);

async function sendRaw(raw: string, from = ''): Promise<void> {
  const server = createTransport({ host: '127.0.0.1', port: small.serving.mailPort ?? 0, ignoreTLS: true });
  await server.sendMail({ envelope: { from, to: ['house@selkie.example'] }, raw });
  server.close();
}
const lines = (...all: string[]): string => all.join('\r\n');

const bounce = (id: string, address: string, action = 'failed') =>
  lines(
    'From: Mail Delivery <postmaster@post.example>',
    'To: house@selkie.example',
    'Subject: Undelivered',
    `Message-ID: <${randomUUID()}@post.example>`,
    'MIME-Version: 1.0',
    'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
    '',
    '--b',
    'Content-Type: text/plain',
    '',
    'It could not be delivered.',
    '--b',
    'Content-Type: message/delivery-status',
    '',
    'Reporting-MTA: dns; mx.post.example',
    '',
    `Final-Recipient: rfc822; ${address}`,
    `Action: ${action}`,
    'Status: 5.1.1',
    'Diagnostic-Code: smtp; 550 5.1.1',
    ' there is nobody of that name',
    '',
    '--b',
    'Content-Type: text/rfc822-headers',
    '',
    `Message-ID: ${id}`,
    'Subject: Come',
    '',
    '--b--',
    '',
  );

const answer = (uid: string, from: string, partstat: string) =>
  lines(
    `From: ${from}`,
    'To: house@selkie.example',
    'Subject: Re: Talk',
    `Message-ID: <${randomUUID()}@post.example>`,
    'MIME-Version: 1.0',
    'Content-Type: multipart/alternative; boundary="c"',
    '',
    '--c',
    'Content-Type: text/plain',
    '',
    'Approve',
    '--c',
    'Content-Type: text/calendar; method=REPLY; charset=UTF-8',
    '',
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'METHOD:REPLY',
    'BEGIN:VEVENT',
    `UID:${uid}`,
    `ATTENDEE;PARTSTAT=${partstat};CN="Somebody with a rather long name that is fol`,
    ` ded over two lines":mailto:${from}`,
    'DTSTART;VALUE=DATE:20260310',
    'END:VEVENT',
    'END:VCALENDAR',
    '--c--',
    '',
  );

const idOf = async (request: string, address: string): Promise<string> => {
  const rows = await small.db.select().from(t.effects).where(eq(t.effects.request, request));
  const row = rows.find(one => one.payload.address === address);
  return `<${encodeURIComponent(row?.key ?? '')}@selkie.example>`;
};

describe('a letter that comes back', () => {
  test('stands on the trail with its reason, and whoever has the request hears of it', async () => {
    const request = await asked();
    await sendRaw(bounce(await idOf(request, 'guest@post.example'), 'Guest@post.example'));
    const line = (await trailOf(request)).find(one => one.text.includes('came back'));
    expect(line).toMatchObject({
      text: 'a letter to guest@post.example came back',
      note: 'smtp; 550 5.1.1 there is nobody of that name',
    });
    const told = await lettersTo('dora', request);
    expect(told.map(row => row.payload.subject)).toContainEqual(expect.stringContaining('A letter came back'));
  });

  test.each([
    ['a delay', 'delayed', 'guest@post.example', null],
    ['another address than it went to', 'failed', 'other@post.example', null],
    ['a letter that was never sent', 'failed', 'guest@post.example', '<R-9999%3A1%3A0%3Ax@selkie.example>'],
    ['a broken id', 'failed', 'guest@post.example', '<%E0%A4%A@selkie.example>'],
  ])('%s says nothing', async (_, action, address, id) => {
    const request = await asked();
    await sendRaw(bounce(id ?? (await idOf(request, 'guest@post.example')), address, action));
    expect((await trailOf(request)).some(one => one.text.includes('came back'))).toBe(false);
  });
});

describe('an invitation that a calendar answers', () => {
  test.each([
    ['ACCEPTED', 'accepted in their calendar, invited at step 2'],
    ['TENTATIVE', 'may come in their calendar, invited at step 2'],
  ])('%s stands on the trail and decides nothing, whatever the mail says', async (partstat, words) => {
    const request = await asked();
    await sendRaw(answer(`${request}-invite@selkie.example`, 'ina@selkie.example', partstat), 'ina@selkie.example');
    const view = (await ina.get<RequestView>(`/requests/${request}`)).body;
    expect(view.status).toBe('open');
    expect(view.trail.at(-1)).toMatchObject({ who: 'Ina Okell', text: words });
  });

  test('declined, whoever has the request hears of it', async () => {
    const request = await asked();
    await sendRaw(answer(`${request}-invite@selkie.example`, 'guest@post.example', 'DECLINED'), 'guest@post.example');
    expect((await trailOf(request)).at(-1)).toMatchObject({ who: 'guest@post.example' });
    const told = await lettersTo('dora', request);
    expect(told.map(row => row.payload.subject)).toContainEqual(
      expect.stringContaining('guest@post.example does not come'),
    );
  });

  test.each([
    ['somebody who was not invited', 'kay@selkie.example', 'invite', 'ACCEPTED'],
    ['another invitation', 'ina@selkie.example', 'other', 'ACCEPTED'],
    ['an answer that is none', 'ina@selkie.example', 'invite', 'DELEGATED'],
  ])('of %s nothing is kept', async (_, from, step, partstat) => {
    const request = await asked();
    const before = (await trailOf(request)).length;
    await sendRaw(answer(`${request}-${step}@selkie.example`, from, partstat), from);
    expect(await trailOf(request)).toHaveLength(before);
  });
});
