/** The shelf and the sheet, and the Mailroom. */
import { type Adjustment, type LeaveEntry, LeaveSpan, LeaveType, NamedPlan } from '@north-pebble/core/leave';
import { PersonId, type PersonOpening } from '@north-pebble/core/people';
import { CivilDate, Instant } from '@north-pebble/core/time';
import { Definition } from '@north-pebble/core/workflow';
import { z } from 'zod';
import { Permissions } from '../inputs/workflows.ts';
import { List, Named } from './values.ts';

export const ShelfRow = z.strictObject({
  id: z.string(),
  name: z.string(),
  area: z.string(),
  purpose: z.string(),
  tags: z.array(z.string()),
  /** The workflow in one sentence, made from its definition. */
  sentence: z.string(),
  /** How many findings stop the draft, or the live version when there is none, and how many warn. */
  findings: z.strictObject({ stops: z.number(), warns: z.number() }).nullable(),
  /** Whether they are being worked out for how things stand now. */
  checking: z.boolean(),
  archived: z.boolean(),
  liveVersion: z.number().nullable(),
  open: z.number(),
  stuck: z.number(),
  typicalDays: z.number().nullable(),
  hasDraft: z.boolean(),
});
export type ShelfRow = z.infer<typeof ShelfRow>;
export const ShelfRows = z.array(ShelfRow);

export const AskableRow = z.strictObject({
  id: z.string(),
  name: z.string(),
  area: z.string(),
  purpose: z.string(),
  /** The field that takes days of leave, where it is asked for such. */
  leaveField: z.string().nullable(),
});
export type AskableRow = z.infer<typeof AskableRow>;
export const AskableRows = z.array(AskableRow);

export const DraftView = z.strictObject({
  definition: Definition,
  revision: z.number(),
  savedAt: Instant,
  savedBy: z.string(),
});
export type DraftView = z.infer<typeof DraftView>;

/** How far a draft has come, and who saved it last: what an open sheet looks for. */
export const DraftMark = z.strictObject({
  revision: z.number(),
  savedBy: z.string().nullable(),
  savedAt: Instant.nullable(),
});
export type DraftMark = z.infer<typeof DraftMark>;

export const SheetView = z.strictObject({
  id: z.string(),
  /** Grows with every save, discard and publish; what a save must have seen. */
  revision: z.number(),
  live: z
    .strictObject({
      version: z.number(),
      definition: Definition,
      publishedAt: Instant,
      publishedBy: z.string(),
      open: z.number(),
    })
    .nullable(),
  draft: DraftView.nullable(),
  archivedAt: Instant.nullable(),
  permissions: Permissions.nullable(),
  may: z.strictObject({ edit: z.boolean(), publish: z.boolean() }),
  versions: z.array(
    z.strictObject({
      version: z.number(),
      publishedAt: Instant,
      publishedBy: z.string(),
      comment: z.string(),
      open: z.number(),
    }),
  ),
});
export type SheetView = z.infer<typeof SheetView>;

export const SavedSheet = z.strictObject({ revision: z.number(), savedAt: Instant });
export type SavedSheet = z.infer<typeof SavedSheet>;
export const Published = z.strictObject({ version: z.number() });
export type Published = z.infer<typeof Published>;

/** A new workflow from a definition: a starter, a copy, a file, or nearly nothing. */
export const Begun = z.strictObject({ id: z.string() });
export type Begun = z.infer<typeof Begun>;

/** An open request on an older version, and why it does not fit the live one. */
export const Movable = z.strictObject({
  request: z.string(),
  title: z.string(),
  askerName: z.string(),
  version: z.number(),
  standing: z.string(),
  obstacles: z.array(z.string()),
});
export type Movable = z.infer<typeof Movable>;
export const Movables = z.array(Movable);
export const MovedView = z.strictObject({
  moved: z.array(z.string()),
  refused: z.array(z.strictObject({ request: z.string(), why: z.string() })),
});
export type MovedView = z.infer<typeof MovedView>;

const Entry: z.ZodType<LeaveEntry> = z.strictObject({
  request: z.string(),
  person: PersonId,
  type: z.string(),
  span: LeaveSpan,
  state: z.enum(['held', 'booked']),
  reason: z.string().nullable().exactOptional(),
});
const AdjustmentView: z.ZodType<Adjustment> = z.strictObject({
  person: PersonId,
  type: z.string(),
  date: CivilDate,
  amount: z.number(),
  reason: z.string(),
});

const OpeningView: z.ZodType<PersonOpening> = z.strictObject({
  type: z.string(),
  on: CivilDate,
  own: z.number(),
  carried: z.number(),
  lapses: CivilDate.nullable(),
  source: z.string(),
});

/** What a rehearsal needs to know about one person. */
export const RehearsalView = z.strictObject({
  types: z.array(LeaveType),
  plans: z.array(NamedPlan),
  entries: z.array(Entry),
  adjustments: z.array(AdjustmentView),
  /** Opening balances of the person, which the directory for designing has not. */
  openings: z.array(OpeningView),
  /** Whom it is about. */
  person: PersonId,
  away: z.array(z.strictObject({ person: PersonId, from: CivilDate, to: CivilDate })),
});
export type RehearsalView = z.infer<typeof RehearsalView>;

/** What the sheet checks a definition against, besides the directory. */
export const SurroundingsView = z.strictObject({
  lists: z.array(List),
  leaveTypes: z.array(Named),
  workflows: z.array(Named),
  /** Names of the connections that are set up. */
  connections: z.array(z.string()),
  /** What each of them can be asked to do, with the values that it takes. */
  offers: z.record(
    z.string(),
    z.record(
      z.string(),
      z
        .array(
          z.strictObject({
            name: z.string(),
            label: z.string(),
            needed: z.boolean(),
            from: z.enum(['groups', 'spaces']).exactOptional(),
            words: z.array(z.string()).readonly().exactOptional(),
          }),
        )
        .readonly()
        .nullable(),
    ),
  ),
  today: CivilDate,
});
export type SurroundingsView = z.infer<typeof SurroundingsView>;

/** How long steps took so far, in working days, by step. */
export const TookView = z.record(
  z.string(),
  z.strictObject({ median: z.number(), nineInTen: z.number(), of: z.number() }),
);
export type TookView = z.infer<typeof TookView>;

/** What the public page of open posts says. */
export const OpenPostsView = z.strictObject({
  house: z.string(),
  posts: z.array(
    z.strictObject({
      title: z.string(),
      until: z.string().nullable(),
      said: z.array(z.strictObject({ label: z.string(), words: z.string() })),
      /** Where one applies for it; nothing where that is not open. */
      apply: z.string().nullable(),
    }),
  ),
});
export type OpenPostsView = z.infer<typeof OpenPostsView>;

export const MailView = z.strictObject({
  id: z.string(),
  at: z.string(),
  from: z.string(),
  to: z.string(),
  /** Where a reply decides; nothing when it cannot be answered. */
  replyTo: z.string().optional(),
  subject: z.string(),
  text: z.string(),
  /** What came with it, by the name under which the stand-in keeps it. */
  attached: z
    .array(z.strictObject({ name: z.string(), type: z.string(), size: z.number(), kept: z.string() }))
    .optional(),
  /** The invitation that it brought, as calendars read it. */
  calendar: z.string().optional(),
  times: z.number().optional(),
});
export type MailView = z.infer<typeof MailView>;

export const MailroomView = z.strictObject({
  mails: z.array(MailView),
  reachable: z.boolean(),
  waiting: z.array(z.strictObject({ to: PersonId, subject: z.string(), attempts: z.number() })),
});
export type MailroomView = z.infer<typeof MailroomView>;
export const SentMail = z.strictObject({ sent: z.boolean() });
