/** What a body may be at most, before anything reads it: how deep, and of how many pieces. */
const deepest = 40;
const mostPieces = 200_000;

/** Whether a value read from JSON is deeper or has more pieces than anything that is sent here; looked at without recursion. */
export function isOutOfBounds(value: unknown, most = mostPieces): boolean {
  const open: { value: unknown; depth: number }[] = [{ value, depth: 0 }];
  let pieces = 0;
  for (let next = open.pop(); next; next = open.pop()) {
    pieces += 1;
    if (pieces > most || next.depth > deepest) return true;
    if (typeof next.value !== 'object' || next.value === null) continue;
    for (const inside of Object.values(next.value)) {
      if (typeof inside === 'object' && inside !== null) open.push({ value: inside, depth: next.depth + 1 });
      else pieces += 1;
    }
  }
  return false;
}
