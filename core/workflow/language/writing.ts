/** What sentences are written with: fields, formulas, people and ways as phrases that can be changed in place. */
import { isAsked } from '../../form/index.ts';
import type { DirectoryIndex } from '../../people/index.ts';
import { type Definition, fieldById, type Go, type Step, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { conditionPhrases } from './conditionWords.ts';
import { type Choice, marked, named, type Phrase, say } from './phrase.ts';
import { goWords, peopleWords } from './ruleWords.ts';

/** Lists of the house by their names, where they are known. */
export type NamedLists = readonly {
  readonly id: string;
  readonly name: string;
  readonly columns?: readonly { readonly label: string }[];
}[];

export type Writing = { definition: Definition; index: DirectoryIndex | undefined; lists?: NamedLists };

export const label = ({ definition }: Writing, id: string): string => fieldById(definition, id)?.label ?? id;

export const fieldChoices = (
  { definition }: Writing,
  fits: (field: Definition['form']['fields'][number]) => boolean = () => true,
): Choice[] => definition.form.fields.filter(f => isAsked(f) && fits(f)).map(f => ({ value: f.id, words: f.label }));

export const fieldPhrase = (
  writing: Writing,
  id: string,
  path: Path,
  fits?: (field: Definition['form']['fields'][number]) => boolean,
): Phrase => named(label(writing, id), { kind: 'choice', path, value: id, choices: fieldChoices(writing, fits) });

export const goPhrase = ({ definition }: Writing, go: Go, step: Step, path: Path): Phrase => ({
  text: goWords(definition, go),
  written: goWords(definition, go, 'written'),
  edit: { kind: 'go', path, go, step: step.id },
});

export const formulaPhrase = (
  source: string,
  path: Path,
  wanted: 'anything' | 'date' | 'number' = 'anything',
): Phrase => ({
  text: source,
  written: marked(source),
  edit: { kind: 'formula', path, source, wanted },
});

export function when(writing: Writing, step: Step, path: Path): Phrase[] {
  if (!('when' in step) || !step.when) return [];
  return [say('When'), ...conditionPhrases(writing.definition, step.when, [...path, 'when']), say(',')];
}

export const peoplePhrase = (writing: Writing, rule: StepOf<'Decide'>['who'], path: Path): Phrase => ({
  text: peopleWords(rule, writing.index, writing.definition),
  written: peopleWords(rule, writing.index, writing.definition, 'written'),
  edit: { kind: 'people', path, rule },
});
