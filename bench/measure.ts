/** Measuring: how often a second something can be done, warmed up first, and the rows of the table. */

export type Row = {
  what: string;
  /** Per second, or seconds for one whole piece of work, as the row says. */
  ours: number;
  theirs: number;
  baseline: string;
  ratio: number;
  /** What the ratio must reach (more is better) or stay under (less is better). */
  bar: number;
  better: 'more' | 'less';
  note?: string;
};

const now = (): number => Number(process.hrtime.bigint()) / 1e9;

/** Times a second, over at least `seconds`, after a warm-up of a third of it. */
export function perSecond(work: () => unknown, seconds = 0.6): number {
  let sink: unknown;
  for (const until = now() + seconds / 3; now() < until; ) sink = work();
  let done = 0;
  const began = now();
  const until = began + seconds;
  for (let batch = 1; now() < until; batch = Math.min(batch * 2, 4096)) {
    for (let i = 0; i < batch; i++) sink = work();
    done += batch;
  }
  const rate = done / (now() - began);
  if (sink === now) throw new Error('unreachable; keeps the work from being optimised away');
  return rate;
}

/**
 * Two kinds of work in turn, a slice of each after the other, so that what slows a machine for a moment slows both: the
 * rates of the slice whose ratio is the median.
 */
export function sideBySide(
  ours: () => unknown,
  theirs: () => unknown,
  seconds = 0.1,
): { ours: number; theirs: number } {
  perSecond(ours, seconds);
  perSecond(theirs, seconds);
  const slices = Array.from({ length: 15 }, () => ({
    ours: perSecond(ours, seconds),
    theirs: perSecond(theirs, seconds),
  }));
  const sorted = slices.toSorted((a, b) => a.theirs / a.ours - b.theirs / b.ours);
  return sorted[7] as (typeof sorted)[number];
}

export function secondsFor(work: () => unknown): number {
  const began = now();
  work();
  return now() - began;
}

const short = (n: number): string => (n >= 1000 ? Math.round(n).toLocaleString('en') : n.toPrecision(3));

/** The last figures of each row, by what it is without the figures in its name. */
export type Last = Readonly<Record<string, number>>;

/** What a row is called from one run to the next: figures that were counted stand in parentheses. */
export const nameOf = ({ what }: Row): string => what.replace(/ \([^)]*\)/g, '');

/** The figures of now in the place of those of before; rows that were not run stay as they were. */
export const lastOf = (before: Last, rows: readonly Row[]): Last => ({
  ...before,
  ...Object.fromEntries(rows.map(row => [nameOf(row), Number(row.ratio.toPrecision(4))])),
});

/** By how much a ratio has changed since it was last measured. */
function changed(row: Row, last: Last): string {
  const before = last[nameOf(row)];
  if (before === undefined) return 'new';
  const percent = Math.round((row.ratio / before - 1) * 100);
  return `${percent > 0 ? '+' : ''}${percent} % (${short(before)}×)`;
}

export function table(rows: readonly Row[], last: Last = {}): string {
  const lines = rows.map(row => {
    const met = row.better === 'more' ? row.ratio >= row.bar : row.ratio <= row.bar;
    return [
      row.what,
      short(row.ours),
      `${short(row.theirs)} (${row.baseline})`,
      `${short(row.ratio)}×`,
      `${row.better === 'more' ? 'at least' : 'at most'} ${row.bar}×`,
      met ? 'met' : 'NOT met',
      changed(row, last),
    ];
  });
  const head = ['what', 'ours', 'baseline', 'ratio', 'bar', '', 'since the last'];
  const widths = head.map((_, i) => Math.max(...[head, ...lines].map(line => line[i].length)));
  return [head, ...lines].map(line => line.map((cell, i) => cell.padEnd(widths[i])).join('  ')).join('\n');
}

/** What is held against no other code, but against its bar. */
export const againstBar = (what: string, ours: number, most: number): Row => ({
  what,
  ours,
  theirs: most,
  baseline: 'the bar itself',
  ratio: ours / most,
  bar: 1,
  better: 'less',
});
