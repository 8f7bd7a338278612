/** People, cover, leave, connections and the Mailroom. */
import { MailChoice, PersonId } from '@north-pebble/core/people';
import { CivilDate } from '@north-pebble/core/time';
import { z } from 'zod';
import { ConnectionName, FindNamed, SaveConnection, TryAgain } from '../inputs/connections.ts';
import { FindPeople, LookAtPlanner, LookAtPlannerRows, SetCover, WhoseCover } from '../inputs/people.ts';
import { PageFrom } from '../inputs/records.ts';
import { AnswerMail } from '../inputs/workflows.ts';
import { CheckedView, ConnectionsView, NamedView } from '../views/access/connections.ts';
import { DifferencesView, Mend } from '../views/access/differences.ts';
import {
  ChangeByHand,
  DirectoryRoomView,
  FindAccounts,
  Switches,
  TurnSwitches,
} from '../views/access/directoryRoom.ts';
import { BalanceView, PlannerAway, PlannerRows, PlannerView } from '../views/leave.ts';
import { CoversView, DirectoryView, FoundPeople, MailChoiceView } from '../views/people.ts';
import { MailroomView, OpenPostsView, SentMail } from '../views/workflows.ts';
import { declare } from './route.ts';

export const peopleRoutes = declare({
  'GET /directory': {
    says: 'The directory, for designing and rehearsing, in pages.',
    who: 'design workflows',
    query: PageFrom,
    answer: DirectoryView,
  },
  'GET /open-posts': { says: 'Open posts, as anybody outside reads them.', who: 'anybody', answer: OpenPostsView },
  'GET /people': { says: 'People and roles found by words.', who: 'signed in', query: FindPeople, answer: FoundPeople },
  'GET /covers': { says: 'Who stands in for whom.', who: 'signed in', query: WhoseCover, answer: CoversView },
  'PUT /covers': { says: 'Sets who stands in.', who: 'signed in', body: SetCover, answer: CoversView },
  'DELETE /covers/:person/:from': {
    says: 'Ends a cover.',
    who: 'signed in',
    params: z.object({ person: PersonId, from: CivilDate }),
  },
  'GET /mail-choice': { says: 'How the caller wants mails.', who: 'signed in', answer: MailChoiceView },
  'PUT /mail-choice': { says: 'Says how.', who: 'signed in', body: MailChoice, answer: MailChoiceView },
  'GET /balances/:person': {
    says: 'Statements of leave; “me” is the caller.',
    who: 'signed in',
    params: z.object({ person: PersonId }),
    answer: BalanceView,
  },
  'GET /planner': { says: 'Who is here and who is away.', who: 'signed in', query: LookAtPlanner, answer: PlannerView },
  'GET /planner/rows': {
    says: 'Rows of it, one person each, some at a time.',
    who: 'signed in',
    query: LookAtPlannerRows,
    answer: PlannerRows,
  },
  'GET /planner/away': {
    says: 'Who is away, in the order of their first day.',
    who: 'signed in',
    query: LookAtPlanner,
    answer: PlannerAway,
  },
  'GET /planner/file.csv': {
    says: 'The same as a table.',
    who: 'export',
    query: LookAtPlanner,
    answer: { media: ['text/csv'] },
  },
  'GET /connections': { says: 'Connections and how they go.', who: 'read connections', answer: ConnectionsView },
  'PUT /connections/:name': {
    says: 'Sets a connection up.',
    who: 'keep connections',
    params: z.object({ name: ConnectionName }),
    body: SaveConnection,
    answer: ConnectionsView,
  },
  'DELETE /connections/:name': {
    says: 'Takes a connection away; what waits for it goes on waiting.',
    who: 'keep connections',
    answer: ConnectionsView,
  },
  'POST /connections/:name/check': {
    says: 'Asks whether it answers.',
    who: 'keep connections',
    answer: CheckedView,
  },
  'POST /connections/:name/again': {
    says: 'Tries at once what was tried in vain.',
    who: 'keep connections',
    body: TryAgain,
    answer: ConnectionsView,
  },
  'GET /connections/:name/named': {
    says: 'Names of groups or spaces that a system has, to pick from.',
    who: 'read connections',
    query: FindNamed,
    answer: NamedView,
  },
  'GET /connections/:name/differences': {
    says: 'What a directory holds against what it should, as it was last compared.',
    who: 'read connections',
    answer: DifferencesView,
  },
  'POST /connections/:name/differences': {
    says: 'Compares what a directory holds with what it should, in the background.',
    who: 'keep connections',
    answer: DifferencesView,
  },
  'DELETE /connections/:name/differences': {
    says: 'Stops a comparison that is under way.',
    who: 'keep connections',
    answer: DifferencesView,
  },
  'POST /connections/:name/differences/mended': {
    says: 'Asks for what mends differences, one by one or all.',
    who: 'keep connections',
    body: Mend,
    answer: DifferencesView,
  },
  'GET /mailroom': {
    says: 'What the stand-in for mail has received; in the demo.',
    who: 'read the Mailroom',
    answer: MailroomView,
  },
  'GET /mailroom/attached/:kept': {
    says: 'What came with a mail; in the demo.',
    who: 'read the Mailroom',
    answer: { media: ['application/octet-stream'] },
  },
  'GET /mailroom/directory': {
    says: 'What the stand-in for a directory holds; in the demo.',
    who: 'read the Mailroom',
    query: FindAccounts,
    answer: DirectoryRoomView,
  },
  'PUT /mailroom/directory/switches': {
    says: 'Makes the stand-in for a directory fail; in the demo.',
    who: 'write in the Mailroom',
    body: TurnSwitches,
    answer: Switches,
  },
  'PUT /mailroom/directory/accounts/:id': {
    says: 'Changes an account there by hand; in the demo.',
    who: 'write in the Mailroom',
    body: ChangeByHand,
  },
  'POST /mailroom/answers': {
    says: 'Writes as the recipient of a mail; in the demo.',
    who: 'write in the Mailroom',
    body: AnswerMail,
    answer: SentMail,
  },
});
