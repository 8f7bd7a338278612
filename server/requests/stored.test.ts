/** What an older version stored is read, told and gone on with, and nothing that is sealed is changed for it. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import { eventForm, reasonWords, stateForm } from '@north-pebble/core/workflow';
import { and, asc, eq, sql } from 'drizzle-orm';
import { annualLeave, contextFor } from '../../core/testing/house.ts';
import { audit } from '../audit/index.ts';
import { inTransaction, rowText, sealOf, tables as t } from '../database/index.ts';
import { type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
beforeAll(async () => {
  small = await startSmall();
});
afterAll(() => small.stop());

const words = (reason: Parameters<typeof reasonWords>[0]) =>
  reasonWords(reason, { definition: annualLeave, ...contextFor(null) });

/** Writes a request as the first version would have: sentences instead of codes, and no numbers of forms. */
async function asBefore(request: string): Promise<void> {
  const rows = await small.db.select().from(t.events).where(eq(t.events.request, request)).orderBy(asc(t.events.seq));
  let seal: string | null = null;
  for (const { seq, body } of rows) {
    const old =
      body.kind === 'given'
        ? { ...body, reasons: body.reasons.map(words), dueReason: body.dueReason && words(body.dueReason) }
        : 'reason' in body && typeof body.reason === 'object'
          ? { ...body, reason: words(body.reason) }
          : body;
    seal = sealOf(small.db.keys, seal, request, seq, old as never);
    await small.db
      .update(t.events)
      .set({ body: old as never, form: 1, seal })
      .where(and(eq(t.events.request, request), eq(t.events.seq, seq)));
  }
  const [row] = await small.db.select().from(t.requests).where(eq(t.requests.id, request));
  const { state } = row;
  const rowSeal = small.db.keys.seal(rowText({ ...row, head: seal }));
  const { form: _, ...rest } = state;
  const tasks = rest.tasks.map(task => ({
    ...task,
    reasons: task.reasons.map(words),
    dueReason: task.dueReason && words(task.dueReason),
  }));
  await small.db
    .update(t.requests)
    .set({ state: { ...rest, tasks } as never, head: seal, rowSeal })
    .where(eq(t.requests.id, request));
  // The house’s own chain begins again over what stands now.
  await inTransaction(small.db, async tx => {
    // As whoever makes links does, so that none is made halfway.
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    await tx.delete(t.anchors);
    await tx.update(t.house).set({ anchors: 0, anchorHead: null, anchoredUntil: 0, anchoredNumber: 0 });
  });
}

test('a request of the first version reads as before, goes on, and is found whole by the audit', async () => {
  const [ina, tom] = await Promise.all(['ina', 'tom'].map(who => signedIn(small.base, who)));
  const request = (await ina.ask('2026-03-09', '2026-03-13')).body.request;
  const view = async () => (await ina.get<RequestView>(`/requests/${request}`)).body;
  const now = await view();
  await asBefore(request);
  const [{ raw }] = await small.db
    .select({ raw: sql<string>`${t.requests.state}` })
    .from(t.requests)
    .where(eq(t.requests.id, request));
  expect(JSON.parse(raw).form).toBeUndefined();
  const before = await view();
  expect(before.trail).toEqual(now.trail);
  expect(before.tasks).toEqual(now.tasks);
  expect((await audit(small.db)).faults).toEqual([]);

  const { tasks, version } = before;
  const answer = { kind: 'answer', seen: version, task: tasks[0].id, outcome: 'approve', note: null } as const;
  expect((await tom.command(request, answer)).status).toBe(200);
  expect((await view()).status).toBe('closed');
  const forms = (await small.db.select().from(t.events).where(eq(t.events.request, request))).map(row => row.form);
  expect(new Set(forms)).toEqual(new Set([1, eventForm]));
  const [stored] = await small.db.select().from(t.requests).where(eq(t.requests.id, request));
  expect(stored.state.form).toBe(stateForm);
  expect((await audit(small.db)).faults).toEqual([]);
});
