/** What Decide and Do have in common: who, until when, and what happens then; said, read and checked. */

import { datedKinds } from '../../../form/index.ts';
import type { Findings } from '../../checking/finding.ts';
import { fieldReference, ruleReferences } from '../../checking/references.ts';
import type { Guest, Limit, LimitTime, Outcome, StepOf } from '../../definition/definition.ts';
import type { Path } from '../../definition/path.ts';
import type { Placed } from '../../definition/structure.ts';
import { guestWords, readGuest } from '../../language/guestWords.ts';
import { finish, need, type Passage } from '../../language/passage.ts';
import { type Choice, type Phrase, quoted } from '../../language/phrase.ts';
import { type After, type Known, readAfter, type readLimitTime } from '../../language/ruleReader.ts';
import { limitSentences, planWords } from '../../language/ruleWords.ts';
import { Scanner } from '../../language/scanner.ts';
import type { Writing } from '../../language/writing.ts';

export function afterPhrases(writing: Writing, step: StepOf<'Decide'> | StepOf<'Do'>, path: Path): Phrase[] {
  const { definition, index } = writing;
  const phrases: Phrase[] = [];
  if (step.limit) {
    const outcomeLabel = (id: string) =>
      (step.verb === 'Decide' ? step.outcomes.find(o => o.id === id)?.label : undefined) ?? id;
    const shown = limitSentences(step.limit, definition, index, 'shown', outcomeLabel);
    const back = limitSentences(step.limit, definition, index, 'written', outcomeLabel);
    const edit = { kind: 'limit' as const, path: [...path, 'limit'], limit: step.limit, step: step.id };
    shown.forEach((text, i) => phrases.push({ text, written: back[i], edit }));
  }
  if (step.whenAway === 'goes up') {
    phrases.push({
      text: 'Away without cover: it goes up the line.',
      edit: { kind: 'choice', path: [...path, 'whenAway'], value: 'goes up', choices: awayChoices },
    });
  }
  if (step.verb === 'Decide' && step.count !== undefined && step.count !== 'in turn') {
    phrases.push(undecidedPhrase(step, path));
  }
  if (step.verb === 'Decide' && step.once) {
    phrases.push({
      text: 'Whoever approved the step before is not asked again.',
      edit: { kind: 'choice', path: [...path, 'once'], value: true, choices: onceChoices },
    });
  }
  if (step.verb === 'Decide' && step.askerMay) {
    phrases.push({
      text: 'The asker may have it.',
      edit: { kind: 'choice', path: [...path, 'askerMay'], value: true, choices: askerMayChoices },
    });
  }
  if (step.handTo) {
    phrases.push({
      text: 'It may be handed to anybody.',
      edit: { kind: 'choice', path: [...path, 'handTo'], value: 'anybody', choices: handToChoices },
    });
  }
  if (step.verb === 'Do' && step.guest) {
    phrases.push({
      text: guestWords(step.guest, definition),
      written: guestWords(step.guest, definition, 'written'),
      edit: { kind: 'guest', path: [...path, 'guest'], guest: step.guest, step: step.id },
    });
  }
  if (step.plan) {
    phrases.push({
      text: planWords(step.plan, definition),
      written: planWords(step.plan, definition, 'written'),
      edit: { kind: 'plan', path: [...path, 'plan'], plan: step.plan, step: step.id },
    });
  }
  return phrases;
}

/** What is taken when people can agree on no outcome any more. */
function undecidedPhrase({ undecided, outcomes, count }: StepOf<'Decide'>, path: Path): Phrase {
  const otherwise =
    count === 'everyone'
      ? 'If they do not agree, the first answer against counts.'
      : 'If they do not agree, it is blocked.';
  const taken = (label: string) => `If they do not agree: ${quoted(label)}.`;
  return {
    text: undecided === undefined ? otherwise : taken(outcomes.find(o => o.id === undecided)?.label ?? undecided),
    edit: {
      kind: 'choice',
      path: [...path, 'undecided'],
      value: undecided,
      choices: [...outcomes.map(o => ({ value: o.id, words: taken(o.label) })), { value: undefined, words: otherwise }],
    },
  };
}

export const askerMayChoices: Choice[] = [
  { value: true, words: 'The asker may have it: it is not about their own wish' },
  { value: undefined, words: 'Nobody decides their own request' },
];

export const handToChoices: Choice[] = [
  { value: 'anybody', words: 'It may be handed to anybody' },
  { value: undefined, words: 'It is handed only to those whom its own rule may find' },
];

export const awayChoices: Choice[] = [
  { value: 'waits', words: 'Away without cover: it waits' },
  { value: 'goes up', words: 'Away without cover: it goes up the line' },
];

export const onceChoices: Choice[] = [
  { value: true, words: 'Whoever approved the step before is not asked again' },
  { value: undefined, words: 'Everybody is asked, whatever they answered before' },
];

const isNone = (within: unknown): within is 'none' => within === 'none';

type PersonParts = Pick<
  StepOf<'Decide'>,
  'whenAway' | 'limit' | 'once' | 'undecided' | 'askerMay' | 'handTo' | 'plan'
> & {
  guest?: Guest;
};

/** The sentences after a step, and the limit that they belong to. */
export function personParts(
  passage: Passage,
  known: Known,
  within: ReturnType<typeof readLimitTime>,
  outcomes: readonly Outcome[],
): PersonParts {
  const after: After = {};
  let guest: Guest | undefined;
  for (const text of passage.after) {
    const s = new Scanner(text);
    const found = passage.verb === 'Do' && guest === undefined ? readGuest(s, known) : undefined;
    if (found) guest = found;
    else need(s, readAfter(s, known, after) || undefined, '');
    finish(s);
  }
  let limit: Limit | null = null;
  if (within !== undefined && !isNone(within)) {
    let atLimit: Limit['atLimit'] = 'wait';
    if (after.atLimit !== undefined) {
      const said = after.atLimit;
      if (typeof said === 'object' && 'takeLabel' in said) {
        const taken = outcomes.find(o => o.label === said.takeLabel || o.id === said.takeLabel);
        atLimit = { take: taken?.id ?? said.takeLabel };
      } else atLimit = said;
    }
    limit = { within, remind: after.remind ?? null, atLimit };
  }
  return {
    limit,
    whenAway: after.goesUp ? 'goes up' : 'waits',
    ...(after.undecided === undefined
      ? {}
      : { undecided: outcomes.find(o => o.label === after.undecided)?.id ?? after.undecided }),
    ...(after.once ? { once: after.once } : {}),
    ...(after.askerMay ? { askerMay: after.askerMay } : {}),
    ...(after.handTo ? { handTo: after.handTo } : {}),
    ...(after.plan ? { plan: after.plan } : {}),
    ...(guest ? { guest } : {}),
  };
}

const limitField = (within: LimitTime): string | null => ('workingDaysBefore' in within ? within.field : null);

export function limitFindings(findings: Findings, { path }: Placed, step: StepOf<'Decide'> | StepOf<'Do'>): void {
  const { limit } = step;
  if (!limit) return;
  const field = limitField(limit.within);
  if (field)
    fieldReference(
      findings,
      step,
      field,
      [...path, 'limit', 'within', 'field'],
      datedKinds,
      'the date that the limit is counted from',
    );
  const { atLimit } = limit;
  if (typeof atLimit === 'string') return;
  if ('take' in atLimit) {
    const known = step.verb === 'Decide' && step.outcomes.some(o => o.id === atLimit.take);
    if (!known)
      findings.add(
        'stops',
        'take',
        step,
        [...path, 'limit', 'atLimit'],
        'At the limit an outcome is taken that is not there',
        `There is no outcome “${atLimit.take}”.`,
        {
          fix: { label: 'Let it wait', path: [...path, 'limit', 'atLimit'], value: 'wait' },
        },
      );
  } else
    ruleReferences(findings, 'passTo' in atLimit ? atLimit.passTo : atLimit.tell, step, [...path, 'limit', 'atLimit']);
}
