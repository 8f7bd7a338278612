/** Public addresses: what somebody without an account sends, and how the house keeps it. */
import { z } from 'zod';
import { OfGuest } from '../inputs/guests.ts';
import { AtPublic, KeepPublic, ReplyOutside, SendOutside, TypedOutside } from '../inputs/outside.ts';
import { GuestView } from '../views/guests.ts';
import { Forgetting, FormOutside, PublicAddressView, PublicAsked, SentOutside } from '../views/outside.ts';
import { declare, Part } from './route.ts';

const ofWorkflow = z.object({ id: Part });

export const outsideRoutes = declare({
  'GET /public/:token': {
    says: 'What is asked at a public address.',
    who: 'anybody',
    params: AtPublic,
    answer: FormOutside,
  },
  'POST /public/:token/asked': {
    says: 'What is asked there with these answers; nothing is kept.',
    who: 'anybody',
    params: AtPublic,
    body: TypedOutside,
    answer: PublicAsked,
  },
  'POST /public/:token': {
    says: 'Sends it; a link to a page of their own goes to the mail address that was given.',
    who: 'anybody',
    params: AtPublic,
    body: SendOutside,
    answer: SentOutside,
  },
  'POST /guest/:token/replies': {
    says: 'Answers what was asked of whoever asked from outside.',
    who: 'anybody',
    params: OfGuest,
    body: ReplyOutside,
    answer: GuestView,
  },
  'POST /guest/:token/withdrawal': {
    says: 'Withdraws what was asked for from outside.',
    who: 'anybody',
    params: OfGuest,
    answer: GuestView,
  },
  'GET /workflows/:id/public-address': {
    says: 'The public address of a workflow, and what was taken in there.',
    who: 'signed in',
    params: ofWorkflow,
    answer: PublicAddressView,
  },
  'PUT /workflows/:id/public-address': {
    says: 'Gives the public address out, changes its days, renews or shuts it.',
    who: 'signed in',
    params: ofWorkflow,
    body: KeepPublic,
    answer: PublicAddressView,
  },
  'GET /forgetting': {
    says: 'What is deleted next because its time is over, and how much was.',
    who: 'signed in',
    answer: Forgetting,
  },
});
