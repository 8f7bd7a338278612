/**
 * A definition as sentences. Each sentence is a row of phrases; some can be changed in place and say where in the
 * definition they stand, so that the written procedure is both what people read and what the designer edits.
 */

import type { DirectoryIndex } from '../../people/index.ts';
import type { Definition } from '../definition/definition.ts';
import { type Placed, structure } from '../definition/structure.ts';
import { askersFields } from '../figures/filling.ts';
import type { Line } from '../language/line.ts';
import { aloud, written } from '../language/phrase.ts';
import { peopleWords } from '../language/ruleWords.ts';
import type { NamedLists, Writing } from '../language/writing.ts';
import { moduleOf } from '../verbs/index.ts';

export { comparatorWords, conditionFrom } from '../language/conditionWords.ts';

export type { Line, Row } from '../language/line.ts';
export * from '../language/phrase.ts';
export { untilWords } from '../verbs/hold.ts';
export { askerMayChoices, awayChoices, handToChoices, onceChoices } from '../verbs/parts/people.ts';

function lineOf(writing: Writing, placed: Placed): Line {
  const { step, path, number, depth, around, position } = placed;
  return {
    step: step.id,
    path,
    number,
    depth,
    lane: around && position === 0 ? around.lane.name : null,
    verb: step.verb,
    ...moduleOf(step).say(writing, step, path),
  };
}

// Procedure and stones are drawn from the same lines; a definition never changes, so they are said once.
type SaidBefore = { index: DirectoryIndex | undefined; lists: NamedLists | undefined; lines: readonly Line[] };

const saidBefore = new WeakMap<Definition, SaidBefore>();

/** The written procedure, a line a step, the lines of lanes after the line of their split. */
export function procedure(definition: Definition, index?: DirectoryIndex, lists?: NamedLists): readonly Line[] {
  const before = saidBefore.get(definition);
  if (before && before.index === index && before.lists === lists) return before.lines;
  const writing: Writing = { definition, index, ...(lists ? { lists } : {}) };
  const lines = structure(definition).all.map(placed => lineOf(writing, placed));
  saidBefore.set(definition, { index, lists, lines });
  return lines;
}

/** One line as text: the sentence, its rows below, and what holds besides. */
export function lineText(line: Line): string {
  const tidy = (text: string) => text.replace(/\s+([.,:;])/g, '$1').replace(/ {2,}/g, ' ');
  const rows = line.rows.map(row => `  - ${tidy([row.written, written(row.phrases)].filter(Boolean).join(': '))}`);
  const after = line.after.map(phrase => `  + ${tidy(written([phrase]))}`);
  return [`${line.number}. ${line.verb}: ${tidy(written(line.sentence))}`, ...rows, ...after].join('\n');
}

/** The whole procedure as text that can be read back. */
export const writeProcedure = (definition: Definition, index?: DirectoryIndex): string =>
  procedure(definition, index).map(lineText).join('\n');

/** The procedure as people would read it aloud: one paragraph a step. */
export const readAloud = (line: Line): string =>
  [
    aloud(line.sentence),
    ...line.rows.map(row => `${row.label ? `${row.label}: ` : ''}${aloud(row.phrases)}.`),
    ...line.after.map(p => p.text),
  ].join(' ');

/** One sentence that describes a whole workflow, made from its definition. */
export function inOneSentence(definition: Definition, index?: DirectoryIndex): string {
  const deeds: string[] = [];
  for (const { step } of structure(definition).all) {
    if (step.verb === 'Decide')
      deeds.push(
        `${peopleWords({ ...step.who, otherwise: [], except: undefined }, index, definition)} ${step.when ? 'may decide' : 'decides'}`,
      );
    if (step.verb === 'Do')
      deeds.push(
        `${peopleWords({ ...step.who, otherwise: [], except: undefined }, index, definition)} does “${step.task}”`,
      );
    if (step.verb === 'Record' && step.effect.kind === 'book leave') deeds.push('the leave is booked');
    if (step.verb === 'Provision') deeds.push(`${step.connection} is asked to ${step.action}`);
  }
  const unique = [...new Set(deeds)];
  const good = definition.closings.find(c => c.tone === 'good') ?? definition.closings[0];
  const n = askersFields(definition).length;
  const first = `The asker fills in ${n} ${n === 1 ? 'field' : 'fields'}`;
  const all = [first, ...unique];
  const body = all.length > 1 ? `${all.slice(0, -1).join(', ')} and then ${all[all.length - 1]}` : all[0];
  return `${body}; it ends as ${
    definition.closings.length > 1
      ? `${good.name} or ${definition.closings
          .filter(c => c !== good)
          .map(c => c.name)
          .join(' or ')}`
      : good.name
  }.`;
}
