/** Wishes for the same days: a round is made, filled by those whom it is for, compared, and decided as a change of the house. */
import { z } from 'zod';
import { NewWishRound, OwnWishes } from '../inputs/wishes.ts';
import { WishesCompared, WishRoundsView } from '../views/wishes.ts';
import { declare } from './route.ts';

const Numbered = z.object({ id: z.coerce.number().int().positive() });

export const wishRoutes = declare({
  'GET /wishes': {
    says: 'Rounds of wishes that the caller is part of; all of them for whoever keeps records.',
    who: 'signed in',
    answer: WishRoundsView,
  },
  'POST /wishes': {
    says: 'Makes a round, and writes to everybody whom it is for.',
    who: 'keep records',
    status: 201,
    body: NewWishRound,
    answer: z.strictObject({ id: z.number() }),
  },
  'GET /wishes/:id': {
    says: 'The wishes of a round compared, in whose turn it is, and what is proposed.',
    who: 'keep records',
    params: Numbered,
    answer: WishesCompared,
  },
  'DELETE /wishes/:id': {
    says: 'Takes a round away that is not decided.',
    who: 'keep records',
    params: Numbered,
  },
  'PUT /wishes/:id/own': {
    says: 'One’s own wishes, the first one first.',
    who: 'signed in',
    params: Numbered,
    body: OwnWishes,
    answer: WishRoundsView,
  },
});
