/** The signed-in person of an HTTP request. */
import type { Right } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import type { Request } from 'express';
import { ProblemError } from './problem.ts';

export type Caller = {
  readonly id: PersonId;
  readonly rights: readonly Right[];
  /** Rights that are not there until a second factor is used. */
  readonly withheld?: readonly Right[];
  /** Whether they signed in with a second factor. */
  readonly isStrong?: boolean;
  /** The administrator who sees as they do, reading only. */
  readonly seenBy?: PersonId;
};

type Known = { caller: Caller; again: () => Promise<Caller | null> };
const callers = new WeakMap<Request, Known>();

/** @param again who it is by now; nobody when the session has ended or its person has left */
export const setCaller = (request: Request, caller: Caller, again: Known['again']): void =>
  void callers.set(request, { caller, again });

/** Who a long call is for by now; nobody when it must end. */
export const callerByNow = async (request: Request): Promise<Caller | null> => callers.get(request)?.again() ?? null;

/** The caller; signed-out calls end here. */
export function callerOf(request: Request): Caller {
  const caller = callers.get(request)?.caller;
  if (!caller) throw new ProblemError('signed out', 'Sign in to go on.');
  return caller;
}

export const callerOrNobody = (request: Request): Caller | null => callers.get(request)?.caller ?? null;
