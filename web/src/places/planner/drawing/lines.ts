/** The lines of the drawing from the top down: a heading for each team, and its people where it is unfolded. */
import type { PlannerView } from '@north-pebble/contract';

/** @property row which of all rows it is, as they are asked for */
export type PlannerLine =
  | { readonly kind: 'team'; readonly team: number }
  | { readonly kind: 'person'; readonly team: number; readonly row: number };

/** More than so many are folded until somebody unfolds them. */
const mostUnfolded = 80;

export const isManyOf = (view: Pick<PlannerView, 'teams'>): boolean =>
  view.teams.length > 1 && view.teams.reduce((sum, team) => sum + team.people, 0) > mostUnfolded;

/** Teams that somebody has unfolded and folded, by their names; the others are as they are at first. */
export type Turned = { readonly open: ReadonlySet<string>; readonly shut: ReadonlySet<string> };

export const isOpenIn = (turned: Turned, team: string, isFolded: boolean): boolean =>
  turned.open.has(team) || (!isFolded && !turned.shut.has(team));

/** @param isFolded whether teams are folded at first */
export function linesOf(view: Pick<PlannerView, 'teams'>, turned: Turned, isFolded = isManyOf(view)): PlannerLine[] {
  const lines: PlannerLine[] = [];
  let row = 0;
  for (const [team, { name, people }] of view.teams.entries()) {
    lines.push({ kind: 'team', team });
    if (isOpenIn(turned, name, isFolded))
      for (let n = 0; n < people; n++) lines.push({ kind: 'person', team, row: row + n });
    row += people;
  }
  return lines;
}

/** Where each line begins, and last where all of them end. */
export function topsOf(lines: readonly PlannerLine[], heightOf: (line: PlannerLine) => number): Float64Array {
  const tops = new Float64Array(lines.length + 1);
  for (const [n, line] of lines.entries()) tops[n + 1] = (tops[n] ?? 0) + heightOf(line);
  return tops;
}

/** The line in which something stands that far from the top; the last one below all of them. */
export function lineAt(tops: Float64Array, y: number): number {
  let [low, high] = [0, Math.max(0, tops.length - 2)];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((tops[middle] ?? 0) <= y) low = middle;
    else high = middle - 1;
  }
  return low;
}
