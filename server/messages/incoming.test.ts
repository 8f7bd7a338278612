/** Deciding by mail, over real SMTP. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, houseNow, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { readAddress, replyAddress } from './address.ts';
import { isSender } from './checked.ts';
import { receive } from './incoming.ts';
import { asIncoming } from './smtpServer.ts';

let small: Small;
let ina: Browser;
let tom: Browser;
let week = 0;

beforeAll(async () => {
  small = await startSmall({ NP_SMTP_IN: '0' });
  ina = await signedIn(small.base, 'ina');
  tom = await signedIn(small.base, 'tom');
});
afterAll(() => small.stop());

const view = async (request: string) => (await ina.get<RequestView>(`/requests/${request}`)).body;
/** A request that waits for Tom, and the address that was mailed to him. */
async function waiting() {
  week++;
  const from = new Date(Date.UTC(2026, 2, 2 + 7 * week)).toISOString().slice(0, 10);
  const to = new Date(Date.UTC(2026, 2, 6 + 7 * week)).toISOString().slice(0, 10);
  const dates = { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } };
  const { body } = await ina.call<{ request: string }>('POST', '/requests', {
    id: crypto.randomUUID(),
    workflow: 'annual',
    answers: { kind: 'sick', dates },
  });
  const secret = await small.serving.house.secret(small.db);
  const [task] = (await view(body.request)).tasks;
  return {
    request: body.request,
    address: replyAddress(secret, 'selkie.example', task.id, task.holder, houseNow as Instant),
  };
}

type Sent = {
  from?: string;
  subject?: string;
  text?: string;
  html?: string;
  headers?: Record<string, string>;
  id?: string;
};
async function send(to: string, { from = 'tom@selkie.example', subject = 'Re: For you', id, ...mail }: Sent) {
  const mailServer = createTransport({ host: '127.0.0.1', port: small.serving.mailPort ?? 0, ignoreTLS: true });
  await mailServer.sendMail({ from, to, subject, ...(id ? { messageId: id } : {}), ...mail });
  mailServer.close();
}
/** What was written back to an address outside, newest last. */
const answers = async (to: string) =>
  (await small.db.select().from(t.effects).orderBy(t.effects.id)).flatMap(row =>
    row.payload.address === to ? [row.payload.body] : [],
  );
const verdicts = async () => (await small.db.select().from(t.receivedMails)).map(row => row.verdict);

describe('a reply by mail', () => {
  test('decides, as if it had been done on the desk, and is on the trail', async () => {
    const { request, address } = await waiting();
    await send(address, { text: 'Approve\n\nOn Monday North Pebble wrote:\n> Decline' });
    const after = await view(request);
    expect(after).toMatchObject({ status: 'closed', standing: 'Approved' });
    expect(after.trail.map(line => `${line.who} ${line.text}`)).toContain('Tom Lund answered “Approve” at step 3');
    expect(await answers('tom@selkie.example')).toEqual([]);
  });

  test('books nothing that the balance does not bear any more, as no decision does', async () => {
    const asked = await ina.ask('2026-07-06', '2026-07-10');
    expect(asked.status).toBe(201);
    const { request } = asked.body;
    const [task] = (await view(request)).tasks;
    const secret = await small.serving.house.secret(small.db);
    const address = replyAddress(secret, 'selkie.example', task.id, task.holder, houseNow as Instant);
    // Meanwhile so much is taken off that nothing is left.
    const off = { person: 'ina', type: 'annual', date: '2026-01-02', amount: -40, reason: 'Paid out' };
    await small.db.insert(t.leaveAdjustments).values(off);
    await send(address, { text: 'Approve' });
    const entries = await small.db.select().from(t.leaveEntries).where(eq(t.leaveEntries.request, request));
    expect(entries.map(entry => entry.state)).toEqual(['held']);
    const after = await view(request);
    expect(after.standing).not.toBe('Approved');
    expect(JSON.stringify(after.stuck ?? after.trail)).toContain('balance');
    await small.db.delete(t.leaveAdjustments).where(eq(t.leaveAdjustments.person, 'ina'));
  });

  test('with a note, in HTML', async () => {
    const { request, address } = await waiting();
    await send(address, { html: '<p>Decline</p><p>The boat is laid up.</p><blockquote>Approve</blockquote>' });
    const after = await view(request);
    expect(after.standing).toBe('Declined');
    expect(after.trail.map(line => line.note)).toContain('The boat is laid up.');
  });

  test('delivered twice, decides once', async () => {
    const { request, address } = await waiting();
    const id = `<twice-${request}@selkie.example>`;
    await send(address, { text: 'Approve', id });
    await send(address, { text: 'Approve', id });
    expect((await view(request)).trail.filter(line => line.text.startsWith('answered'))).toHaveLength(1);
    expect(await answers('tom@selkie.example')).toEqual([]);
  });

  test.each<[string, Sent, RegExp]>([
    [
      'unclear words',
      { text: 'Hm, perhaps' },
      /none of the answers.*Nothing has been decided.*Approve, Send back, Decline/s,
    ],
    ['a missing note', { text: 'Decline' }, /needs a note.*Nothing has been decided/s],
    ['nothing above the quote', { text: '> quoted only' }, /Nothing is written/],
    ['a forwarded mail', { text: 'Approve', subject: 'Fwd: For you' }, /forwarded/],
  ])('%s decide nothing and get a polite answer', async (_, mail, words) => {
    const { request, address } = await waiting();
    await send(address, mail);
    expect((await view(request)).status).toBe('open');
    expect((await answers('tom@selkie.example')).at(-1)).toMatch(words);
  });

  test('after an unclear one, the same address still takes a clear one', async () => {
    const { request, address } = await waiting();
    await send(address, { text: 'Who?' });
    await send(address, { text: 'Approve' });
    expect((await view(request)).status).toBe('closed');
  });

  test('machines get no answer', async () => {
    const { request, address } = await waiting();
    const before = (await answers('tom@selkie.example')).length;
    await send(address, { text: 'Approve', headers: { 'Auto-Submitted': 'auto-replied' } });
    await send(address, { text: 'Approve', subject: 'Out of office' });
    expect((await view(request)).status).toBe('open');
    expect(await answers('tom@selkie.example')).toHaveLength(before);
    expect((await verdicts()).filter(v => v === 'automatic')).toHaveLength(2);
  });

  test('from somebody else decides nothing, and tells nothing of the request', async () => {
    const { request, address } = await waiting();
    await send(address, { from: 'ina@selkie.example', text: 'Approve' });
    expect((await view(request)).status).toBe('open');
    const [answer] = await answers('ina@selkie.example');
    expect(answer).toMatch(/somebody else/);
    expect(answer).not.toContain(request);
  });

  test('written by two, taken back or hidden, decides nothing', async () => {
    const { request, address } = await waiting();
    await send(address, { from: 'tom@selkie.example, ina@selkie.example', text: 'Approve' });
    await send(address, { text: 'Approve\nNo, wait, do not do it.' });
    await send(address, { html: '<p>Why?</p><p style="display:none">Approve</p>' });
    expect((await view(request)).status).toBe('open');
  });

  test('too late for the request, says what happened', async () => {
    const { request, address } = await waiting();
    const { version, tasks } = await view(request);
    await tom.command(request, { kind: 'answer', seen: version, task: tasks[0].id, outcome: 'approve' });
    await send(address, { text: 'Decline\nNo.' });
    expect((await view(request)).standing).toBe('Approved');
    expect((await answers('tom@selkie.example')).at(-1)).toMatch(/Tom Lund answered it. It is closed/);
  });

  test('from an account that was closed, or of somebody who has left, decides nothing', async () => {
    const { request, address } = await waiting();
    const own = eq(t.accounts.person, 'tom');
    await small.db.update(t.accounts).set({ closed: true }).where(own);
    await send(address, { text: 'Approve' });
    expect((await view(request)).status).toBe('open');
    expect((await answers('tom@selkie.example')).at(-1)).toMatch(/account is not open/);
    await small.db.update(t.accounts).set({ closed: false }).where(own);
    await small.db.update(t.people).set({ leftOn: '2026-02-01' }).where(eq(t.people.id, 'tom'));
    await raiseDirectoryVersion(small.db);
    await send(address, { text: 'Approve', id: 'again@selkie.example' });
    expect((await view(request)).status).toBe('open');
    await small.db.update(t.people).set({ leftOn: null }).where(eq(t.people.id, 'tom'));
    await raiseDirectoryVersion(small.db);
  });

  test('to an address that has expired, or that nobody has made, decides nothing', async () => {
    const { request } = await waiting();
    const secret = await small.serving.house.secret(small.db);
    const [task] = (await view(request)).tasks;
    const old = replyAddress(secret, 'selkie.example', task.id, task.holder, '2026-01-01T10:00:00Z' as Instant);
    await send(old, { text: 'Approve' });
    expect((await answers('tom@selkie.example')).at(-1)).toMatch(/time to answer by mail is over/);
    const forged = replyAddress('guess', 'selkie.example', task.id, task.holder, houseNow as Instant);
    await send(forged, { text: 'Approve' });
    // It is no reply to a letter of ours, and is not answered at all.
    expect((await answers('tom@selkie.example')).at(-1)).toMatch(/time to answer by mail is over/);
    expect((await view(request)).status).toBe('open');
  });
});

describe('reply addresses', () => {
  const made = replyAddress('secret', 'selkie.example', 'R-12.3', 'tom' as PersonId, houseNow as Instant);
  test('say which task, for whom, and until when', () => {
    expect(readAddress('secret', made)).toEqual({ task: 'R-12.3', person: 'tom', expires: 1771236000 });
    expect(readAddress('secret', ` ${made.toUpperCase()} `)).toMatchObject({ task: 'R-12.3' });
  });
  test.each([
    ['another secret', (address: string) => readAddress('other', address)],
    ['another person', (address: string) => readAddress('secret', address.replace('.tom.', '.ina.'))],
    ['another task', (address: string) => readAddress('secret', address.replace('r-12.3', 'r-12.4'))],
    ['a later end', (address: string) => readAddress('secret', address.replace(/\.(\w+)\.tom/, '.zzzzzz.tom'))],
    ['no address', () => readAddress('secret', 'tom@selkie.example')],
  ])('cannot be made into %s', (_, change) => {
    expect(change(made)).toBeNull();
  });
});

test('what was received is kept, without its words', async () => {
  const rows = await small.db.select().from(t.receivedMails).where(eq(t.receivedMails.verdict, 'decided'));
  expect(rows.length).toBeGreaterThan(2);
  expect(Object.keys(rows[0]).sort()).toEqual(['at', 'id', 'request', 'sender', 'verdict']);
});

describe('the mail server’s own check of a sender', () => {
  const lines = (...fields: string[]) =>
    fields.map(line => ({ key: 'authentication-results', line: `Authentication-Results: ${line}` }));
  const checked = (...fields: string[]) => isSender(lines(...fields), 'tom@selkie.example', 'mx.selkie.example');

  test.each([
    ['a policy of the domain', 'mx.selkie.example; dmarc=pass (p=reject) header.from=selkie.example'],
    ['a signature of the domain', 'MX.selkie.example 1; spf=fail; dkim=pass header.d=selkie.example header.s=a'],
    ['the way it came', 'mx.selkie.example; spf=pass smtp.mailfrom=tom@selkie.example'],
  ])('is passed by %s', (_, field) => {
    expect(checked(field)).toBe(true);
  });
  test.each([
    ['no check', []],
    ['the word of another server', ['mx.evil.example; dmarc=pass header.from=selkie.example']],
    [
      'one that the mail brought along',
      ['mx.selkie.example; dmarc=fail', 'mx.selkie.example; dmarc=pass header.from=selkie.example'],
    ],
    ['a signature of somebody else', ['mx.selkie.example; dkim=pass header.d=evil.example']],
    ['a domain that only ends so', ['mx.selkie.example; dkim=pass header.d=selkie.example.evil.example']],
    ['a comment', ['mx.selkie.example; none (; dmarc=pass header.from=selkie.example)']],
  ])('is not passed by %s', (_, fields) => {
    expect(checked(...fields)).toBe(false);
  });

  test('is asked for where a server is named: then a reply without it decides nothing, and nobody is answered', async () => {
    const read = (field: string) =>
      asIncoming(
        `Authentication-Results: ${field}\r\nAuthentication-Results: mx.selkie.example; dmarc=pass header.from=selkie.example\r\nFrom: tom@selkie.example\r\n\r\nApprove`,
        { from: 'tom@selkie.example', to: [] },
        'mx.selkie.example',
      );
    expect((await read('mx.selkie.example; dmarc=fail header.from=selkie.example')).isChecked).toBe(false);
    expect((await read('mx.selkie.example; dmarc=pass header.from=selkie.example')).isChecked).toBe(true);
    const { request, address } = await waiting();
    const mail = await read('mx.selkie.example; dmarc=fail');
    const before = (await answers('tom@selkie.example')).length;
    expect(await receive(small.serving.house, { ...mail, to: [address] })).toBe('not checked');
    expect((await view(request)).status).toBe('open');
    expect(await answers('tom@selkie.example')).toHaveLength(before);
  });
});

describe('an odd mail', () => {
  const head = 'From: tom@selkie.example\r\nTo: x@selkie.example\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n';
  const nested = (n: number) =>
    `From: a@b.example\r\n${Array.from({ length: n }, (_, i) => `Content-Type: multipart/mixed; boundary=b${i}\r\n\r\n--b${i}\r\n`).join('')}\r\nx`;
  const inside = (n: number) => `From: a@b.example\r\n${'Content-Type: message/rfc822\r\n\r\n'.repeat(n)}\r\nx`;
  test.each([
    ['of 60,000 parts', `${head}${'--b\r\n\r\nx\r\n'.repeat(60_000)}--b--`],
    ['of 20,000 nestings', nested(20_000)],
    ['of 20,000 mails in one another', inside(20_000)],
    ['of 90,000 header lines', `${'X-A: b\r\n'.repeat(90_000)}From: tom@selkie.example\r\n\r\nApprove`],
    ['of 90,000 header lines in a part', `${head}--b\r\n${'X-A: b\r\n'.repeat(90_000)}\r\nApprove\r\n--b--`],
  ])('%s is turned down at once, and never comes again', async (_, raw) => {
    const mailServer = createTransport({ host: '127.0.0.1', port: small.serving.mailPort ?? 0, ignoreTLS: true });
    const envelope = { from: 'tom@selkie.example', to: ['x@selkie.example'] };
    await expect(mailServer.sendMail({ envelope, raw })).rejects.toMatchObject({ responseCode: 552 });
    mailServer.close();
  });
});
