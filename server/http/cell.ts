/** Cells of tables that are taken along. */

/** What stands in a cell: words, a number, a day (`2026-02-09`), or an instant. */
export type Cell = string | number | { readonly day: string } | { readonly instant: string };
export const dayCell = (day: string | null): Cell => (day === null ? '' : { day });
