/** Rows as they come into sight: some are asked for together, and names stay while other days of them are fetched. */
import type { PlannerRows } from '@north-pebble/contract';
import { useQueries } from '@tanstack/react-query';
import { useRef } from 'react';
import { plannerRowsQuery } from '../../../api/queries.ts';

export type PlannerRow = PlannerRows['rows'][number] & { readonly days: string | null };

const together = 100;

/**
 * @param look whose days, and which
 * @param whose the same without the days: the names are the same as long as it is
 * @param wanted the rows in sight
 */
export function useRows(
  look: string,
  whose: string,
  wanted: readonly number[],
): (row: number) => PlannerRow | undefined {
  const parts = [...new Set(wanted.map(row => Math.floor(row / together)))].sort((a, b) => a - b);
  const found = useQueries({
    queries: parts.map(part => ({
      ...plannerRowsQuery(look, `skip=${part * together}&take=${together}`),
      staleTime: 30_000,
    })),
  });
  const names = useRef<{ whose: string; rows: Map<number, PlannerRow> }>({ whose, rows: new Map() });
  if (names.current.whose !== whose) names.current = { whose, rows: new Map() };
  const rows = new Map<number, PlannerRow>();
  for (const [n, part] of parts.entries()) {
    const data = found[n]?.data;
    for (const [at, row] of data?.rows.entries() ?? []) {
      const whole = keptOf(row, data?.shades[row.shade] ?? '');
      rows.set(part * together + at, whole);
      names.current.rows.set(part * together + at, { ...row, bars: [], days: null });
    }
  }
  return row => rows.get(row) ?? names.current.rows.get(row);
}

/** The same row is the same value from drawing to drawing, so that it is drawn once. */
const kept = new WeakMap<object, PlannerRow>();
function keptOf(row: PlannerRows['rows'][number], days: string): PlannerRow {
  const before = kept.get(row);
  if (before) return before;
  const whole = { ...row, days };
  kept.set(row, whole);
  return whole;
}
