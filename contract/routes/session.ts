/** Signing in, accounts, and a house that begins. */
import { z } from 'zod';
import {
  ChangeAccount,
  ChangePassword,
  ChoosePassword,
  Forgotten,
  GiveCode,
  Invite,
  LinkToken,
  RequireFactor,
  SetUp,
} from '../inputs/accounts.ts';
import { GivePassword, MoveClock, SignIn } from '../inputs/session.ts';
import {
  AccountRows,
  FactorCodes,
  FactorView,
  FirstPassword,
  Healthy,
  LinkView,
  Moved,
  NewFactor,
  Nothing,
  Ready,
  RequiredFactor,
  SessionRows,
  SessionView,
} from '../views/session.ts';
import { declare } from './route.ts';

export const sessionRoutes = declare({
  'GET /health': { says: 'Whether the server is alive.', who: 'anybody', answer: Healthy },
  'GET /ready': { says: 'Whether it delivers and keeps time; 503 when not.', who: 'anybody', answer: Ready },
  'GET /openapi.json': { says: 'This description.', who: 'anybody', answer: z.looseObject({ openapi: z.string() }) },
  'GET /session': { says: 'Who is signed in, and the house.', who: 'anybody', answer: SessionView },
  'POST /session': { says: 'Signs in.', who: 'anybody', body: SignIn, status: 201, answer: Nothing },
  'DELETE /session': { says: 'Signs out.', who: 'anybody' },
  'GET /sessions': { says: 'One’s own sessions.', who: 'signed in', answer: SessionRows },
  'DELETE /sessions/others': { says: 'Ends one’s other sessions.', who: 'signed in' },
  'POST /setup': { says: 'Sets an empty house up, by a one-time address.', who: 'anybody', body: SetUp },
  'GET /links/:token': {
    says: 'What a one-time address is for.',
    who: 'anybody',
    params: z.object({ token: LinkToken }),
    answer: LinkView,
  },
  'POST /password': { says: 'Sets a password by a one-time address.', who: 'anybody', body: ChoosePassword },
  'POST /password/forgotten': { says: 'Asks for such an address by mail.', who: 'anybody', body: Forgotten },
  'PUT /password': { says: 'Changes one’s password.', who: 'signed in', body: ChangePassword },
  'GET /factor': { says: 'One’s own second factor.', who: 'signed in', answer: FactorView },
  'POST /factor': {
    says: 'Begins with a second factor.',
    who: 'signed in',
    body: GivePassword,
    status: 201,
    answer: NewFactor,
  },
  'PUT /factor': {
    says: 'Takes the second factor into use with its first code.',
    who: 'signed in',
    body: GiveCode,
    answer: FactorCodes,
  },
  'POST /factor/off': { says: 'Gives the second factor up.', who: 'signed in', body: GiveCode },
  'GET /factor/required': { says: 'Rights that need a second factor.', who: 'keep accounts', answer: RequiredFactor },
  'PUT /factor/required': {
    says: 'Says which rights need a second factor.',
    who: 'keep accounts',
    body: RequireFactor,
    answer: RequiredFactor,
  },
  'GET /accounts': { says: 'Everybody’s accounts.', who: 'keep accounts', answer: AccountRows },
  'POST /accounts': {
    says: 'Invites somebody by mail.',
    who: 'keep accounts',
    body: Invite,
    status: 201,
    answer: AccountRows,
  },
  'POST /accounts/:person/invitation': {
    says: 'Sends an invitation again.',
    who: 'keep accounts',
    answer: AccountRows,
  },
  'PUT /accounts/:person': {
    says: 'Changes rights, or switches an account off or on.',
    who: 'keep accounts',
    body: ChangeAccount,
    answer: AccountRows,
  },
  'POST /first-password': {
    says: 'Sets the first password of an account outside and shows it, once, by a one-time address.',
    who: 'anybody',
    body: z.object({ token: LinkToken }),
    answer: FirstPassword,
  },
  'POST /clock': { says: 'Moves the demo’s clock forward.', who: 'move the clock', body: MoveClock, answer: Moved },
});
