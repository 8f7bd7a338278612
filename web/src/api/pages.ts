/** Long answers, which come in pages, as one. */
import type { Paged } from '@north-pebble/contract';

/** So often it is begun again where the house changes while its pages are read. */
const mostTries = 5;

/**
 * @param page the page that begins at a row
 * @param join two pages as one, the first of all before the next
 */
export async function allPages<P extends Paged>(
  page: (row: number) => Promise<P>,
  join: (a: P, b: P) => P,
): Promise<P> {
  for (let tries = 1; ; tries++) {
    let all = await page(0);
    let next = all.next;
    let isWhole = true;
    while (next !== null && isWhole) {
      const one = await page(next);
      isWhole = one.version === all.version;
      all = join(all, one);
      next = one.next;
    }
    if (isWhole) return { ...all, next: null };
    if (tries === mostTries) throw new Error('What is on file kept changing while it was read. Try again.');
  }
}
