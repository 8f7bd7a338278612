/** A round of wishes that is closed and waits to be decided: the weeks of summer at the observatory. */
import type { HalfSpan } from '@north-pebble/core/leave';
import type { CivilDate } from '@north-pebble/core/time';

export const summerRound = {
  name: 'Summer at the observatory',
  type: 'annual',
  place: 'ovay',
  department: 'observatory',
  from: '2026-07-06' as CivilDate,
  to: '2026-07-31' as CivilDate,
  closes: '2026-01-30' as CivilDate,
  mostAway: 2,
  seed: '5e1f0c37a94b2d86e0f3715ac9d24b68',
} as const;

const week = (from: string, to: string): HalfSpan => ({
  from: { date: from as CivilDate, half: 'am' },
  to: { date: to as CivilDate, half: 'pm' },
});

/** What each would have, in the order in which they would have it. */
export const summerWishes: Readonly<Record<string, readonly HalfSpan[]>> = {
  ines: [week('2026-07-13', '2026-07-24'), week('2026-07-06', '2026-07-10')],
  'per-lauder': [week('2026-07-13', '2026-07-17')],
  'ada-dunmore': [week('2026-07-06', '2026-07-17'), week('2026-07-20', '2026-07-31')],
  'soren-mabey': [week('2026-07-13', '2026-07-17'), week('2026-07-27', '2026-07-31')],
  'mira-kell': [week('2026-07-20', '2026-07-31')],
};
