/**
 * Statements whose text is made once. The builder works a text out anew each time it is asked, which is most of the work
 * of a short command; what every command and every desk asks is kept as a text here, and each use only fills in values.
 */
import {
  type Column,
  fillPlaceholders,
  getTableColumns,
  getTableName,
  type Placeholder,
  type SQL,
  sql,
} from 'drizzle-orm';
import { MySqlDialect, type MySqlTable } from 'drizzle-orm/mysql-core';
import { drizzle } from 'drizzle-orm/mysql2';
import * as schema from './schema/index.ts';

/** A text with question marks, and the values that stand for them, as the database takes them. */
export class Prepared {
  readonly text: string;
  readonly values: readonly unknown[];
  constructor(text: string, values: readonly unknown[]) {
    this.text = text;
    this.values = values;
  }
}

/** A statement that nobody has run yet: ready-made, or as the builder made it. */
export type Statement = Prepared | { getSQL: () => SQL };

// Builds texts; it is connected to nothing.
const builder = drizzle.mock({ schema, mode: 'default' });
const dialect = new MySqlDialect();

type Builder = typeof builder;
type Made = { sql: string; params: unknown[] };
type Slot<Names extends string> = (name: Names) => Placeholder;

/**
 * A question that is asked often.
 * @param make builds it, with a slot wherever a value comes; a slot within `in (…)` takes a list that is not empty
 */
export function prepared<Names extends string>(
  make: (build: Builder, slot: Slot<Names>) => { toSQL: () => Made },
): (values: Record<Names, unknown>) => Prepared {
  let made: Made | null = null;
  return values => {
    made ??= make(builder, name => sql.placeholder(name)).toSQL();
    return new Prepared(made.sql, fillPlaceholders(made.params, values));
  };
}

const quoted = (name: string): string => `\`${name}\``;
const encoded = (column: Column, value: unknown): unknown =>
  value === null || value === undefined ? null : column.mapToDriverValue(value);

/**
 * Puts rows into a table.
 * @param how what becomes of a row whose key is there already: it is refused, or takes the new values
 */
export function insertion<T extends MySqlTable>(
  table: T,
  how: 'new' | 'replacing' = 'new',
): (rows: readonly T['$inferInsert'][]) => Prepared {
  const columns = Object.entries(getTableColumns(table)) as [string, Column][];
  const names = columns.map(([, column]) => quoted(column.name));
  const replaced = names.map(name => `${name} = values(${name})`).join(', ');
  const text = `insert into ${quoted(getTableName(table))} (${names.join(', ')}) values ?`;
  const whole = how === 'replacing' ? `${text} on duplicate key update ${replaced}` : text;
  return rows => {
    const filled = rows.map(row =>
      columns.map(([key, column]) => encoded(column, (row as Record<string, unknown>)[key] ?? column.default)),
    );
    return new Prepared(whole, [filled]);
  };
}

/** Changes the row of a table that one column finds: the columns named, and no others. */
export function change<T extends MySqlTable, K extends keyof T['$inferInsert'] & string>(
  table: T,
  keys: readonly K[],
  finder: keyof T['$inferSelect'] & string,
): (found: string | number, values: Pick<T['$inferInsert'], K>) => Prepared {
  const columns = getTableColumns(table) as unknown as Record<string, Column>;
  const sets = keys.map(key => `${quoted(columns[key].name)} = ?`);
  const text = `update ${quoted(getTableName(table))} set ${sets.join(', ')} where ${quoted(columns[finder].name)} = ?`;
  return (found, values) => new Prepared(text, [...keys.map(key => encoded(columns[key], values[key])), found]);
}

/** Reads a row of a table as the driver gives it, with its columns under their names in the database. */
export function reader<T extends MySqlTable>(table: T): (raw: Readonly<Record<string, unknown>>) => T['$inferSelect'] {
  const columns = Object.entries(getTableColumns(table)) as [string, Column][];
  return raw =>
    Object.fromEntries(
      columns.map(([key, column]) => {
        const value = raw[column.name];
        return [key, value === null || value === undefined ? null : column.mapFromDriverValue(value)];
      }),
    ) as T['$inferSelect'];
}

/** Any statement as a text with its values. */
export function asPrepared(statement: Statement): Prepared {
  if (statement instanceof Prepared) return statement;
  const { sql: text, params } = dialect.sqlToQuery(statement.getSQL());
  return new Prepared(text, params);
}
