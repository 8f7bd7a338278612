/** Where notes of a margin stand: each level with its line, or just below the note above it. */

const gap = 4;

/** @param notes in the order in which they stand, with the height of each and the top that it would like */
export function level(notes: readonly { height: number; top: number }[]): number[] {
  let free = 0;
  return notes.map(({ height, top }) => {
    const at = Math.max(free, top);
    free = at + height + gap;
    return at;
  });
}
