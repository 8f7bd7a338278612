/** The house written out as files: what is on file, or an empty table with the line that shows how it is filled in. */
import type { Writable } from 'node:stream';
import { type Booking, beginsOf, type OnFile } from '@north-pebble/core/facts';
import { bookingId, isBookedBefore } from '@north-pebble/core/leave';
import { movingTables, type TableId, writtenTable } from '@north-pebble/core/movingIn';
import type { PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { type Executor, tables as t } from '../database/index.ts';
import { besideOf, type House, type Moment, rulesFor } from '../house/index.ts';
import { writeCsv } from '../http/index.ts';

/** Balances and bookings as facts; those that were decided here have ids by which a file would name them. */
export async function leaveOnFile(
  db: Executor,
): Promise<{ adjustments: NonNullable<OnFile['adjustments']>; bookings: Booking[]; decidedHere: Set<string> }> {
  const adjustments = await db.select().from(t.leaveAdjustments);
  const rows = await db
    .select({
      request: t.leaveEntries.request,
      person: t.leaveEntries.person,
      type: t.leaveEntries.type,
      span: t.leaveEntries.span,
    })
    .from(t.leaveEntries)
    .where(eq(t.leaveEntries.state, 'booked'));
  const decidedHere = new Set<string>();
  const bookings = rows.map(({ request, person, type, span }): Booking => {
    const id = isBookedBefore(request) ? request : bookingId(person, type, beginsOf(span));
    if (id !== request) decidedHere.add(id);
    return { id, person: person as PersonId, type, span };
  });
  return {
    adjustments: adjustments.map(({ person, type, date, amount, reason }) => ({
      person: person as PersonId,
      type,
      date: date as CivilDate,
      amount,
      reason,
    })),
    bookings,
    decidedHere,
  };
}

async function* once(rows: string[][]): AsyncGenerator<string[][]> {
  yield rows;
}

export async function writeTemplate(out: Writable, table: TableId): Promise<void> {
  const { columns } = movingTables[table];
  await writeCsv(
    out,
    columns.map(one => one.label),
    once([columns.map(one => one.like)]),
  );
}

export async function writeTable(house: House, out: Writable, table: TableId, moment: Moment): Promise<void> {
  const { index, lists } = moment;
  const { adjustments, bookings } = await leaveOnFile(house.db);
  const rules = await rulesFor(house.db, index);
  const file = { ...index.directory, ...besideOf(lists, rules), adjustments, bookings };
  const { headings, rows } = writtenTable(table, { file, ...rules });
  await writeCsv(out, headings, once(rows));
}
