/** Chance with a seed: the same demo every time. Source: the mulberry32 generator. */
export type Random = {
  /** From 0 up to, not including, 1. */
  readonly next: () => number;
  readonly whole: (least: number, most: number) => number;
  readonly pick: <T>(from: readonly T[]) => T;
  readonly chance: (share: number) => boolean;
};

export function random(seed: number): Random {
  let at = seed >>> 0;
  const next = () => {
    at = (at + 0x6d2b79f5) >>> 0;
    let t = at;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  const whole = (least: number, most: number) => least + Math.floor(next() * (most - least + 1));
  return { next, whole, pick: from => from[whole(0, from.length - 1)], chance: share => next() < share };
}
