/** Long answers in pages: together they are everything, once and in order. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { pagedOf, pageOf } from './pages.ts';

test('the pages of an answer are all of it, each row once', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 5000 }), length => {
      const rows = Array.from({ length }, (_, n) => n);
      const read: number[] = [];
      let row: number | null = 0;
      while (row !== null) {
        const page: readonly number[] = pageOf(rows, row);
        expect(page.length).toBeLessThanOrEqual(1000);
        read.push(...page);
        row = pagedOf(rows.length, row, 7).next;
      }
      expect(read).toEqual(rows);
    }),
    { numRuns: 30 },
  );
});

test('a page past the end is empty and the last', () => {
  expect(pageOf([1, 2], 1000)).toEqual([]);
  expect(pagedOf(2, 1000, 7)).toEqual({ next: null, version: 7 });
});
