/** Slows down whoever tries too often. */
import type { RequestHandler } from 'express';
import { ipKeyGenerator, type Options, rateLimit } from 'express-rate-limit';
import { ProblemError, send } from './problem.ts';

const minute = 60_000;

/**
 * So many tries a minute from one address.
 * @param more who is told from whom, and what counts, where that is something else
 */
export const slowDown = (limit: number, more: Partial<Options> = {}): RequestHandler =>
  rateLimit({
    windowMs: minute,
    limit,
    keyGenerator: request => ipKeyGenerator(request.ip ?? ''),
    standardHeaders: true,
    legacyHeaders: false,
    handler: (_request, response) =>
      send(response, new ProblemError('too many tries', 'Wait a minute, then try again.')),
    ...more,
  });
