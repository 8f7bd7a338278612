/** Differences for administrators: looked at, compared anew, stopped, mended. */
import { createHash } from 'node:crypto';
import type { DifferenceRow, DifferencesView } from '@north-pebble/contract';
import { type Difference, differenceKey, differenceWords, mendingOf } from '@north-pebble/core/access';
import { type PersonId, personName } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import { eq, inArray } from 'drizzle-orm';
import { Router } from 'express';
import { loadConnection, mendingKey } from '../connections/index.ts';
import { inTransaction, tables as t, waiting } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { notFound, serving } from '../http/index.ts';
import { startComparing, stopComparing } from './comparing.ts';
import { shouldBe } from './should.ts';

type Comparison = typeof t.comparisons.$inferSelect;

/** The key of the effect that mends a difference of one comparison: asked for twice, it is one. */
const effectKey = ({ connection, startedAt }: Comparison, one: Difference): string =>
  `${mendingKey}${createHash('sha256')
    .update(JSON.stringify([connection, startedAt, differenceKey(one)]))
    .digest('hex')
    .slice(0, 40)}`;

const mendingStates = { waiting: 'on its way', delivered: 'done', refused: 'refused' } as const;

async function view(house: House, connection: string): Promise<DifferencesView> {
  const { db } = house;
  if (!(await loadConnection(db, connection))) throw notFound();
  const [row] = await db.select().from(t.comparisons).where(eq(t.comparisons.connection, connection));
  if (!row)
    return {
      connection,
      state: null,
      startedAt: null,
      doneAt: null,
      read: 0,
      total: 0,
      fault: null,
      rows: [],
      more: 0,
    };
  const index = await house.directory(db);
  const people = row.found.some(one => mendingOf(one, { people: [] }) === null)
    ? (await shouldBe(house, connection)).people
    : [];
  const keys = row.found.map(one => effectKey(row, one));
  const asked = keys.length === 0 ? [] : await db.select().from(t.effects).where(inArray(t.effects.key, keys));
  const byKey = new Map(asked.map(effect => [effect.key, effect]));
  return {
    connection,
    state: row.state,
    startedAt: row.startedAt as Instant,
    doneAt: row.doneAt as Instant | null,
    read: row.read,
    total: row.total,
    fault: row.fault,
    more: row.more,
    rows: row.found.map((one, n): DifferenceRow => {
      const effect = byKey.get(keys[n]);
      const state =
        effect && effect.state in mendingStates ? mendingStates[effect.state as keyof typeof mendingStates] : null;
      return {
        key: differenceKey(one),
        ...differenceWords(one, person => personName(index, person as PersonId)),
        mends: mendingOf(one, { people })?.action ?? null,
        mending: state,
        reason: effect?.fault ?? null,
      };
    }),
  };
}

/** Asks the connection for what mends them, each by an effect of its own; those that were asked for already stay asked. */
async function mend(house: House, connection: string, wanted: readonly string[] | undefined): Promise<void> {
  const { people } = await shouldBe(house, connection);
  await inTransaction(house.db, async tx => {
    const [row] = await tx.select().from(t.comparisons).where(eq(t.comparisons.connection, connection)).for('update');
    if (!row) return;
    const writtenAt = await house.now(tx);
    const chosen = wanted && new Set(wanted);
    const rows = row.found
      .filter(one => !chosen || chosen.has(differenceKey(one)))
      .flatMap(one => {
        const mending = mendingOf(one, { people });
        if (!mending) return [];
        const { action, values } = mending;
        return [
          {
            key: effectKey(row, one),
            connection,
            action,
            // What concerns one account goes in turn: it is made before it is put into a group.
            target: `mend ${'person' in one ? one.person : 'account' in one ? one.account : ''}`.slice(0, 100),
            payload: { values } as never,
            ...waiting,
            writtenAt,
          },
        ];
      });
    if (rows.length > 0) await tx.insert(t.effects).ignore().values(rows);
  });
  house.wake();
}

export function differenceRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /connections/:name/differences', ({ params }) => view(house, params.name));
  at('POST /connections/:name/differences', async ({ params }) => {
    if (!(await loadConnection(house.db, params.name))) throw notFound();
    await startComparing(house, params.name);
    return view(house, params.name);
  });
  at('DELETE /connections/:name/differences', async ({ params }) => {
    await stopComparing(house, params.name);
    return view(house, params.name);
  });
  at('POST /connections/:name/differences/mended', async ({ params, body }) => {
    await mend(house, params.name, body.keys);
    return view(house, params.name);
  });
  return router;
}
