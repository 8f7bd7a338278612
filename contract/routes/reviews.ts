/** Rounds in which access is looked at again. */
import { z } from 'zod';
import { AnswerReview, StartReview } from '../inputs/reviews.ts';
import { ReviewItemViews, ReviewsView } from '../views/access/reviews.ts';
import { declare } from './route.ts';

export const reviewRoutes = declare({
  'GET /reviews': { says: 'What waits for one’s review, and rounds.', who: 'signed in', answer: ReviewsView },
  'POST /reviews': {
    says: 'Begins a round.',
    who: 'keep connections',
    body: StartReview,
    status: 201,
    answer: ReviewsView,
  },
  'GET /reviews/:id': {
    says: 'Everything of one round.',
    who: 'read connections',
    params: z.object({ id: z.coerce.number().int().positive() }),
    answer: ReviewItemViews,
  },
  'POST /reviews/answers': {
    says: 'Says of several at once that they stay, or are taken away.',
    who: 'signed in',
    body: AnswerReview,
    answer: ReviewsView,
  },
});
