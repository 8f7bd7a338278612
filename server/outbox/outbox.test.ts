import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { pino } from 'pino';
import type { Mail, MailConnection } from '../connections/mail.ts';
import { type Database, openDatabase, tables as t } from '../database/index.ts';
import { type House, openHouse } from '../house.ts';
import { houseNow, smallHouse } from '../testing/serving.ts';
import { deliverReady } from './index.ts';

let db: Database;
let house: House;
beforeAll(async () => {
  db = openDatabase(await smallHouse(), 8);
  house = openHouse({ db, log: pino({ level: 'silent' }), demo: true, wake: () => {} });
});
afterAll(() => db.pool.end());
beforeEach(() => db.delete(t.outbox));

const letter = (key: string, to = 'ina') => ({
  key,
  payload: { to, subject: key, body: 'Hello' },
  state: 'waiting' as const,
  attempts: 0,
  nextTry: 0,
  writtenAt: houseNow,
});

function postOffice(broken: (mail: Mail) => boolean = () => false) {
  const sent: Mail[] = [];
  const connection: MailConnection = {
    async send(mail) {
      if (broken(mail)) throw new Error('the mail server is shut');
      sent.push(mail);
    },
    close: () => {},
  };
  return { sent, connection };
}

const rows = () => db.select().from(t.outbox).orderBy(t.outbox.id);

describe('the outbox', () => {
  test('sends each letter once, in the order in which it was written, to the address on file', async () => {
    await db.insert(t.outbox).values(['a', 'b', 'c'].map(key => letter(key)));
    const { sent, connection } = postOffice();
    expect(await deliverReady(house, connection)).toBe(3);
    expect(sent.map(m => m.key)).toEqual(['a', 'b', 'c']);
    expect(sent[0]).toMatchObject({ to: { name: 'Ina Okell', mail: 'ina@selkie.example' }, at: houseNow });
    expect(await deliverReady(house, connection)).toBe(0);
    expect((await rows()).map(r => [r.state, r.attempts])).toEqual([
      ['sent', 1],
      ['sent', 1],
      ['sent', 1],
    ]);
  });

  test('a letter that fails waits longer each time, and holds no other up', async () => {
    await db.insert(t.outbox).values([letter('bad'), letter('good')]);
    const { sent, connection } = postOffice(mail => mail.key === 'bad');
    const pauses: number[] = [];
    for (let i = 0; i < 4; i++) {
      const before = Date.now();
      await deliverReady(house, connection);
      const [bad] = await rows();
      expect(bad).toMatchObject({ state: 'waiting', attempts: i + 1 });
      pauses.push(bad.nextTry - before);
      await db.update(t.outbox).set({ nextTry: 0 });
    }
    expect(sent.map(m => m.key)).toEqual(['good']);
    for (let i = 1; i < pauses.length; i++) expect(pauses[i]).toBeGreaterThan(pauses[i - 1] * 1.5);
  });

  test('two servers at once never take the same letter', async () => {
    await db.insert(t.outbox).values(Array.from({ length: 60 }, (_, i) => letter(`n${i}`)));
    const one = postOffice();
    const two = postOffice();
    await Promise.all([deliverReady(house, one.connection), deliverReady(house, two.connection)]);
    const keys = [...one.sent, ...two.sent].map(m => m.key);
    expect(keys).toHaveLength(60);
    expect(new Set(keys).size).toBe(60);
  });

  test('a claim that its server did not live to keep is free again after a while', async () => {
    await db.insert(t.outbox).values([{ ...letter('orphan'), nextTry: Date.now() + 10_000 }]);
    const { sent, connection } = postOffice();
    expect(await deliverReady(house, connection)).toBe(0);
    await db.update(t.outbox).set({ nextTry: Date.now() - 1 });
    expect(await deliverReady(house, connection)).toBe(1);
    expect(sent).toHaveLength(1);
  });

  test('a letter to someone who is not on file any more is put away, not tried for ever', async () => {
    await db.insert(t.outbox).values([letter('gone', 'nobody')]);
    const { sent, connection } = postOffice();
    await deliverReady(house, connection);
    expect(sent).toEqual([]);
    expect(await rows()).toMatchObject([{ state: 'sent' }]);
  });
});
