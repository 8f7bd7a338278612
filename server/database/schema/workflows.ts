/** Workflows and their versions. */
import type { Definition } from '@north-pebble/core/workflow';
import { boolean, char, int, mysqlTable, primaryKey, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';
import { day, id, instant, json } from './columns.ts';

export const workflows = mysqlTable('workflows', {
  id: id('id').primaryKey(),
  position: int('position').notNull(),
  liveVersion: int('live_version'),
  draft: json<Definition>('draft'),
  /** What was found about the draft, or about the live version where there is none, and of what state of things. */
  found: json<{ of: string; stops: number; warns: number }>('found'),
  draftRevision: int('draft_revision').notNull(),
  draftSavedAt: instant('draft_saved_at'),
  draftSavedBy: id('draft_saved_by'),
  archivedAt: instant('archived_at'),
  /** Who may do what with it, by person; everybody with the right to design when nothing is said. */
  permissions: json<Permissions>('permissions'),
});

export type Permissions = { edit: string[]; publish: string[]; see: string[] };

export const workflowVersions = mysqlTable(
  'workflow_versions',
  {
    workflow: id('workflow').notNull(),
    version: int('version').notNull(),
    definition: json<Definition>('definition').notNull(),
    publishedAt: instant('published_at').notNull(),
    publishedBy: id('published_by').notNull(),
    comment: varchar('comment', { length: 500 }).notNull(),
  },
  t => [primaryKey({ columns: [t.workflow, t.version] })],
);

/** The public address of a workflow: on which days something is taken in there, and how many at most. */
export const publicForms = mysqlTable(
  'public_forms',
  {
    workflow: id('workflow').primaryKey(),
    /** Given out to everybody, so it is no secret; renewed, the one before opens nothing. */
    token: char('token', { length: 43 }).notNull(),
    firstDay: day('first_day'),
    lastDay: day('last_day'),
    most: int('most'),
    taken: int('taken').notNull().default(0),
    /** Shut by hand. */
    shut: boolean('shut').notNull().default(false),
    at: instant('at').notNull(),
    by: id('by').notNull(),
  },
  t => [uniqueIndex('public_form_token').on(t.token)],
);
