/** Tell: a message is sent. */

import { type PersonId, resolve } from '../../people/index.ts';
import type { Findings } from '../checking/finding.ts';
import { ruleReferences } from '../checking/references.ts';
import { messageById, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { Placed } from '../definition/structure.ts';
import { questionFor } from '../execution/assigning.ts';
import type { Execution } from '../execution/execution.ts';
import type { LineParts } from '../language/line.ts';
import { finish, need, type Passage, readMessage, readWhen } from '../language/passage.ts';
import { named, say } from '../language/phrase.ts';
import { type Known, readRule } from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';
import { peoplePhrase, type Writing, when } from '../language/writing.ts';
import { attachmentFindings, attachmentPhrases, readAttachments } from './parts/attaching.ts';
import type { VerbModule } from './verb.ts';

function take(execution: Execution, step: StepOf<'Tell'>): void {
  if (!messageById(execution.definition, step.message)) return execution.stuck(step.id, { code: 'message not there' });
  const people = new Set<PersonId>();
  const { outside } = execution.state;
  const addresses = [...(step.addresses ?? [])];
  for (const rule of step.to) {
    // Whoever asked from outside is written to at the address that they gave.
    if (outside && (rule.first.kind === 'asker' || rule.first.kind === 'subject')) {
      if (!addresses.includes(outside.mail)) addresses.push(outside.mail);
      continue;
    }
    const found = resolve(rule, questionFor(execution));
    // A reader who cannot be found does not hold the request up; the trail shows who was told.
    if (found.ok) for (const holder of found.holders) people.add(holder.person);
  }
  const letter = {
    step: step.id,
    people: [...people],
    ...(addresses.length > 0 ? { addresses } : {}),
  };
  if (!execution.heldBack(step.message, letter)) execution.send(step.message, [...people], addresses, step.id);
  execution.goOn({ to: 'next' }, step.id);
}

function sentence(writing: Writing, step: StepOf<'Tell'>, path: Path): LineParts {
  const { definition } = writing;
  const message = messageById(definition, step.message)?.name ?? step.message;
  const people = step.to.flatMap((rule, n) => [
    ...(n > 0 ? [say('; and to')] : []),
    peoplePhrase(writing, rule, [...path, 'to', n]),
  ]);
  const addresses = (step.addresses ?? []).flatMap((address, n) => [
    ...(n > 0 || step.to.length > 0 ? [say('; and to')] : []),
    named(address, { kind: 'text', path: [...path, 'addresses', n], value: address }),
  ]);
  const attached = attachmentPhrases(writing, step.attach, path);
  return {
    sentence: [
      ...when(writing, step, path),
      say('Send'),
      named(message, {
        kind: 'choice',
        path: [...path, 'message'],
        value: step.message,
        choices: definition.messages.map(m => ({ value: m.id, words: m.name })),
      }),
      say('to'),
      ...(people.length + addresses.length > 0 ? [...people, ...addresses] : [say('nobody')]),
      ...attached,
      say('.'),
    ],
    rows: [],
    after: [],
  };
}

function read(passage: Passage, known: Known, id: string): StepOf<'Tell'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  need(s, s.eat(/send/, 'send'), '');
  const message = need(s, readMessage(s, known) ?? s.quoted(), 'as a message');
  need(s, s.words('to') || undefined, '');
  const to: StepOf<'Tell'>['to'] = [];
  const addresses: string[] = [];
  if (!s.words('nobody', false)) {
    do {
      const address = s.quoted();
      if (address !== undefined) addresses.push(address);
      else to.push(need(s, readRule(s, known), 'as somebody to tell'));
    } while (s.eat(/;\s*and to/));
  }
  const attach = readAttachments(s, known);
  finish(s);
  return {
    verb: 'Tell',
    id,
    when,
    to,
    ...(addresses.length > 0 ? { addresses } : {}),
    message,
    ...(attach ? { attach } : {}),
  };
}

function check(findings: Findings, { path }: Placed, step: StepOf<'Tell'>): void {
  if (step.to.length === 0 && !step.addresses?.length)
    findings.add('stops', 'to', step, [...path, 'to'], 'Nobody is told', 'Say who gets the message.');
  attachmentFindings(findings, step, step.attach, path);
  step.to.forEach((rule, n) => ruleReferences(findings, rule, step, [...path, 'to', n]));
}

export const tell: VerbModule<'Tell'> = { take, say: sentence, read, check };
