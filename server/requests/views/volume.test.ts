/** Requests added up: whatever they are told apart by, the groups come to the same. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { VolumeView } from '@north-pebble/contract';
import type { Definition } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { decide, flow, good, who } from '../../../core/testing/run.ts';
import { tables as t } from '../../database/index.ts';
import { type Browser, putLive, type Small, signedIn, startSmall } from '../../testing/serving.ts';

const buying = {
  ...flow(decide({ who: who({ kind: 'role', role: 'HR partner' }), outcomes: [good] })),
  name: 'Buying',
  form: {
    fields: [
      { kind: 'choice', id: 'sort', label: 'Sort', required: false, options: ['Rope', 'Paint'] },
      { kind: 'money', id: 'price', label: 'Price', required: true, currency: 'EUR' },
      { kind: 'whole number', id: 'pieces', label: 'Pieces', required: true, least: 1 },
      { kind: 'text', id: 'why', label: 'Why', required: false, readers: ['Payroll'] },
      { kind: 'money', id: 'secret', label: 'Secret', required: false, currency: 'EUR', readers: ['Payroll'] },
    ],
  },
  figures: [
    { id: 'cost', name: 'Cost', formula: 'Price * Pieces', unit: 'money' },
    { id: 'bonus', name: 'Bonus', formula: 'Secret * 2', unit: 'money' },
    { id: 'more', name: 'More', formula: 'Bonus + Cost', unit: 'money' },
  ],
  messages: [],
  closings: [{ id: 'approved', name: 'Done', tone: 'good', message: null }],
} as unknown as Definition;

let small: Small;
let dora: Browser;
beforeAll(async () => {
  small = await startSmall();
  await putLive(small.db, 'buying', buying);
  dora = await signedIn(small.base, 'dora');
  const ask = async (person: string, sort: string | null, price: number, pieces: number) => {
    const browser = await signedIn(small.base, person);
    const answers = { sort, price, pieces, secret: 1000 };
    const sent = await browser.call('POST', '/requests', { id: randomUUID(), workflow: 'buying', answers });
    expect(sent.status).toBe(201);
  };
  await ask('ina', 'Rope', 0.1, 3);
  await ask('ina', 'Paint', 0.2, 1);
  await ask('tom', 'Rope', 19.99, 10);
  await ask('kay', null, 5, 2);
});
afterAll(() => small.stop());

const volume = async (query: string) =>
  (await dora.get<VolumeView>(`/requests/volume?workflow=buying&of=cost,price,pieces&${query}`)).body;

describe('requests added up', () => {
  test.each(['month', 'person', 'department', 'sort'])('by %s come to all of them, to the smallest unit', async by => {
    const { rows, total } = await volume(`by=${by}`);
    expect(total).toEqual({
      requests: 4,
      sums: {
        cost: [{ currency: 'EUR', sum: 210.4, held: 4 }],
        price: [{ currency: 'EUR', sum: 25.29, held: 4 }],
        pieces: [{ currency: null, sum: 16, held: 4 }],
      },
    });
    expect(rows.reduce((sum, row) => sum + row.requests, 0)).toBe(4);
    const cents = rows.reduce((sum, row) => sum + Math.round((row.sums.cost?.[0]?.sum ?? 0) * 100), 0);
    expect(cents).toBe(21_040);
  });

  test('are told apart by what the form says, the most first; what was left empty stands by itself', async () => {
    const { rows } = await volume('by=sort');
    expect(rows.map(row => [row.group, row.requests])).toEqual([
      ['Rope', 2],
      ['Nothing', 1],
      ['Paint', 1],
    ]);
    expect((await volume('by=person')).rows[0]).toMatchObject({ group: 'Ina Okell', requests: 2 });
  });

  test('of days in which nothing was asked for are none', async () => {
    expect((await volume('by=month&from=2030-01-01')).total).toEqual({ requests: 0, sums: {} });
    expect((await volume('by=month&to=2026-02-02')).total.requests).toBe(4);
  });

  test('offer nothing that only some may read, and refuse it where it is asked for', async () => {
    const { by, of } = await volume('by=month');
    expect([...by, ...of].map(one => one.id)).not.toEqual(expect.arrayContaining(['secret']));
    expect(by.map(one => one.id)).not.toContain('why');
    expect(of.map(one => one.id)).toEqual(['cost', 'price', 'pieces']);
    for (const query of [
      'of=bonus',
      'of=more',
      'of=secret',
      'by=why',
      'by=secret',
      'of=nothing',
      'from=2026-03-01&to=2026-02-01',
    ])
      expect((await dora.get(`/requests/volume?workflow=buying&${query}`)).status).toBe(400);
    expect((await dora.get('/requests/volume?workflow=none')).status).toBe(404);
  });

  test('tell an auditor nothing of a workflow that they may not see, neither sums nor shape', async () => {
    const per = await signedIn(small.base, 'per');
    expect((await per.get('/requests/volume?workflow=buying')).status).toBe(200);
    const own = eq(t.workflows.id, 'buying');
    await small.db
      .update(t.workflows)
      .set({ permissions: { see: ['kay'], edit: ['kay'], publish: ['kay'] } })
      .where(own);
    expect((await per.get('/requests/volume?workflow=buying')).status).toBe(404);
    expect((await per.get('/requests/shape/buying')).status).toBe(404);
    expect((await dora.get('/requests/volume?workflow=buying')).status).toBe(200);
    await small.db.update(t.workflows).set({ permissions: null }).where(own);
  });
});
