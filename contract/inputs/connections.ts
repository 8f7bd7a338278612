/** Connections: set up, and what failed tried again. */
import { groupsGoBy } from '@north-pebble/core/access';
import { z } from 'zod';

export const ConnectionName = z
  .string()
  .trim()
  .min(2, 'Give it a name of at least two letters.')
  .max(60)
  .regex(/^[\p{L}\p{N}][\p{L}\p{N} ._-]*$/u, 'Use letters, figures, spaces, dots and hyphens.')
  .refine(name => name.toLowerCase() !== 'mail', 'This name is taken by the house’s own mail.');

const GroupRule = z
  .strictObject({
    by: z.enum(groupsGoBy),
    value: z.string().trim().max(120),
    group: z.string().trim().min(1, 'Say which group.').max(120),
  })
  .superRefine(({ by, value }, context) => {
    if (by !== 'everybody' && value === '')
      context.addIssue({ code: 'custom', path: ['value'], message: `Say which ${by}.` });
  });
/** Groups that go with a post, a place or a department. */
export const GroupRules = z.array(GroupRule).max(300, 'A connection has at most 300 such groups.');

/** Lines of a setting, bounded; what they must say, the setting's own schema knows, and names the place. */
const Lines = z
  .array(z.record(z.string().max(40), z.string().max(200)))
  .max(1000)
  .readonly();

/** What a kind of connection wants to know; its own schema reads the settings. A secret left empty stays. */
export const SaveConnection = z
  .object({
    kind: z.string().max(40),
    settings: z
      .record(z.string().max(40), z.union([z.string().max(1000), z.boolean(), Lines]))
      .refine(settings => Object.keys(settings).length <= 30, 'These are too many settings.'),
    paused: z.boolean().default(false),
  })
  .strict();
export type SaveConnection = z.infer<typeof SaveConnection>;

export const TryAgain = z.object({ id: z.number().int().positive().optional() }).strict();

/** What is looked for in a system, by letters of its name. */
export const FindNamed = z.object({
  what: z.enum(['groups', 'spaces']),
  typed: z.string().trim().max(80).default(''),
});
