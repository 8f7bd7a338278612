/** What the house is worked out from besides people: posts, roles, patterns, calendars, places, departments and lists. */
import { Cell, Column } from '@north-pebble/core/form';
import { PersonId } from '@north-pebble/core/people';
import { CivilDate, HolidayRule, WorkPattern } from '@north-pebble/core/time';
import { z } from 'zod';
import { rights } from '../../rights.ts';
import { HoldsView } from '../access/holds.ts';
import { list, Named, paged } from '../values.ts';
import { FactChangeView } from './records.ts';

const NamedPerson = z.strictObject({ id: PersonId, name: z.string() });

export const PostRow = z.strictObject({
  id: z.string(),
  title: z.string(),
  place: Named,
  department: Named,
  grade: z.number().nullable(),
  spending: z.number().nullable(),
  closed: CivilDate.nullable(),
  standing: z.enum(['held', 'acting', 'vacant', 'closed']),
  holder: NamedPerson.nullable(),
  /** To whom what would come to a vacant post goes meanwhile. */
  meanwhile: z.string().nullable(),
  reportsTo: z.strictObject({ id: z.string(), title: z.string() }).nullable(),
  reports: z.number(),
  holders: list(z.strictObject({ person: NamedPerson, from: CivilDate, to: CivilDate.nullable(), main: z.boolean() })),
});
export type PostRow = z.infer<typeof PostRow>;
export const PostsView = z.strictObject({
  ...paged,
  today: CivilDate,
  rows: list(PostRow),
  places: list(Named),
  departments: list(Named),
});
export type PostsView = z.infer<typeof PostsView>;

export const RolesView = z.strictObject({
  today: CivilDate,
  rows: list(
    z.strictObject({
      role: z.string(),
      person: NamedPerson,
      place: Named.nullable(),
      department: Named.nullable(),
      from: CivilDate.nullable(),
      to: CivilDate.nullable(),
      standing: z.enum(['now', 'later', 'over', 'left']),
    }),
  ),
  /** For each role the workflows whose rules name it. */
  used: list(
    z.strictObject({
      role: z.string(),
      in: list(z.string()),
      /** Workflows with fields that are shown to it alone, or to few. */
      reads: list(z.string()),
      /** What it sees and does besides, in words. */
      opens: list(z.string()),
    }),
  ),
  /** Who has which right, and everything that it opens. */
  rights: list(z.strictObject({ right: z.enum(rights), people: list(NamedPerson), opens: list(z.string()) })),
  places: list(Named),
  departments: list(Named),
});
export type RolesView = z.infer<typeof RolesView>;

const Had = z.strictObject({ person: NamedPerson, from: CivilDate });
export const MeasuresView = z.strictObject({
  today: CivilDate,
  patterns: list(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      anchor: CivilDate,
      cycle: WorkPattern.shape.cycle,
      /** How many have it today, and some of them with the day from which they do. */
      count: z.number(),
      people: list(Had),
    }),
  ),
  calendars: list(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      buildsOn: z.string().nullable(),
      rules: list(HolidayRule),
      holidays: list(z.strictObject({ date: CivilDate, part: z.enum(['day', 'am', 'pm']), name: z.string() })),
      places: list(z.string()),
    }),
  ),
  places: list(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      zone: z.string(),
      calendar: z.string(),
      head: z.string().nullable(),
      people: z.number(),
    }),
  ),
  departments: list(
    z.strictObject({ id: z.string(), name: z.string(), head: z.string().nullable(), people: z.number() }),
  ),
  posts: list(Named),
});
export type MeasuresView = z.infer<typeof MeasuresView>;

export const ListsView = z.strictObject({
  today: CivilDate,
  lists: list(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      columns: list(Column),
      owners: list(NamedPerson),
      rows: list(
        z.strictObject({
          id: z.string(),
          title: z.string(),
          cells: z.record(z.string(), Cell),
          from: CivilDate.nullable(),
          to: CivilDate.nullable(),
        }),
      ),
      /** Workflows whose forms pick from it. */
      used: list(z.string()),
    }),
  ),
  /** Whether lists themselves may be changed, and not their rows alone. */
  mayKeep: z.boolean(),
});
export type ListsView = z.infer<typeof ListsView>;

export const ChangesView = z.strictObject({
  rows: list(FactChangeView),
});
export type ChangesView = z.infer<typeof ChangesView>;

/** Who would have each step of a workflow, for one person on one day. */
export const DecidesView = z.strictObject({
  day: CivilDate,
  person: NamedPerson,
  workflow: z.string(),
  steps: list(
    z.strictObject({
      number: z.string(),
      name: z.string(),
      /** The step as it stands in the workflow, with when it is there. */
      says: z.string(),
      people: list(z.strictObject({ name: z.string(), coverFor: z.string().nullable() })),
      why: list(z.string()),
      /** Why nobody is found. */
      gap: z.string().nullable(),
      /** It depends on what the request says. */
      depends: z.boolean(),
    }),
  ),
});
export type DecidesView = z.infer<typeof DecidesView>;
export const DecidesChoices = z.strictObject({ workflows: list(Named) });

/** Ready holidays of a country or a part of it. */
export const ReadyHolidays = z.strictObject({
  countries: list(Named),
  regions: list(Named),
  rules: list(HolidayRule),
  /** Days that no rule of every year says, for some years. */
  holidays: list(z.strictObject({ date: CivilDate, part: z.enum(['day', 'am', 'pm']), name: z.string() })),
});
export type ReadyHolidays = z.infer<typeof ReadyHolidays>;

/** Who comes and who leaves, by date. */
export const MovesView = z.strictObject({
  today: CivilDate,
  comes: list(z.strictObject({ person: NamedPerson, day: CivilDate, post: z.string().nullable(), place: z.string() })),
  leaves: list(
    z.strictObject({
      person: NamedPerson,
      day: CivilDate,
      post: z.string().nullable(),
      place: z.string(),
      /** How many things are still theirs. */
      open: z.number(),
    }),
  ),
});
export type MovesView = z.infer<typeof MovesView>;

const what = z.enum(['task', 'request', 'role', 'cover', 'list', 'workflow', 'report']);
export const HandOverView = z.strictObject({
  person: NamedPerson,
  left: CivilDate.nullable(),
  today: CivilDate,
  items: list(
    z.strictObject({
      what,
      id: z.string(),
      title: z.string(),
      /** Where it leads, in words, when nothing is done. */
      otherwise: z.string(),
      link: z.string().nullable(),
    }),
  ),
  /** What stands outside is not handed over: it is taken away. */
  access: HoldsView.shape.access,
});
export type HandOverView = z.infer<typeof HandOverView>;
export const HandOver = z.object({
  to: PersonId,
  items: z
    .array(z.object({ what, id: z.string().max(200) }))
    .min(1)
    .max(300),
  reason: z.string().trim().min(1, 'Say why: whoever looks later will want to know.').max(500),
});
export type HandOver = z.infer<typeof HandOver>;
export const HandedOver = z.strictObject({
  done: z.number(),
  /** What stayed, each with why. */
  stayed: list(z.strictObject({ what, id: z.string(), title: z.string(), why: z.string() })),
});
export type HandedOver = z.infer<typeof HandedOver>;
