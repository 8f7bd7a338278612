/** A command is carried out once, however often it is sent. */
import { createHash } from 'node:crypto';
import type { Sent } from '@north-pebble/contract';
import type { RequestState, Result } from '@north-pebble/core/workflow';
import {
  insertion,
  inTransaction,
  inTurn,
  isDuplicate,
  type Statement,
  type Transaction,
  tables as t,
} from '../../database/index.ts';
import type { House } from '../../house/index.ts';
import { type Caller, ProblemError, refused } from '../../http/index.ts';
import { doneBefore } from '../store.ts';

/** What a command brought about. @throws ProblemError where it was refused */
export function accepted(result: Result) {
  if (!result.ok) throw refused(result.refusal);
  return result;
}

/** What commands wait their turn for: the balance of a person, or a request. */
export const ofPerson = (person: string): string => `person ${person}`;
export const ofRequest = (request: string): string => `request ${request}`;

/** Keeps that a command was carried out, in the trip that stores what it brought. */
export type Keep = (state: RequestState) => Statement;

export const keptCommand = insertion(t.commands);

/**
 * Runs one command under its id: the first time for real, any further time by giving the same answer again.
 * @param turn what it is about: commands about the same wait for one another here, where they hold no connection, and not
 * on a row that is locked
 */
export async function once(
  house: House,
  caller: Caller,
  commandId: string,
  sent: unknown,
  work: (tx: Transaction, keep: Keep) => Promise<RequestState>,
  turn: string,
): Promise<Sent> {
  const digest = createHash('sha256').update(JSON.stringify(sent)).digest('hex');
  try {
    const carriedOut = () =>
      inTransaction(house.db, tx =>
        work(tx, state =>
          keptCommand([
            {
              id: commandId,
              actor: caller.id,
              request: state.request,
              version: state.version,
              digest,
              at: Date.now(),
            },
          ]),
        ),
      );
    const { request, version } = await inTurn(`${house.db.url} ${turn}`, carriedOut);
    house.wake();
    return { request, version };
  } catch (fault) {
    // A repeat is refused for having been done, or meets its own id; both leave nothing behind.
    const before =
      isDuplicate(fault) || fault instanceof ProblemError ? await doneBefore(house.db, commandId) : undefined;
    if (!before) throw fault;
    const isSame = before.actor === caller.id && (before.digest === null || before.digest === digest);
    if (!isSame)
      throw new ProblemError(
        'refused',
        'Something else was sent under the id of this command, so this was not done. Send it under an id of its own.',
      );
    return { request: before.request, version: before.version };
  }
}
