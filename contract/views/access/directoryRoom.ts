/** The directory as the demo shows it beside the mails: what it holds, and what can be made to go wrong there. */
import { z } from 'zod';

export const Switches = z.strictObject({
  slow: z.number().int().min(0).max(60_000),
  down: z.boolean(),
  nextConflicts: z.number().int().min(0).max(1000),
  nextTooMany: z.number().int().min(0).max(1000),
  retryAfter: z.number().int().min(0).max(3600),
  nextBroken: z.number().int().min(0).max(1000),
  nextHalfBulks: z.number().int().min(0).max(1000),
  nextLost: z.number().int().min(0).max(1000),
  chance: z.number().min(0).max(1),
});
export type Switches = z.infer<typeof Switches>;

export const DirectoryRoomView = z.strictObject({
  reachable: z.boolean(),
  switches: Switches.nullable(),
  /** Accounts that fit what is looked for, the newest first. */
  accounts: z.array(
    z.strictObject({
      id: z.string(),
      account: z.string(),
      name: z.string(),
      active: z.boolean(),
      groups: z.array(z.string()),
      changedAt: z.string(),
    }),
  ),
  found: z.number(),
  groups: z.array(z.strictObject({ id: z.string(), name: z.string(), members: z.number() })),
  spaces: z.array(z.strictObject({ id: z.string(), name: z.string(), owner: z.string(), closed: z.boolean() })),
});
export type DirectoryRoomView = z.infer<typeof DirectoryRoomView>;

export const FindAccounts = z.object({ words: z.string().trim().max(100).default('') });
export type FindAccounts = z.infer<typeof FindAccounts>;

/** Switched for as long as it is not taken back, or for so many of the next calls. */
export const TurnSwitches = Switches.partial();
export type TurnSwitches = z.infer<typeof TurnSwitches>;

/** Changed there by hand, past North Pebble. */
export const ChangeByHand = z.strictObject({ active: z.boolean() });
export type ChangeByHand = z.infer<typeof ChangeByHand>;
