/** Asking from outside, at the public address of a workflow: by somebody who is on no file. */
import { type Field, type FieldFault, isEmptyAnswer } from '../../../form/index.ts';
import { type PersonId, resolve } from '../../../people/index.ts';
import { type CivilDate, civilDateAt, fullDate } from '../../../time/index.ts';
import type { Definition, Outside } from '../../definition/definition.ts';
import { outsideGuest } from '../../definition/guests.ts';
import { looksLikeAddress, openOwnPage, ownPageLetter, writeOutside } from '../../execution/inviting.ts';
import { fillIn, levelAt } from '../../figures/filling.ts';
import { type Result, refuse, refuseAnswers } from '../../request/command.ts';
import { type Context, factsOf, houseListsOf } from '../../request/context.ts';
import type { RequestState } from '../../request/state.ts';
import { consentsNow } from '../consents.ts';
import { executionOf } from '../executionOf.ts';

/** Longer names are no names. */
const longestName = 200;

/** A person of the house is nobody's to choose there, and files are taken by those alone whose mail was reached. */
const notThere: readonly Field['kind'][] = ['person', 'files', 'document', 'paper'];

/** The fields that stand at the public address, whatever is answered. */
export const outsideFields = (definition: Definition, { sections }: Outside) =>
  definition.form.fields.filter(
    field =>
      field.section !== undefined &&
      sections.includes(field.section) &&
      !notThere.includes(field.kind) &&
      levelAt(definition, definition.steps[0].id, field) !== 'hidden',
  );

/** Who keeps what is asked for from outside; nobody where the rule finds nobody now. */
export function keeperOf(outside: Outside, { index, now }: Pick<Context, 'index' | 'now'>): PersonId | undefined {
  const day = civilDateAt(now, 'UTC');
  const found = resolve(outside.keptBy, {
    index,
    day,
    asker: '' as PersonId,
    // It stays with them also while they are away; their tasks find others.
    away: [],
    mayBeAsker: true,
    whenAway: 'waits',
  });
  return found.ok ? found.holders[0]?.person : undefined;
}

/** Why nobody can ask from outside on a day; nothing where they can. */
export function shutOutside({ opening }: Definition, day: CivilDate): string | undefined {
  if (!opening?.outside) return 'This is not asked for from outside.';
  if (opening.from && day < opening.from) return `This can be sent from ${fullDate(opening.from)} on.`;
  if (opening.to && day > opening.to) return `This could be sent until ${fullDate(opening.to)}.`;
  return undefined;
}

export function askFromOutside(definition: Definition, state: RequestState, input: unknown, context: Context): Result {
  if (state.status !== 'new') return refuse('stale', 'This was sent already.');
  const outside = definition.opening?.outside;
  const shut = shutOutside(definition, civilDateAt(context.now, 'UTC'));
  if (!outside || shut) return refuse('not open', shut ?? 'This is not asked for from outside.');
  const keeper = keeperOf(outside, context);
  if (!keeper) return refuse('not open', 'Nobody can take this in now. Nothing was sent; please try again tomorrow.');
  const { faults, filled } = checkedOutside(definition, outside, input, context, keeper, state.request);
  if (faults.length > 0) return refuseAnswers(faults);
  const asked = {
    name: String(filled.answers[outside.name]).trim(),
    mail: String(filled.answers[outside.mail]).trim(),
  };
  const execution = executionOf(definition, state, context);
  execution.emit({
    kind: 'asked',
    asker: keeper,
    outside: asked,
    answers: filled.answers,
    figures: filled.figures,
  });
  execution.remember(filled.answers, filled.scope);
  openOwnPage(execution);
  execution.goOn({ to: 'next' }, definition.steps[0].id);
  // Asked for something at once, they have the way to their page already, with what is to be done there.
  const wasWritten = execution.outcome().effects.some(one => one.kind === 'mail out' && one.address === asked.mail);
  const own = outsideGuest(definition);
  if (!wasWritten && own) writeOutside(execution, ownPageLetter(execution, asked.name));
  return { ok: true, ...execution.outcome() };
}

/** Everything that is wrong about what somebody outside sends, and what comes of it. */
export function checkedOutside(
  definition: Definition,
  outside: Outside,
  input: unknown,
  context: Context,
  keeper: PersonId,
  request: string,
) {
  const only = outsideFields(definition, outside).map(field => field.id);
  const facts = factsOf(context, keeper, null, request);
  const stamped = consentsNow(definition, input, {}, context.now);
  const read = fillIn(definition, definition.steps[0].id, {}, stamped, facts, houseListsOf(context), only);
  const faults: FieldFault[] = read.ok ? [] : [...read.faults];
  const wrong = (field: string, message: string) => {
    if (!faults.some(fault => fault.field === field)) faults.push({ field, message });
  };
  const { [outside.name]: name, [outside.mail]: mail } = read.filled.answers;
  if (isEmptyAnswer(name) || typeof name !== 'string' || !/[\p{L}\p{N}]/u.test(name))
    wrong(outside.name, 'Say who you are.');
  else if (/[\p{Cc}\u2028\u2029]/u.test(name.trim())) wrong(outside.name, 'Write your name on one line.');
  else if (name.trim().length > longestName) wrong(outside.name, `Write at most ${longestName} letters.`);
  if (typeof mail !== 'string' || !looksLikeAddress.test(mail.trim()) || mail.length > 254)
    wrong(outside.mail, 'Write the mail address that we can reach you at.');
  return { faults, filled: read.filled };
}
