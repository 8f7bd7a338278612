/** Moving open requests to the live version, on purpose: those that fit, and why the others do not. */
import type { Movable, Move, MovedView } from '@north-pebble/contract';
import { askerName, move, obstacles, openStatuses } from '@north-pebble/core/workflow';
import { and, asc, eq, inArray, ne } from 'drizzle-orm';
import { mustPublish } from '../access/index.ts';
import { inTransaction, tables as t } from '../database/index.ts';
import { contextOf, type House, loadDefinition, subjectOf } from '../house/index.ts';
import { type Caller, ProblemError } from '../http/index.ts';
import { lockRequest, standing, storeBrought, upToDate } from '../requests/index.ts';
import { rowFor } from './service.ts';

const mostListed = 500;

export async function movable(house: House, caller: Caller, id: string): Promise<Movable[]> {
  const { db } = house;
  const row = await rowFor(db, caller, id);
  if (row.liveVersion === null) return [];
  const live = await loadDefinition(db, id, row.liveVersion);
  const index = await house.directory(db);
  const rows = await db
    .select()
    .from(t.requests)
    .where(
      and(
        eq(t.requests.workflow, id),
        inArray(t.requests.status, [...openStatuses]),
        ne(t.requests.workflowVersion, row.liveVersion),
      ),
    )
    .orderBy(asc(t.requests.number))
    .limit(mostListed);
  const listed: Movable[] = [];
  for (const found of rows) {
    const stored = await upToDate(db, found);
    const before = await loadDefinition(db, id, stored.workflowVersion);
    const context = await contextOf(house, db, { subject: subjectOf(stored), actor: caller.id, workflow: id });
    listed.push({
      request: stored.id ?? '',
      title: stored.title,
      askerName: askerName(index, stored.state),
      version: stored.workflowVersion,
      standing: standing(before, stored.state, index),
      obstacles: obstacles(before, live, stored.state, context),
    });
  }
  return listed;
}

/** Moves each request in a transaction of its own: one that does not fit any more keeps no other back. */
export async function moveRequests(house: House, caller: Caller, id: string, input: Move): Promise<MovedView> {
  const row = await rowFor(house.db, caller, id);
  mustPublish(caller, row.permissions);
  const version = row.liveVersion;
  if (version === null) throw new ProblemError('refused', 'This workflow has no live version to move to.');
  const moved: string[] = [];
  const refused: MovedView['refused'] = [];
  for (const request of new Set(input.requests)) {
    const why = await inTransaction(house.db, async tx => {
      const { stored } = await lockRequest(house, tx, request);
      if (stored?.workflow !== id) return 'It is not a request of this workflow.';
      if (stored.workflowVersion === version) return null;
      const before = await loadDefinition(tx, id, stored.workflowVersion);
      const after = await loadDefinition(tx, id, version);
      const context = await contextOf(house, tx, { subject: subjectOf(stored), actor: caller.id, workflow: id });
      const versions = { from: stored.workflowVersion, to: version, reason: input.reason };
      const result = move(before, after, versions, stored.state, context);
      if (!result.ok) return result.refusal.message;
      await storeBrought(tx, after, { ...stored, workflowVersion: version }, result, context);
      await tx.update(t.requests).set({ workflowVersion: version }).where(eq(t.requests.id, request));
      return null;
    });
    if (why === null) moved.push(request);
    else refused.push({ request, why });
  }
  return { moved, refused };
}
