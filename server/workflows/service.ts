/** Workflows: the shelf, the sheet's draft, and publishing. */
import type { Publish, Published, SaveSheet, SheetView, ShelfRow } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import { civilDateAt, type Instant, toMilliseconds } from '@north-pebble/core/time';
import { type Definition, findings, nameOf, openStatuses, stopsPublishing } from '@north-pebble/core/workflow';
import { and, asc, count, desc, eq, inArray } from 'drizzle-orm';
import { type Executor, inTransaction, tables as t } from '../database/index.ts';
import type { House } from '../house.ts';
import { type Caller, notFound, ProblemError } from '../http/index.ts';
import { loadDefinition } from '../requests/store.ts';

type Row = typeof t.workflows.$inferSelect;

async function nowRow(db: Executor, id: string): Promise<Row> {
  const [row] = await db.select().from(t.workflows).where(eq(t.workflows.id, id));
  if (!row) throw notFound();
  return row;
}

/** How many open requests each version of a workflow has. */
async function openByVersion(db: Executor, workflow: string): Promise<Map<number, number>> {
  const rows = await db
    .select({ version: t.requests.workflowVersion, n: count() })
    .from(t.requests)
    .where(and(eq(t.requests.workflow, workflow), inArray(t.requests.status, [...openStatuses])))
    .groupBy(t.requests.workflowVersion);
  return new Map(rows.map(row => [row.version, row.n]));
}

const recentClosed = 200;

/** The median of the days from asking to closing, over the newest closed requests. */
async function typicalDays(db: Executor, workflow: string): Promise<number | null> {
  const rows = await db
    .select({ asked: t.requests.askedAt, closed: t.requests.closedAt })
    .from(t.requests)
    .where(and(eq(t.requests.workflow, workflow), eq(t.requests.status, 'closed')))
    .orderBy(desc(t.requests.number))
    .limit(recentClosed);
  const days = rows
    .flatMap(row => (row.closed ? [(toMilliseconds(row.closed) - toMilliseconds(row.asked)) / 86_400_000] : []))
    .sort((a, b) => a - b);
  return days.length > 0 ? Math.round(days[Math.floor(days.length / 2)] * 10) / 10 : null;
}

export async function shelf(house: House): Promise<ShelfRow[]> {
  const { db } = house;
  const rows = await db.select().from(t.workflows).orderBy(asc(t.workflows.position));
  return Promise.all(
    rows.map(async row => {
      const shown: Definition = row.draft ?? (await loadDefinition(db, row.id, row.liveVersion ?? 0));
      const open = await openByVersion(db, row.id);
      const [stuck] = await db
        .select({ n: count() })
        .from(t.requests)
        .where(and(eq(t.requests.workflow, row.id), eq(t.requests.status, 'stuck')));
      return {
        id: row.id,
        name: shown.name,
        area: shown.area,
        purpose: shown.purpose,
        liveVersion: row.liveVersion,
        open: [...open.values()].reduce((sum, n) => sum + n, 0),
        stuck: stuck.n,
        typicalDays: await typicalDays(db, row.id),
        hasDraft: row.draft !== null,
      };
    }),
  );
}

export async function sheet(house: House, id: string): Promise<SheetView> {
  const { db } = house;
  const row = await nowRow(db, id);
  const index = await house.directory(db);
  const open = await openByVersion(db, id);
  const name = (person: string | null) => nameOf(index, person as PersonId | null);
  const versions = await db
    .select()
    .from(t.workflowVersions)
    .where(eq(t.workflowVersions.workflow, id))
    .orderBy(desc(t.workflowVersions.version));
  const live = versions.find(v => v.version === row.liveVersion);
  return {
    id,
    revision: row.draftRevision,
    live: live
      ? {
          version: live.version,
          definition: live.definition,
          publishedAt: live.publishedAt as Instant,
          publishedBy: name(live.publishedBy),
          open: open.get(live.version) ?? 0,
        }
      : null,
    draft: row.draft && {
      definition: row.draft,
      revision: row.draftRevision,
      savedAt: row.draftSavedAt as Instant,
      savedBy: name(row.draftSavedBy),
    },
    versions: versions.map(v => ({
      version: v.version,
      publishedAt: v.publishedAt as Instant,
      publishedBy: name(v.publishedBy),
      comment: v.comment,
      open: open.get(v.version) ?? 0,
    })),
  };
}

function checkRevision(row: Row, seen: number, house: { name: (id: string | null) => string }): void {
  if (row.draftRevision === seen) return;
  const who = house.name(row.draftSavedBy);
  throw new ProblemError(
    'stale',
    `${who} has changed this draft meanwhile. Open it again to go on from there; nothing was overwritten.`,
  );
}

/** Saves the draft when nobody else has saved it since; the new revision comes back. */
export async function saveDraft(house: House, caller: Caller, id: string, input: SaveSheet) {
  const index = await house.directory(house.db);
  return inTransaction(house.db, async tx => {
    const [row] = await tx.select().from(t.workflows).where(eq(t.workflows.id, id)).for('update');
    if (!row) throw notFound();
    checkRevision(row, input.revision, { name: person => nameOf(index, person as PersonId | null) });
    const savedAt = await house.now(tx);
    const revision = row.draftRevision + 1;
    await tx
      .update(t.workflows)
      .set({ draft: input.definition, draftRevision: revision, draftSavedAt: savedAt, draftSavedBy: caller.id })
      .where(eq(t.workflows.id, id));
    return { revision, savedAt };
  });
}

/** Throws the draft away; the live version stays as it is. */
export async function dropDraft(house: House, id: string): Promise<void> {
  const row = await nowRow(house.db, id);
  if (row.liveVersion === null)
    throw new ProblemError('refused', 'This workflow was never published; its draft is all there is.');
  await house.db
    .update(t.workflows)
    .set({ draft: null, draftRevision: row.draftRevision + 1, draftSavedAt: null, draftSavedBy: null })
    .where(eq(t.workflows.id, id));
}

/** Makes the draft the live version, unless a finding stops it. Open requests stay on the version they began with. */
export async function publish(house: House, caller: Caller, id: string, input: Publish): Promise<Published> {
  const index = await house.directory(house.db);
  return inTransaction(house.db, async tx => {
    const [row] = await tx.select().from(t.workflows).where(eq(t.workflows.id, id)).for('update');
    if (!row?.draft) throw new ProblemError('refused', 'There is no draft to publish.');
    checkRevision(row, input.revision, { name: person => nameOf(index, person as PersonId | null) });
    const now = await house.now(tx);
    const found = findings(row.draft, { index, day: civilDateAt(now, 'UTC') });
    if (stopsPublishing(found)) {
      const stops = found.filter(f => f.level === 'stops');
      throw new ProblemError(
        'findings',
        `${stops.length === 1 ? 'One finding stops' : `${stops.length} findings stop`} publishing: ${stops[0].title}.`,
      );
    }
    const version = (row.liveVersion ?? 0) + 1;
    await tx.insert(t.workflowVersions).values({
      workflow: id,
      version,
      definition: row.draft,
      publishedAt: now,
      publishedBy: caller.id,
      comment: input.comment,
    });
    await tx
      .update(t.workflows)
      .set({
        liveVersion: version,
        draft: null,
        draftRevision: row.draftRevision + 1,
        draftSavedAt: null,
        draftSavedBy: null,
      })
      .where(eq(t.workflows.id, id));
    return { version };
  });
}
