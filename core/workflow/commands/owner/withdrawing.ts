/** A request that is wanted no more. */
import type { Execution } from '../../execution/execution.ts';
import { writeOutside } from '../../execution/inviting.ts';

/** Whoever asked, and has not withdrawn it themselves, reads who did and why. */
function tellWithdrawn(execution: Execution, note: string | null): void {
  const { state, definition, context } = execution;
  const said = note === null ? '' : `\n\n“${note}”`;
  execution.mailOtherAskers(
    `Withdrawn: ${execution.title()}`,
    `${execution.who(context.actor)} has withdrawn this request.${said}`,
  );
  if (state.outside)
    writeOutside(execution, {
      subject: `Withdrawn: ${definition.name}`,
      body: `Hello ${state.outside.name},\n\nyour request was withdrawn by ${execution.who(context.actor)}.${said}`,
    });
}

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
  if (guest === null) tellWithdrawn(execution, note);
}
