/** Rounds in which access is looked at again. */
import { Router } from 'express';
import type { House } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { answerReview, itemsOf, reviewsView, startReview, workReviews } from './service.ts';

export { workReviews };

export function reviewRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /reviews', ({ caller }) => reviewsView(house, caller));
  at('POST /reviews', async ({ caller, body }) => {
    await startReview(house, caller, body);
    return reviewsView(house, caller);
  });
  at('POST /reviews/answers', async ({ caller, body }) => {
    await answerReview(house, caller, body);
    return reviewsView(house, caller);
  });
  at('GET /reviews/:id', ({ params }) => itemsOf(house, params.id));
  return router;
}

/** Once an hour, until stopped. */
export function keepReviewed(house: House, pause = 60 * 60_000): () => void {
  const timer = setInterval(() => {
    workReviews(house).catch(fault => house.log.warn({ err: fault }, 'reviews'));
  }, pause);
  return () => clearInterval(timer);
}
