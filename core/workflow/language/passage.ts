/** Reading the passage of one step: the pieces that several verbs read alike. */
import type { Go, Verb } from '../definition/definition.ts';
import { namesOf } from '../figures/evaluate.ts';
import { conditionFrom } from './conditionWords.ts';
import { type Known, readField } from './ruleReader.ts';
import type { Scanner } from './scanner.ts';

/** One step as text: the verb, the sentence, its rows and the sentences after it. */
export type Passage = { verb: Verb; sentence: string; rows: readonly string[]; after: readonly string[] };

export class NotUnderstood extends Error {
  readonly text: string;
  readonly at: number;
  readonly expected: readonly string[];
  constructor(scanner: Scanner, what: string) {
    const rest = scanner.text.slice(scanner.furthest).trim();
    super(
      rest
        ? `“${rest}” is not understood${what ? ` ${what}` : ''}.`
        : `The sentence ends too early${what ? ` ${what}` : ''}.`,
    );
    this.text = scanner.text;
    this.at = scanner.furthest;
    this.expected = scanner.expected;
  }
}

export const need = <T>(s: Scanner, found: T | undefined, what = ''): T => {
  if (found === undefined || found === false) throw new NotUnderstood(s, what);
  return found;
};

export const finish = (s: Scanner): void => {
  if (s.done) return;
  if (s.at > s.furthest) s.furthest = s.at;
  throw new NotUnderstood(s, '');
};

/** A condition in marks, or in words up to where the sentence goes on. */
export function readCondition(s: Scanner, known: Known, until: RegExp): string | undefined {
  const names = namesOf(known.definition);
  const inMarks = s.marked();
  if (inMarks !== undefined) return conditionFrom(inMarks, names, 'comparisons only') ?? inMarks;
  return s.try(() => {
    const found = new RegExp(`^(.*?)(?=${until.source})`, 'i').exec(s.rest);
    const words = found?.[1].trim();
    const formula = words ? conditionFrom(words, names) : undefined;
    if (!formula || !found) return undefined;
    s.at += found[0].length;
    return formula;
  });
}

export const readWhen = (s: Scanner, known: Known): string | null => {
  if (!s.eat(/(?:when|if)(?=\s)/)) return null;
  const condition = need(s, readCondition(s, known, /,|\s+then\s/), 'as a condition');
  s.eat(/,|then/);
  return condition;
};

export const readFormula = (s: Scanner): string =>
  need(s, s.marked() ?? s.eat(/[^,;.“‹]+/)?.[0].trim(), 'as a formula');

/** `go on`, `go to 4`, `close as “Approved”`. */
export function readGo(s: Scanner, known: Known): Go | undefined {
  if (s.eat(/(?:it )?go(?:es)? on(?!\w)/, 'go on')) return { to: 'next' };
  const step = s.try(() => {
    if (!s.eat(/(?:it )?go(?:es)? (?:back )?to(?: step)?(?=\s)/, 'go to')) return undefined;
    const id = s.quoted();
    if (id !== undefined) return id;
    const number = s.eat(/\d+(?:[a-z]\d+)*/);
    return number && (known.stepAt(number[0].toLowerCase()) ?? '?');
  });
  if (step !== undefined) return { to: 'step', step };
  const closing = s.try(() => {
    if (!s.eat(/(?:it )?(?:close|closes|end|ends)(?: it)? as/, 'close as')) return undefined;
    return readClosing(s, known);
  });
  return closing === undefined ? undefined : { to: 'close', closing };
}

export const readClosing = (s: Scanner, { definition }: Known): string | undefined =>
  s.name(
    [
      ...definition.closings.map(c => ({ name: c.name, value: c.id })),
      ...definition.closings.map(c => ({ name: c.id, value: c.id })),
    ],
    'a closing',
  );

export const readMessage = (s: Scanner, { definition }: Known): string | undefined =>
  s.name(
    [
      ...definition.messages.map(m => ({ name: m.name, value: m.id })),
      ...definition.messages.map(m => ({ name: m.id, value: m.id })),
    ],
    'a message',
  );

export function readFields(s: Scanner, known: Known): string[] {
  const fields = [need(s, readField(s, known), 'as a field')];
  for (let next = more(s, known); next !== undefined; next = more(s, known)) fields.push(next);
  return fields;
}

const more = (s: Scanner, known: Known): string | undefined =>
  s.try(() => (s.eat(/,(?:\s*and(?=\s))?|and(?=\s)/) ? readField(s, known) : undefined));

export function readValues(s: Scanner): { name: string; formula: string }[] {
  if (s.words('nothing')) return [];
  const values: { name: string; formula: string }[] = [];
  do {
    const name = need(s, s.quoted(), 'as a name');
    values.push({ name, formula: need(s, s.marked(), 'as a formula') });
  } while (s.eat(/,/));
  return values;
}
