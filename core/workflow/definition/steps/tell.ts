/** Tell: a message is sent. */
import { z } from 'zod';
import { Id } from '../../../form/index.ts';
import { PeopleRule } from '../../../people/index.ts';
import { Attachments, noFormulas, noLeads, type Shape, when } from './parts.ts';

export const Tell = z.object({
  verb: z.literal('Tell'),
  id: Id,
  when,
  to: z.array(PeopleRule).max(10),
  addresses: z.array(z.email('is no mail address')).max(10).optional(),
  message: Id,
  attach: Attachments.optional(),
});
export type Tell = z.infer<typeof Tell>;

export const tellShape: Shape<Tell> = { leads: noLeads, goesOn: () => true, formulas: noFormulas };
