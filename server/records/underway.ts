/** Previews that are being worked out: how far they are, for whoever waits for them, and stopped by them. */
import type { House } from '../house/index.ts';
import type { Caller } from '../http/index.ts';

export type Underway = { done: number; all: number; readonly stopping: AbortController };

const ofHouse = new WeakMap<House, Map<string, Underway>>();
const allOf = (house: House): Map<string, Underway> => {
  const known = ofHouse.get(house) ?? new Map<string, Underway>();
  ofHouse.set(house, known);
  return known;
};
/** Nobody looks at or stops what another has begun. */
const keyOf = (caller: Caller, id: string): string => `${caller.id} ${id}`;

/** Keeps how far work is for as long as it goes on. @param id nothing where nobody wants to know */
export async function underway<T>(
  house: House,
  caller: Caller,
  id: string | undefined,
  work: (own: Underway) => Promise<T>,
): Promise<T> {
  const own: Underway = { done: 0, all: 0, stopping: new AbortController() };
  if (id === undefined) return work(own);
  const key = keyOf(caller, id);
  allOf(house).set(key, own);
  try {
    return await work(own);
  } finally {
    allOf(house).delete(key);
  }
}

/** How far it is, as people counted of all; nothing of what is over, or of another. */
export function farOf(house: House, caller: Caller, id: string): { done: number; all: number } {
  const { done = 0, all = 0 } = allOf(house).get(keyOf(caller, id)) ?? {};
  return { done, all };
}

export const stopUnderway = (house: House, caller: Caller, id: string): void =>
  allOf(house).get(keyOf(caller, id))?.stopping.abort();
