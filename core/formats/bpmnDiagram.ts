/** Where the elements of an exported process are drawn: one row, lanes of a split below one another. */

export type Box = { id: string; x: number; y: number; width: number; height: number };
export type Point = { x: number; y: number };

export const sizes = {
  task: { width: 120, height: 64 },
  gateway: { width: 44, height: 44 },
  event: { width: 32, height: 32 },
} as const;
export type Shape = keyof typeof sizes;

const gap = 56;
const rowHeight = 120;

/** Places elements one after another; a row further down is begun for each lane. */
export class Drawing {
  readonly boxes = new Map<string, Box>();

  /** @param column in which it stands, @param row counted from the top */
  place(id: string, shape: Shape, column: number, row: number): void {
    const { width, height } = sizes[shape];
    const x = 60 + column * (sizes.task.width + gap) + (sizes.task.width - width) / 2;
    const y = 60 + row * rowHeight + (sizes.task.height - height) / 2;
    this.boxes.set(id, { id, x, y, width, height });
  }

  /** Places a gateway close before another element, or so many rows below that place. */
  placeBefore(id: string, other: string, below: number): void {
    const box = this.boxes.get(other);
    if (!box) return;
    const { width, height } = sizes.gateway;
    const y = box.y + (box.height - height) / 2 + below * rowHeight;
    this.boxes.set(id, { id, x: box.x - width - 6, y, width, height });
  }

  /** From the right side of one to the left side of the other; round above when it goes back. */
  edge(from: string, to: string): Point[] {
    const a = this.boxes.get(from);
    const b = this.boxes.get(to);
    if (!a || !b) return [];
    const start = { x: a.x + a.width, y: a.y + a.height / 2 };
    const end = { x: b.x, y: b.y + b.height / 2 };
    if (end.x > start.x) {
      const middle = end.x - gap / 2;
      return start.y === end.y ? [start, end] : [start, { x: middle, y: start.y }, { x: middle, y: end.y }, end];
    }
    const above = Math.min(a.y, b.y) - 30;
    const top = { x: a.x + a.width / 2, y: a.y };
    const landing = { x: b.x + b.width / 2, y: b.y };
    return [top, { x: top.x, y: above }, { x: landing.x, y: above }, landing];
  }
}
