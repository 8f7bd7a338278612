/** Errors as `application/problem+json` (RFC 9457). */
import type { FieldFault } from '@north-pebble/core/form';

export type ProblemCode =
  | 'bad input'
  | 'signed out'
  | 'not allowed'
  | 'not found'
  | 'refused'
  | 'stale'
  | 'closed'
  | 'findings'
  | 'too many tries'
  | 'database away'
  | 'fault';

export type Problem = {
  type: 'about:blank';
  title: string;
  status: number;
  /** What happened and what to do now. */
  detail: string;
  code: ProblemCode;
  /** Each with the field it is about. */
  faults?: FieldFault[];
};
