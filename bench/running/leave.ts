/**
 * Leave of a house of ten thousand people: everybody’s balances, found and sorted; the end of a leave year; what a plan that
 * says something else would do; and a calendar of two hundred people.
 */

import { setTimeout } from 'node:timers/promises';
import { filteredStandings, type StandingRow, sortedStandings } from '@north-pebble/core/leave';
import { tables as t } from '@north-pebble/server/database';
import { sql } from 'drizzle-orm';
import { againstBar, type Row } from '../measure.ts';
import type { Served } from '../served.ts';
import { growLeave, manyPeople as many, spansOfEach as spans } from './leaveOfMany.ts';

async function ask<T>(base: string, cookie: string, path: string, body?: unknown): Promise<T> {
  const answer = await fetch(`${base}/api${path}`, {
    method: body === undefined ? 'GET' : 'POST',
    headers: { Cookie: cookie, 'X-North-Pebble': '1', 'Content-Type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const found = (await answer.json()) as T;
  if (!answer.ok) throw new Error(`${path}: ${JSON.stringify(found).slice(0, 300)}`);
  return found;
}

async function milliseconds<T>(work: () => Promise<T> | T): Promise<[number, T]> {
  const began = performance.now();
  const done = await work();
  return [performance.now() - began, done];
}

export async function leaveRows({ db, base, signIn }: Served): Promise<Row[]> {
  const people = await growLeave(db);
  const wren = await signIn('wren');
  type View = { rows: StandingRow[] };
  // The house makes itself ready in the background, a few seconds after people have changed.
  await setTimeout(15_000);
  const [first, view] = await milliseconds(() => ask<View>(base, wren, '/leave/balances'));
  if (view.rows.length < many * 0.9) throw new Error(`${view.rows.length} balances`);
  const [again] = await milliseconds(() => ask<View>(base, wren, '/leave/balances'));
  await db.update(t.house).set({ directoryVersion: sql`directory_version + 1` });
  const [unready] = await milliseconds(() => ask<View>(base, wren, '/leave/balances'));
  const [filtered, found] = await milliseconds(() =>
    sortedStandings(filteredStandings(view.rows, { words: 'a', only: 'much left' }), 'free', true),
  );
  if (found.length === 0) throw new Error('nobody was found');
  const [ends] = await milliseconds(() => ask(base, wren, '/leave/year-end'));

  type Rules = { plans: { id: string; name: string; unit: string; rules: { later?: unknown } & object }[] };
  const standard = (await ask<Rules>(base, wren, '/leave/rules')).plans.find(plan => plan.id === 'standard');
  const { later: _, ...rules } = standard?.rules ?? {};
  const change = {
    what: 'leave plan',
    plan: {
      id: 'standard',
      name: standard?.name,
      unit: 'days',
      rules: { ...rules, perYear: [{ fromServiceYears: 0, amount: 27 }] },
    },
    from: '2026-07-01',
  };
  const [preview] = await milliseconds(() => ask(base, wren, '/records/preview', { change }));

  // Two hundred people and their places, on one address.
  const two = people.slice(0, 200);
  const { address } = await ask<{ address: string }>(base, wren, '/feeds', { of: 'place', group: 'ovay' });
  const path = new URL(address).pathname;
  const read = async () => (await fetch(`${base}${path}`)).text();
  const text = await read();
  const events = text.split('BEGIN:VEVENT').length - 1;
  const times: number[] = [];
  for (let n = 0; n < 20; n++) times.push((await milliseconds(read))[0]);
  const middle = times.toSorted((a, b) => a - b)[10] ?? 0;
  process.stderr.write(`a calendar of ${events} absences\n`);
  return [
    againstBar(`everybody’s balances of ${many.toLocaleString('en')} people, the first time, in ms`, first, 1000),
    againstBar('asked for in the moment in which people have changed, in ms', unready, 10_000),
    againstBar('the same again, in ms', again, 1000),
    againstBar('found and sorted, in ms', filtered, 100),
    againstBar(`the end of the leave years of ${many.toLocaleString('en')} people, in ms`, ends, 10_000),
    againstBar(
      `who gains by a plan that says something else, ${many.toLocaleString('en')} people, in ms`,
      preview,
      10_000,
    ),
    againstBar(
      `a calendar, for each ${two.length} people of it, in ms`,
      (middle * two.length * spans.length) / Math.max(events, 1),
      100,
    ),
  ];
}
