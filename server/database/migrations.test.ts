/** What migrations make of rows that were there before them. */
import { readFileSync } from 'node:fs';
import { expect, test } from '@jest/globals';
import { asc, like, sql } from 'drizzle-orm';
import { smallHouse } from '../testing/serving.ts';
import { openDatabase, tables as t } from './index.ts';

const statementsOf = (name: string): string[] =>
  readFileSync(new URL(`migrations/${name}.sql`, import.meta.url), 'utf8').split('--> statement-breakpoint');

test('what waits for its last day waits for the end of it; what is taken back for another reason is left', async () => {
  const db = openDatabase(await smallHouse(), 1);
  const row = {
    payload: { to: 'ines', subject: 's', body: 'b' },
    attempts: 0,
    nextTry: 0,
    writtenAt: '2026-02-02T10:00:00Z',
  };
  await db.insert(t.effects).values([
    { ...row, key: 'm1', state: 'waiting', undoes: 'a', notBefore: '2026-02-28T00:00:00Z' },
    { ...row, key: 'm2', state: 'delivered', undoes: 'b', notBefore: '2026-02-28T00:00:00Z' },
    { ...row, key: 'm3', state: 'waiting', undoes: 'c', notBefore: null },
    { ...row, key: 'm4', state: 'waiting', undoes: null, notBefore: '2026-02-28T00:00:00Z' },
  ]);
  const [, moving] = statementsOf('0024_last_days');
  await db.execute(sql.raw(moving));
  const rows = await db.select().from(t.effects).where(like(t.effects.key, 'm%')).orderBy(asc(t.effects.key));
  expect(rows.map(one => one.notBefore)).toEqual([
    '2026-03-01T00:00:00Z',
    '2026-02-28T00:00:00Z',
    null,
    '2026-02-28T00:00:00Z',
  ]);
  await db.pool.end();
});
