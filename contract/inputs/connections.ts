/** Connections: set up, and what failed tried again. */
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

export const TryAgain = z.object({ id: z.number().int().positive().optional() }).strict();
