/** Records of people, posts, lines and roles. */
import { PersonId } from '@north-pebble/core/people';
import { z } from 'zod';
import { FindRecords, LinesOn, PreviewChange, SaveChange, TakeChangeBack } from '../inputs/records.ts';
import { Changed, ChangePreview, LinesView, PeopleView, PersonPageView } from '../views/records.ts';
import { declare } from './route.ts';

const Numbered = z.object({ id: z.coerce.number().int().positive() });

export const recordRoutes = declare({
  'GET /records': {
    says: 'Everybody on file, found by words.',
    who: 'signed in',
    query: FindRecords,
    answer: PeopleView,
  },
  'GET /lines': { says: 'The reporting lines on a day.', who: 'signed in', query: LinesOn, answer: LinesView },
  'GET /records/:person': {
    says: 'A person as they are on file; through time for those who may see that.',
    who: 'signed in',
    params: z.object({ person: PersonId }),
    answer: PersonPageView,
  },
  'POST /records/preview': {
    says: 'What would follow from a change; nothing is stored.',
    who: 'keep records',
    body: PreviewChange,
    answer: ChangePreview,
  },
  'POST /records/changes': {
    says: 'Makes a change that was previewed.',
    who: 'keep records',
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
