/** What mail servers and calendars say of what a request sent: kept on its trail, and told to whoever has it. */
import type { PersonId } from '../../../people/index.ts';
import type { Definition } from '../../definition/definition.ts';
import type { Execution } from '../../execution/execution.ts';
import { type MailCommand, type Result, refuse } from '../../request/command.ts';
import type { Context } from '../../request/context.ts';
import type { RequestState } from '../../request/state.ts';
import { executionOf } from '../executionOf.ts';

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Who has the request now, else who asked or keeps it; never whoever the address belongs to, whom no letter reaches. */
function readers({ state, asker, context }: Execution, address: string): PersonId[] {
  const held = state.tasks.filter(task => task.pool !== 'free').map(task => task.holder);
  const all = held.length > 0 ? held : [asker];
  return [...new Set(all)].filter(id => !same(context.index.person(id)?.mail ?? '', address));
}

export function mailNews(definition: Definition, state: RequestState, { what }: MailCommand, context: Context): Result {
  if (state.status === 'new') return refuse('not open', 'This request has not been sent.');
  const execution = executionOf(definition, state, context);
  if (what.kind === 'came back') {
    execution.emit({ kind: 'came back', address: what.address, why: what.why });
    for (const person of readers(execution, what.address))
      execution.mail(
        person,
        `A letter came back: ${execution.title()}`,
        `A letter of this request to ${what.address} could not be delivered: “${what.why}”\n\nWhoever it was for has not read it. Look at the address, and reach them another way.`,
      );
    return { ok: true, ...execution.outcome() };
  }
  const found = Object.entries(state.invitations ?? {}).find(([, one]) => one.invitation.uid === what.uid);
  const person = context.index.directory.people.find(one => same(one.mail, what.address));
  const isInvited =
    found !== undefined &&
    ((person !== undefined && found[1].people.includes(person.id)) ||
      found[1].addresses.some(address => same(address, what.address)));
  // A calendar that was not invited has nothing to answer.
  if (!found || !isInvited) return refuse('not yours', 'Nobody at this address was invited.');
  const who =
    person?.name ?? (state.outside && same(state.outside.mail, what.address) ? state.outside.name : what.address);
  execution.emit({ kind: 'calendar answered', step: found[0], who, answer: what.answer });
  if (what.answer === 'declined')
    for (const reader of readers(execution, what.address))
      execution.mail(
        reader,
        `${who} does not come: ${execution.title()}`,
        `${who} declined “${found[1].invitation.title}” in their calendar. Nothing else has changed.`,
      );
  return { ok: true, ...execution.outcome() };
}
