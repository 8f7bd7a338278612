/** Connections: set up, and what failed tried again. */
import { z } from 'zod';

export const ConnectionName = z
  .string()
  .trim()
  .min(2, 'Give it a name of at least two letters.')
  .max(60)
  .regex(/^[\p{L}\p{N}][\p{L}\p{N} ._-]*$/u, 'Use letters, figures, spaces, dots and hyphens.')
  .refine(name => name.toLowerCase() !== 'mail', 'This name is taken by the house’s own mail.');

/** What a kind of connection wants to know; its own schema reads the settings. A secret left empty stays. */
export const SaveConnection = z
  .object({
    kind: z.string().max(40),
    settings: z
      .record(z.string().max(40), z.union([z.string().max(1000), z.boolean()]))
      .refine(settings => Object.keys(settings).length <= 30, 'These are too many settings.'),
    paused: z.boolean().default(false),
  })
  .strict();
export type SaveConnection = z.infer<typeof SaveConnection>;

export const TryAgain = z.object({ id: z.number().int().positive().optional() }).strict();
