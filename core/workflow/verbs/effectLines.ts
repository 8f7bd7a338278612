/** Sentences of what is recorded, provisioned and told. */
import { messageById, provisions, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { marked, named, type Phrase, quoted, say } from '../language/phrase.ts';
import { fieldPhrase, formulaPhrase, type Pen, peoplePhrase, type Said, when } from '../language/writing.ts';

function valuesPhrase(values: readonly { name: string; formula: string }[], path: Path): Phrase {
  return {
    text: values.map(v => `${v.name} ${v.formula}`).join(', ') || 'nothing',
    written: values.map(v => `${quoted(v.name)} ${marked(v.formula)}`).join(', ') || 'nothing',
    edit: { kind: 'values', path, values },
  };
}

export function record(pen: Pen, step: StepOf<'Record'>, path: Path): Said {
  const { effect } = step;
  const at: Path = [...path, 'effect'];
  const start = when(pen, step, path);
  const lead = (text: string): Phrase => ({ text, edit: { kind: 'effect', path: at, effect } });
  const sentence = (() => {
    switch (effect.kind) {
      case 'book leave':
        return [
          lead('Book'),
          fieldPhrase(pen, effect.span, [...at, 'span'], f => f.kind === 'leave span'),
          say('as leave of the chosen'),
          fieldPhrase(pen, effect.type, [...at, 'type'], f => f.kind === 'choice' && f.options === 'leave types'),
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
          fieldPhrase(pen, effect.span, [...at, 'span'], f => f.kind === 'leave span' || f.kind === 'date range'),
        ];
      case 'person':
        return [
          lead('Change'),
          named(effect.property, { kind: 'text', path: [...at, 'property'], value: effect.property }),
          say('of the subject’s record to'),
          formulaPhrase(effect.formula, [...at, 'formula']),
        ];
      case 'add row':
        return [
          lead('Add a row to'),
          {
            ...named(effect.list, { kind: 'text', path: [...at, 'list'], value: effect.list }),
            text: pen.lists?.find(l => l.id === effect.list)?.name ?? effect.list,
          },
          say('with'),
          valuesPhrase(effect.values, [...at, 'values']),
        ];
      case 'change row':
        return [
          lead('Change the row picked in'),
          fieldPhrase(pen, effect.row, [...at, 'row'], f => f.kind === 'pick'),
          say(':'),
          valuesPhrase(effect.values, [...at, 'values']),
        ];
      case 'set':
        return [
          lead('Set'),
          fieldPhrase(pen, effect.field, [...at, 'field']),
          say('to'),
          formulaPhrase(effect.formula, [...at, 'formula']),
        ];
      case 'open':
        return [
          lead('Open'),
          named(effect.workflow, { kind: 'text', path: [...at, 'workflow'], value: effect.workflow }),
          say('for the subject with'),
          valuesPhrase(effect.values, [...at, 'values']),
        ];
    }
  })();
  return { sentence: [...start, ...sentence, say('.')], rows: [], after: [] };
}

export function provision(pen: Pen, step: StepOf<'Provision'>, path: Path): Said {
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
      ...when(pen, step, path),
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

export function tell(pen: Pen, step: StepOf<'Tell'>, path: Path): Said {
  const { definition } = pen;
  const message = messageById(definition, step.message)?.name ?? step.message;
  const people = step.to.flatMap((rule, n) => [
    ...(n > 0 ? [say('; and to')] : []),
    peoplePhrase(pen, rule, [...path, 'to', n]),
  ]);
  const addresses = (step.addresses ?? []).flatMap((address, n) => [
    ...(n > 0 || step.to.length > 0 ? [say('; and to')] : []),
    named(address, { kind: 'text', path: [...path, 'addresses', n], value: address }),
  ]);
  const attached =
    step.attach === 'invitation' ? [say('; with an invitation')] : step.attach === 'pdf' ? [say('; with a PDF')] : [];
  return {
    sentence: [
      ...when(pen, step, path),
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
