/** Guests: who fills in sections by a personal link, without an account. */
import { GivenFile } from '@north-pebble/core/form';
import { z } from 'zod';
import {
  AskAsGuest,
  DemoGuest,
  GiveGuestCode,
  GuestFile,
  HandIn,
  OfField,
  OfFile,
  OfGuest,
  OfSection,
  SaveSection,
  SignPaper,
} from '../inputs/guests.ts';
import { DemoGuests, GuestAddress, GuestPaper, GuestSaved, GuestStandings, GuestView } from '../views/guests.ts';
import { declare, Part } from './route.ts';

const file = { media: ['application/octet-stream'] } as const;

export const guestRoutes = declare({
  'GET /guest/:token': { says: 'What is asked of a guest.', who: 'anybody', params: OfGuest, answer: GuestView },
  'PUT /guest/:token/sections/:section': {
    says: 'Keeps what a guest has typed in a section.',
    who: 'anybody',
    params: OfSection,
    body: SaveSection,
    answer: GuestSaved,
  },
  'POST /guest/:token/sections/:section': {
    says: 'Hands a section in.',
    who: 'anybody',
    params: OfSection,
    body: HandIn,
    answer: GuestView,
  },
  'POST /guest/:token/questions': {
    says: 'Asks whoever looks after the guest.',
    who: 'anybody',
    params: OfGuest,
    body: AskAsGuest,
    answer: GuestView,
  },
  'POST /guest/:token/consents/:field/back': {
    says: 'Takes a consent back.',
    who: 'anybody',
    params: OfField,
    answer: GuestView,
  },
  'POST /guest/:token/files': {
    says: 'Takes a file of a guest in.',
    who: 'anybody',
    params: OfGuest,
    query: GuestFile,
    body: file,
    status: 201,
    answer: GivenFile,
  },
  'GET /guest/:token/files/:file': {
    says: 'A file that the guest gave, or a paper made for them.',
    who: 'anybody',
    params: OfFile,
    answer: file,
  },
  'GET /guest/:token/papers/:field': {
    says: 'A paper to read or sign.',
    who: 'anybody',
    params: OfField,
    answer: GuestPaper,
  },
  'POST /guest/:token/papers/:field': {
    says: 'Says that a paper was read, or signs it.',
    who: 'anybody',
    params: OfField,
    body: SignPaper,
    answer: GuestView,
  },
  'POST /guest/:token/link': {
    says: 'Asks for another link in place of one that is over; it goes to the address on file.',
    who: 'anybody',
    params: OfGuest,
  },
  'POST /guest/:token/code': {
    says: 'Asks for a code, sent to the address on file, for a device that is not known.',
    who: 'anybody',
    params: OfGuest,
  },
  'POST /guest/:token/device': {
    says: 'Makes a device known by its code.',
    who: 'anybody',
    params: OfGuest,
    body: GiveGuestCode,
    answer: GuestView,
  },
  'GET /demo/guests': { says: 'Guests of the demo, for trying their page.', who: 'anybody', answer: DemoGuests },
  'POST /demo/guests': {
    says: 'A personal link of a guest of the demo.',
    who: 'anybody',
    body: DemoGuest,
    answer: GuestAddress,
  },
  'GET /requests/:id/guests': {
    says: 'Where the guests of a request are.',
    who: 'signed in',
    params: z.object({ id: Part }),
    answer: GuestStandings,
  },
  'GET /requests/:id/guests/:step': {
    says: 'The page of a guest as they see it, without what they typed and did not hand in.',
    who: 'signed in',
    params: z.object({ id: Part, step: Part }),
    answer: GuestView,
  },
});
