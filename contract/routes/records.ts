/** Records of people, posts, lines and roles. */
import { PersonId } from '@north-pebble/core/people';
import { z } from 'zod';
import {
  FindRecords,
  LinesOn,
  PageFrom,
  PreviewChange,
  SaveChange,
  TakeChangeBack,
  WhichHolidays,
  WhoDecides,
} from '../inputs/records.ts';
import {
  ChangesView,
  DecidesChoices,
  DecidesView,
  HandedOver,
  HandOver,
  HandOverView,
  ListsView,
  MeasuresView,
  MovesView,
  PostsView,
  ReadyHolidays,
  RolesView,
} from '../views/house/kept.ts';
import {
  Changed,
  ChangePreview,
  LinesView,
  PeopleView,
  PersonPageView,
  RecordChoices,
} from '../views/house/records.ts';
import { declare } from './route.ts';

const Numbered = z.object({ id: z.coerce.number().int().positive() });

export const recordRoutes = declare({
  'GET /records': {
    says: 'Everybody on file, found by words.',
    who: 'signed in',
    query: FindRecords,
    answer: PeopleView,
  },
  'GET /records/file.csv': {
    says: 'Everybody on file as they were found, as a table.',
    who: 'export',
    query: FindRecords,
    answer: { media: ['text/csv'] },
  },
  'GET /lines': {
    says: 'The reporting lines on a day, in pages.',
    who: 'signed in',
    query: LinesOn,
    answer: LinesView,
  },
  'GET /posts': {
    says: 'Every post with who holds it, through time, in pages.',
    who: 'keep records',
    query: PageFrom,
    answer: PostsView,
  },
  'GET /roles': {
    says: 'Who has which role and which right, and what each opens.',
    who: 'keep records',
    answer: RolesView,
  },
  'GET /measures': {
    says: 'Work patterns, calendars, places and departments, with who has them.',
    who: 'keep records',
    answer: MeasuresView,
  },
  'GET /lists': { says: 'The lists that the caller may edit.', who: 'signed in', answer: ListsView },
  'GET /records/choices': {
    says: 'What may be chosen where a record is changed.',
    who: 'keep records',
    answer: RecordChoices,
  },
  'GET /records/changes': {
    says: 'What was changed of the house lately, by whom and why.',
    who: 'keep records',
    answer: ChangesView,
  },
  'GET /ready-holidays': {
    says: 'Ready holidays of a country, to begin a calendar from.',
    who: 'keep records',
    query: WhichHolidays,
    answer: ReadyHolidays,
  },
  'GET /calendars/:id/file.ics': {
    says: 'A calendar for other programs, as iCalendar.',
    who: 'keep records',
    answer: { media: ['text/calendar'] },
  },
  'GET /decides': {
    says: 'Who would have each step of a workflow for somebody, on a day, and why.',
    who: 'keep records',
    query: WhoDecides,
    answer: DecidesView,
  },
  'GET /decides/choices': {
    says: 'The workflows that can be tried.',
    who: 'keep records',
    answer: DecidesChoices,
  },
  'GET /moves': { says: 'Who comes and who leaves, by date.', who: 'keep records', answer: MovesView },
  'GET /records/:person/hand-over': {
    says: 'What somebody holds that others must have when they leave.',
    who: 'keep records',
    params: z.object({ person: PersonId }),
    answer: HandOverView,
  },
  'POST /records/:person/hand-over': {
    says: 'Gives several of these things to somebody else, together.',
    who: 'keep records',
    params: z.object({ person: PersonId }),
    body: HandOver,
    answer: HandedOver,
  },
  'GET /records/:person': {
    says: 'A person as they are on file; through time for those who may see that.',
    who: 'signed in',
    params: z.object({ person: PersonId }),
    answer: PersonPageView,
  },
  'POST /records/preview': {
    says: 'What would follow from a change; nothing is stored. Owners of a list may change its rows.',
    who: 'signed in',
    body: PreviewChange,
    answer: ChangePreview,
  },
  'GET /records/preview/:id': {
    says: 'How far a preview is that the caller waits for; none of none.',
    who: 'signed in',
    params: z.object({ id: z.uuid() }),
    answer: z.strictObject({ done: z.number(), all: z.number() }),
  },
  'DELETE /records/preview/:id': {
    says: 'Stops a preview that the caller waits for.',
    who: 'signed in',
    params: z.object({ id: z.uuid() }),
  },
  'POST /records/changes': {
    says: 'Makes a change that was previewed.',
    who: 'signed in',
    body: SaveChange,
    answer: Changed,
  },
  'POST /records/changes/:id/back': {
    says: 'Takes a change back, as long as nothing later stands on it.',
    who: 'keep records',
    params: Numbered,
    body: TakeChangeBack,
    answer: Changed,
  },
});
