/** What an administrator says of a directory. */
import { GroupRules } from '@north-pebble/contract';
import { z } from 'zod';

export const Settings = z
  .object({
    address: z
      .url('Write an address that begins with https.')
      .max(500)
      .refine(text => /^https?:/.test(text), 'Write an address that begins with http or https.')
      .transform(text => text.replace(/\/+$/, '')),
    token: z.string().min(8, 'Use at least eight letters and figures.').max(500),
    inside: z.boolean().default(false),
    groups: GroupRules.default([]),
  })
  .strict();
export type Settings = z.output<typeof Settings>;
