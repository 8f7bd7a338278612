/** What can be made to go wrong, to see that whoever calls copes with it. */
import { z } from 'zod';

/** `next` ones count down to nothing with each call; the others stay until they are taken back. */
export const Switches = z
  .object({
    /** Milliseconds before an answer. */
    slow: z.number().int().min(0).max(60_000),
    /** Nothing is answered at all. */
    down: z.boolean(),
    /** So many of the next calls that change something are answered so, and do nothing. */
    nextConflicts: z.number().int().min(0).max(1000),
    nextTooMany: z.number().int().min(0).max(1000),
    /** Seconds that a 429 asks to wait. */
    retryAfter: z.number().int().min(0).max(3600),
    nextBroken: z.number().int().min(0).max(1000),
    /** The next bulk call ends after half of it. */
    nextHalfBulks: z.number().int().min(0).max(1000),
    /** So many of the next changes are done, and their answer is lost. */
    nextLost: z.number().int().min(0).max(1000),
    /** The share of all calls that meet one of these by chance, 0 to 1. */
    chance: z.number().min(0).max(1),
  })
  .strict();
export type Switches = z.infer<typeof Switches>;

export const calm: Switches = {
  slow: 0,
  down: false,
  nextConflicts: 0,
  nextTooMany: 0,
  retryAfter: 1,
  nextBroken: 0,
  nextHalfBulks: 0,
  nextLost: 0,
  chance: 0,
};

export type Mishap = 'conflict' | 'too many' | 'broken' | 'lost' | null;

/** What happens to a call, and the switches after it. */
export function mishap(switches: Switches, changes: boolean, roll: () => number): { mishap: Mishap; after: Switches } {
  if (switches.chance > 0 && roll() < switches.chance) {
    const kinds: Mishap[] = changes ? ['too many', 'broken', 'lost'] : ['too many', 'broken'];
    return { mishap: kinds[Math.floor(roll() * kinds.length)], after: switches };
  }
  const counted = [
    ['nextTooMany', 'too many'],
    ['nextBroken', 'broken'],
    ...(changes
      ? ([
          ['nextConflicts', 'conflict'],
          ['nextLost', 'lost'],
        ] as const)
      : []),
  ] as const;
  for (const [key, kind] of counted)
    if (switches[key] > 0) return { mishap: kind, after: { ...switches, [key]: switches[key] - 1 } };
  return { mishap: null, after: switches };
}
