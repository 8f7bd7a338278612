/** What a Record step says of its effect, in phrases that are opened in their place. */
import { recordProperties } from '../../../facts/index.ts';
import { letterById, type StepOf } from '../../definition/definition.ts';
import type { Path } from '../../definition/path.ts';
import type { LineParts } from '../../language/line.ts';
import { named, type Phrase, say } from '../../language/phrase.ts';
import { fieldPhrase, formulaPhrase, type Writing, when } from '../../language/writing.ts';
import { isPostPick } from './posts.ts';
import { valuesPhrase } from './values.ts';

export function sentence(writing: Writing, step: StepOf<'Record'>, path: Path): LineParts {
  const { effect } = step;
  const at: Path = [...path, 'effect'];
  const start = when(writing, step, path);
  const lead = (text: string): Phrase => ({ text, edit: { kind: 'effect', path: at, effect } });
  const sentence = (() => {
    switch (effect.kind) {
      case 'book leave':
        return [
          lead('Book'),
          fieldPhrase(writing, effect.span, [...at, 'span'], f => f.kind === 'leave span'),
          say('as leave of the chosen'),
          fieldPhrase(writing, effect.type, [...at, 'type'], f => f.kind === 'choice' && f.options === 'leave types'),
          ...(effect.why === undefined
            ? []
            : [
                say(', with the reason in'),
                fieldPhrase(writing, effect.why, [...at, 'why'], f => f.kind === 'text' || f.kind === 'long text'),
              ]),
          {
            text: effect.planner ? '; put them on the team’s planner' : '; not on the planner',
            edit: {
              kind: 'choice' as const,
              path: [...at, 'planner'],
              value: effect.planner,
              choices: [
                { value: true, words: 'put them on the team’s planner' },
                { value: false, words: 'not on the planner' },
              ],
            },
          },
        ];
      case 'planner':
        return [
          lead('Put'),
          named(effect.label, { kind: 'text', path: [...at, 'label'], value: effect.label }),
          say('on the planner over'),
          fieldPhrase(writing, effect.span, [...at, 'span'], f => f.kind === 'leave span' || f.kind === 'date range'),
        ];
      case 'adjust':
        return [
          lead('Put on the balance of the chosen'),
          fieldPhrase(writing, effect.type, [...at, 'type'], f => f.kind === 'choice' && f.options === 'leave types'),
          ...(effect.holder === undefined
            ? []
            : [say('of'), fieldPhrase(writing, effect.holder, [...at, 'holder'], f => f.kind === 'person')]),
          say(':'),
          formulaPhrase(effect.amount, [...at, 'amount']),
        ];
      case 'person':
        return [
          lead('Change'),
          named(effect.property, {
            kind: 'choice',
            path: [...at, 'property'],
            value: effect.property,
            choices: recordProperties.map(name => ({ value: name, words: name })),
          }),
          say('on the record of the person concerned to'),
          formulaPhrase(effect.formula, [...at, 'formula']),
        ];
      case 'add person':
        return [lead('Put somebody on file with'), valuesPhrase(effect.values, [...at, 'values'])];
      case 'add post':
        return [
          lead('Put a post on file with'),
          valuesPhrase(effect.values, [...at, 'values']),
          ...(effect.field === undefined
            ? []
            : [say('; it stands in'), fieldPhrase(writing, effect.field, [...at, 'field'], isPostPick)]),
        ];
      case 'add row':
        return [
          lead('Add a row to'),
          {
            ...named(effect.list, { kind: 'text', path: [...at, 'list'], value: effect.list }),
            text: writing.lists?.find(l => l.id === effect.list)?.name ?? effect.list,
          },
          say('with'),
          valuesPhrase(effect.values, [...at, 'values']),
        ];
      case 'change row':
        return [
          lead('Change the row picked in'),
          fieldPhrase(writing, effect.row, [...at, 'row'], f => f.kind === 'pick'),
          say(':'),
          valuesPhrase(effect.values, [...at, 'values']),
        ];
      case 'keep paper':
        return [
          lead('Keep'),
          fieldPhrase(writing, effect.field, [...at, 'field'], f => f.kind === 'document'),
          say('among the papers as'),
          named(effect.as, { kind: 'text', path: [...at, 'as'], value: effect.as }),
          ...(effect.holder === undefined
            ? []
            : [say('of'), fieldPhrase(writing, effect.holder, [...at, 'holder'], f => f.kind === 'text')]),
        ];
      case 'make letter':
        return [
          lead('Make the letter'),
          named(letterById(writing.definition, effect.letter)?.name ?? effect.letter, {
            kind: 'choice',
            path: [...at, 'letter'],
            value: effect.letter,
            choices: (writing.definition.letters ?? []).map(one => ({ value: one.id, words: one.name })),
          }),
          say('and keep it in'),
          fieldPhrase(writing, effect.field, [...at, 'field'], f => f.kind === 'files'),
        ];
      case 'set':
        return [
          lead('Set'),
          fieldPhrase(writing, effect.field, [...at, 'field']),
          say('to'),
          formulaPhrase(effect.formula, [...at, 'formula']),
        ];
      case 'open':
        return [
          lead('Open'),
          named(effect.workflow, { kind: 'text', path: [...at, 'workflow'], value: effect.workflow }),
          say('for the person concerned with'),
          valuesPhrase(effect.values, [...at, 'values']),
        ];
    }
  })();
  return { sentence: [...start, ...sentence, say('.')], rows: [], after: [] };
}
