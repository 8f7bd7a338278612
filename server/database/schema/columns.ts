/** Kinds of columns. */
import { type RequestState, readState } from '@north-pebble/core/workflow';
import { bigint, char, customType, varchar } from 'drizzle-orm/mysql-core';

/** JSON kept as text: MariaDB's own JSON type is a text too, and its driver does not read it. */
export const json = <T>(name: string) =>
  customType<{ data: T; driverData: string }>({
    dataType: () => 'longtext',
    toDriver: value => JSON.stringify(value),
    fromDriver: text => JSON.parse(text) as T,
  })(name);

/** The state of a request, read in the form of today whichever version stored it. */
export const requestState = customType<{ data: RequestState; driverData: string }>({
  dataType: () => 'longtext',
  toDriver: state => JSON.stringify(state),
  fromDriver: text => readState(JSON.parse(text)),
});

export const id = (name: string) => varchar(name, { length: 40 });
export const day = (name: string) => char(name, { length: 10 });
/** An instant as ISO 8601 in UTC, to the second: sorts as it reads. */
export const instant = (name: string) => char(name, { length: 20 });
/** Milliseconds of the machine's clock, for retries and claims that the demo clock must not move. */
export const machineTime = (name: string) => bigint(name, { mode: 'number' });

export const bytes = customType<{ data: Buffer }>({ dataType: () => 'mediumblob' });
