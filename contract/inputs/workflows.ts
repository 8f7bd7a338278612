/** Changes of the shelf and the sheet, and replies written in the Mailroom. */
import { z } from 'zod';

/** Who may do what with one workflow, by person; everybody with the right to design when nothing is said. */
export const Permissions = z.object({
  edit: z.array(z.string().max(40)).max(200),
  publish: z.array(z.string().max(40)).max(200),
  see: z.array(z.string().max(40)).max(200),
});
export type Permissions = z.infer<typeof Permissions>;
/** Nothing: every designer may. */
export const SetPermissions = z.object({ permissions: Permissions.nullable() });

/** A definition is read by its own reader, which says in words what is wrong with it. */
const AnyDefinition = z.unknown().meta({ description: 'A workflow: see docs/formats/workflow.schema.json.' });
export const BeginWorkflow = z.object({ definition: AnyDefinition });
/** `revision` is the one that the designer had in front of them; another's newer one is never overwritten. */
export const SaveSheet = z.object({ revision: z.number().int().nonnegative(), definition: AnyDefinition });

export const Publish = z.object({
  revision: z.number().int().nonnegative(),
  comment: z.string().trim().min(1, 'Say in a few words what changes.').max(500),
});
export type Publish = z.infer<typeof Publish>;

export const Archive = z.object({ archived: z.boolean() });
export const Move = z.object({
  requests: z.array(z.string().max(40)).min(1).max(1000),
  reason: z.string().trim().min(1, 'Say why they are moved.').max(500),
});
export type Move = z.infer<typeof Move>;

/** A reply as the recipient of a mail, in the demo only. */
export const AnswerMail = z.object({
  id: z.string().min(1).max(300),
  text: z.string().trim().min(1, 'Write something.').max(20_000),
});
export type AnswerMail = z.infer<typeof AnswerMail>;
