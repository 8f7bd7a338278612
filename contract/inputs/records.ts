/** Records of people: looked for, and changed. */
import { HouseChange } from '@north-pebble/core/facts';
import { PersonId } from '@north-pebble/core/people';
import { NearDate } from '@north-pebble/core/time';
import { z } from 'zod';

/** What can be told of people in a table, and what it can be sorted by. */
export const peopleColumns = ['name', 'post', 'place', 'department', 'manager', 'joined', 'left', 'mail'] as const;
export type PeopleColumn = (typeof peopleColumns)[number];

export const FindRecords = z.object({
  words: z.string().trim().max(100).default(''),
  place: z.string().max(40).default(''),
  department: z.string().max(40).default(''),
  standing: z.enum(['here', 'comes', 'left', 'all']).default('here'),
  sort: z.enum(peopleColumns).default('name'),
  /** From the end of the alphabet, or from the newest. */
  down: z.enum(['yes', 'no']).default('no'),
});
export type FindRecords = z.infer<typeof FindRecords>;

const Reason = z.string().trim().min(1, 'Say why: whoever looks later will want to know.').max(500);
/** `id`: under which one asks how far it is, and stops it. */
export const PreviewChange = z.object({ change: HouseChange, id: z.uuid().optional() });
export const SaveChange = z.object({ change: HouseChange, reason: Reason, digest: z.string().length(64) });
export type SaveChange = z.infer<typeof SaveChange>;
export const TakeChangeBack = z.object({ reason: Reason });

/** Who would decide something of somebody, on a day. */
export const WhoDecides = z.object({ person: PersonId, workflow: z.string().max(40), day: NearDate.optional() });

/** Of which country, and of which part of it. */
export const WhichHolidays = z.object({
  country: z.string().max(10).optional(),
  region: z.string().max(20).optional(),
});

/** Long answers come in pages: the first row of the one that is asked for; the first of all where nothing is said. */
export const PageFrom = z.object({ row: z.coerce.number().int().min(0).max(1_000_000).default(0) });

/** Today where nothing is said. */
export const LinesOn = PageFrom.extend({ day: NearDate.optional() });
