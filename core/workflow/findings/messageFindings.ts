/** Findings about messages: what they insert, who reads them, and whether the asker learns how it ended. */

import { nearest } from '../../formula/index.ts';
import type { PeopleRule } from '../../people/index.ts';
import type { Findings } from '../checking/finding.ts';
import { messageById, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { structure } from '../definition/structure.ts';
import { levelAt } from '../figures/filling.ts';
import { insertedNames, insertionNames } from '../mail/letters.ts';
import { phrasesSaidTwice } from '../mail/replies.ts';
import { isGuarded } from '../request/visibility.ts';

export function messageFindings(findings: Findings): void {
  const { definition } = findings;
  const names = insertionNames(definition);
  definition.messages.forEach((message, i) => {
    for (const part of ['subject', 'body'] as const) {
      for (const name of insertedNames(message[part])) {
        if (names.includes(name)) continue;
        const near = nearest(name, names);
        const path: Path = ['messages', i, part];
        findings.add(
          'stops',
          `inserts:${name}`,
          null,
          path,
          `“${name}” in the message “${message.name}”`,
          'There is no field or figure of that name to insert.',
          near
            ? {
                fix: { label: `Change to “${near}”`, path, value: message[part].replaceAll(`{${name}}`, `{${near}}`) },
              }
            : {},
        );
      }
    }
    const guarded = definition.form.fields.filter(
      f => isGuarded(f) && insertedNames(`${message.subject} ${message.body}`).includes(f.label),
    );
    if (guarded.length > 0)
      findings.add(
        'warns',
        'guarded',
        null,
        ['messages', i, 'body'],
        `“${message.name}” cannot tell ${guarded[0].label}`,
        'Only named readers see it, so mails point to the request instead.',
      );
    if (definition.messages.findIndex(m => m.id === message.id) < i)
      findings.add(
        'stops',
        'id',
        null,
        ['messages', i, 'id'],
        `Two messages have the id “${message.id}”`,
        'Give one of them another.',
      );
  });
  for (const { step, path, number } of structure(definition).all) {
    if (step.verb !== 'Tell') continue;
    if (!messageById(definition, step.message)) {
      findings.add(
        'stops',
        'message',
        step,
        [...path, 'message'],
        `Step ${number} has no message to send`,
        `The message “${step.message}” is not there.`,
      );
      continue;
    }
    step.to.forEach((rule, n) => readerFindings(findings, step, rule, [...path, 'to', n]));
    if (step.addresses?.length) outsideFindings(findings, step, [...path, 'addresses']);
  }
  closingFindings(findings);
  phraseFindings(findings);
}

/** What is said in replies must mean one outcome, and one that is there. */
function phraseFindings(findings: Findings): void {
  const { definition } = findings;
  const { phrases } = definition;
  if (!phrases) return;
  const labels = new Set<string>();
  for (const { step, number } of structure(definition).all) {
    if (step.verb !== 'Decide') continue;
    for (const outcome of step.outcomes) labels.add(outcome.label);
    for (const { phrase, labels: meant } of phrasesSaidTwice(step.outcomes, phrases)) {
      findings.add(
        'stops',
        `said twice ${step.id}`,
        null,
        ['phrases', meant[1]],
        `“${phrase}” in a reply means more than one outcome of step ${number}`,
        `It stands for ${meant.map(label => `“${label}”`).join(' and ')}. Take it out of one of them.`,
      );
    }
  }
  for (const label of Object.keys(phrases)) {
    if (labels.has(label)) continue;
    const { [label]: _gone, ...rest } = phrases;
    findings.add(
      'warns',
      'said for nothing',
      null,
      ['phrases', label],
      `“${label}” is no outcome any more`,
      'What is said for it in replies is never looked at.',
      { fix: { label: 'Take it out', path: ['phrases'], value: Object.keys(rest).length > 0 ? rest : undefined } },
    );
  }
}

/** The step at which a reader sees the form: the one that the same rule handles, the first one for the asker. */
function stepOfReader(findings: Findings, rule: PeopleRule): string | undefined {
  const { definition } = findings;
  if (rule.first.kind === 'asker') return definition.steps[0].id;
  const same = JSON.stringify(rule.first);
  return structure(definition).all.find(
    ({ step }) => (step.verb === 'Decide' || step.verb === 'Do') && JSON.stringify(step.who.first) === same,
  )?.step.id;
}

function hiddenIn(findings: Findings, messageId: string, at: string): string[] {
  const { definition } = findings;
  const message = messageById(definition, messageId);
  if (!message) return [];
  const inserted = new Set([...insertedNames(message.subject), ...insertedNames(message.body)]);
  return (
    definition.form.fields
      .filter(f => inserted.has(f.label) && levelAt(definition, at, f) === 'hidden')
      // What the asker is not asked at the start may be said to be for them to read.
      .filter(f => at !== definition.steps[0].id || f.askerReads !== true)
      .map(f => f.label)
  );
}

function readerFindings(findings: Findings, step: StepOf<'Tell'>, rule: PeopleRule, path: Path): void {
  const at = stepOfReader(findings, rule);
  if (!at) return;
  const hidden = hiddenIn(findings, step.message, at);
  if (hidden.length === 0) return;
  const name = messageById(findings.definition, step.message)?.name;
  findings.add(
    'warns',
    'reader',
    step,
    path,
    `“${name}” tells what its reader may not see`,
    `${hidden.join(', ')} ${hidden.length === 1 ? 'is' : 'are'} hidden from them.`,
  );
}

function outsideFindings(findings: Findings, step: StepOf<'Tell'>, path: Path): void {
  const { definition } = findings;
  const message = messageById(definition, step.message);
  if (!message) return;
  const secret = definition.form.fields.filter(f => {
    const named = insertedNames(`${message.subject} ${message.body}`).includes(f.label);
    return named && Object.values(definition.access ?? {}).some(levels => levels[f.id] === 'hidden');
  });
  if (secret.length === 0) return;
  findings.add(
    'warns',
    'outside',
    step,
    path,
    `“${message.name}” takes ${secret[0].label} out of the house`,
    'It is hidden from some inside, and would be sent to an address.',
  );
}

function closingFindings(findings: Findings): void {
  const { definition } = findings;
  definition.closings.forEach((closing, i) => {
    const path: Path = ['closings', i, 'message'];
    if (messageById(definition, closing.message)) {
      const hidden = hiddenIn(findings, closing.message!, definition.steps[0].id);
      if (hidden.length > 0)
        findings.add(
          'warns',
          'reader',
          null,
          path,
          `“${closing.name}” tells the asker what they may not see`,
          `${hidden.join(', ')} ${hidden.length === 1 ? 'is' : 'are'} hidden from them.`,
        );
      return;
    }
    const [first] = definition.messages;
    findings.add(
      closing.message === null ? 'warns' : 'stops',
      'closing',
      null,
      path,
      `The asker is not told of “${closing.name}”`,
      closing.message === null ? 'Choose a message for this closing.' : 'Its message is not there.',
      first ? { fix: { label: `Send “${first.name}”`, path, value: first.id } } : {},
    );
  });
}
