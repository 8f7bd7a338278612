/** People as they are on file: found, looked at through time, changed with what follows. */
import { PersonId } from '@north-pebble/core/people';
import { CivilDate, Instant } from '@north-pebble/core/time';
import { z } from 'zod';
import { colleagueFields } from '../../inputs/accounts.ts';
import { list, Named, paged } from '../values.ts';

export const PersonRow = z.strictObject({
  id: PersonId,
  name: z.string(),
  /** The title of their main post; nothing where they hold none. */
  post: z.string().nullable(),
  place: z.string(),
  department: z.string(),
  /** Nothing also where the reader may not read it. */
  manager: z.string().nullable(),
  joined: CivilDate.nullable(),
  left: CivilDate.nullable(),
  mail: z.string().nullable(),
  standing: z.enum(['here', 'comes', 'left']),
});
export type PersonRow = z.infer<typeof PersonRow>;
/** What may be chosen where a record is changed. */
export const RecordChoices = z.strictObject({
  places: list(Named),
  departments: list(Named),
  patterns: list(Named),
  plans: list(z.strictObject({ ...Named.shape, unit: z.enum(['days', 'hours']) })),
  posts: list(z.strictObject({ id: z.string(), name: z.string(), where: z.string(), holder: z.string().nullable() })),
  roles: list(z.string()),
});
export type RecordChoices = z.infer<typeof RecordChoices>;

export const PeopleView = z.strictObject({
  today: CivilDate,
  rows: list(PersonRow),
  /** How many more there are than are shown. */
  more: z.number(),
  places: list(Named),
  departments: list(Named),
  /** Whether the reader may put somebody on file. */
  mayAdd: z.boolean(),
  mayExport: z.boolean(),
  /** Which of these the reader reads of colleagues. */
  reads: list(z.enum(colleagueFields)),
});
export type PeopleView = z.infer<typeof PeopleView>;

const Stretch = z.strictObject({ from: CivilDate, to: CivilDate.nullable(), words: z.string() });
export type Stretch = z.infer<typeof Stretch>;
const NamedPerson = z.strictObject({ id: PersonId, name: z.string() });

export const FactChangeView = z.strictObject({
  id: z.number(),
  at: Instant,
  /** Nobody where a request did it. */
  who: z.string().nullable(),
  request: z.string().nullable(),
  reason: z.string(),
  from: CivilDate.nullable(),
  /** In words, one for each fact. */
  says: list(z.string()),
  takesBack: z.number().nullable(),
  takenBack: z.boolean(),
  /** Leave booked for everybody of a place. */
  isShutdown: z.boolean(),
});
export type FactChangeView = z.infer<typeof FactChangeView>;

export const PersonPageView = z.strictObject({
  today: CivilDate,
  id: PersonId,
  name: z.string(),
  /** What the reader reads of them; what they do not read is not here. */
  reads: list(z.enum(colleagueFields)),
  mail: z.string().nullable(),
  /** What pay knows them by, for those who may look at the record. */
  number: z.string().nullable(),
  joined: CivilDate.nullable(),
  left: CivilDate.nullable(),
  standing: PersonRow.shape.standing,
  place: z.string(),
  department: z.string(),
  manager: NamedPerson.nullable(),
  /** Why it is this manager, or why there is none. */
  managerWhy: list(z.string()),
  dottedTo: NamedPerson.nullable(),
  posts: list(z.strictObject({ title: z.string(), main: z.boolean() })),
  reports: list(NamedPerson),
  roles: list(z.string()),
  /** Through time, for those who may look at the record: what held from when to when. */
  lines: list(z.strictObject({ of: z.string(), stretches: list(Stretch) })).nullable(),
  changes: list(FactChangeView).nullable(),
  /** What their leave goes by, for them and for HR alone; with the absences that it may be about. */
  circumstances: z
    .strictObject({
      all: list(z.strictObject({ id: z.string(), words: z.string() })),
      absences: list(z.strictObject({ request: z.string(), label: z.string() })),
      types: list(z.strictObject({ id: z.string(), name: z.string() })),
    })
    .nullable(),
  /** As it stands today, to begin a change from. */
  now: z
    .strictObject({
      place: z.string(),
      department: z.string(),
      pattern: z.string(),
      fte: z.number(),
      plan: z.string().nullable(),
      post: z.string().nullable(),
      dottedTo: PersonId.nullable(),
    })
    .nullable(),
  /** Whether the reader may change it. */
  mayChange: z.boolean(),
  sees: z.strictObject({ balance: z.boolean() }),
});
export type PersonPageView = z.infer<typeof PersonPageView>;

/** What would follow from a change, and what stands in its way. */
export const ChangePreview = z.strictObject({
  /** By which it is told whether what is sent is what was shown. */
  digest: z.string(),
  says: list(z.string()),
  managers: list(z.strictObject({ name: z.string(), before: z.string().nullable(), after: z.string().nullable() })),
  leave: list(
    z.strictObject({
      name: z.string(),
      what: z.string(),
      request: z.string().nullable(),
      before: z.string(),
      after: z.string(),
    }),
  ),
  /** How many balances gain and lose, and how much in all; those who lose most stand first. */
  sums: list(z.string()),
  balances: list(
    z.strictObject({ name: z.string(), what: z.string(), before: z.string().nullable(), after: z.string().nullable() }),
  ),
  /** Plans of open requests that are counted back anew: how much time they have left. */
  plans: list(z.strictObject({ request: z.string(), title: z.string(), before: z.string(), after: z.string() })),
  /** Open requests that stay with whom they are with. */
  open: list(z.strictObject({ request: z.string(), title: z.string(), holder: z.string() })),
  /** In whole sentences: posts and roles that nobody holds any more. */
  notes: list(z.string()),
});
export type ChangePreview = z.infer<typeof ChangePreview>;
export const Changed = z.strictObject({ id: z.number() });

/** The reporting lines on a day; whoever stands under whom is told by the ids of posts. */
export const LinesView = z.strictObject({
  ...paged,
  day: CivilDate,
  today: CivilDate,
  top: list(z.string()),
  /** Posts above which there is no top: in a circle, or under a post that is not on file. */
  loose: list(z.string()),
  posts: list(
    z.strictObject({
      id: z.string(),
      title: z.string(),
      where: z.string(),
      holder: NamedPerson.nullable(),
      holdsOthers: z.boolean(),
      below: list(z.string()),
      all: z.number(),
      /** Whom its holder answers to beside the line. */
      dotted: list(z.string()),
      /** Posts held by the reader: their own line is kept by somebody else. */
      mine: z.boolean(),
    }),
  ),
  mayMove: z.boolean(),
});
export type LinesView = z.infer<typeof LinesView>;
