/** A request that is wanted no more. */
import type { Execution } from '../execution/execution.ts';

/**
 * What was approved before stays as it was approved; anything else ends, and what it reserved or brought about is taken back.
 * @param guest who withdraws it, where they are on no file
 */
export function withdrawn(execution: Execution, note: string | null, guest: string | null): void {
  const by = execution.context.actor;
  execution.endTasks(guest === null ? { code: 'withdrawn by', by } : { code: 'withdrawn from outside', guest });
  if (execution.state.approved) return execution.keepAsApproved({ code: 'wanted after all', by });
  execution.release({ code: 'withdrawn' });
  execution.undoProvided();
  execution.emit({ kind: 'withdrawn', note, ...(guest === null ? {} : { guest }) });
}
