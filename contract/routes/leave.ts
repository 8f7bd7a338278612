/** Leave for those who answer for it: its rules, what is let pass, and everybody’s balances. */
import { PersonId } from '@north-pebble/core/people';
import { z } from 'zod';
import {
  AskJoining,
  AskLeaving,
  CloseYear,
  FindStandings,
  FindYearEnd,
  NewFeed,
  NewLetters,
  NewPass,
  NewPayExport,
  TrySpans,
} from '../inputs/leave.ts';
import {
  FeedMade,
  FeedsView,
  JoiningView,
  LeaveRulesView,
  LeavingView,
  PassesView,
  PayExportsView,
  StandingsView,
  TriedView,
  YearEndView,
} from '../views/leave.ts';
import { declare } from './route.ts';

const Numbered = z.object({ id: z.coerce.number().int().positive() });

export const leaveRoutes = declare({
  'GET /balances/:person/statement.pdf': {
    says: 'A statement on pages; “me” is the caller.',
    who: 'signed in',
    params: z.object({ person: PersonId }),
    query: z.strictObject({ type: z.string().max(40).optional() }),
    answer: { media: ['application/pdf'] },
  },
  'POST /balances/:person/try': {
    says: 'What spans would take and leave, compared; nothing is asked for. “me” is the caller.',
    who: 'signed in',
    params: z.object({ person: PersonId }),
    body: TrySpans,
    answer: TriedView,
  },
  'GET /leave/rules': {
    says: 'What leave types and plans say through time, and how many are needed where.',
    who: 'signed in',
    answer: LeaveRulesView,
  },
  'GET /leave/passes/:person': {
    says: 'Leave of somebody that HR lets pass.',
    who: 'signed in',
    params: z.object({ person: PersonId }),
    answer: PassesView,
  },
  'POST /leave/passes': {
    says: 'Lets leave of somebody pass though a limit would stop it, with a reason.',
    who: 'signed in',
    status: 201,
    body: NewPass,
    answer: PassesView,
  },
  'DELETE /leave/passes/:id': {
    says: 'Takes that back; what has been asked for stays.',
    who: 'signed in',
    params: Numbered,
  },
  'GET /leave/year-end': {
    says: 'Leave years that ended by a day, and whether they are closed.',
    who: 'keep records',
    query: FindYearEnd,
    answer: YearEndView,
  },
  'POST /leave/year-end': {
    says: 'Closes those that are not: their statements stay as they are.',
    who: 'keep records',
    body: CloseYear,
    answer: z.strictObject({ closed: z.number() }),
  },
  'GET /leave/pay': { says: 'What pay was told of leave.', who: 'keep records', answer: PayExportsView },
  'POST /leave/pay': {
    says: 'Tells pay of a period, and of what has changed of earlier ones.',
    who: 'keep records',
    status: 201,
    body: NewPayExport,
    answer: z.strictObject({ id: z.number() }),
  },
  'GET /leave/pay/:id/file.csv': {
    says: 'What pay was told, as a table.',
    who: 'keep records',
    params: Numbered,
    answer: { media: ['text/csv'] },
  },
  'GET /leave/leaving/:person': {
    says: 'What somebody has left when they leave on a day, before it is on file.',
    who: 'signed in',
    params: z.object({ person: PersonId }),
    query: AskLeaving,
    answer: LeavingView,
  },
  'GET /leave/joining': {
    says: 'What a plan gives somebody who joins on a day.',
    who: 'keep records',
    query: AskJoining,
    answer: JoiningView,
  },
  'POST /leave/letters': {
    says: 'Writes to those who are found what they have left.',
    who: 'keep records',
    status: 201,
    body: NewLetters,
    answer: z.strictObject({ letters: z.number() }),
  },
  'GET /feeds': { says: 'Calendars of one’s own on secret addresses.', who: 'signed in', answer: FeedsView },
  'POST /feeds': {
    says: 'Makes one; its address is told once.',
    who: 'signed in',
    status: 201,
    body: NewFeed,
    answer: FeedMade,
  },
  'POST /feeds/:id/renew': {
    says: 'Gives it another address; the one before leads nowhere any more.',
    who: 'signed in',
    params: Numbered,
    answer: FeedMade,
  },
  'DELETE /feeds/:id': { says: 'Takes it away.', who: 'signed in', params: Numbered },
  'GET /leave/balances': {
    says: 'Balances of everybody whom the caller may see, of one type.',
    who: 'signed in',
    query: FindStandings,
    answer: StandingsView,
  },
  'GET /leave/balances/file.csv': {
    says: 'The same as a table, as it is looked for and sorted.',
    who: 'export',
    query: FindStandings,
    answer: { media: ['text/csv'] },
  },
});
