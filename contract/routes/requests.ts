/** Asking, deciding, the desk, files, and requests found. */
import { GivenFile } from '@north-pebble/core/form';
import { z } from 'zod';
import {
  AskVolume,
  BookLeave,
  FindPlans,
  FindRequests,
  HelpEffect,
  Look,
  NewFile,
  NewSet,
  PreviewInput,
  SaveDraft,
  SendCommand,
  Submit,
  TryDate,
  Unsent,
  UnsentWhat,
} from '../inputs/requests.ts';
import { HoldsView } from '../views/access/holds.ts';
import { DeskView } from '../views/desk.ts';
import { DateMoveView, PlansView } from '../views/plans.ts';
import {
  AskView,
  ComingView,
  FoundRequests,
  ListShape,
  Looked,
  PreviewView,
  RequestRows,
  RequestView,
  SavedSets,
  Sent,
  StuckRows,
  VolumeView,
} from '../views/requests.ts';
import { Saved } from '../views/values.ts';
import { AskableRows } from '../views/workflows.ts';
import { declare, Part } from './route.ts';

const Numbered = z.object({ id: z.coerce.number().int().positive() });

export const requestRoutes = declare({
  'GET /desk': { says: 'What waits for the caller.', who: 'signed in', answer: DeskView },
  'GET /live': {
    says: 'How much waits, told by itself as server-sent events.',
    who: 'signed in',
    answer: { media: ['text/event-stream'] },
  },
  'GET /askable': { says: 'The workflows that the caller may ask by.', who: 'signed in', answer: AskableRows },
  'GET /askable/:workflow': {
    says: 'The form of a workflow, as far as it is begun.',
    who: 'signed in',
    answer: AskView,
  },
  'PUT /askable/:workflow/draft': {
    says: 'Keeps a form that is begun.',
    who: 'signed in',
    body: SaveDraft,
    answer: Saved,
  },
  'DELETE /askable/:workflow/draft': { says: 'Throws a form that is begun away.', who: 'signed in' },
  'POST /preview': {
    says: 'What would come of answers: figures, faults, who decides.',
    who: 'signed in',
    body: PreviewInput,
    answer: PreviewView,
  },
  'GET /requests': { says: 'The caller’s own requests.', who: 'signed in', answer: RequestRows },
  'POST /requests': { says: 'Asks.', who: 'signed in', body: Submit, status: 201, answer: Sent },
  'POST /leave': {
    says: 'Books leave for somebody, with a reason.',
    who: 'signed in',
    body: BookLeave,
    status: 201,
    answer: Sent,
  },
  'GET /requests/find': {
    says: 'Requests found by filters.',
    who: 'signed in',
    query: FindRequests,
    answer: FoundRequests,
  },
  'GET /requests/volume': {
    says: 'Requests of one workflow added up: how many, and their amounts, by department, person, month or a field.',
    who: 'read every record',
    query: AskVolume,
    answer: VolumeView,
  },
  'GET /requests/shape/:workflow': {
    says: 'The steps and columns by which requests of one workflow can be listed.',
    who: 'signed in',
    answer: ListShape,
  },
  'GET /requests/export.:format': {
    says: 'The same as a table to keep.',
    who: 'export',
    params: z.object({ format: z.enum(['csv', 'xlsx']) }),
    query: FindRequests,
    answer: { media: ['text/csv', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'] },
  },
  'GET /requests/stuck': { says: 'What cannot go on, and why.', who: 'help requests on', answer: StuckRows },
  'GET /requests/coming': { says: 'What timers do next.', who: 'help requests on', answer: ComingView },
  'GET /plans': {
    says: 'The plans of all open requests that count back from a date.',
    who: 'signed in',
    query: FindPlans,
    answer: PlansView,
  },
  'GET /requests/:id/date': {
    says: 'What moving the date that a request counts back from would do.',
    who: 'signed in',
    params: z.object({ id: Part }),
    query: TryDate,
    answer: DateMoveView,
  },
  'GET /requests/:id/holds': {
    says: 'What the person of a request holds: tasks, access, papers.',
    who: 'signed in',
    params: z.object({ id: Part }),
    answer: HoldsView,
  },
  'GET /requests/:id': { says: 'One request, as its reader sees it.', who: 'signed in', answer: RequestView },
  'POST /requests/:id/commands': {
    says: 'Decides, asks, hands over: a command to a request.',
    who: 'signed in',
    body: SendCommand,
    answer: Sent,
  },
  'POST /requests/:id/looks': {
    says: 'Opens an answer that only named readers see; it is recorded.',
    who: 'signed in',
    body: Look,
    answer: Looked,
  },
  'PUT /requests/:id/unsent/:what': {
    says: 'Keeps what is typed and not sent.',
    who: 'signed in',
    params: z.object({ id: Part, what: UnsentWhat }),
    body: Unsent,
  },
  'POST /effects/:id': {
    says: 'Sends a mail again, or says that it is done.',
    who: 'help requests on',
    params: Numbered,
    body: HelpEffect,
  },
  'POST /timers/:key/again': { says: 'Tries a timer again.', who: 'help requests on' },
  'POST /requests/:request/fault/again': {
    says: 'Gives the command again that could not be carried out, for whoever gave it.',
    who: 'help requests on',
  },
  'GET /sets': { says: 'Kept filters, one’s own and shared ones.', who: 'signed in', answer: SavedSets },
  'POST /sets': { says: 'Keeps filters.', who: 'signed in', body: NewSet, status: 201, answer: SavedSets },
  'DELETE /sets/:id': { says: 'Throws kept filters away.', who: 'signed in', params: Numbered },
  'POST /files': {
    says: 'Takes a file in.',
    who: 'signed in',
    query: NewFile,
    body: { media: ['application/octet-stream'] },
    status: 201,
    answer: GivenFile,
  },
  'GET /files/:id': { says: 'A file.', who: 'signed in', answer: { media: ['application/octet-stream'] } },
});
