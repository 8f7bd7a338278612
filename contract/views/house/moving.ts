/** Moving in: files as they are read, and what they would bring. */
import { dateForms, tableIds } from '@north-pebble/core/movingIn';
import { CivilDate } from '@north-pebble/core/time';
import { z } from 'zod';
import { list } from '../values.ts';

const mostLines = 20_000;
const Cell = z.string().max(5000);
export const GivenFile = z.object({
  table: z.enum(tableIds),
  form: z.object({ dates: z.enum(dateForms), decimal: z.enum(['.', ',']) }),
  columns: z.array(z.string().max(200).nullable()).min(1).max(60),
  rows: z.array(z.array(Cell).max(60)).max(mostLines, `At most ${mostLines.toLocaleString('en-GB')} lines at a time.`),
});
export type GivenFile = z.infer<typeof GivenFile>;
export const FilesInput = z.object({ files: z.array(GivenFile).min(1).max(20) });
export const MoveInput = FilesInput.extend({ digest: z.string().length(64) });
export type MoveInput = z.infer<typeof MoveInput>;

export const MovingPreview = z.strictObject({
  digest: z.string(),
  counts: list(z.strictObject({ table: z.enum(tableIds), added: z.number(), changed: z.number(), same: z.number() })),
  /** Lines that cannot be taken over, in the order of the files. */
  faults: list(
    z.strictObject({
      table: z.enum(tableIds),
      line: z.number(),
      column: z.string(),
      code: z.string(),
      value: z.string(),
      right: z.string(),
    }),
  ),
  moreFaults: z.number(),
  /** Some of what would be different, in words. */
  says: list(z.string()),
  moreSays: z.number(),
  /** Those who were here before the house begins, are on a leave plan and come without an opening balance. */
  noOpening: list(z.string()),
  moreNoOpening: z.number(),
});
export type MovingPreview = z.infer<typeof MovingPreview>;

/** Whether a directory may tell of people, and where. */
export const IncomingDirectory = z.strictObject({ isOn: z.boolean(), address: z.string() });
/** The token is shown once. */
export const IncomingToken = z.strictObject({ token: z.string(), address: z.string() });

/** The day on which a house begins here: nothing where none is said, and it is today then. */
export const HouseBegins = z.strictObject({ on: CivilDate.nullable() });
export type HouseBegins = z.infer<typeof HouseBegins>;

export const MovedIn = z.strictObject({ id: z.number().nullable(), facts: z.number() });
export type MovedIn = z.infer<typeof MovedIn>;
