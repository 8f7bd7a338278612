/** Do: a person or a pool works a checklist. */

import { idFrom } from '../../form/index.ts';
import type { Findings } from '../checking/finding.ts';
import { goFinding, ruleReferences } from '../checking/references.ts';
import type { Go, StepOf } from '../definition/definition.ts';
import { isGuestStep } from '../definition/guests.ts';
import type { Path } from '../definition/path.ts';
import type { Placed } from '../definition/structure.ts';
import { assign } from '../execution/assigning.ts';
import type { Execution } from '../execution/execution.ts';
import { invite } from '../execution/inviting.ts';
import type { LineParts, Row } from '../language/line.ts';
import { finish, need, type Passage, readGo, readWhen } from '../language/passage.ts';
import { named, type Phrase, quoted, say } from '../language/phrase.ts';
import { type Known, readLimitTime, readRule } from '../language/ruleReader.ts';
import { limitWords } from '../language/ruleWords.ts';
import { Scanner } from '../language/scanner.ts';
import { goPhrase, peoplePhrase, type Writing, when } from '../language/writing.ts';
import { afterPhrases, limitFindings, personParts } from './parts/people.ts';
import type { VerbModule } from './verb.ts';

function sentence(writing: Writing, step: StepOf<'Do'>, path: Path): LineParts {
  const pool: Phrase = {
    text: step.pool ? ', whoever takes it first' : ', each of them',
    edit: {
      kind: 'choice',
      path: [...path, 'pool'],
      value: step.pool,
      choices: [
        { value: true, words: 'whoever takes it first' },
        { value: undefined, words: 'each of them' },
      ],
    },
  };
  const checklist = step.checklist ?? [];
  const rows: Row[] = checklist.map((item, n) => ({
    label: '',
    written: '',
    tone: 'plain',
    phrases: [say('tick'), named(item.label, { kind: 'checklist', path: [...path, 'checklist'], items: checklist })],
    path: [...path, 'checklist', n],
  }));
  if (step.couldNot) {
    rows.push({
      label: 'Could not',
      written: 'could not',
      tone: 'bad',
      phrases: [say('note needed'), say(';'), goPhrase(writing, step.couldNot, step, [...path, 'couldNot'])],
      path: [...path, 'couldNot'],
    });
  }
  return {
    sentence: [
      ...when(writing, step, path),
      peoplePhrase(writing, step.who, [...path, 'who']),
      say('does'),
      {
        text: `“${step.task}”`,
        written: quoted(step.task),
        edit: { kind: 'text', path: [...path, 'task'], value: step.task },
      },
      pool,
      {
        text: limitWords(step.limit, writing.definition),
        written: limitWords(step.limit, writing.definition, 'written'),
        edit: { kind: 'limit', path: [...path, 'limit'], limit: step.limit, step: step.id },
      },
      say('.'),
    ],
    rows,
    after: afterPhrases(writing, step, path),
  };
}

function read(passage: Passage, known: Known, id: string): StepOf<'Do'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  const who = need(s, readRule(s, known), 'as who does it');
  need(s, s.eat(/do(?:es)?(?!\w)/, 'does'), '');
  const task = need(s, s.quoted(), 'as what is to be done');
  const pool = s.eat(/,?\s*whoever takes it first/) !== undefined;
  if (!pool) s.eat(/,?\s*each of them/);
  const within = readLimitTime(s, known);
  finish(s);
  const checklist: { id: string; label: string }[] = [];
  let couldNot: Go | undefined;
  for (const text of passage.rows) {
    const r = new Scanner(text);
    if (r.eat(/tick/)) {
      const label = need(r, r.quoted(), 'as something to tick');
      checklist.push({
        id: idFrom(
          label,
          checklist.map(c => c.id),
        ),
        label,
      });
    } else {
      need(r, r.eat(/could not:?/, 'could not'), '');
      r.eat(/note needed\s*;/);
      couldNot = need(r, readGo(r, known), 'as where it leads');
    }
    finish(r);
  }
  const { limit, whenAway, handTo, plan, guest } = personParts(passage, known, within, []);
  return {
    verb: 'Do',
    id,
    when,
    who,
    ...(pool ? { pool: true as const } : {}),
    ...(handTo ? { handTo } : {}),
    whenAway,
    task,
    ...(checklist.length > 0 ? { checklist } : {}),
    limit,
    ...(plan ? { plan } : {}),
    ...(guest ? { guest } : {}),
    ...(couldNot ? { couldNot } : {}),
  };
}

function check(findings: Findings, placed: Placed, step: StepOf<'Do'>): void {
  ruleReferences(findings, step.who, step, [...placed.path, 'who']);
  limitFindings(findings, placed, step);
  if (step.couldNot) goFinding(findings, placed, step.couldNot, [...placed.path, 'couldNot'], '“could not”');
}

function take(execution: Execution, step: StepOf<'Do'>): void {
  // It goes on by itself, so it is nobody's task.
  if (isGuestStep(step) && step.guest.goesOn) return invite(execution, step);
  assign(execution, step);
  const isStuck = execution.state.stuckAt.some(one => one.step === step.id);
  if (isGuestStep(step) && !isStuck) invite(execution, step);
}

export const doStep: VerbModule<'Do'> = { take, say: sentence, read, check };
