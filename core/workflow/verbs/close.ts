/** Close: the request ends with a closing. */
import { messageById, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { LineParts } from '../language/line.ts';
import { finish, need, type Passage, readClosing } from '../language/passage.ts';
import { named, say } from '../language/phrase.ts';
import type { Known } from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';
import type { Writing } from '../language/writing.ts';
import type { VerbModule } from './verb.ts';

function sentence(writing: Writing, step: StepOf<'Close'>, path: Path): LineParts {
  const { definition } = writing;
  const closing = definition.closings.find(c => c.id === step.closing);
  const message = messageById(definition, closing?.message ?? null);
  const choices = definition.closings.map(c => ({ value: c.id, words: c.name }));
  return {
    sentence: [
      say('The request ends as'),
      named(closing?.name ?? step.closing, {
        kind: 'choice',
        path: [...path, 'closing'],
        value: step.closing,
        choices,
      }),
      ...(message ? [{ text: `and the asker gets “${message.name}”`, written: '' }] : []),
      say('.'),
    ],
    rows: [],
    after: [],
  };
}

function read(passage: Passage, known: Known, id: string): StepOf<'Close'> {
  const s = new Scanner(passage.sentence);
  need(s, s.eat(/(?:the request ends|close|end)(?: it)? as/, 'the request ends as'), '');
  const closing = need(s, readClosing(s, known) ?? s.quoted(), 'as a closing');
  finish(s);
  return { verb: 'Close', id, closing };
}

export const close: VerbModule<'Close'> = {
  take: (execution, step) => execution.close(step.closing),
  say: sentence,
  read,
  check: () => {},
};
