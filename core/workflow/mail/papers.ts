/** Letters: papers with values put in, as blocks of words that any page can be set from. */
import { answerWords, cellWords, type Field, isAsked, isEmptyAnswer, type TableRow } from '../../form/index.ts';
import { civilDateAt, fullDate, type Instant } from '../../time/index.ts';
import type { Definition, Letter } from '../definition/definition.ts';
import { stepById, stepNumber } from '../definition/structure.ts';
import { askerName, type Context, nameOf, subjectName, zoneOfPerson } from '../request/context.ts';
import type { Block, FilledLetter, Run } from '../request/outgoing.ts';
import type { RequestState } from '../request/state.ts';
import { figuresSeen, isGuarded, type Sights, sightsInMail } from '../request/visibility.ts';
import { currencyOf, figureWords, fill, insertedNames, insertionNames, naming } from './letters.ts';
import { blocksOf } from './richText.ts';

/** What a letter may put in besides what messages may. */
export const letterOnlyNames = ['answers', 'decisions', 'today'] as const;
export const letterInsertionNames = (definition: Definition): string[] => [
  ...insertionNames(definition).filter(name => name !== 'reason'),
  ...letterOnlyNames,
];

/** Names in braces that a letter inserts. */
export const insertedInLetter = (letter: Letter): string[] =>
  insertedNames(`${letter.title} ${letter.body} ${letter.foot ?? ''}`);

/**
 * What may stand in a letter that is kept in a field: what everybody may read who may read that field. What named readers
 * read alone stands only in a letter that the same ones read alone.
 */
export function readableIn(field: Field, into: Field): boolean {
  if (!isGuarded(field)) return true;
  const [readers, own] = [into.readers ?? [], field.readers ?? []];
  return readers.length > 0 && readers.every(reader => own.includes(reader));
}

function sightsFor(definition: Definition, into: Field): Sights {
  const inMail = sightsInMail(definition);
  return new Map(
    definition.form.fields.map(field => {
      const sight = inMail.get(field.id) ?? 'hidden';
      return [field.id, isGuarded(field) ? (readableIn(field, into) ? 'open' : 'hidden') : sight];
    }),
  );
}

const table = (head: string[], rows: string[][], numeric: boolean[]): Block => ({ kind: 'table', head, rows, numeric });

/** The day that it was where the asker works, in words. */
const dayWords = (state: RequestState, context: Context, at: Instant): string =>
  fullDate(civilDateAt(at, zoneOfPerson(context, state.asker, at)));

/** Who decided what and when, as the rows of a table. */
function decisions(definition: Definition, state: RequestState, context: Context): Block {
  const rows = state.settled.map(({ step, outcome, people }) => {
    const at = state.finished?.[step];
    const found = stepById(definition, step);
    return [
      found?.verb === 'Do' ? found.task : `Step ${stepNumber(definition, step)}`,
      people.map(person => nameOf(context.index, person)).join(', '),
      found?.verb === 'Decide' ? (found.outcomes.find(one => one.id === outcome)?.label ?? outcome) : 'done',
      at ? dayWords(state, context, at) : '',
    ];
  });
  return table(['Step', 'Who', 'What', 'When'], rows, [false, false, false, false]);
}

/** A letter filled in, for the field that it is kept in. */
export function fillLetter(
  letter: Letter,
  definition: Definition,
  state: RequestState,
  context: Context,
  into: Field,
): FilledLetter {
  const names = naming(context);
  const sights = sightsFor(definition, into);
  const figures = figuresSeen(definition, state.figures, sights, context.lists);
  const hidden = 'not written here';
  const open = (field: Field) => sights.get(field.id) === 'open';
  const words: Record<string, string> = {
    asker: askerName(context.index, state),
    subject: subjectName(context.index, state),
    request: state.request,
    workflow: definition.name,
    today: dayWords(state, context, context.now),
  };
  for (const field of definition.form.fields)
    words[field.label] = open(field) ? answerWords(field, state.answers[field.id], names) : hidden;
  for (const figure of definition.figures)
    words[figure.name] =
      figure.id in figures ? figureWords(figure, figures[figure.id], currencyOf(definition)) : hidden;

  const tableOf = (name: string): Block | null => {
    if (name === 'decisions') return decisions(definition, state, context);
    if (name === 'answers') {
      const asked = definition.form.fields.filter(f => isAsked(f) && open(f) && !isEmptyAnswer(state.answers[f.id]));
      return table(
        ['', ''],
        asked.map(f => [f.label, words[f.label]]),
        [false, false],
      );
    }
    const field = definition.form.fields.find(f => f.label === name);
    if (field?.kind !== 'table' || !open(field)) return null;
    const rows = (state.answers[field.id] ?? []) as readonly TableRow[];
    return table(
      field.columns.map(c => c.label),
      rows.map(row => field.columns.map(c => cellWords(c, row[c.id]))),
      field.columns.map(c => c.kind === 'number' || c.kind === 'money'),
    );
  };
  const put = (runs: readonly Run[]): Run[] => runs.map(run => ({ ...run, text: fill(run.text, words) }));
  const blocks = blocksOf(letter.body).map((block): Block => {
    if (block.kind === 'table') return block;
    if (block.kind === 'list') return { ...block, items: block.items.map(put) };
    const alone = /^\{([^{}]+)\}$/.exec(
      block.runs
        .map(run => run.text)
        .join('')
        .trim(),
    );
    return (alone && tableOf(alone[1].trim())) ?? { ...block, runs: put(block.runs) };
  });
  return { title: fill(letter.title, words), blocks, foot: letter.foot ? fill(letter.foot, words) : '' };
}
