/** What guests do by their link, and what is done for them by those who look after them. */
import { isEmptyAnswer } from '../../../form/index.ts';
import type { PersonId } from '../../../people/index.ts';
import { toMilliseconds } from '../../../time/index.ts';
import { type Definition, fieldById } from '../../definition/definition.ts';
import { type GuestStep, guestSteps, isGuestStep, isOutsideGuest, outsideGuest } from '../../definition/guests.ts';
import { stepById } from '../../definition/structure.ts';
import type { Execution } from '../../execution/execution.ts';
import {
  formOf,
  guestOf,
  invite,
  missingFrom,
  newLink,
  nextReminder,
  reminder,
  untilWords,
  writeToGuest,
} from '../../execution/inviting.ts';
import { fillIn } from '../../figures/filling.ts';
import { type Command, type GuestCommand, type Result, refuse, refuseAnswers } from '../../request/command.ts';
import { type Context, factsOf, houseListsOf } from '../../request/context.ts';
import type { GuestStanding } from '../../request/guest.ts';
import { guestFields, stillMissing } from '../../request/guestForm.ts';
import { isOpen, ownerOf, type RequestState } from '../../request/state.ts';
import { filledOf, isHeldBy } from '../answering.ts';
import { replied } from '../clarifying.ts';
import { consentsNow } from '../consents.ts';
import { executionOf } from '../executionOf.ts';
import { withdrawn } from '../owner/withdrawing.ts';

/** Words of one guest that are kept; nobody asks so often. */
const mostWords = 100;

/** The step of a guest and how they stand there, while the request is at it; their own page while it is open. */
export function guestHere(
  definition: Definition,
  state: RequestState,
  id: string,
): { step: GuestStep; standing: GuestStanding } | undefined {
  const step = stepById(definition, id);
  const standing = state.guests?.[id];
  if (!isOpen(state) || !standing) return undefined;
  if (isGuestStep(step)) return state.at.includes(id) ? { step, standing } : undefined;
  const own = state.outside && outsideGuest(definition);
  return own?.id === id ? { step: own, standing } : undefined;
}

/** What a link opens now. Whoever asked from outside comes by any of their links to what is asked of them at the moment. */
export function guestNow(
  definition: Definition,
  state: RequestState,
  id: string,
): { step: GuestStep; standing: GuestStanding } | undefined {
  const own = state.outside && outsideGuest(definition);
  const here = guestHere(definition, state, id);
  if (!own || (here && id !== own.id)) return here;
  const step = stepById(definition, id);
  if (id !== own.id && !(isGuestStep(step) && isOutsideGuest(definition, step))) return here;
  const asked = guestSteps(definition).find(
    one => isOutsideGuest(definition, one) && guestHere(definition, state, one.id) !== undefined,
  );
  return guestHere(definition, state, asked?.id ?? own.id);
}

/** Who hears from a guest: whoever holds their step; else those who have the request now, or who keeps it. */
function holdersOf({ state, asker }: Execution, step: GuestStep): PersonId[] {
  const own = state.tasks.filter(task => task.step === step.id);
  if (own.length > 0) return [...new Set(own.map(task => task.holder))];
  const taken = state.tasks.filter(task => task.pool !== 'free').map(task => task.holder);
  return taken.length > 0 ? [...new Set(taken)] : [asker];
}

/** A command of a guest; their link was found to be good by whoever asks for it. */
export function byGuest(definition: Definition, state: RequestState, command: GuestCommand, context: Context): Result {
  const found = guestHere(definition, state, command.step);
  if (!found) return refuse('not open', 'Nothing is asked of you here any more.');
  const { step, standing } = found;
  const { what } = command;
  const execution = executionOf(definition, state, context);
  if (what.kind === 'ask for link') {
    // A link that was ended on purpose is not given again to whoever asks for it.
    if (standing.link.ended) return refuse('not open', 'This address was ended. Ask whoever sent it to you.');
    invite(execution, step);
    return { ok: true, ...execution.outcome() };
  }
  const guest = guestOf(execution, step);
  const name = 'missing' in guest ? 'The guest' : guest.name;
  switch (what.kind) {
    case 'ask': {
      if (standing.words.length >= mostWords) return refuse('not open', 'There are too many questions here already.');
      // Sent twice by an impatient hand, it is asked once.
      const last = standing.words.at(-1);
      if (last?.by === null && last.text === what.text) return { ok: true, ...execution.outcome() };
      execution.emit({ kind: 'guest asked', step: step.id, guest: name, text: what.text });
      for (const person of holdersOf(execution, step))
        execution.mail(
          person,
          `${name} asks: ${execution.title()}`,
          `${name} asks: “${what.text}”\n\nYour answer goes to their own page, and they are told of it by mail.`,
        );
      return { ok: true, ...execution.outcome() };
    }
    case 'withdraw consent': {
      const field = fieldById(definition, what.field);
      const isTheirs = step.guest.sections.some(id => guestFields(definition, step, id).some(f => f.id === what.field));
      if (field?.kind !== 'consent' || !isTheirs || isEmptyAnswer(state.answers[field.id]))
        return refuse('not open', 'There is no consent to take back.');
      const answers = { ...state.answers, [field.id]: null };
      const change = { field: field.id, before: state.answers[field.id] ?? null, after: null };
      const filled = { answers, figures: state.figures, changes: [change] };
      execution.emit({ kind: 'consent withdrawn', step: step.id, field: field.id, guest: name, filled });
      for (const person of holdersOf(execution, step))
        execution.mail(
          person,
          `${name} takes a consent back: ${execution.title()}`,
          `${name} does not agree any more: ${field.label}.${field.required ? ' It is needed, so their section is open again.' : ''}`,
        );
      return { ok: true, ...execution.outcome() };
    }
    case 'reply': {
      const task = state.tasks.find(one => one.id === what.task);
      if (!state.outside || !isOutsideGuest(definition, step) || !task?.question)
        return refuse('not open', 'Nothing is asked here any more.');
      replied(execution, { ...task, question: task.question }, what.reply, name);
      return { ok: true, ...execution.outcome() };
    }
    case 'withdraw':
      if (!state.outside || !isOutsideGuest(definition, step))
        return refuse('not yours', 'Only who asked for it may withdraw it.');
      withdrawn(execution, null, name);
      return { ok: true, ...execution.outcome() };
    case 'hand in':
      return handSectionIn(execution, step, name, what);
  }
}

function handSectionIn(
  execution: Execution,
  step: GuestStep,
  name: string,
  { section, answers: given, signed }: Extract<GuestCommand['what'], { kind: 'hand in' }>,
): Result {
  const { definition, state, context } = execution;
  const before = formOf(execution, step);
  if (!before.some(one => one.section.id === section))
    return refuse('not open', 'This part is not asked of you, with what you said elsewhere.');
  const fields = guestFields(definition, step, section);
  const input: Record<string, unknown> = typeof given === 'object' && given !== null ? { ...given } : {};
  // What was signed in the page is known by the house itself; nobody says it of themselves.
  for (const field of fields) {
    if (field.kind !== 'paper') continue;
    if (field.id in signed) input[field.id] = signed[field.id];
    else if ((input[field.id] as { how?: unknown } | null)?.how !== 'by hand') delete input[field.id];
  }
  const stamped = consentsNow(definition, input, state.answers, context.now);
  const facts = factsOf(context, state.asker!, state.subject, state.request);
  const only = fields.map(field => field.id);
  const read = fillIn(definition, step.id, state.answers, stamped, facts, houseListsOf(context), only);
  if (!read.ok) return refuseAnswers(read.faults);
  const isSame = before.find(one => one.section.id === section)?.state === 'in' && read.filled.changes.length === 0;
  if (isSame) return { ok: true, ...execution.outcome() };
  execution.emit({ kind: 'section in', step: step.id, section, guest: name, filled: filledOf(read.filled) });
  if (stillMissing(formOf(execution, step)).length > 0) return { ok: true, ...execution.outcome() };
  if (step.guest.goesOn) {
    execution.emit({ kind: 'waited', step: step.id, reason: { code: 'all handed in', guest: name } });
    execution.goOn({ to: 'next' }, step.id);
  } else if (stillMissing(before).length > 0) {
    for (const person of holdersOf(execution, step))
      execution.mail(
        person,
        `All is in from ${name}: ${execution.title()}`,
        `${name} has handed everything in. Look through it; you may give single parts back with a word, or finish the step.`,
      );
  }
  return { ok: true, ...execution.outcome() };
}

type OfGuests = Extract<Command, { kind: 'give back section' | 'answer guest' | 'renew link' | 'end link' }>;
export const isOfGuests = (command: Command): command is OfGuests =>
  ['give back section', 'answer guest', 'renew link', 'end link'].includes(command.kind);

/** Whether a guest is somebody's to look after: by a task of the step; where that is nobody's, of the request, or who keeps it. */
export function looksAfterGuest(
  definition: Definition,
  state: RequestState,
  step: GuestStep,
  person: PersonId | null,
  context: Pick<Context, 'index' | 'now' | 'workflow'>,
): boolean {
  const own = state.tasks.filter(task => task.step === step.id);
  const theirs = own.length > 0 || !state.outside ? own : state.tasks;
  if (theirs.some(task => isHeldBy(definition, task, person, context, state))) return true;
  return (
    own.length === 0 &&
    person !== null &&
    person === ownerOf(state) &&
    (state.outside !== undefined || step.guest.goesOn === true)
  );
}

/** What whoever holds the step, or looks after requests, does about a guest. */
export function aboutGuest(definition: Definition, state: RequestState, command: OfGuests, context: Context): Result {
  const found = guestHere(definition, state, command.step);
  if (!found) return refuse('not open', 'Nothing is asked of a guest here any more.');
  const { step, standing } = found;
  const holds = looksAfterGuest(definition, state, step, context.actor, context);
  if (!holds && !context.helps) return refuse('not yours', 'This is for whoever holds the step.');
  const execution = executionOf(definition, state, context);
  const guest = guestOf(execution, step);
  if (command.kind !== 'end link' && 'missing' in guest)
    return refuse('not open', `${fieldById(definition, guest.missing)?.label ?? 'Their address'} is missing or wrong.`);
  const name = 'missing' in guest ? '' : guest.name;
  const writes = command.kind === 'give back section' || command.kind === 'answer guest';
  // Nobody is told that something was written to somebody who gets nothing.
  if (writes && standing.link.ended)
    return refuse('not open', 'Their link was ended, so nothing reaches them. Send a new link, then write.');
  const isOver = toMilliseconds(standing.link.until) <= toMilliseconds(context.now);
  switch (command.kind) {
    case 'give back section': {
      if (command.seen < standing.changed)
        return refuse('stale', `${name} has handed something in since. Look at it as it is now.`);
      const part = formOf(execution, step).find(one => one.section.id === command.section);
      if (part?.state !== 'in') return refuse('not open', 'This part is not in.');
      if (isOver && !('missing' in guest)) newLink(execution, step, guest);
      execution.emit({ kind: 'section back', step: step.id, section: command.section, note: command.note });
      writeToGuest(execution, step, {
        subject: `Please look at this again: ${part.section.title}`,
        body: `Hello ${name},\n\n${execution.who(context.actor)} gives “${part.section.title}” back to you:\n\n“${command.note}”`,
      });
      break;
    }
    case 'answer guest':
      if (isOver && !('missing' in guest)) newLink(execution, step, guest);
      execution.emit({ kind: 'guest answered', step: step.id, text: command.text });
      writeToGuest(execution, step, {
        subject: `An answer for you: ${definition.name}`,
        body: `Hello ${name},\n\n${execution.who(context.actor)} writes: “${command.text}”\n\nYou may answer on your page.`,
      });
      break;
    case 'renew link':
      invite(execution, step);
      break;
    case 'end link':
      if (standing.link.ended) return refuse('not open', 'The link is ended already.');
      execution.emit({ kind: 'link ended', step: step.id, note: command.note?.trim() || null });
      break;
  }
  return { ok: true, ...execution.outcome() };
}

/** The day of a reminder has come. */
export function remindGuest(execution: Execution, id: string): void {
  const { definition, state, context } = execution;
  const found = guestHere(definition, state, id);
  if (!found) return;
  const { step, standing } = found;
  const isDue = standing.remindAt !== undefined && toMilliseconds(standing.remindAt) <= toMilliseconds(context.now);
  const isOver = toMilliseconds(standing.link.until) <= toMilliseconds(context.now);
  const missing = missingFrom(execution, step);
  const guest = guestOf(execution, step);
  if (isOver && step.guest.goesOn && step.couldNot) {
    const name = 'missing' in guest ? 'The guest' : guest.name;
    execution.emit({ kind: 'waited', step: step.id, reason: { code: 'days of link over', guest: name } });
    return execution.goOn(step.couldNot, step.id);
  }
  if (!isDue || isOver || standing.link.ended || missing.length === 0 || 'missing' in guest) return;
  const next = nextReminder(execution, step);
  execution.emit({ kind: 'guest reminded', step: step.id, ...(next ? { remindAt: next } : {}) });
  if (next) execution.timer(step.id, 'guest', next);
  writeToGuest(execution, step, reminder(execution, guest.name, missing));
}

/** The letter that the next reminder would bring, as it stands now. */
export function nextReminderLetter(definition: Definition, state: RequestState, id: string, context: Context) {
  const found = guestHere(definition, state, id);
  if (!found) return null;
  const execution = executionOf(definition, state, context);
  const guest = guestOf(execution, found.step);
  const missing = missingFrom(execution, found.step);
  if ('missing' in guest || missing.length === 0) return null;
  return {
    ...reminder(execution, guest.name, missing),
    address: guest.address,
    until: untilWords(found.standing.link.until),
  };
}
