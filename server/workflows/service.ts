/** The shelf of workflows, and the sheet: drafts, versions, publishing, archiving, who may. */
import type { Begun, DraftMark, Permissions, Publish, Published, SheetView, ShelfRow } from '@north-pebble/contract';
import { idFrom } from '@north-pebble/core/form';
import { latestDay, type PersonId } from '@north-pebble/core/people';
import { type Instant, toMilliseconds } from '@north-pebble/core/time';
import {
  type Definition,
  type Finding,
  inOneSentence,
  nameOf,
  openStatuses,
  readDefinition,
  stopsPublishing,
} from '@north-pebble/core/workflow';
import { and, asc, count, desc, eq, inArray } from 'drizzle-orm';
import { mustEdit, mustPublish, workflowRights } from '../access/index.ts';
import { absentFrom, connectionNames, connectionOffers } from '../connections/index.ts';
import { type Executor, inLedger, inTransaction, tables as t } from '../database/index.ts';
import { type House, loadDefinition, loadTypes, type Moment } from '../house/index.ts';
import { type Caller, notFound, ProblemError } from '../http/index.ts';
import { type CheckFacts, type Proven, TooMuchToProve } from '../proving/index.ts';
import { rehearsalFacts } from './rehearsal.ts';

type Row = typeof t.workflows.$inferSelect;

/** A row that the caller may see; others are not told that it exists. */
export async function rowFor(db: Executor, caller: Caller, id: string, lock = false): Promise<Row> {
  const query = db.select().from(t.workflows).where(eq(t.workflows.id, id));
  const [row] = lock ? await query.for('update') : await query;
  if (!row || !workflowRights(caller, row.permissions).see) throw notFound();
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

/** The definition that a row shows: its draft when there is one, else the live version; read in today's format. */
async function shownOf(db: Executor, row: Row): Promise<Definition> {
  if (!row.draft) return loadDefinition(db, row.id, row.liveVersion ?? 0);
  const read = readDefinition(row.draft);
  return read.ok ? read.definition : row.draft;
}

const around = async (house: House, db: Executor, definition: Definition) => {
  const { index, lists, now } = await house.moment(db);
  const rows = await db.select({ id: t.workflows.id }).from(t.workflows);
  const types = await loadTypes(db);
  return {
    index,
    lists,
    days: [latestDay(index, now)],
    leaveTypes: types.map(type => type.id),
    leaveTypeNames: types.map(type => type.name),
    workflows: rows.map(row => row.id),
    connections: await connectionNames(db),
    offers: await connectionOffers(db),
    absent: await absentFrom(db, definition),
  };
};

const countsOf = (found: readonly Finding[]) => {
  const stops = found.filter(f => f.level === 'stops').length;
  return { stops, warns: found.length - stops };
};

/** Of which state of things findings are: a later one may have others. */
const stateOf = (row: Row, { index, now, directoryVersion }: Moment): string =>
  `${row.liveVersion}/${row.draftRevision}/${latestDay(index, now)}/${directoryVersion}`;

const beingProven = new Set<string>();

/** Has the findings of a workflow worked out and kept beside it; whoever reads the shelf does not wait for it. */
function findAnew(house: House, row: Row, state: string): void {
  if (beingProven.has(row.id)) return;
  beingProven.add(row.id);
  const work = async () => {
    const definition = await shownOf(house.db, row);
    const surroundings = await around(house, house.db, definition);
    const { findings: found } = await house.proving.prove({ ...surroundings, definition, facts: [] });
    await house.db
      .update(t.workflows)
      .set({ found: { of: state, ...countsOf(found) } })
      .where(eq(t.workflows.id, row.id));
  };
  work()
    .catch(fault => house.log.warn({ err: fault, workflow: row.id }, 'findings'))
    .finally(() => beingProven.delete(row.id));
}

export async function shelf(house: House, caller: Caller): Promise<ShelfRow[]> {
  const { db } = house;
  const all = await db.select().from(t.workflows).orderBy(asc(t.workflows.position), asc(t.workflows.id));
  const rows = all.filter(row => workflowRights(caller, row.permissions).see);
  const moment = await house.moment(db);
  return Promise.all(
    rows.map(async row => {
      const shown = await shownOf(db, row);
      const state = stateOf(row, moment);
      const isOld = row.found?.of !== state;
      if (isOld) findAnew(house, row, state);
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
        tags: shown.tags ?? [],
        sentence: inOneSentence(shown, moment.index),
        // Those of the state before, until those of now are there.
        findings: row.found && { stops: row.found.stops, warns: row.found.warns },
        checking: isOld,
        archived: row.archivedAt !== null,
        liveVersion: row.liveVersion,
        open: [...open.values()].reduce((sum, n) => sum + n, 0),
        stuck: stuck.n,
        typicalDays: await typicalDays(db, row.id),
        hasDraft: row.draft !== null,
      };
    }),
  );
}

/** How far the draft has come, for whoever has it open elsewhere. */
export async function draftMark(house: House, caller: Caller, id: string): Promise<DraftMark> {
  const row = await rowFor(house.db, caller, id);
  const index = await house.directory(house.db);
  return {
    revision: row.draftRevision,
    savedBy: row.draftSavedBy === null ? null : nameOf(index, row.draftSavedBy as PersonId),
    savedAt: row.draftSavedAt as Instant | null,
  };
}

export async function sheet(house: House, caller: Caller, id: string): Promise<SheetView> {
  const { db } = house;
  const row = await rowFor(db, caller, id);
  const index = await house.directory(db);
  const open = await openByVersion(db, id);
  const name = (person: string | null) => nameOf(index, person as PersonId | null);
  const versions = await db
    .select()
    .from(t.workflowVersions)
    .where(eq(t.workflowVersions.workflow, id))
    .orderBy(desc(t.workflowVersions.version));
  const live = versions.find(v => v.version === row.liveVersion);
  const { edit, publish: mayPublish } = workflowRights(caller, row.permissions);
  return {
    id,
    revision: row.draftRevision,
    live: live
      ? {
          version: live.version,
          definition: await loadDefinition(db, id, live.version),
          publishedAt: live.publishedAt as Instant,
          publishedBy: name(live.publishedBy),
          open: open.get(live.version) ?? 0,
        }
      : null,
    draft: row.draft && {
      definition: await shownOf(db, row),
      revision: row.draftRevision,
      savedAt: row.draftSavedAt as Instant,
      savedBy: name(row.draftSavedBy),
    },
    archivedAt: row.archivedAt as Instant | null,
    permissions: row.permissions,
    may: { edit, publish: mayPublish },
    versions: versions.map(v => ({
      version: v.version,
      publishedAt: v.publishedAt as Instant,
      publishedBy: name(v.publishedBy),
      comment: v.comment,
      open: open.get(v.version) ?? 0,
    })),
  };
}

/** One published version, for comparing. */
export async function versionOf(house: House, caller: Caller, id: string, version: number): Promise<Definition> {
  await rowFor(house.db, caller, id);
  const [row] = await house.db
    .select({ version: t.workflowVersions.version })
    .from(t.workflowVersions)
    .where(and(eq(t.workflowVersions.workflow, id), eq(t.workflowVersions.version, version)));
  if (!row) throw notFound();
  return loadDefinition(house.db, id, version);
}

/** A new workflow that so far is a draft only. */
export async function beginWorkflow(house: House, caller: Caller, definition: Definition): Promise<Begun> {
  return inTransaction(house.db, async tx => {
    // Locked together, so that two new ones never take one id.
    const rows = await tx
      .select({ id: t.workflows.id, position: t.workflows.position })
      .from(t.workflows)
      .for('update');
    const id = idFrom(
      definition.name,
      rows.map(row => row.id),
    );
    const position = Math.max(-1, ...rows.map(row => row.position)) + 1;
    const now = await house.now(tx);
    await tx.insert(t.workflows).values({
      id,
      position,
      liveVersion: null,
      draft: definition,
      draftRevision: 1,
      draftSavedAt: now,
      draftSavedBy: caller.id,
    });
    await inLedger(tx, { what: 'workflow', keys: [{ id }] });
    return { id };
  });
}

function checkRevision(row: Row, seen: number, house: { name: (id: string | null) => string }): void {
  if (row.draftRevision === seen) return;
  const who = house.name(row.draftSavedBy);
  throw new ProblemError(
    'stale',
    `${who} has changed this draft meanwhile. Open it again to go on from there; nothing was overwritten.`,
  );
}

const nothingDrafted = { draft: null, draftSavedAt: null, draftSavedBy: null };

/** Saves the draft when nobody else has saved it since; the new revision comes back. */
export async function saveDraft(
  house: House,
  caller: Caller,
  id: string,
  input: { revision: number; definition: Definition },
) {
  const index = await house.directory(house.db);
  return inTransaction(house.db, async tx => {
    const row = await rowFor(tx, caller, id, true);
    mustEdit(caller, row.permissions);
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
export async function dropDraft(house: House, caller: Caller, id: string): Promise<void> {
  await inTransaction(house.db, async tx => {
    const row = await rowFor(tx, caller, id, true);
    mustEdit(caller, row.permissions);
    if (row.liveVersion === null)
      throw new ProblemError('refused', 'This workflow was never published; its draft is all there is.');
    await tx
      .update(t.workflows)
      .set({ ...nothingDrafted, draftRevision: row.draftRevision + 1 })
      .where(eq(t.workflows.id, id));
  });
}

export async function archive(house: House, caller: Caller, id: string, archived: boolean): Promise<void> {
  await inTransaction(house.db, async tx => {
    const row = await rowFor(tx, caller, id, true);
    mustPublish(caller, row.permissions);
    await tx
      .update(t.workflows)
      .set({ archivedAt: archived ? await house.now(tx) : null })
      .where(eq(t.workflows.id, id));
    await inLedger(tx, { what: 'workflow', keys: [{ id }] });
  });
}

export async function setPermissions(
  house: House,
  caller: Caller,
  id: string,
  permissions: Permissions | null,
): Promise<void> {
  const index = await house.directory(house.db);
  await inTransaction(house.db, async tx => {
    const row = await rowFor(tx, caller, id, true);
    mustPublish(caller, row.permissions);
    const all = permissions ? [...permissions.edit, ...permissions.publish, ...permissions.see] : [];
    const unknown = all.find(person => !index.person(person as PersonId));
    if (unknown)
      throw new ProblemError('bad input', `There is no “${unknown}” in the directory.`, [
        { field: 'permissions', message: `There is no “${unknown}”.` },
      ]);
    // Nobody locks themselves out by a slip.
    if (permissions && permissions.publish.length > 0 && !permissions.publish.includes(caller.id))
      throw new ProblemError('refused', 'Keep yourself among those who may publish; somebody else can take you out.');
    await tx.update(t.workflows).set({ permissions }).where(eq(t.workflows.id, id));
    await inLedger(tx, { what: 'workflow', keys: [{ id }] });
  });
}

/** What publishing would be stopped by: findings, and kept checks with another result. */
async function obstaclesTo(house: House, definition: Definition): Promise<Proven> {
  const { db } = house;
  const facts: CheckFacts[] = [];
  for (const check of definition.checks ?? []) {
    const { away, book } = await rehearsalFacts(house, db, (check.subject ?? check.asker) as PersonId);
    const { index: _, ...rest } = book;
    facts.push({ away, book: rest });
  }
  try {
    return await house.proving.prove({ ...(await around(house, db, definition)), definition, facts });
  } catch (fault) {
    if (!(fault instanceof TooMuchToProve)) throw fault;
    throw new ProblemError(
      'refused',
      'Checking this workflow takes too long, so it is not published. Make it shorter, or keep fewer checks.',
    );
  }
}

/** Makes the draft the live version, unless a finding or a kept check stops it. Open requests stay on the version they began with. */
export async function publish(house: House, caller: Caller, id: string, input: Publish): Promise<Published> {
  const index = await house.directory(house.db);
  const mustBeAsSeen = (row: Row) => {
    mustPublish(caller, row.permissions);
    if (!row.draft) throw new ProblemError('refused', 'There is no draft to publish.');
    checkRevision(row, input.revision, { name: person => nameOf(index, person as PersonId | null) });
  };
  // Proven before anything is locked; the revision says that it is still what was proven.
  const before = await rowFor(house.db, caller, id);
  mustBeAsSeen(before);
  const definition = await shownOf(house.db, before);
  const { findings: found, failed } = await obstaclesTo(house, definition);
  if (stopsPublishing(found)) {
    const stops = found.filter(f => f.level === 'stops');
    throw new ProblemError(
      'findings',
      `${stops.length === 1 ? 'One finding stops' : `${stops.length} findings stop`} publishing: ${stops[0].title}.`,
    );
  }
  if (failed.length > 0) {
    const [{ name, expected, found: came }] = failed;
    throw new ProblemError(
      'findings',
      `The check “${name}” has another result: expected “${expected ?? 'the end'}”, found “${came ?? 'the end'}”. Fix the draft, or keep the check anew.`,
    );
  }
  return inTransaction(house.db, async tx => {
    const row = await rowFor(tx, caller, id, true);
    mustBeAsSeen(row);
    const [newest] = await tx
      .select({ version: t.workflowVersions.version })
      .from(t.workflowVersions)
      .where(eq(t.workflowVersions.workflow, id))
      .orderBy(desc(t.workflowVersions.version))
      .limit(1);
    const version = (newest?.version ?? 0) + 1;
    await tx.insert(t.workflowVersions).values({
      workflow: id,
      version,
      definition,
      publishedAt: await house.now(tx),
      publishedBy: caller.id,
      comment: input.comment,
    });
    await tx
      .update(t.workflows)
      .set({ ...nothingDrafted, liveVersion: version, draftRevision: row.draftRevision + 1 })
      .where(eq(t.workflows.id, id));
    await inLedger(tx, { what: 'version', keys: [{ workflow: id, version }] }, { what: 'workflow', keys: [{ id }] });
    return { version };
  });
}
