/** People to choose from, and who stands in for whom. */
import { type MailChoice, PersonId } from '@north-pebble/core/people';
import { type CivilDate, NearDate } from '@north-pebble/core/time';
import { z } from 'zod';

/** `what` is the post, with department and place where others have the same; `balance` says whether the reader may see it. */
export type FoundPerson = { id: PersonId; name: string; what: string; balance: boolean };
export type FoundPeople = { people: FoundPerson[]; roles: string[] };

export const SetCover = z
  .object({
    /** Oneself when nobody is said; somebody else only by HR operations. */
    person: PersonId.nullish(),
    by: PersonId,
    from: NearDate,
    to: NearDate,
    /** All of them when nothing is said. */
    workflows: z.array(z.string().min(1).max(40)).min(1, 'Choose a workflow, or all of them.').max(200).nullish(),
  })
  .refine(cover => cover.from <= cover.to, { path: ['to'], message: 'The last day comes before the first.' });
export type SetCover = z.infer<typeof SetCover>;

export type CoverRow = {
  person: PersonId;
  personName: string;
  by: PersonId;
  byName: string;
  from: CivilDate;
  to: CivilDate;
  /** Names of the workflows; all when nothing is said. */
  workflows: string[] | null;
  setByName: string | null;
};

export type CoversView = {
  person: PersonId;
  personName: string;
  mine: CoverRow[];
  /** For whom the person stands in. */
  others: CoverRow[];
  /** Approved leave to come without anybody standing in. */
  suggested: { from: CivilDate; to: CivilDate }[];
  workflows: { id: string; name: string }[];
  /** Whether the reader may set cover for other people. */
  forOthers: boolean;
};

/** How the reader wants their mails, and what that would otherwise be. */
export type MailChoiceView = { choice: MailChoice; roles: string[]; zone: string };
