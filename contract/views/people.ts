/** People to choose from, the directory, and who stands in for whom. */
import { type Directory, MailChoice, PersonId } from '@north-pebble/core/people';
import { CivilDate, Holiday, HolidayRule, WorkPattern } from '@north-pebble/core/time';
import { z } from 'zod';
import { list, Named, type Paged, paged } from './values.ts';

/** `what` is the post, with department and place where others have the same; `balance` says whether the reader may see it. */
export const FoundPerson = z.strictObject({ id: PersonId, name: z.string(), what: z.string(), balance: z.boolean() });
export type FoundPerson = z.infer<typeof FoundPerson>;
export const FoundPeople = z.strictObject({ people: z.array(FoundPerson), roles: z.array(z.string()) });
export type FoundPeople = z.infer<typeof FoundPeople>;

export const CoverRow = z.strictObject({
  person: PersonId,
  personName: z.string(),
  by: PersonId,
  byName: z.string(),
  from: CivilDate,
  to: CivilDate,
  /** Names of the workflows; all when nothing is said. */
  workflows: z.array(z.string()).nullable(),
  setByName: z.string().nullable(),
});
export type CoverRow = z.infer<typeof CoverRow>;

export const CoversView = z.strictObject({
  person: PersonId,
  personName: z.string(),
  mine: z.array(CoverRow),
  /** For whom the person stands in. */
  others: z.array(CoverRow),
  /** Approved leave to come without anybody standing in. */
  suggested: z.array(z.strictObject({ from: CivilDate, to: CivilDate })),
  workflows: z.array(Named),
  /** Whether the reader may set cover for other people. */
  forOthers: z.boolean(),
});
export type CoversView = z.infer<typeof CoversView>;

/** How the reader wants their mails, and what that would otherwise be. */
export const MailChoiceView = z.strictObject({ choice: MailChoice, roles: z.array(z.string()), zone: z.string() });
export type MailChoiceView = z.infer<typeof MailChoiceView>;

const PersonView = z.strictObject({
  id: PersonId,
  name: z.string(),
  mail: z.string(),
  joined: CivilDate,
  left: CivilDate.nullable(),
  dottedTo: PersonId.nullable(),
  records: list(
    z.strictObject({
      from: CivilDate,
      place: z.string(),
      department: z.string(),
      pattern: z.string(),
      fte: z.number(),
      plan: z.string().nullable(),
      planPer: z.number().nullable().optional(),
    }),
  ),
});
const PostView = z.strictObject({
  id: z.string(),
  title: z.string(),
  department: z.string(),
  place: z.string(),
  grade: z.number().nullable().exactOptional(),
  spending: z.number().nullable().exactOptional(),
  closed: CivilDate.nullable().exactOptional(),
  lines: list(z.strictObject({ from: CivilDate, reportsTo: z.string().nullable() })),
});
const CalendarView = z.strictObject({
  id: z.string(),
  name: z.string(),
  buildsOn: z.string().nullable(),
  rules: list(HolidayRule).exactOptional(),
  holidays: list(Holiday),
});

/** A page of the directory, for those who design and rehearse: people, posts and holdings in turn, the rest on the first. */
export const DirectoryView: z.ZodType<Directory & Paged> = z.strictObject({
  ...paged,
  people: list(PersonView),
  posts: list(PostView),
  holdings: list(
    z.strictObject({
      post: z.string(),
      person: PersonId,
      from: CivilDate,
      to: CivilDate.nullable(),
      main: z.boolean(),
    }),
  ),
  covers: list(
    z.strictObject({
      person: PersonId,
      by: PersonId,
      from: CivilDate,
      to: CivilDate,
      workflows: list(z.string()).exactOptional(),
      setBy: PersonId.exactOptional(),
    }),
  ),
  roles: list(
    z.strictObject({
      role: z.string(),
      person: PersonId,
      place: z.string().nullable().exactOptional(),
      department: z.string().nullable().exactOptional(),
      from: CivilDate.nullable().exactOptional(),
      to: CivilDate.nullable().exactOptional(),
    }),
  ),
  places: list(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      zone: z.string(),
      calendar: z.string(),
      head: z.string().nullable().exactOptional(),
    }),
  ),
  departments: list(z.strictObject({ id: z.string(), name: z.string(), head: z.string().nullable() })),
  patterns: list(
    z.strictObject({ id: z.string(), name: z.string(), anchor: CivilDate, cycle: WorkPattern.shape.cycle }),
  ),
  calendars: list(CalendarView),
});
export type DirectoryView = z.infer<typeof DirectoryView>;
