/** Long answers in pages, so that none holds up whoever asks for something else. */
import type { Paged } from '@north-pebble/contract';

/** So many rows are a page. */
const most = 1000;

/** The rows of a page that begins at one. */
export const pageOf = <T>(all: readonly T[], row: number): readonly T[] => all.slice(row, row + most);

/** @param rows how many there are in all */
export const pagedOf = (rows: number, row: number, version: number): Paged => ({
  next: row + most < rows ? row + most : null,
  version,
});
