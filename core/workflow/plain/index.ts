/**
 * A line as a designer types it, in plain words. Deterministic: the same words always give the same steps, what is not
 * understood is said at its place, and a line with words left over is never taken.
 */

import type { DirectoryIndex } from '../../people/index.ts';
import type { Definition, Step } from '../definition/definition.ts';
import { verbs } from '../definition/definition.ts';
import { allSteps, structure } from '../definition/structure.ts';
import type { NamedLists } from '../language/writing.ts';
import { NotUnderstood, readStep } from '../procedure/stepReader.ts';
import { inSentence } from '../procedure/stepWords.ts';
import { negated } from './conditions.ts';
import type { Known } from './people.ts';
import { readSentence, Saying, usualOutcomes } from './sentences/index.ts';
import { tokensOf, Words } from './words.ts';

export { negated };

export type WordReading =
  | { ok: true; steps: Step[]; understood: string[]; unsure: string[] }
  | {
      ok: false;
      message: string;
      /** Where what is not understood begins. */
      at: number;
      /** The words that were left over. */
      left: string[];
      completions: string[];
    };

/** What of the house may be named besides people: lists, and what requests are carried out with. */
export type Named = { lists?: NamedLists; connections?: readonly string[] };

function knownOf(definition: Definition, index: DirectoryIndex | undefined, named: Named): Known {
  const placed = structure(definition).all;
  const used = placed.flatMap(({ step }) => (step.verb === 'Provision' ? [step.connection] : []));
  return {
    definition,
    index,
    unsure: [],
    lists: named.lists ?? [],
    connections: [...new Set([...(named.connections ?? ['Directory']), ...used])],
    stepAt: number => placed.find(p => p.number === number)?.step.id,
  };
}

const separators = [/^(;)$/, /^(then)$/, /^(\.)$/];

/** Places at which one sentence may end and another begin, the last first: what stands before must be whole by itself. */
function cuts(words: Words): { end: number; next: number }[] {
  const found: { end: number; next: number }[] = [];
  words.tokens.forEach((token, i) => {
    if (token.quoted || i === 0 || i === words.tokens.length - 1) return;
    if (!separators.some(separator => separator.test(token.low))) return;
    let end = i;
    while (end > 0 && /^(,|and)$/.test(words.tokens[end - 1].low)) end--;
    found.push({ end, next: i + 1 });
  });
  return found.reverse();
}

function readAll(words: Words, known: Known, taken: string[], spy: (w: Words) => void): Step[] | undefined {
  const before = [...taken];
  const whole = new Words(words.text, words.tokens);
  const steps = readSentence(new Saying(whole, known, taken));
  spy(whole);
  if (steps) return steps;
  for (const { end, next } of cuts(words)) {
    taken.length = 0;
    taken.push(...before);
    const first = new Words(words.text, words.tokens.slice(0, end));
    const head = readSentence(new Saying(first, known, taken));
    if (!head) continue;
    const rest = readAll(new Words(words.text, words.tokens.slice(next)), known, taken, spy);
    if (rest) return [...head, ...rest];
  }
  return undefined;
}

/** A sentence as the sheet writes it, with its verb before it. */
function asWritten(text: string, known: Known, taken: string[]): Step[] | undefined {
  const found = /^\s*(?:\d+(?:[a-z]\d+)*\.\s+)?(\w+):\s*(.+)$/s.exec(text);
  const verb = found && verbs.find(v => v.toLowerCase() === found[1].toLowerCase());
  if (!found || !verb || verb === 'Ask') return undefined;
  const plain = readSentence(new Saying(new Words(found[2]), known, taken));
  if (plain?.length === 1 && plain[0].verb === verb) return plain;
  try {
    let n = 2;
    while (taken.includes(`${verb.toLowerCase()}-${n}`)) n++;
    const step = readStep(
      { verb, sentence: found[2], rows: [], after: [] },
      { ...known, unsure: [] },
      `${verb.toLowerCase()}-${n}`,
    );
    return [step.verb === 'Decide' ? { ...step, outcomes: usualOutcomes(known) } : step];
  } catch (fault) {
    if (fault instanceof NotUnderstood) return undefined;
    throw fault;
  }
}

/**
 * Reads a new line as a designer types it; it may say several steps. It is taken only when no word is left over.
 * @param named lists and connections of the house that may be named
 */
export function readWords(
  text: string,
  definition: Definition,
  index?: DirectoryIndex,
  named: Named = {},
): WordReading {
  const known = knownOf(definition, index, named);
  const taken = allSteps(definition).map(step => step.id);
  if (text.trim() === '')
    return {
      ok: false,
      message: 'Say what happens, as in “manager decides in 2 days”.',
      at: 0,
      left: [],
      completions: starts(definition),
    };
  let furthest = 0;
  let expected: string[] = [];
  const spy = (w: Words) => {
    const place = w.tokens[w.furthest]?.from ?? text.length;
    if (place < furthest) return;
    expected = place > furthest ? w.expected : [...new Set([...expected, ...w.expected])];
    furthest = place;
  };
  const words = new Words(text.slice(0, longestLine), tokensOf(text.slice(0, longestLine)));
  const steps = asWritten(text, known, [...taken]) ?? readAll(words, known, taken, spy);
  if (steps && text.length <= longestLine)
    return {
      ok: true,
      steps,
      understood: steps.map(step => inSentence(definition, step, index, known.lists)),
      unsure: [...new Set(known.unsure)],
    };
  const left = tokensOf(text.slice(furthest)).map(token => token.text);
  const rest = text.slice(furthest).trim();
  return {
    ok: false,
    message: rest ? `Not understood from “${rest.slice(0, 60)}” on.` : 'Something is still missing at the end.',
    at: furthest,
    left: left.length > 0 ? left : ['(something is missing at the end)'],
    completions: completions(text, furthest, expected, definition),
  };
}

/** A line is a sentence or two; whoever pastes a page has it read as a procedure. */
const longestLine = 600;

const starts = (definition: Definition): string[] => [
  'line manager decides within 2 working days',
  'head of department decides within 3 working days',
  'wait for 1 working day',
  ...(definition.messages[0] ? [`tell the asker “${definition.messages[0].name}”`] : []),
  'split into Stores, Systems',
  ...(definition.form.fields.some(f => f.kind === 'leave span') ? ['book the leave'] : []),
  ...definition.closings.map(c => `close as ${c.name}`),
];

/** What could stand at the furthest place that was understood. */
function completions(text: string, at: number, expected: readonly string[], definition: Definition): string[] {
  const typed = text.slice(at).trim().toLowerCase();
  const before = text.slice(0, at).trimEnd();
  const fitting = expected.filter(word => typed === '' || word.toLowerCase().startsWith(typed));
  const all = (fitting.length > 0 ? fitting : expected).slice(0, 8).map(word => (before ? `${before} ${word}` : word));
  return all.length > 0
    ? [...new Set(all)]
    : starts(definition)
        .filter(word => word.startsWith(text.trim().toLowerCase()))
        .slice(0, 8);
}
