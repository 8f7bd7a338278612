/** Moving in by files, and the house written out as files. */
import { tableIds } from '@north-pebble/core/movingIn';
import { NearDate } from '@north-pebble/core/time';
import { z } from 'zod';
import {
  FilesInput,
  HouseBegins,
  IncomingDirectory,
  IncomingToken,
  MovedIn,
  MoveInput,
  MovingPreview,
} from '../views/house/moving.ts';
import { declare } from './route.ts';

const Table = z.object({ table: z.enum(tableIds) });

export const movingRoutes = declare({
  'GET /moving/:table/template.csv': {
    says: 'An empty file with the headings of a table, and one line that shows how it is filled in.',
    who: 'keep records',
    params: Table,
    answer: { media: ['text/csv'] },
  },
  'GET /moving/:table/file.csv': {
    says: 'What is on file, as the table by which it is read.',
    who: 'keep records',
    params: Table,
    answer: { media: ['text/csv'] },
  },
  'GET /incoming-directory': {
    says: 'Whether a directory may tell of people, and where.',
    who: 'keep connections',
    answer: IncomingDirectory,
  },
  'POST /incoming-directory': {
    says: 'Gives a token by which a directory tells of people, once; the one before is good no more.',
    who: 'keep connections',
    answer: IncomingToken,
  },
  'DELETE /incoming-directory': {
    says: 'Takes the token back: no directory tells of people any more.',
    who: 'keep connections',
    answer: IncomingDirectory,
  },
  'GET /moving/begins': {
    says: 'The day on which the house begins here.',
    who: 'keep records',
    answer: HouseBegins,
  },
  'PUT /moving/begins': {
    says: 'Says on which day the house begins here.',
    who: 'keep records',
    body: z.strictObject({ on: NearDate.nullable() }),
    answer: HouseBegins,
  },
  'POST /moving/preview': {
    says: 'What files would bring, or what is wrong in which line; nothing is stored.',
    who: 'keep records',
    body: FilesInput,
    answer: MovingPreview,
  },
  'POST /moving': {
    says: 'Takes files over that were previewed: all of it or nothing.',
    who: 'keep records',
    body: MoveInput,
    answer: MovedIn,
  },
});
