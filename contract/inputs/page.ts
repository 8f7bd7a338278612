/** Long answers come in pages. */
import { z } from 'zod';

/** The first row of the page that is asked for; the first of all where nothing is said. */
export const PageFrom = z.object({ row: z.coerce.number().int().min(0).max(1_000_000).default(0) });
export type PageFrom = z.infer<typeof PageFrom>;
