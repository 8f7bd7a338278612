/** Calendars on secret addresses: read back by another reader, changed, cancelled, renewed, and shut to whoever guesses. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { FeedMade, FeedsView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import ICAL from 'ical.js';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { dropOldGone } from './index.ts';

let small: Small;
let ina: Browser;
let kay: Browser;
beforeAll(async () => {
  small = await startSmall();
  ina = await signedIn(small.base, 'ina');
  kay = await signedIn(small.base, 'kay');
});
afterAll(() => small.stop());

const book = (person: string, span: object, type = 'annual') =>
  kay.call<{ request: string }>('POST', '/leave', { id: randomUUID(), person, type, span, reason: 'By telephone' });
const halves = (from: string, to: string, first = 'am', last = 'pm') => ({
  from: { date: from, half: first },
  to: { date: to, half: last },
});

/** The part of an address behind the host, so that the house of the test is asked. */
const pathOf = ({ address }: FeedMade) => new URL(address).pathname;
const read = (path: string, headers: Record<string, string> = {}) => fetch(`${small.base}${path}`, { headers });
const eventsAt = async (path: string) => {
  const root = new ICAL.Component(ICAL.parse(await (await read(path)).text()) as never);
  return root.getAllSubcomponents('vevent').map(component => {
    const event = new ICAL.Event(component);
    return {
      uid: event.uid,
      sequence: event.sequence,
      title: event.summary,
      status: component.getFirstPropertyValue('status'),
      start: event.startDate.toString(),
      end: event.endDate.toString(),
      zone: event.startDate.isDate ? null : String(component.getFirstProperty('dtstart')?.getParameter('tzid')),
    };
  });
};
const make = async (who: Browser, of: string, group: string | null = null) =>
  (await who.call<FeedMade>('POST', '/feeds', { of, group })).body;

describe('a calendar on a secret address', () => {
  test('shows one’s leave by whole days, with the day after the last as its end, and halves with their times', async () => {
    const made = await make(ina, 'self');
    const path = pathOf(made);
    expect(path).toMatch(/^\/feeds\/[\w-]{43}\.ics$/);
    await book('ina', halves('2026-05-04', '2026-05-08'));
    await book('ina', halves('2026-06-01', '2026-06-01', 'pm'));
    await book('ina', halves('2026-07-06', '2026-07-08', 'am', 'am'));
    const events = await eventsAt(path);
    expect(events.map(({ start, end, zone }) => [start, end, zone])).toEqual([
      ['2026-05-04', '2026-05-09', null],
      ['2026-06-01T13:00:00', '2026-06-01T17:00:00', 'Europe/Lisbon'],
      ['2026-07-06T09:00:00', '2026-07-08T12:30:00', 'Europe/Lisbon'],
    ]);
    expect(events.map(event => event.title)).toEqual(['Annual leave', 'Annual leave', 'Annual leave']);
    expect(events.every(event => event.status === 'CONFIRMED')).toBe(true);
    // What is asked for is not settled.
    await ina.ask('2026-09-07', '2026-09-11');
    expect((await eventsAt(path)).at(-1)).toMatchObject({ status: 'TENTATIVE', title: 'Annual leave, asked for' });
  });

  test('keeps the id of what is changed and taken back, under a higher number', async () => {
    const path = pathOf(await make(ina, 'self'));
    const { body } = await book('ina', halves('2026-08-03', '2026-08-07'));
    const own = async () => (await eventsAt(path)).filter(event => event.uid.startsWith(`${body.request}@`));
    const [first] = await own();
    const version = async () => (await kay.get<{ version: number }>(`/requests/${body.request}`)).body.version;
    await kay.command(body.request, {
      kind: 'change leave',
      seen: await version(),
      span: halves('2026-08-03', '2026-08-05') as never,
      reason: 'Shorter',
    });
    const [second] = await own();
    expect(second).toMatchObject({ uid: first!.uid, end: '2026-08-06', status: 'CONFIRMED' });
    expect(second!.sequence).toBeGreaterThan(first!.sequence);
    await kay.command(body.request, { kind: 'void leave', seen: await version(), reason: 'Stays after all' });
    const gone = await own();
    expect(gone).toMatchObject([{ uid: first!.uid, status: 'CANCELLED' }]);
    expect(gone[0]!.sequence).toBeGreaterThan(second!.sequence);
  });

  test('is not sent again while nothing has changed', async () => {
    const path = pathOf(await make(ina, 'self'));
    const first = await read(path);
    const tag = first.headers.get('etag') as string;
    expect(first.headers.get('content-type')).toContain('text/calendar');
    for (const same of [tag, `W/${tag}`, `"another", ${tag}`])
      expect((await read(path, { 'If-None-Match': same })).status).toBe(304);
    await book('ina', halves('2026-10-19', '2026-10-19'));
    const again = await read(path, { 'If-None-Match': tag });
    expect(again.status).toBe(200);
    expect(again.headers.get('etag')).not.toBe(tag);
  });

  test('of a team says of colleagues that they are away, and to the line above which kind it is', async () => {
    await book('per', halves('2026-11-02', '2026-11-03'));
    const titles = async (who: Browser) =>
      (await eventsAt(pathOf(await make(who, 'team'))))
        .filter(event => event.start.startsWith('2026-11-02'))
        .map(e => e.title);
    expect(await titles(ina)).toEqual(['Per Lauder: Away']);
    expect(await titles(await signedIn(small.base, 'tom'))).toEqual(['Per Lauder: Annual leave']);
    const [row] = await small.db.select().from(t.leaveTypes).where(eq(t.leaveTypes.id, 'annual'));
    await small.db
      .update(t.leaveTypes)
      .set({ rules: { ...row!.rules, kindReadBy: 'HR' } })
      .where(eq(t.leaveTypes.id, 'annual'));
    await raiseDirectoryVersion(small.db);
    expect(await titles(await signedIn(small.base, 'tom'))).toEqual(['Per Lauder: Away']);
    await small.db.update(t.leaveTypes).set({ rules: row!.rules }).where(eq(t.leaveTypes.id, 'annual'));
    await raiseDirectoryVersion(small.db);
  });

  test('shows nothing of a right for which a second factor is required, since whoever reads an address gives none', async () => {
    const path = pathOf(await make(kay, 'place', 'ovay'));
    const shown = async () => (await eventsAt(path)).some(event => event.title.includes('Ina Okell'));
    expect(await shown()).toBe(true);
    await small.db.update(t.house).set({ factorRights: ['designer'] });
    expect(await shown().catch(() => false)).toBe(false);
    await small.db.update(t.house).set({ factorRights: null });
    expect(await shown()).toBe(true);
  });

  test('ends with its address: renewed, taken away, of somebody who may not look any more, and guessed', async () => {
    const made = await make(kay, 'place', 'ovay');
    expect((await read(pathOf(made))).status).toBe(200);
    const renewed = (await kay.call<FeedMade>('POST', `/feeds/${made.id}/renew`)).body;
    expect((await read(pathOf(made))).status).toBe(404);
    expect((await read(pathOf(renewed))).status).toBe(200);
    // Nobody else renews it or takes it away.
    expect((await ina.call('POST', `/feeds/${made.id}/renew`)).status).toBe(404);
    expect((await ina.call('DELETE', `/feeds/${made.id}`)).status).toBe(404);
    const rights = (await small.db.select().from(t.accounts).where(eq(t.accounts.person, 'kay')))[0]!.rights;
    await small.db.update(t.accounts).set({ rights: [] }).where(eq(t.accounts.person, 'kay'));
    expect((await read(pathOf(renewed))).status).toBe(404);
    await small.db.update(t.accounts).set({ rights }).where(eq(t.accounts.person, 'kay'));
    expect((await read(pathOf(renewed))).status).toBe(200);
    expect((await kay.get<FeedsView>('/feeds')).body[0]).toMatchObject({ name: 'Ovay Station', group: 'ovay' });
    await kay.call('DELETE', `/feeds/${made.id}`);
    expect((await read(pathOf(renewed))).status).toBe(404);
    for (const guess of ['x'.repeat(43), '..%2f..%2fetc', '', 'a'.repeat(4000)])
      expect((await read(`/feeds/${guess}.ics`)).status).toBeGreaterThanOrEqual(404);
  });

  test('of a line and of a set is what the planner shows of them, and ends with the set', async () => {
    const count = async (path: string) =>
      (await eventsAt(path)).filter(event => event.title.startsWith('Ina Okell')).length;
    const line = pathOf(await make(kay, 'line', 'tom'));
    expect(await count(line)).toBeGreaterThan(0);
    expect((await ina.call('POST', '/feeds', { of: 'line', group: 'tom' })).status).toBe(404);
    const query = 'place=ovay&words=ina&zoom=a+year';
    const sets = await kay.call<{ id: number }[]>('POST', '/sets', {
      place: 'planner',
      name: 'Ina',
      query,
      shared: false,
    });
    const id = sets.body.at(-1)!.id;
    const set = await make(kay, 'set', String(id));
    expect(await count(pathOf(set))).toBe(await count(line));
    // A set of somebody else that is not shared is nobody’s to look at.
    expect((await ina.call('POST', '/feeds', { of: 'set', group: String(id) })).status).toBe(404);
    await kay.call('DELETE', `/sets/${id}`);
    expect((await read(pathOf(set))).status).toBe(404);
    expect((await kay.get<FeedsView>('/feeds')).body.find(feed => feed.id === set.id)?.name).toBe(
      'A set that is no more',
    );
  });

  test('keeps nothing of what it does not tell any more', async () => {
    const gone = (request: string, lastDay: string) => ({
      ...{ request, person: 'ina', type: 'annual', sequence: 3, lastDay },
      span: halves(lastDay, lastDay) as never,
    });
    await small.db.insert(t.leaveGone).values([gone('L-old', '2025-09-01'), gone('L-new', '2026-01-20')]);
    await dropOldGone(small.serving.house);
    const left = await small.db.select().from(t.leaveGone);
    expect(left.map(one => one.request)).toEqual(expect.arrayContaining(['L-new']));
    expect(left.map(one => one.request)).not.toContain('L-old');
    // Nor of trips.
    const trip = (key: string, lastDay: string, isGone: boolean) => ({
      ...{ key, request: key, step: 'plan', person: 'ina', label: 'A trip', sequence: 3, gone: isGone },
      ...{ firstDay: lastDay, lastDay },
    });
    await small.db
      .insert(t.plannerLines)
      .values([
        trip('T-old', '2025-09-01', true),
        trip('T-new', '2026-01-20', true),
        trip('T-was', '2025-09-01', false),
      ]);
    await dropOldGone(small.serving.house);
    expect((await small.db.select().from(t.plannerLines)).map(one => one.key).sort()).toEqual(['T-new', 'T-was']);
  });

  test('stands beside at most nineteen others, and takes no bad wish', async () => {
    const per = await signedIn(small.base, 'per');
    for (const bad of [{ of: 'self', group: 'ovay' }, { of: 'place', group: null }, { of: 'all', group: null }, {}])
      expect((await per.call('POST', '/feeds', bad)).status).toBe(400);
    for (let n = 0; n < 20; n++)
      expect((await per.call('POST', '/feeds', { of: 'self', group: null })).status).toBe(201);
    expect((await per.call('POST', '/feeds', { of: 'self', group: null })).status).toBe(422);
  });
});
