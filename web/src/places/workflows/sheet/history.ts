/** Undo and redo over a value: every change is kept, the newest last. */

export type History<T> = { readonly past: readonly T[]; readonly now: T; readonly future: readonly T[] };

const most = 200;

export const begin = <T>(now: T): History<T> => ({ past: [], now, future: [] });

export const change = <T>({ past, now }: History<T>, next: T): History<T> => ({
  past: [...past, now].slice(-most),
  now: next,
  future: [],
});

export function undo<T>({ past, now, future }: History<T>): History<T> {
  const before = past.at(-1);
  return before === undefined
    ? { past, now, future }
    : { past: past.slice(0, -1), now: before, future: [now, ...future] };
}

export function redo<T>({ past, now, future }: History<T>): History<T> {
  const [next, ...rest] = future;
  return next === undefined ? { past, now, future } : { past: [...past, now], now: next, future: rest };
}
