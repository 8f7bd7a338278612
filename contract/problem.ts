/** Errors as `application/problem+json` (RFC 9457). */
import { z } from 'zod';

export const ProblemCode = z.enum([
  'bad input',
  'signed out',
  'not allowed',
  'not found',
  'refused',
  'stale',
  'closed',
  'findings',
  'too many tries',
  'database away',
  'busy',
  'fault',
]);
export type ProblemCode = z.infer<typeof ProblemCode>;

export const FieldFaults = z.array(z.strictObject({ field: z.string(), message: z.string() }));

export const Problem = z.strictObject({
  type: z.literal('about:blank'),
  title: z.string(),
  status: z.number().int(),
  /** What happened and what to do now. */
  detail: z.string(),
  code: ProblemCode,
  /** Each with the field it is about. */
  faults: FieldFaults.optional(),
});
export type Problem = z.infer<typeof Problem>;
