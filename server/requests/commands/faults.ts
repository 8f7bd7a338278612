/**
 * Commands that could not be carried out by a fault of ours. Nothing of them is stored, and they do not vanish: each stands
 * under what cannot go on until its request has moved on, and can be given again for whoever gave it.
 */
import type { PersonId } from '@north-pebble/core/people';
import type { Command } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { isDatabaseAway, isDeadlock, isTooBusy, tables as t } from '../../database/index.ts';
import type { House } from '../../house/index.ts';
import { type Caller, notFound, ProblemError } from '../../http/index.ts';
import { loadRequest } from '../store.ts';

/** What the house can say for, and what passes by itself: none of these is a fault of a step. */
const isExpected = (fault: unknown): boolean =>
  fault instanceof ProblemError || isDatabaseAway(fault) || isTooBusy(fault) || isDeadlock(fault);

/** Carries a command out; where that is broken off by a fault, it is kept, and whoever gave it is told what happens now. */
export async function orKeepFault<T>(
  house: House,
  caller: Caller,
  request: string,
  command: Command,
  carryOut: () => Promise<T>,
): Promise<T> {
  try {
    return await carryOut();
  } catch (fault) {
    if (isExpected(fault)) throw fault;
    const stored = await loadRequest(house.db, request);
    if (!stored) throw fault;
    house.log.error({ err: fault, request }, 'a command was not carried out');
    const row = {
      version: stored.state.version,
      step: stored.state.at[0] ?? '',
      actor: caller.id,
      command,
      fault: (fault instanceof Error ? fault.message : String(fault)).slice(0, 300),
      at: await house.now(house.db),
    };
    await house.db
      .insert(t.stepFaults)
      .values({ request, ...row })
      .onDuplicateKeyUpdate({ set: row });
    throw new ProblemError(
      'fault',
      'This could not be carried out. Nothing was changed, what you typed is kept, and HR operations can see it and will help it on.',
    );
  }
}

/** What was wanted, and for whom it is given again. */
export async function faultOf(house: House, request: string): Promise<{ caller: Caller; command: Command }> {
  const [row] = await house.db.select().from(t.stepFaults).where(eq(t.stepFaults.request, request));
  if (!row) throw notFound();
  const [account] = await house.db.select().from(t.accounts).where(eq(t.accounts.person, row.actor));
  const rights = account && !account.closed ? account.rights : [];
  return { caller: { id: row.actor as PersonId, rights }, command: row.command };
}

export const forgetFault = (house: House, request: string) =>
  house.db.delete(t.stepFaults).where(eq(t.stepFaults.request, request));
