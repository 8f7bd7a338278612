/** Pages of a long answer, read as one. */
import { describe, expect, test } from '@jest/globals';
import { allPages } from './pages.ts';

type Rows = { rows: readonly number[]; next: number | null; version: number };
const join = (a: Rows, b: Rows): Rows => ({ ...a, rows: [...a.rows, ...b.rows] });
const all = Array.from({ length: 2500 }, (_, n) => n);
const pageOf = (row: number, version: number): Rows => ({
  rows: all.slice(row, row + 1000),
  next: row + 1000 < all.length ? row + 1000 : null,
  version,
});

describe('pages', () => {
  test('are read one after another, in their order', async () => {
    const asked: number[] = [];
    const found = await allPages(async row => {
      asked.push(row);
      return pageOf(row, 1);
    }, join);
    expect(asked).toEqual([0, 1000, 2000]);
    expect(found).toEqual({ rows: all, next: null, version: 1 });
  });
  test('of two versions are not put together: it is begun again', async () => {
    let calls = 0;
    const found = await allPages(async row => pageOf(row, ++calls < 3 ? calls : 9), join);
    expect(found).toEqual({ rows: all, next: null, version: 9 });
  });
  test('of what never holds still are refused rather than mixed', async () => {
    let calls = 0;
    await expect(allPages(async row => pageOf(row, ++calls), join)).rejects.toThrow('kept changing');
  });
});
