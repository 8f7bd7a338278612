/**
 * The tables that the ledger guards: what somebody could want to change unseen beside the events of requests. Of each it is
 * said how a row is found, and which of its columns change of themselves and are not guarded.
 */
import type { Column } from 'drizzle-orm';
import { getTableColumns } from 'drizzle-orm';
import type { MySqlTable } from 'drizzle-orm/mysql-core';
import * as t from '../schema/index.ts';

export type Guarded = {
  readonly table: MySqlTable;
  /** The columns that find a row, in their order. */
  readonly key: readonly string[];
  readonly columns: readonly string[];
  /** Columns that came after rows had been sealed without them. */
  readonly later: readonly string[];
};

function guarded<T extends MySqlTable, K extends keyof T['$inferSelect'] & string>(
  table: T,
  key: readonly K[],
  open: readonly (keyof T['$inferSelect'] & string)[] = [],
  later: readonly (keyof T['$inferSelect'] & string)[] = [],
): Guarded {
  const columns = Object.keys(getTableColumns(table)).filter(name => ![...open, ...later].includes(name));
  return { table, key, columns, later };
}

/** By the word that the ledger has for them. */
export const guardedTables = {
  account: guarded(t.accounts, ['person'], ['factorStep', 'factorFailures', 'factorUntil', 'card', 'cardWords']),
  person: guarded(t.people, ['id'], [], ['number']),
  record: guarded(t.personRecords, ['person', 'from'], [], ['planPer', 'costCentre']),
  post: guarded(t.posts, ['id']),
  line: guarded(t.postLines, ['post', 'from']),
  holding: guarded(t.holdings, ['post', 'person', 'from']),
  cover: guarded(t.covers, ['person', 'from']),
  role: guarded(t.roles, ['role', 'person', 'place', 'department']),
  place: guarded(t.places, ['id']),
  department: guarded(t.departments, ['id']),
  pattern: guarded(t.patterns, ['id']),
  calendar: guarded(t.calendars, ['id']),
  holiday: guarded(t.holidays, ['calendar', 'date', 'part']),
  list: guarded(t.lists, ['id']),
  row: guarded(t.listRows, ['list', 'id']),
  'leave type': guarded(t.leaveTypes, ['id', 'from']),
  'leave plan': guarded(t.leavePlans, ['id', 'from']),
  presence: guarded(t.leastPresence, ['id']),
  opening: guarded(t.leaveOpenings, ['person', 'type']),
  circumstance: guarded(t.circumstances, ['person', 'id']),
  adjustment: guarded(t.leaveAdjustments, ['person', 'type', 'date', 'reason'], [], ['warns']),
  // Leave that was booked before there were requests here; what requests book is held against their events.
  booking: guarded(t.leaveEntries, ['request'], ['sequence', 'instead']),
  'leave let pass': guarded(t.leavePasses, ['id']),
  'closed year': guarded(t.closedYears, ['person', 'type', 'on']),
  'pay export': guarded(t.payExports, ['id']),
  'change of facts': guarded(t.factChanges, ['id']),
  workflow: guarded(
    t.workflows,
    ['id'],
    ['position', 'draft', 'found', 'draftRevision', 'draftSavedAt', 'draftSavedBy'],
  ),
  version: guarded(t.workflowVersions, ['workflow', 'version']),
  'look as somebody': guarded(t.seenAs, ['id']),
  'look at a paper': guarded(t.paperLooks, ['id']),
  'file taken along': guarded(t.exports, ['id']),
  connection: guarded(t.connections, ['name']),
  house: guarded(
    t.house,
    ['id'],
    ['now', 'directoryVersion', 'secret', 'anchors', 'anchorHead', 'anchoredUntil', 'anchoredNumber'],
    ['beginsOn'],
  ),
  deletion: guarded(t.forgotten, ['request']),
} as const satisfies Record<string, Guarded>;

export type GuardedName = keyof typeof guardedTables;

export const guardedNames = Object.keys(guardedTables) as GuardedName[];

const names = new Map<MySqlTable, GuardedName>(guardedNames.map(name => [guardedTables[name].table, name]));

/** The word that the ledger has for a table, where it guards it. */
export const guardedName = (table: MySqlTable): GuardedName | undefined => names.get(table);

export type Row = Readonly<Record<string, unknown>>;

/** The key of a row as it stands in the ledger. */
export const ledgerKey = (name: GuardedName, row: Row): string =>
  JSON.stringify(guardedTables[name].key.map(column => row[column]));

/** What the seal of a row is made of. */
export const guardedText = (name: GuardedName, row: Row): string =>
  `${name}\n${JSON.stringify([...guardedTables[name].columns.map(column => row[column] ?? null), ...addedTo(name, row)])}`;

/** What stands in columns that came after rows had been sealed: where there is nothing, the seal is what it was. */
function addedTo(name: GuardedName, row: Row): unknown[] {
  const own = guardedTables[name].later.flatMap(column => (row[column] == null ? [] : [[column, row[column]]]));
  return own.length === 0 ? [] : [Object.fromEntries(own)];
}

export const columnOf = (name: GuardedName, column: string): Column =>
  (getTableColumns(guardedTables[name].table) as unknown as Record<string, Column>)[column];
