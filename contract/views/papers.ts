/** The register of papers: what somebody may see of it, with what runs out when. */
import { PersonId } from '@north-pebble/core/people';
import { CivilDate, Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { list } from './values.ts';

export const PaperRow = z.strictObject({
  id: z.number(),
  holder: z.string(),
  isMine: z.boolean(),
  /** Whose it is, where they are on file; nothing for somebody who is to come, or came and was not linked. */
  person: PersonId.nullable(),
  kind: z.string(),
  /** The last letters alone. */
  number: z.string().nullable(),
  issued: CivilDate.nullable(),
  expires: CivilDate.nullable(),
  keptOn: CivilDate,
  request: z.string(),
  state: z.enum(['good', 'runs out', 'ran out', 'replaced', 'thrown away']),
  replacedOn: CivilDate.nullable(),
  forgottenOn: CivilDate.nullable(),
  /** When everything of it is thrown away, where that is known. */
  forgetOn: CivilDate.nullable(),
  renewal: z.string().nullable(),
  looks: z.number(),
});
export type PaperRow = z.infer<typeof PaperRow>;

const Rules = z.strictObject({
  kind: z.string(),
  askBefore: z.number(),
  workflow: z.string().nullable(),
  remindBefore: list(z.number()),
  keepAfter: z.number(),
});

export const PapersView = z.strictObject({
  today: CivilDate,
  rows: list(PaperRow),
  more: z.number(),
  months: list(z.strictObject({ month: z.string(), papers: z.number() })),
  kinds: list(z.string()),
  rules: list(Rules),
  workflows: list(z.strictObject({ id: z.string(), name: z.string() })),
  mayRule: z.boolean(),
});
export type PapersView = z.infer<typeof PapersView>;

export const PaperNumber = z.strictObject({ number: z.string().nullable() });
export const PaperLooks = list(
  z.strictObject({ who: z.string(), what: z.enum(['number', 'file', 'holder']), at: Instant }),
);
