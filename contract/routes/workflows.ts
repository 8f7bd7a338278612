/** The shelf and the sheet. */
import { PersonId } from '@north-pebble/core/people';
import { Definition } from '@north-pebble/core/workflow';
import { z } from 'zod';
import { LookAtLetter } from '../inputs/letters.ts';
import { Archive, BeginWorkflow, Move, Publish, SaveSheet, SetPermissions } from '../inputs/workflows.ts';
import {
  Begun,
  DraftMark,
  Movables,
  MovedView,
  Published,
  RehearsalView,
  SavedSheet,
  SheetView,
  ShelfRows,
  SurroundingsView,
  TookView,
} from '../views/workflows.ts';
import { declare, Part } from './route.ts';

export const workflowRoutes = declare({
  'POST /letters/look': {
    says: 'A letter set on pages as it would be kept; nothing of it is.',
    who: 'design workflows',
    body: LookAtLetter,
    answer: { media: ['application/pdf'] },
  },
  'GET /workflows': { says: 'The shelf.', who: 'read workflows', answer: ShelfRows },
  'POST /workflows': {
    says: 'Begins a workflow from a definition.',
    who: 'design workflows',
    body: BeginWorkflow,
    status: 201,
    answer: Begun,
  },
  'GET /workflows/:id/took': {
    says: 'How long its steps took so far.',
    who: 'read workflows',
    answer: TookView,
  },
  'GET /surroundings': {
    says: 'What a definition is checked against, besides the directory.',
    who: 'read workflows',
    answer: SurroundingsView,
  },
  'GET /rehearsal/:person': {
    says: 'What a rehearsal needs to know about a person.',
    who: 'design workflows',
    params: z.object({ person: PersonId }),
    answer: RehearsalView,
  },
  'GET /workflows/:id': { says: 'A sheet: live version, draft, versions.', who: 'read workflows', answer: SheetView },
  'GET /workflows/:id/versions/:version': {
    says: 'A version as it was published.',
    who: 'read workflows',
    params: z.object({ id: Part, version: z.coerce.number().int().positive() }),
    answer: Definition,
  },
  'GET /workflows/:id/draft/mark': { says: 'How far the draft has come.', who: 'read workflows', answer: DraftMark },
  'PUT /workflows/:id/draft': {
    says: 'Saves the draft.',
    who: 'design workflows',
    body: SaveSheet,
    answer: SavedSheet,
  },
  'DELETE /workflows/:id/draft': { says: 'Throws the draft away.', who: 'design workflows' },
  'POST /workflows/:id/publish': {
    says: 'Makes the draft the live version.',
    who: 'design workflows',
    body: Publish,
    answer: Published,
  },
  'PUT /workflows/:id/archive': { says: 'Puts it away, or back.', who: 'design workflows', body: Archive },
  'PUT /workflows/:id/permissions': {
    says: 'Names who may change, publish and see it.',
    who: 'design workflows',
    body: SetPermissions,
  },
  'GET /workflows/:id/moving': {
    says: 'Open requests on older versions.',
    who: 'design workflows',
    answer: Movables,
  },
  'POST /workflows/:id/moving': {
    says: 'Moves such requests to the live version.',
    who: 'design workflows',
    body: Move,
    answer: MovedView,
  },
});
