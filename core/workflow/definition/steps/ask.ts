/** Ask: always first; the asker fills the form. */
import { z } from 'zod';
import { Id } from '../../../form/index.ts';
import { noFormulas, noLeads, type Shape } from './parts.ts';

export const Ask = z.object({ verb: z.literal('Ask'), id: Id });
export type Ask = z.infer<typeof Ask>;

export const askShape: Shape<Ask> = { leads: noLeads, goesOn: () => true, formulas: noFormulas };
