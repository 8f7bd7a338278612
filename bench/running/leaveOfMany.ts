/** Ten thousand people with three bookings each. */
import type { PersonId } from '@north-pebble/core/people';
import { type Database, tables as t } from '@north-pebble/server/database';
import { insertMany } from '@north-pebble/server/house';
import { eq } from 'drizzle-orm';
import { growPeople } from './load.ts';

export const manyPeople = 10_000;
export const spansOfEach = [
  ['2025-07-07', '2025-07-18'],
  ['2025-11-03', '2025-11-05'],
  ['2026-05-11', '2026-05-15'],
] as const;

/** Nothing where they are there already. */
export async function growLeave(db: Database): Promise<PersonId[]> {
  const people = (await growPeople(db)).slice(0, manyPeople) as PersonId[];
  if ((await db.$count(t.leaveEntries, eq(t.leaveEntries.request, 'L-0-0'))) > 0) return people;
  await insertMany(
    db,
    t.leaveEntries,
    people.flatMap((person, n) =>
      spansOfEach.map(([from, to], k) => ({
        request: `L-${n}-${k}`,
        person,
        type: 'annual',
        state: 'booked' as const,
        firstDay: from,
        lastDay: to,
        span: { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } } as never,
        planner: true,
      })),
    ),
  );
  return people;
}
