/** Runs of the same mark along a row, so that a week off is one bar and not fourteen. */
export function runs(marks: string): { mark: string; from: number; length: number }[] {
  const found: { mark: string; from: number; length: number }[] = [];
  for (let i = 0; i < marks.length; i++) {
    const last = found.at(-1);
    if (last?.mark === marks[i]) last.length++;
    else found.push({ mark: marks[i], from: i, length: 1 });
  }
  return found;
}
