/** Close: the request ends with a closing. */
import { z } from 'zod';
import { Id } from '../../../form/index.ts';
import { noFormulas, type Shape } from './parts.ts';

export const Close = z.object({ verb: z.literal('Close'), id: Id, closing: Id });
export type Close = z.infer<typeof Close>;

export const closeShape: Shape<Close> = {
  leads: step => [{ go: { to: 'close', closing: step.closing }, label: 'close', path: ['closing'] }],
  goesOn: () => false,
  formulas: noFormulas,
};
