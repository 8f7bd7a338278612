/**
 * Who looks after a request: whoever asked, until they hand it over, leave, or are away for long. It is always somebody who
 * is here.
 */
import { coverOn, hasLeft, isEmployed, looksAfter, type PersonId, resolve } from '../../../people/index.ts';
import { addDays, type CivilDate } from '../../../time/index.ts';
import type { Definition } from '../../definition/definition.ts';
import { questionFor } from '../../execution/assigning.ts';
import type { Execution } from '../../execution/execution.ts';
import { type Command, type OwnerCommand, type Result, refuse } from '../../request/command.ts';
import { type Context, mayRead, nameOf, todayOf } from '../../request/context.ts';
import type { Reason } from '../../request/reason.ts';
import { isOpen, ownerOf, type RequestState } from '../../request/state.ts';
import { executionOf } from '../executionOf.ts';

/** Whoever is away for so many days or more from today on cannot look after what others asked of them. */
export const longAway = 28;

/** Whether somebody may say who looks after a request: whoever does now, HR of the person concerned, HR operations. */
export function mayChangeOwner(
  state: RequestState,
  { actor, index, helps, now }: Pick<Context, 'actor' | 'index' | 'helps' | 'now'>,
): boolean {
  if (actor === null || state.asker === null || !isOpen(state)) return false;
  const subject = state.subject ?? state.asker;
  return (
    helps === true || actor === ownerOf(state) || looksAfter(index, actor, subject, todayOf({ index, now }, subject))
  );
}

export function changeOwner(
  definition: Definition,
  state: RequestState,
  command: Extract<Command, { kind: 'change owner' }>,
  context: Context,
): Result {
  if (!mayChangeOwner(state, context))
    return refuse('not yours', `Only ${nameOf(context.index, ownerOf(state))} and HR operations may change the owner.`);
  const { to } = command;
  const person = context.index.person(to);
  const fault =
    person === undefined || !isEmployed(person, todayOf(context, to))
      ? `${person?.name ?? 'This person'} does not work here now.`
      : to === ownerOf(state)
        ? `${person.name} owns this request already.`
        : null;
  if (fault !== null) return refuse('bad answers', fault, [{ field: 'to', message: fault }]);
  const execution = executionOf(definition, state, context);
  passOwner(execution, to, { code: 'handed over', by: context.actor }, command.note?.trim() || null);
  return { ok: true, ...execution.outcome() };
}

/** The last day of an absence that is on today and lasts long from today on; nothing where there is none. */
function awayUntil({ away }: Pick<Context, 'away'>, person: PersonId, today: CivilDate): CivilDate | null {
  const far = addDays(today, longAway);
  return away.find(one => one.person === person && one.from <= today && one.to >= far)?.to ?? null;
}

/** Why whoever looks after a request cannot any more; nothing while they can. */
function gone({ state, context, owner, subject }: Execution): Reason | null {
  const person = context.index.person(owner);
  if (!person) return { code: 'owner not on file', person: owner };
  const today = todayOf(context, owner);
  if (hasLeft(person, today)) return { code: 'owner left', person: owner, left: person.left as CivilDate };
  // Whoever is away may still have to do with their own request: it tells of the absence, as a rule.
  const until = owner === subject && !state.outside ? null : awayUntil(context, owner, today);
  return until === null ? null : { code: 'owner away', person: owner, until };
}

/** Whom the workflow names, else who stands in for them, else HR operations: first those who look after the person concerned. */
function nextOwner(execution: Execution, operations: readonly PersonId[]): PersonId | null {
  const { context, definition, owner, subject } = execution;
  const { index } = context;
  const isAble = (id: PersonId) => {
    const person = index.person(id);
    const today = todayOf(context, id);
    return id !== owner && person !== undefined && isEmployed(person, today) && awayUntil(context, id, today) === null;
  };
  const question = questionFor(execution);
  const named = definition.ownedNext ? resolve(definition.ownedNext, { ...question, owner }) : null;
  const cover = coverOn({ ...question, day: todayOf(context, owner) }, owner);
  const today = todayOf(context, subject);
  const near = operations.filter(id => looksAfter(index, id, subject, today));
  const all = [
    ...(named?.ok ? named.holders.map(holder => holder.person) : []),
    ...(cover ? [cover.by] : []),
    ...near,
    ...operations,
  ];
  return all.find(isAble) ?? null;
}

/** The house looks: where whoever looks after it is not here any more, it goes on to somebody who is. */
export function mindOwner(
  definition: Definition,
  state: RequestState,
  { operations }: OwnerCommand,
  context: Context,
): Result {
  const execution = executionOf(definition, state, context);
  const reason = isOpen(state) && state.asker !== null ? gone(execution) : null;
  const next = reason && nextOwner(execution, operations);
  if (reason && next) passOwner(execution, next, reason, null);
  return { ok: true, ...execution.outcome() };
}

function passOwner(execution: Execution, to: PersonId, reason: Reason, note: string | null): void {
  const { context, owner: before } = execution;
  const known = execution.askers();
  execution.emit({ kind: 'owner changed', to, reason, note });
  const why = `${capital(execution.words(reason))}.`;
  const said = note === null ? '' : `\n\n“${note}”`;
  if (to !== context.actor)
    execution.mail(
      to,
      `You are now the owner: ${execution.title()}`,
      `${execution.askerName()} asked for this${execution.forWhom()}. ${why} Questions about it come to you now, and you may change or withdraw it.${said}`,
    );
  // Whoever had it is told, too, as long as they are here to read it; so is the asker.
  for (const person of new Set([before, ...known]))
    if (person !== to && person !== context.actor && mayRead(context, person))
      execution.mail(
        person,
        `New owner: ${execution.title()}`,
        `${execution.who(to)} looks after this request from now on. ${why}${said}`,
      );
}

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);
