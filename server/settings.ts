/** Settings of a server process, from its environment. */
import { z } from 'zod';

const Settings = z.object({
  NP_DATABASE: z.url('NP_DATABASE must be the address of the database'),
  NP_PORT: z.coerce.number().int().min(0).max(65_535).default(8420),
  /** How many processes share the port; one a core is enough. */
  NP_PROCESSES: z.coerce.number().int().min(1).max(64).default(1),
  /** Where people open the application, for links in mails. */
  NP_ADDRESS: z.url('NP_ADDRESS must be an address that begins with http').optional(),
  /** How many proxies stand before it whose word about a caller’s address counts. */
  NP_PROXIES: z.coerce.number().int().min(0).max(8).default(0),
  NP_SMTP: z.string().default('smtp://127.0.0.1:8425'),
  /** Where mails come in; not at all when nothing is said. */
  NP_SMTP_IN: z.coerce.number().int().min(0).max(65_535).optional(),
  /** How long a letter is in one sender’s hands, in milliseconds; renewed while it is being sent. */
  NP_LEASE: z.coerce.number().int().min(300).max(600_000).default(15_000),
  /** How often the heads of requests are anchored in the house’s chain, in milliseconds. */
  NP_ANCHOR_EVERY: z.coerce.number().int().min(100).max(3_600_000).default(1000),
  NP_MAILROOM: z.string().default('http://127.0.0.1:8426/mails'),
  NP_DEMO: z.enum(['0', '1']).default('0'),
  NP_PAGES: z.string().optional(),
  NP_LOG: z.enum(['silent', 'warn', 'info', 'debug']).default('info'),
  NP_SIGN_IN_TRIES: z.coerce.number().int().positive().default(10),
});
export type Settings = z.infer<typeof Settings>;

export function readSettings(env: NodeJS.ProcessEnv): Settings {
  const read = Settings.safeParse(env);
  if (read.success) return read.data;
  throw new Error(read.error.issues.map(issue => `${issue.path.join('.')}: ${issue.message}`).join('; '));
}
