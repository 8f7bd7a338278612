import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { type MailChoice, usualMailChoice } from '@north-pebble/core/people';
import { pino } from 'pino';
import type { Mail, MailConnection } from '../connections/mail.ts';
import { type Database, openDatabase, tables as t } from '../database/index.ts';
import { type House, openHouse } from '../house/index.ts';
import { Proving } from '../proving/index.ts';
import { houseNow, smallHouse } from '../testing/serving.ts';
import { claim } from './claims.ts';
import { deliverReady, type Sender } from './index.ts';

let db: Database;
let house: House;
beforeAll(async () => {
  db = openDatabase(await smallHouse(), 8);
  house = openHouse({
    proving: new Proving(),
    db,
    log: pino({ level: 'silent' }),
    demo: true,
    address: 'http://pebble.example',
    wake: () => {},
  });
});
afterAll(() => db.pool.end());
const atTime = (now: string) => db.update(t.house).set({ now });
beforeEach(async () => {
  await db.delete(t.effects);
  await db.delete(t.mailChoices);
  await atTime(houseNow);
});

const letter = (key: string, to = 'ina') => ({
  key,
  payload: { to, subject: key, body: 'Hello' },
  state: 'waiting' as const,
  attempts: 0,
  nextTry: 0,
  writtenAt: houseNow,
});

/** @param pause milliseconds that the mail server takes over each mail */
function postOffice(broken: (mail: Mail) => boolean = () => false, pause = 0, lease?: number) {
  const sent: Mail[] = [];
  const mail: MailConnection = {
    async send(one) {
      if (broken(one)) throw new Error('the mail server is shut');
      if (pause > 0) await new Promise(done => setTimeout(done, pause));
      sent.push(one);
    },
    close: () => {},
  };
  const sender: Sender = { id: randomUUID(), mail, ...(lease ? { lease } : {}) };
  return { sent, sender };
}

const rows = () => db.select().from(t.effects).orderBy(t.effects.id);

describe('a letter to somebody who has left', () => {
  let number = 5000;
  const about = async (owner: string | null, asker = 'ina') => {
    number += 1;
    const request = `R-${number}`;
    await db.insert(t.requests).values({
      ...{ id: request, number, workflow: 'annual', workflowVersion: 1, asker, owner, status: 'open', title: 'Leave' },
      ...{ askedAt: houseNow, state: { request } as never },
    } as never);
    await db.insert(t.effects).values({ ...letter(`${request}:1:0:old`, 'old'), request });
  };
  const delivered = async () => {
    const { sent, sender } = postOffice();
    while ((await deliverReady(house, sender)) > 0);
    return sent;
  };

  test('about a request goes to its owner, once, and says whose it was', async () => {
    await about('kay');
    const [mail, ...more] = await delivered();
    expect(more).toEqual([]);
    expect(mail?.to).toEqual({ name: 'Kay Voss', mail: 'kay@selkie.example' });
    expect(mail?.text).toBe('This was for Olda Leaver, who left on Wed 31 December 2025.\n\nHello');
    expect((await rows()).every(row => row.state === 'delivered')).toBe(true);
  });

  test('goes to the asker where nobody else owns it, and to HR operations where the owner has left too', async () => {
    await about(null);
    expect((await delivered()).map(one => one.to.mail)).toEqual(['ina@selkie.example']);
    await db.delete(t.effects);
    await about('old');
    const operations = (await delivered()).map(one => one.to.mail);
    expect(operations.length).toBeGreaterThan(0);
    expect(operations).not.toContain('old@selkie.example');
  });
});

describe('the outbox', () => {
  test('sends each letter once, in the order in which it was written, to the address on file', async () => {
    await db.insert(t.effects).values(['a', 'b', 'c'].map(key => letter(key)));
    const { sent, sender } = postOffice();
    expect(await deliverReady(house, sender)).toBe(3);
    expect(sent.map(m => m.key)).toEqual(['a', 'b', 'c']);
    expect(sent[0]).toMatchObject({ to: { name: 'Ina Okell', mail: 'ina@selkie.example' }, at: houseNow });
    expect(await deliverReady(house, sender)).toBe(0);
    expect((await rows()).map(r => [r.state, r.attempts])).toEqual([
      ['delivered', 1],
      ['delivered', 1],
      ['delivered', 1],
    ]);
  });

  test('letters to several readers go out side by side, those to one reader in their order', async () => {
    await db.insert(t.effects).values([letter('a'), letter('b'), letter('c', 'per'), letter('d')]);
    const { sent, sender } = postOffice(undefined, 300);
    const { send } = sender.mail;
    let underWay = 0;
    let most = 0;
    sender.mail.send = async one => {
      most = Math.max(most, ++underWay);
      await send(one);
      underWay -= 1;
    };
    expect(await deliverReady(house, sender)).toBe(4);
    expect(most).toBe(2);
    expect(sent.map(mail => mail.key).filter(key => key !== 'c')).toEqual(['a', 'b', 'd']);
  });

  test('a letter about a request says where to open it: on the desk what waits there, nothing for an address outside', async () => {
    const task = letter('R-7:3:0:ina');
    const outside = letter('R-7:3:2:ada', '');
    await db
      .insert(t.effects)
      .values([
        { ...task, payload: { ...task.payload, task: 'R-7.1' } },
        letter('R-7:3:1:per', 'per'),
        { ...outside, payload: { ...outside.payload, address: 'ada@example.org' } },
      ]);
    const { sent, sender } = postOffice();
    await deliverReady(house, sender);
    expect(Object.fromEntries(sent.map(mail => [mail.to.mail, mail.link]))).toEqual({
      'ina@selkie.example': 'http://pebble.example/desk?item=R-7',
      'per@selkie.example': 'http://pebble.example/requests/R-7',
      'ada@example.org': undefined,
    });
  });

  test('a letter that fails waits longer each time, and holds no other up', async () => {
    await db.insert(t.effects).values([letter('bad'), letter('good')]);
    const { sent, sender } = postOffice(mail => mail.key === 'bad');
    const pauses: number[] = [];
    for (let i = 0; i < 4; i++) {
      const before = Date.now();
      await deliverReady(house, sender);
      const [bad] = await rows();
      expect(bad).toMatchObject({ state: 'waiting', attempts: i + 1 });
      pauses.push(bad.nextTry - before);
      await db.update(t.effects).set({ nextTry: 0 });
    }
    expect(sent.map(m => m.key)).toEqual(['good']);
    for (let i = 1; i < pauses.length; i++) expect(pauses[i]).toBeGreaterThan(pauses[i - 1] * 1.5);
  });

  test('two servers at once never take the same letter', async () => {
    await db.insert(t.effects).values(Array.from({ length: 60 }, (_, i) => letter(`n${i}`)));
    const one = postOffice();
    const two = postOffice();
    await Promise.all([deliverReady(house, one.sender), deliverReady(house, two.sender)]);
    const keys = [...one.sent, ...two.sent].map(m => m.key);
    expect(keys).toHaveLength(60);
    expect(new Set(keys).size).toBe(60);
  });

  test('a mail server that takes longer than a claim lasts gets each letter once, from whichever server', async () => {
    await db.insert(t.effects).values(Array.from({ length: 6 }, (_, i) => letter(`slow${i}`)));
    // A lease that a machine with much to do can still renew in time.
    const offices = [postOffice(undefined, 900, 600), postOffice(undefined, 900, 600)];
    const rounds = async ({ sender }: (typeof offices)[number]) => {
      for (let left = 1; left > 0; ) {
        await deliverReady(house, sender);
        left = (await rows()).filter(row => row.state === 'waiting').length;
      }
    };
    await Promise.all(offices.map(rounds));
    const keys = offices.flatMap(({ sent }) => sent.map(m => m.key));
    expect(new Set(keys).size).toBe(6);
    expect(keys).toHaveLength(6);
  });

  test('what is claimed for one connection never hides what waits for another, however often they look at once', async () => {
    const names = ['Accounts', 'Badges', 'Doors'];
    for (let round = 0; round < 20; round++) {
      await db.delete(t.effects);
      await db
        .insert(t.effects)
        .values(names.map(connection => ({ ...letter(connection), connection, target: 'R-1' })));
      const found = await Promise.all(names.map(name => claim(house, { id: randomUUID() }, name)));
      expect(found.map(rows => rows.map(row => row.connection))).toEqual(names.map(name => [name]));
    }
  });

  test('a claim that its server did not live to keep is free again after a while', async () => {
    await db.insert(t.effects).values([{ ...letter('orphan'), nextTry: Date.now() + 10_000 }]);
    const { sent, sender } = postOffice();
    expect(await deliverReady(house, sender)).toBe(0);
    await db.update(t.effects).set({ nextTry: Date.now() - 1 });
    expect(await deliverReady(house, sender)).toBe(1);
    expect(sent).toHaveLength(1);
  });

  test('a letter to someone who is not on file any more is put away, not tried for ever', async () => {
    await db.insert(t.effects).values([letter('gone', 'nobody')]);
    const { sent, sender } = postOffice();
    await deliverReady(house, sender);
    expect(sent).toEqual([]);
    expect(await rows()).toMatchObject([{ state: 'delivered' }]);
  });
});

describe('mails as their readers want them', () => {
  const choose = (person: string, change: Partial<MailChoice>) =>
    db.insert(t.mailChoices).values({ person, choice: { ...usualMailChoice, ...change } });
  const forRole = (key: string, to = 'ina') => ({
    ...letter(key, to),
    payload: { ...letter(key, to).payload, forRole: true as const },
  });

  test('mails to a role are not sent to those who turned them off', async () => {
    await choose('ina', { role: 'off' });
    await db.insert(t.effects).values([forRole('role'), letter('own'), forRole('other', 'tom')]);
    const { sent, sender } = postOffice();
    await deliverReady(house, sender);
    // They go out side by side, in whichever order.
    expect(sent.map(m => m.key).sort()).toEqual(['other', 'own']);
    expect((await rows()).map(r => r.state)).toEqual(['unwanted', 'delivered', 'delivered']);
  });

  test('daily ones are kept until their time and go out as one mail, once', async () => {
    await choose('ina', { own: 'daily', dailyAt: '07:30' });
    await db.insert(t.effects).values([letter('a'), letter('b'), letter('c', 'tom')]);
    const { sent, sender } = postOffice();
    await deliverReady(house, sender);
    expect(sent.map(m => m.key)).toEqual(['c']);
    await db.insert(t.effects).values([letter('later')]);
    await deliverReady(house, sender);
    await atTime('2026-02-03T07:29:00Z');
    expect(await deliverReady(house, sender)).toBe(0);
    await atTime('2026-02-03T07:30:00Z');
    await deliverReady(house, sender);
    expect(sent.slice(1)).toMatchObject([
      { key: 'daily:a', subject: '3 things since your last mail', to: { name: 'Ina Okell' } },
    ]);
    expect(await deliverReady(house, sender)).toBe(0);
    expect((await rows()).map(r => r.state)).toEqual(Array(4).fill('delivered'));
  });

  test('two servers send one daily mail', async () => {
    await choose('ina', { own: 'daily' });
    await db.insert(t.effects).values(Array.from({ length: 50 }, (_, i) => letter(`n${i}`)));
    const one = postOffice();
    const two = postOffice();
    await deliverReady(house, one.sender);
    await atTime('2026-02-04T00:00:00Z');
    await Promise.all([deliverReady(house, one.sender), deliverReady(house, two.sender)]);
    const sent = [...one.sent, ...two.sent];
    expect(sent.map(m => m.key)).toEqual(['daily:n0']);
    expect(sent[0].text.match(/•/g)).toHaveLength(50);
  });

  test('a daily mail that fails is tried again whole', async () => {
    await choose('ina', { own: 'daily' });
    await db.insert(t.effects).values([letter('a'), letter('b')]);
    let shut = true;
    const { sent, sender } = postOffice(() => shut);
    await deliverReady(house, sender);
    await atTime('2026-02-04T00:00:00Z');
    await deliverReady(house, sender);
    expect(await rows()).toMatchObject([
      { state: 'waiting', attempts: 1 },
      { state: 'waiting', attempts: 1 },
    ]);
    shut = false;
    await db.update(t.effects).set({ nextTry: 0 });
    await deliverReady(house, sender);
    expect(sent).toHaveLength(1);
  });

  test('nothing in quiet hours, on the reader’s own clock; answers to their mails go out at once', async () => {
    await choose('ina', { quiet: { from: '09:00', to: '17:00' } });
    const answer = { ...letter('answer'), payload: { ...letter('answer').payload, answers: '<m@selkie.example>' } };
    await db.insert(t.effects).values([letter('quiet'), answer]);
    const { sent, sender } = postOffice();
    await deliverReady(house, sender);
    expect(sent.map(m => m.key)).toEqual(['answer']);
    expect((await rows())[0].notBefore).toBe('2026-02-02T17:00:00Z');
    await atTime('2026-02-02T17:00:00Z');
    await deliverReady(house, sender);
    expect(sent.map(m => m.key)).toEqual(['answer', 'quiet']);
  });

  test('a mail server that is shut for an hour of house time loses nothing and sends nothing twice', async () => {
    await db.insert(t.effects).values(Array.from({ length: 30 }, (_, i) => letter(`m${i}`)));
    let shut = true;
    const { sent, sender } = postOffice(() => shut);
    for (let minute = 0; minute < 60; minute += 10) {
      await atTime(`2026-02-02T11:${String(minute).padStart(2, '0')}:00Z`);
      await deliverReady(house, sender);
      await db.update(t.effects).set({ nextTry: 0 });
    }
    expect(sent).toEqual([]);
    shut = false;
    await deliverReady(house, sender);
    await deliverReady(house, sender);
    expect(sent.map(m => m.key).sort()).toEqual(Array.from({ length: 30 }, (_, i) => `m${i}`).sort());
    expect((await rows()).every(r => r.state === 'delivered' && r.attempts === 7)).toBe(true);
  });
});
