import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { BalanceView, RequestView } from '@north-pebble/contract';
import { tables as t } from '../../database/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../../testing/serving.ts';

let small: Small;
let kay: Browser;
let ina: Browser;
beforeAll(async () => {
  small = await startSmall();
  kay = await signedIn(small.base, 'kay');
  ina = await signedIn(small.base, 'ina');
});
afterAll(() => small.stop());

const halves = (from: string, to: string) =>
  ({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } }) as never;
const book = (who: Browser, from: string, to: string, reason = 'Asked for by telephone') =>
  who.call<{ request: string }>('POST', '/leave', {
    id: randomUUID(),
    person: 'ina',
    type: 'annual',
    span: halves(from, to),
    reason,
  });
const statementOf = async () => {
  const [annual] = (await ina.get<BalanceView>('/balances/ina')).body.types;
  return annual.statement;
};

describe('leave that HR keeps', () => {
  test('is booked for days that have passed, changed and voided; trail, statement and mails say why', async () => {
    const before = (await statementOf()).balance;
    expect((await ina.ask('2026-01-12', '2026-01-14')).problem.detail).toContain('Turn to HR operations');
    const { body } = await book(kay, '2026-01-12', '2026-01-14');
    const booked = await statementOf();
    expect(booked.balance).toBe(before - 3);
    expect(booked.lines.at(-1)).toMatchObject({ date: '2026-01-12', until: '2026-01-14', request: body.request });
    expect(booked.lines.at(-1)?.reason).toContain('Asked for by telephone');

    const view = async () => (await kay.get<RequestView>(`/requests/${body.request}`)).body;
    const seen = await view();
    expect(seen).toMatchObject({ status: 'closed', subject: 'ina', may: { keepLeave: true } });
    const changed = await kay.command(body.request, {
      kind: 'change leave',
      seen: seen.version,
      span: halves('2026-01-12', '2026-01-13'),
      reason: 'Came back a day earlier',
    });
    expect(changed.status).toBe(200);
    expect((await statementOf()).balance).toBe(before - 2);
    const voided = await kay.command(body.request, {
      kind: 'void leave',
      seen: changed.body.version,
      reason: 'Was at the harbour after all',
    });
    expect(voided.status).toBe(200);
    expect((await statementOf()).balance).toBe(before);
    const trail = (await view()).trail;
    expect(trail.map(line => line.note)).toEqual(
      expect.arrayContaining(['Asked for by telephone', 'Came back a day earlier', 'Was at the harbour after all']),
    );
    const letters = await small.db.select().from(t.effects);
    const told = letters.map(l => l.payload).filter(letter => letter.to === 'ina');
    expect(told.map(letter => letter.subject.split(':')[0])).toEqual(['Booked', 'Changed', 'Voided']);
    expect((await kay.command(body.request, { kind: 'void leave', seen: 99, reason: 'Again' })).status).toBe(409);
  });

  test('does not lie over other leave, and not outside of employment', async () => {
    await ina.ask('2026-06-01', '2026-06-02');
    const clash = await book(kay, '2026-06-02', '2026-06-03');
    expect(clash).toMatchObject({ status: 400, problem: { faults: [{ field: 'dates' }] } });
    expect((await book(kay, '2019-06-03', '2019-06-04')).status).toBe(400);
    expect((await book(kay, '2026-06-09', '2026-06-09', '  ')).status).toBe(400);
    expect((await book(ina, '2026-06-09', '2026-06-09')).status).toBe(403);
  });
});
