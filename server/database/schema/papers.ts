/** The register of papers, and files. */
import type { PaperRules } from '@north-pebble/core/papers';
import { boolean, char, index, int, mysqlTable, primaryKey, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';
import { bytes, day, id, instant, json, machineTime } from './columns.ts';

/**
 * Numbers of papers as they were given: nowhere else than here, so that one can be thrown away. Requests and events hold
 * the last letters alone.
 */
export const paperNumbers = mysqlTable('paper_numbers', {
  file: char('file', { length: 36 }).primaryKey(),
  number: varchar('number', { length: 60 }).notNull(),
});

/** The register of papers over all people. */
export const papers = mysqlTable(
  'papers',
  {
    id: int('id').autoincrement().primaryKey(),
    /** The effect that kept it: asked for twice, it is kept once. */
    key: varchar('key', { length: 150 }).notNull(),
    person: id('person'),
    holder: varchar('holder', { length: 200 }).notNull(),
    kind: varchar('kind', { length: 80 }).notNull(),
    issued: day('issued'),
    expires: day('expires'),
    request: id('request').notNull(),
    field: id('field').notNull(),
    file: char('file', { length: 36 }).notNull(),
    keptOn: day('kept_on').notNull(),
    replacedOn: day('replaced_on'),
    /** The request in which the new one was asked for. */
    renewal: id('renewal'),
    reminded: int('reminded'),
    forgottenOn: day('forgotten_on'),
  },
  t => [
    uniqueIndex('papers_by_key').on(t.key),
    index('papers_by_expiry').on(t.expires),
    index('papers_of_person').on(t.person, t.kind),
  ],
);

export const paperRules = mysqlTable('paper_rules', {
  kind: varchar('kind', { length: 80 }).primaryKey(),
  rules: json<PaperRules>('rules').notNull(),
});

/** Looks at papers in the register; each is kept. */
export const paperLooks = mysqlTable(
  'paper_looks',
  {
    id: int('id').autoincrement().primaryKey(),
    paper: int('paper').notNull(),
    person: id('person').notNull(),
    /** Looked at its number or at the paper, or said whose it is. */
    what: varchar('what', { length: 6, enum: ['number', 'file', 'holder'] }).notNull(),
    at: instant('at').notNull(),
  },
  t => [index('looks_of_paper').on(t.paper)],
);

/** Files that were given: who gave them, and to which field of which request once it was sent. */
export const files = mysqlTable(
  'files',
  {
    id: char('id', { length: 36 }).primaryKey(),
    owner: id('owner').notNull(),
    request: id('request'),
    field: id('field'),
    name: varchar('name', { length: 200 }).notNull(),
    type: varchar('type', { length: 100 }).notNull(),
    size: int('size').notNull(),
    digest: char('digest', { length: 64 }).notNull(),
    /** Whether all of it has come in. */
    whole: boolean('whole').notNull(),
    at: machineTime('at').notNull(),
  },
  t => [index('files_of_request').on(t.request, t.at)],
);

/** Their content, in pieces, so that no piece is too large for a packet. */
export const filePieces = mysqlTable(
  'file_pieces',
  { file: char('file', { length: 36 }).notNull(), seq: int('seq').notNull(), bytes: bytes('bytes').notNull() },
  t => [primaryKey({ columns: [t.file, t.seq] })],
);
