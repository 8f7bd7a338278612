/** What somebody may have meant by a word that is not known. */

/** The nearest of the known names, when it is near enough to be a slip of the pen. */
export function nearest(word: string, known: Iterable<string>): string | undefined {
  let best: string | undefined;
  let least = Math.max(1, Math.floor(word.length / 3)) + 1;
  for (const candidate of known) {
    const far = distance(word.toLowerCase(), candidate.toLowerCase());
    if (far < least) [best, least] = [candidate, far];
  }
  return best;
}

/** Letters to add, drop, change, or swap with their neighbour, to make one word of the other. */
export function distance(a: string, b: string): number {
  let before: number[] = [];
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      const changed = row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1);
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1] ? before[j - 2] + 1 : Infinity;
      next.push(Math.min(row[j] + 1, next[j - 1] + 1, changed, swapped));
    }
    before = row;
    row = next;
  }
  return row[b.length];
}
