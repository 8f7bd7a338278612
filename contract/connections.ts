/** Connections: what is set up, how it goes, and what waits or failed. */
import type { Instant } from '@north-pebble/core/time';
import { z } from 'zod';

export const ConnectionName = z
  .string()
  .trim()
  .min(2, 'Give it a name of at least two letters.')
  .max(60)
  .regex(/^[\p{L}\p{N}][\p{L}\p{N} ._-]*$/u, 'Use letters, figures, spaces, dots and hyphens.')
  .refine(name => name.toLowerCase() !== 'mail', 'This name is taken by the house’s own mail.');

/** An address outside, a secret for signing, and whether it may be in a private network. A secret left empty stays. */
export const SaveConnection = z
  .object({
    kind: z.enum(['http']),
    settings: z
      .object({
        address: z.string().max(500).default(''),
        secret: z.string().max(200).default(''),
        inside: z.boolean().default(false),
      })
      .strict(),
    paused: z.boolean().default(false),
  })
  .strict();
export type SaveConnection = z.infer<typeof SaveConnection>;

export type EffectState = 'waiting' | 'delivered' | 'refused' | 'given up' | 'undone' | 'unwanted';

export type EffectRow = {
  id: number;
  connection: string;
  action: string;
  request: string | null;
  state: EffectState;
  attempts: number;
  fault: string | null;
  writtenAt: Instant;
};

export type ConnectionView = {
  name: string;
  /** `mail` is the house’s own; it is set in the environment. */
  kind: 'mail' | 'http';
  shown: Readonly<Record<string, unknown>>;
  paused: boolean;
  /** Whether it can be asked: its settings are understood. */
  usable: boolean;
  waiting: number;
  /** To be taken back on a day that is ahead. */
  ahead: number;
  /** Tried in vain and tried again. */
  failing: number;
  refused: number;
  delivered: number;
  /** Why it did not work the last time, when something is failing. */
  fault: string | null;
};
export type ConnectionsView = {
  connections: ConnectionView[];
  /** Asked for by workflows under names that nobody has set up, with how much waits. */
  missing: { name: string; waiting: number }[];
  /** What did not go through, the newest first. */
  failed: EffectRow[];
};

export const TryAgain = z.object({ id: z.number().int().positive().optional() }).strict();
export type CheckedView = { reached: boolean; words: string };
