/** Finding requests: one's own, those one has or had, those of the people below, or all for those who read everything. */
import { FindRequests, type FoundRequests, may, type RequestRow, requestColumns } from '@north-pebble/contract';
import { isAbove, looksAfter, type PersonId, todayFor, zoneFor } from '@north-pebble/core/people';
import { type CivilDate, type Instant, toDay, toInstant, wallClock } from '@north-pebble/core/time';
import { askerName } from '@north-pebble/core/workflow';
import { and, desc, eq, gte, inArray, isNotNull, isNull, lt, or, type SQL, sql } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import { type House, loadDefinition } from '../../house/index.ts';
import { type Caller, type Cell, mustHave } from '../../http/index.ts';
import type { StoredRequest } from '../store.ts';
import { standing } from './views.ts';
import { besideRows } from './worklists.ts';

/** Whose requests are looked through, as a condition; nothing stands for all of them. */
async function scopeOf(house: House, caller: Caller, whose: FindRequests['whose']): Promise<SQL | undefined> {
  switch (whose) {
    case 'mine':
      return and(
        or(eq(t.requests.asker, caller.id), eq(t.requests.subject, caller.id), eq(t.requests.owner, caller.id)),
        isNull(t.requests.outside),
      );
    case 'held':
      return or(
        inArray(
          t.requests.id,
          house.db
            .select({ request: t.tasks.request })
            .from(t.tasks)
            .where(or(eq(t.tasks.holder, caller.id), eq(t.tasks.coverFor, caller.id))),
        ),
        // What somebody outside asked for is with whoever keeps it.
        and(or(eq(t.requests.asker, caller.id), eq(t.requests.owner, caller.id)), isNotNull(t.requests.outside)),
      );
    case 'team': {
      const { index, now } = await house.moment(house.db);
      const today = todayFor(index, caller.id, now);
      const below = index.directory.people.filter(p => p.id !== caller.id && isAbove(index, caller.id, p.id, today));
      return and(inArray(t.requests.asker, below.length > 0 ? below.map(p => p.id) : ['']), isNull(t.requests.outside));
    }
    case 'care': {
      const { index, now } = await house.moment(house.db);
      const today = todayFor(index, caller.id, now);
      const cared = index.directory.people.filter(p => looksAfter(index, caller.id, p.id, today)).map(p => p.id);
      // For whom a request is counts, not who wrote it.
      return and(
        inArray(sql`coalesce(${t.requests.subject}, ${t.requests.asker})`, cared.length > 0 ? cared : ['']),
        isNull(t.requests.outside),
      );
    }
    case 'all':
      mustHave(caller, 'read every record');
      return undefined;
  }
}

/** `%` and `_` are searched for as they are. */
const containing = (words: string): string => `%${words.replace(/[\\%_]/g, '\\$&')}%`;

async function conditions(house: House, caller: Caller, find: FindRequests): Promise<SQL | undefined> {
  const { index, now } = await house.moment(house.db);
  const zone = zoneFor(index, caller.id, now);
  // Days begin where the reader is, as the column of days says them.
  const begins = (day: CivilDate, later = 0) => toInstant(wallClock(toDay(day) + later, 0, zone));
  const named = find.words
    ? index.directory.people.filter(p => p.name.toLowerCase().includes(find.words.toLowerCase())).map(p => p.id)
    : [];
  return and(
    isNotNull(t.requests.id),
    await scopeOf(house, caller, find.whose),
    find.status.length > 0 ? inArray(t.requests.status, find.status) : undefined,
    find.workflow.length > 0 ? inArray(t.requests.workflow, find.workflow) : undefined,
    // Steps are those of one workflow; of several they would mean different things.
    find.step.length > 0 && find.workflow.length === 1
      ? or(...find.step.map(step => sql`json_contains(json_extract(${t.requests.state}, '$.at'), json_quote(${step}))`))
      : undefined,
    find.from ? gte(t.requests.askedAt, begins(find.from)) : undefined,
    find.to ? lt(t.requests.askedAt, begins(find.to, 1)) : undefined,
    find.words
      ? or(
          eq(t.requests.id, find.words.toUpperCase()),
          // The database tells small letters from capitals; people who look for something do not.
          sql`lower(${t.requests.title}) like ${containing(find.words.toLowerCase())}`,
          sql`lower(json_value(${t.requests.state}, '$.outside.name')) like ${containing(find.words.toLowerCase())}`,
          named.length > 0 ? inArray(t.requests.asker, named) : undefined,
        )
      : undefined,
  );
}

async function rowsOf(house: House, stored: readonly StoredRequest[]): Promise<RequestRow[]> {
  const index = await house.directory(house.db);
  return Promise.all(
    stored.map(async row => {
      const definition = await loadDefinition(house.db, row.workflow, row.workflowVersion);
      return {
        id: row.id ?? '',
        title: row.title,
        workflow: row.workflow,
        workflowName: definition.name,
        asker: row.asker as PersonId,
        askerName: askerName(index, row.state),
        status: row.status,
        standing: standing(definition, row.state, index),
        askedAt: row.askedAt as Instant,
        closedAt: row.closedAt as Instant | null,
      };
    }),
  );
}

const pageSize = 100;

/** A page of requests, newest first, and how many there are in all. */
export async function findRequests(house: House, caller: Caller, find: FindRequests): Promise<FoundRequests> {
  const where = await conditions(house, caller, find);
  const stored = await house.db
    .select()
    .from(t.requests)
    .where(and(where, find.before ? lt(t.requests.number, find.before) : undefined))
    .orderBy(desc(t.requests.number))
    .limit(pageSize + 1);
  const more = stored.length > pageSize;
  const page = stored.slice(0, pageSize);
  const count = find.before
    ? null
    : Number((await house.db.select({ n: sql<number>`count(*)` }).from(t.requests).where(where))[0].n);
  const rows = await rowsOf(house, page);
  const isOneWorkflow = find.workflow.length === 1 && (find.shown.length > 0 || find.step.length > 0);
  const beside = isOneWorkflow ? await besideRows(house, caller, page, find.shown) : null;
  return {
    rows: beside ? rows.map(row => ({ ...row, ...beside.get(row.id) })) : rows,
    total: count,
    next: more ? page[page.length - 1].number : null,
  };
}

/** How many requests fit filters as they stand in an address; nothing where they can be read no more. */
export async function countFound(house: House, caller: Caller, query: string): Promise<number | null> {
  const read = FindRequests.safeParse(Object.fromEntries(new URLSearchParams(query)));
  if (!read.success || (read.data.whose === 'all' && !may(caller, 'read every record'))) return null;
  return house.db.$count(t.requests, await conditions(house, caller, read.data));
}

const mostExported = 50_000;
const batch = 1000;

/** The same rows as words of a table, all of them up to a limit, some at a time. */
export async function* exported(house: House, caller: Caller, find: FindRequests): AsyncGenerator<Cell[][]> {
  const where = await conditions(house, caller, find);
  let before: number | null = null;
  for (let sent = 0; sent < mostExported; sent += batch) {
    const stored: StoredRequest[] = await house.db
      .select()
      .from(t.requests)
      .where(and(where, before ? lt(t.requests.number, before) : undefined))
      .orderBy(desc(t.requests.number))
      .limit(batch);
    if (stored.length === 0) return;
    before = stored[stored.length - 1].number;
    yield (await rowsOf(house, stored)).map(row => find.columns.map(column => cell(row, column)));
  }
}

const cell = (row: RequestRow, column: FindRequests['columns'][number]): Cell => {
  switch (column) {
    case 'request':
      return row.id;
    case 'what':
      return row.title;
    case 'workflow':
      return row.workflowName;
    case 'asker':
      return row.askerName;
    case 'standing':
      return row.standing;
    case 'asked':
      return { instant: row.askedAt };
    case 'closed':
      return row.closedAt === null ? '' : { instant: row.closedAt };
  }
};

export const headings = (find: FindRequests): string[] => find.columns.map(column => requestColumns[column]);
