/** Some lines next to one another, drawn together once: a canvas for each line costs more than what is drawn in it. */
import { memo, useLayoutEffect, useRef } from 'react';
import { begin, drawPerson, drawTeam, type Ink } from './ink.ts';
import { rowHeight, teamHeight } from './Line.tsx';
import type { PlannerRow } from './rows.ts';
import type { Needed, Team } from './words.ts';

export type Drawn =
  | { readonly kind: 'team'; readonly top: number; readonly team: Team; readonly needed: Needed | undefined }
  | { readonly kind: 'person'; readonly top: number; readonly row: PlannerRow | undefined };

/** So many lines are drawn together. */
export const inTile = 8;

type Props = {
  readonly top: number;
  readonly left: number;
  readonly height: number;
  readonly count: number;
  readonly cell: number;
  readonly ink: Ink;
  readonly lines: readonly Drawn[];
};

const isSameLine = (a: Drawn, b: Drawn | undefined): boolean =>
  b !== undefined &&
  a.top === b.top &&
  (a.kind === 'team'
    ? b.kind === 'team' && a.team === b.team && a.needed === b.needed
    : b.kind === 'person' && a.row === b.row);

const isSame = (a: Props, b: Props): boolean =>
  a.top === b.top &&
  a.left === b.left &&
  a.height === b.height &&
  a.count === b.count &&
  a.cell === b.cell &&
  a.ink === b.ink &&
  a.lines.length === b.lines.length &&
  a.lines.every((line, n) => isSameLine(line, b.lines[n]));

export const Tile = memo(function Tile({ top, left, height, count, cell, ink, lines }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const width = count * cell;
  // The same size whatever lines are in it, so that a canvas that is used again is not made anew.
  const tall = Math.max(height, inTile * teamHeight);
  useLayoutEffect(() => {
    const ctx = canvas.current && begin(canvas.current, width, tall);
    if (!ctx) return;
    for (const line of lines) {
      ctx.save();
      ctx.translate(0, line.top - top + (line.kind === 'team' ? 8 : 0));
      if (line.kind === 'team') {
        const { here, needed } = line.needed ?? { here: [], needed: 0 };
        const short = here.map(n => n !== null && n < needed);
        drawTeam(ctx, line.team, short, { cell, height: teamHeight - 8 }, ink);
      } else if (line.row?.days) drawPerson(ctx, line.row.days, line.row.bars, { cell, height: rowHeight }, ink);
      ctx.restore();
    }
  });
  return (
    <canvas
      ref={canvas}
      style={{
        position: 'absolute',
        top,
        left,
        width,
        height: tall,
        display: 'block',
        pointerEvents: 'none',
        contain: 'strict',
      }}
    />
  );
}, isSame);
