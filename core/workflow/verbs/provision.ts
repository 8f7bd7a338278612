/** Provision: what is asked of a system outside through a connection. */

import { type CivilDate, fullDate } from '../../time/index.ts';
import { provisions, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { Execution } from '../execution/execution.ts';
import { workOut } from '../figures/evaluate.ts';
import type { LineParts } from '../language/line.ts';
import { finish, need, type Passage, readFormula, readValues, readWhen } from '../language/passage.ts';
import { named, say } from '../language/phrase.ts';
import type { Known } from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';
import { formulaPhrase, type Writing, when } from '../language/writing.ts';
import { listed, values, valuesPhrase } from './values.ts';
import type { VerbModule } from './verb.ts';

function take(execution: Execution, step: StepOf<'Provision'>): void {
  const found = values(execution, step.id, step.values);
  if (!found) return;
  let undoOn: CivilDate | null = null;
  if (step.removeOn) {
    const worked = workOut(execution.definition, step.removeOn, 'date', execution.scope(), execution.facts().lists);
    if (!worked.known) return execution.stuck(step.id, `${worked.because}.`);
    undoOn = worked.value as CivilDate;
  }
  const { connection, action } = step;
  execution.effect({ kind: 'provision', key: execution.key(connection), connection, action, values: found, undoOn });
  const until = undoOn ? `, until ${fullDate(undoOn)}` : '';
  execution.emit({
    kind: 'provisioned',
    step: step.id,
    words: `${connection}: ${action}, ${listed(execution, found)}${until}`,
    undelivered: true,
  });
  execution.goOn({ to: 'next' }, step.id);
}

function sentence(writing: Writing, step: StepOf<'Provision'>, path: Path): LineParts {
  const undo = step.removeOn
    ? [say('; undo it on'), formulaPhrase(step.removeOn, [...path, 'removeOn'], 'date')]
    : [
        {
          text: '; for good',
          edit: {
            kind: 'formula' as const,
            path: [...path, 'removeOn'],
            source: '',
            wanted: 'date' as const,
            mayBeEmpty: true as const,
          },
        },
      ];
  return {
    sentence: [
      ...when(writing, step, path),
      say('Ask'),
      named(step.connection, { kind: 'text', path: [...path, 'connection'], value: step.connection }),
      say('to'),
      {
        text: step.action,
        edit: {
          kind: 'choice',
          path: [...path, 'action'],
          value: step.action,
          choices: provisions.map(value => ({ value, words: value })),
        },
      },
      say('with'),
      valuesPhrase(step.values, [...path, 'values']),
      ...undo,
      say('.'),
    ],
    rows: [],
    after: [],
  };
}

function read(passage: Passage, known: Known, id: string): StepOf<'Provision'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  need(s, s.eat(/ask/, 'ask'), '');
  const connection = need(s, s.quoted(), 'as a connection');
  need(s, s.words('to') || undefined, '');
  const action = need(s, s.anyOf(...provisions) as (typeof provisions)[number] | undefined, 'as what to do');
  need(s, s.words('with') || undefined, '');
  const values = readValues(s);
  let removeOn: string | undefined;
  if (s.eat(/;\s*undo it on/)) removeOn = readFormula(s);
  else s.eat(/;\s*for good/);
  finish(s);
  return { verb: 'Provision', id, when, connection, action, values, ...(removeOn ? { removeOn } : {}) };
}

export const provision: VerbModule<'Provision'> = { take, say: sentence, read, check: () => {} };
