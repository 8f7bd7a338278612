/** The signed-in person of an HTTP request. */
import type { Right } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import type { Request } from 'express';
import { ProblemError } from './problem.ts';

export type Caller = { readonly id: PersonId; readonly rights: readonly Right[] };

const callers = new WeakMap<Request, Caller>();

export const setCaller = (request: Request, caller: Caller): void => void callers.set(request, caller);

/** The caller; signed-out calls end here. */
export function callerOf(request: Request): Caller {
  const caller = callers.get(request);
  if (!caller) throw new ProblemError('signed out', 'Sign in to go on.');
  return caller;
}

export const callerOrNobody = (request: Request): Caller | null => callers.get(request) ?? null;
