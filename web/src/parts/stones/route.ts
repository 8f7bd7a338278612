/** Lines from stone to stone, led around the stones that they do not belong to. */
import type { Link, Stone } from './drawing.ts';

type Point = [number, number];
type Curve = [Point, Point, Point, Point];

const room = { x: 15, y: 14 };
const samples = 40;

const boxOf = (stone: Stone) => ({
  from: stone.x - (stone.width ? 0 : room.x),
  to: stone.x + (stone.width || room.x),
  top: stone.y - room.y,
  bottom: stone.y + room.y,
});

const at = ([a, b, c, d]: Curve, t: number): Point => {
  const s = 1 - t;
  const along = (i: 0 | 1) => s * s * s * a[i] + 3 * s * s * t * b[i] + 3 * s * t * t * c[i] + t * t * t * d[i];
  return [along(0), along(1)];
};

/** How many stones other than its own a curve runs through. */
function hits(curve: Curve, stones: readonly Stone[]): number {
  const [from, , , to] = curve;
  const [low, high] = [Math.min(...curve.map(p => p[1])), Math.max(...curve.map(p => p[1]))];
  let points: Point[] | undefined;
  return stones.filter(stone => {
    const box = boxOf(stone);
    // Most stones lie nowhere near the line.
    if (box.to < from[0] || box.from > to[0] || box.bottom < low || box.top > high) return false;
    points ??= Array.from({ length: samples - 1 }, (_, i) => at(curve, (i + 1) / samples));
    const isOwn = ([x, y]: Point) => x >= box.from - 2 && x <= box.to + 2 && y >= box.top - 2 && y <= box.bottom + 2;
    if (isOwn(from) || isOwn(to)) return false;
    return points.some(([x, y]) => x > box.from && x < box.to && y > box.top && y < box.bottom);
  }).length;
}

const turns = [0.5, 0.3, 0.7, 0.15, 0.85, 0.05, 0.95];
const bends = [0, 28, -28, 44, -44, 60, -60];

const text = ([a, b, c, d]: Curve): string => `M${a[0]} ${a[1]}C${b[0]} ${b[1]} ${c[0]} ${c[1]} ${d[0]} ${d[1]}`;

/** Where there are more stones than this, only a few ways around are tried: such a drawing is looked at from afar. */
const many = 60;

/** The curves that a line may take, the plainest first. */
const curves = ({ from, to }: Pick<Link, 'from' | 'to'>, stones: readonly Stone[]): Curve[] =>
  (stones.length > many ? bends.slice(0, 3) : bends).flatMap(bend =>
    (stones.length > many ? turns.slice(0, 3) : turns).map((turn): Curve => {
      const x = from[0] + (to[0] - from[0]) * turn;
      return [from, [x, from[1] + bend], [x, to[1] + bend], to];
    }),
  );

const wideTurns = [0.02, 0.2, 0.4, 0.6, 0.8, 0.98];
const wideBends = [0, 50, -50, 90, -90, 140, -140];

/** Where none of the plain ones is free: those that turn twice, wider around. */
const wider = ({ from, to }: Pick<Link, 'from' | 'to'>): Curve[] =>
  wideBends.flatMap(bend =>
    wideTurns.flatMap(first =>
      wideTurns.map((second): Curve => {
        const x = (turn: number) => from[0] + (to[0] - from[0]) * turn;
        return [from, [x(first), from[1] + bend], [x(second), to[1] + bend], to];
      }),
    ),
  );

const above = 18;

/** Up from the pill, over, and down to where it goes on again. */
const loop = (from: Point, to: Point): string =>
  `M${from[0]} ${from[1]}C${from[0]} ${above - 12} ${from[0] - 30} ${above} ${(from[0] + to[0]) / 2} ${above}S${to[0]} ${above - 4} ${to[0]} ${to[1]}`;

/** Where a loop may leave its stone: its middle, unless another stone lies straight above. */
function leaving(from: Point, own: Stone | undefined, stones: readonly Stone[]): Point {
  if (!own?.width) return from;
  const isFree = (x: number) =>
    !stones.some(stone => {
      const box = boxOf(stone);
      return stone !== own && stone.y < own.y && x > box.from - 3 && x < box.to + 3;
    });
  const x = [0.5, 0.35, 0.65, 0.2, 0.8, 0.08, 0.92].map(part => own.x + own.width * part).find(isFree);
  return [x ?? from[0], from[1]];
}

export function routed(link: Omit<Link, 'path'>, stones: readonly Stone[], own: Stone | undefined): string {
  if (link.kind === 'rework') return loop(leaving(link.from, own, stones), link.to);
  let best = undefined as { curve: Curve; n: number } | undefined;
  const tryAll = (all: readonly Curve[]) => {
    for (const curve of all) {
      const n = hits(curve, stones);
      if (!best || n < best.n) best = { curve, n };
      if (n === 0) return;
    }
  };
  tryAll(curves(link, stones));
  if (best?.n !== 0 && stones.length <= many) tryAll(wider(link));
  return best ? text(best.curve) : '';
}

/** How many stones the line of a link runs through: none, where there is a way around them. */
export function crossings({ path }: Pick<Link, 'path'>, stones: readonly Stone[]): number {
  const found = /^M([\d.-]+) ([\d.-]+)C([\d.-]+) ([\d.-]+) ([\d.-]+) ([\d.-]+) ([\d.-]+) ([\d.-]+)$/.exec(path);
  if (!found) return 0;
  const [ax, ay, bx, by, cx, cy, dx, dy] = found.slice(1).map(Number);
  return hits(
    [
      [ax, ay],
      [bx, by],
      [cx, cy],
      [dx, dy],
    ],
    stones,
  );
}
