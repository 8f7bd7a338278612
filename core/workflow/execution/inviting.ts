/** Writing to guests: the link to their own page, with what is asked of them there. */
import { isEmptyAnswer } from '../../form/index.ts';
import { type CivilDate, civilDateAt, fullDate, type Instant, toInstant, toMilliseconds } from '../../time/index.ts';
import { fieldById, messageById, usualLinkDays } from '../definition/definition.ts';
import { type GuestStep, outsideGuest } from '../definition/guests.ts';
import { type FilledMessage, fillMessage, insertions } from '../mail/letters.ts';
import { factsOf } from '../request/context.ts';
import { guestForm, stillMissing } from '../request/guestForm.ts';
import type { Attached } from '../request/outgoing.ts';
import type { Execution } from './execution.ts';
import { linkOutside } from './ownPage.ts';

const day = 86_400_000;
/**
 * Enough to tell an address from something else; the mail server judges it. What stands around an address in a mail, and
 * what nobody sees, is none of it: else one address would be several.
 */
export const looksLikeAddress = /^[^\s@<>()[\]\\,;:"\p{C}]+@[^\s@<>()[\]\\,;:"\p{C}]+\.[^\s@<>()[\]\\,;:"\p{C}]+$/u;

/** The guest of a step, or the field that says too little of them. */
export function guestOf(
  { definition, state, context }: Execution,
  { guest }: GuestStep,
): { name: string; address: string } | { missing: string } {
  const given = state.answers[guest.name];
  const isPerson = fieldById(definition, guest.name)?.kind === 'person';
  const name = isPerson ? context.index.person(given as never)?.name : given;
  if (typeof name !== 'string' || isEmptyAnswer(name.trim())) return { missing: guest.name };
  const address = state.answers[guest.mail];
  if (typeof address !== 'string' || !looksLikeAddress.test(address.trim())) return { missing: guest.mail };
  return { name: name.trim(), address: address.trim() };
}

/** The sections of the guest as they stand now. */
export const formOf = ({ definition, state, context }: Execution, step: GuestStep) =>
  guestForm(
    definition,
    step,
    state.answers,
    state.guests?.[step.id] ?? { sections: {} },
    factsOf(context, state.asker!, state.subject, state.request),
  );

/** What a guest is asked for and has not handed in, by title. */
export const missingFrom = (execution: Execution, step: GuestStep): string[] =>
  stillMissing(formOf(execution, step)).map(({ section }) => section.title);

const remindAt = ({ context }: Execution, { guest }: GuestStep): Instant | undefined =>
  guest.remind && toInstant(toMilliseconds(context.now) + guest.remind.everyDays * day);

/** A new link takes the place of any before it, and goes to the guest with what is asked of them. */
export function invite(execution: Execution, step: GuestStep): void {
  const found = guestOf(execution, step);
  if ('missing' in found) return execution.stuck(step.id, { code: 'nobody to invite', field: found.missing });
  newLink(execution, step, found);
  writeToGuest(execution, step, invitation(execution, step, found.name));
}

/** The next link of a guest; the letter that brings it is written by whoever asks for it. */
export function newLink(execution: Execution, step: GuestStep, found: { name: string; address: string }): void {
  const n = (execution.state.guests?.[step.id]?.link.n ?? 0) + 1;
  const until = toInstant(toMilliseconds(execution.context.now) + (step.guest.days ?? usualLinkDays) * day);
  const next = remindAt(execution, step);
  execution.emit({
    kind: 'invited',
    step: step.id,
    guest: found.name,
    address: found.address,
    link: n,
    until,
    ...(next ? { remindAt: next } : {}),
  });
  if (next) execution.timer(step.id, 'guest', next);
  // Where nobody looks after it, it ends by itself when the link does.
  if (step.guest.goesOn && step.couldNot) execution.timer(step.id, 'guest', until);
}

const titles = ({ definition }: Execution, { guest }: GuestStep): string[] =>
  guest.sections.map(id => definition.form.sections?.find(section => section.id === id)?.title ?? id);

/** The letter that brings a link: the message of the workflow, or the house’s own words. */
export function invitation(execution: Execution, step: GuestStep, name: string): FilledMessage {
  const { definition, state, context } = execution;
  const message = step.guest.message === undefined ? undefined : messageById(definition, step.guest.message);
  if (message) return fillMessage(message, insertions(definition, state, context));
  if (step.guest.sections.length === 0) return ownPageLetter(execution, name);
  const list = titles(execution, step)
    .map(title => `- ${title}`)
    .join('\n');
  return {
    subject: `Some things we need from you: ${definition.name}`,
    body: `Hello ${name},\n\nplease fill these in on your own page:\n\n${list}\n\nYou need no account. What you type is kept, so you may stop at any time and go on later, on another device too.`,
  };
}

export const ownPageLetter = ({ definition, state }: Execution, name: string): FilledMessage => ({
  subject: `We have it: ${definition.name}`,
  body: `Hello ${name},\n\nwhat you sent us is here. Its number is ${state.request}. On your own page you may ask about it, answer what you are asked, and withdraw it. You need no account.`,
});

/** Whoever asked from outside gets a page of their own, whatever is asked of them later. */
export function openOwnPage(execution: Execution): void {
  const step = outsideGuest(execution.definition);
  const found = step && guestOf(execution, step);
  if (step && found && !('missing' in found)) newLink(execution, step, found);
}

/** A letter to whoever asked from outside, with the way to their own page while there is one. */
export function writeOutside(execution: Execution, letter: FilledMessage & { attach?: Attached }): void {
  const { outside } = execution.state;
  if (!outside) return;
  const key = execution.key('outside');
  execution.effect({
    kind: 'mail out',
    key,
    address: outside.mail,
    ...letter,
    ...linkOutside(execution, outside.mail),
  });
}

export function reminder(execution: Execution, name: string, missing: readonly string[]): FilledMessage {
  const list = missing.map(title => `- ${title}`).join('\n');
  return {
    subject: `Still needed from you: ${execution.definition.name}`,
    body: `Hello ${name},\n\nthis is still missing:\n\n${list}\n\nWhat you typed so far is kept. If something holds you up, ask on your page.`,
  };
}

/** A letter to the guest with the link that is good now. Nothing where there is none. */
export function writeToGuest(execution: Execution, step: GuestStep, letter: FilledMessage): void {
  const found = guestOf(execution, step);
  const link = execution.state.guests?.[step.id]?.link;
  if ('missing' in found || !link || link.ended) return;
  const { address } = found;
  execution.effect({
    kind: 'mail out',
    key: execution.key(`guest:${step.id}`),
    address,
    ...letter,
    link: { step: step.id, n: link.n, until: link.until },
  });
}

export const untilWords = (until: Instant): string => fullDate(civilDateAt(until, 'UTC') as CivilDate);

/** The next reminder after one that goes out now; nothing after the last. */
export function nextReminder(execution: Execution, step: GuestStep): Instant | undefined {
  const { remind } = step.guest;
  const sent = (execution.state.guests?.[step.id]?.reminders ?? 0) + 1;
  return remind && sent < remind.atMost ? remindAt(execution, step) : undefined;
}
