/** Conditions as words, and words as conditions: `Days is over 10 and Kind is “Annual leave”`. */
import { type Comparator, simpleComparisons, type Type } from '../../formula/index.ts';
import type { Definition } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { namesOf } from '../figures/evaluate.ts';
import { marked, type Phrase, say } from './phrase.ts';

export const comparatorWords: Record<Comparator, string> = {
  '<': 'is below',
  '<=': 'is at most',
  '>': 'is over',
  '>=': 'is at least',
  '=': 'is',
  '!=': 'is not',
};

/** A formula as words with its values to change, or as it is written when it is more than comparisons. */
export function conditionPhrases(definition: Definition, source: string, path: Path): Phrase[] {
  const formula = { kind: 'formula' as const, path, source, wanted: 'yes/no' as const };
  const comparisons = simpleComparisons(source, namesOf(definition));
  if (!comparisons) return [{ text: source.trim() || '(nothing yet)', written: marked(source), edit: formula }];
  const phrases = comparisons.flatMap((c, i) => {
    const between = source.slice(Math.min(c.name.to, c.value.to), Math.max(c.name.from, c.value.from));
    const from = Math.min(c.name.to, c.value.to) + (between.length - between.trimStart().length);
    const place = { from, to: from + between.trim().length };
    const nameFirst = c.name.from < c.value.from;
    const found: Phrase[] = [{ text: c.name.text, edit: formula }];
    found.push(
      nameFirst
        ? {
            text: comparatorWords[c.comparator],
            edit: { kind: 'comparator', path, source, place, value: c.comparator },
          }
        : say(comparatorWords[c.comparator]),
    );
    const { kind, text } = c.value;
    found.push({
      text: kind === 'yes/no' ? (text === 'true' ? 'yes' : 'no') : text,
      edit: { kind: 'value', path, source, place: c.value, value: text, valueKind: kind },
    });
    return i === 0 ? found : [say('and'), ...found];
  });
  // Read back as one formula: in words when the words say exactly the same, else as it stands.
  const words = wordsOf(definition, source);
  const [first, ...rest] = phrases;
  return [{ ...first, written: marked(words ?? source) }, ...rest.map(p => ({ ...p, written: '' }))];
}

type Value = { kind: 'number' | 'text' | 'date' | 'yes/no'; text: string };

const valueWords = ({ kind, text }: Value): string => {
  if (kind === 'yes/no') return text === 'true' ? 'yes' : 'no';
  return kind === 'text' ? JSON.stringify(text) : text;
};

const valueFormula = ({ kind, text }: Value): string => {
  if (kind === 'text') return JSON.stringify(text);
  return kind === 'date' ? `date("${text}")` : text;
};

/** The words of a condition, when reading them back gives the very same formula. */
function wordsOf(definition: Definition, source: string): string | undefined {
  const comparisons = simpleComparisons(source, namesOf(definition));
  if (!comparisons) return undefined;
  const words = comparisons
    .map(c => `${c.name.text} ${comparatorWords[c.comparator]} ${valueWords(c.value)}`)
    .join(' and ');
  return conditionFrom(words, namesOf(definition)) === source ? words : undefined;
}

const spoken: [RegExp, Comparator][] = [
  [/^(?:is )?(?:at most|no more than|up to)\s+/i, '<='],
  [/^(?:is )?(?:at least|no less than|or more)\s+/i, '>='],
  [/^(?:is )?(?:below|less than|fewer than|under|before)\s+/i, '<'],
  [/^(?:is )?(?:over|above|more than|greater than|after)\s+/i, '>'],
  [/^(?:is not|isn’t|isn't)\s+/i, '!='],
  [/^(?:is|equals|are)\s+/i, '='],
  [/^<=\s*/, '<='],
  [/^>=\s*/, '>='],
  [/^!=\s*/, '!='],
  [/^<\s*/, '<'],
  [/^>\s*/, '>'],
  [/^=\s*/, '='],
];

/** The formula that words of the kind `Days is over 10 and Urgent is yes` say; nothing when they say something else. */
export function conditionFrom(
  words: string,
  names: Readonly<Record<string, Type>>,
  bare: 'yes or no by itself' | 'comparisons only' = 'yes or no by itself',
): string | undefined {
  const longestFirst = Object.keys(names).sort((a, b) => b.length - a.length);
  const parts: string[] = [];
  let rest = words.trim();
  for (;;) {
    const lower = rest.toLowerCase();
    const name = longestFirst.find(
      n => lower.startsWith(n.toLowerCase()) && /^(\s|[<>=!]|$)/.test(rest.slice(n.length)),
    );
    if (!name) return undefined;
    rest = rest.slice(name.length).trimStart();
    const how = spoken.find(([pattern]) => pattern.test(rest));
    if (!how) {
      // A yes-or-no by itself.
      if (bare === 'comparisons only' || names[name] !== 'yes/no' || !(rest === '' || /^and\s/i.test(rest)))
        return undefined;
      parts.push(`${name} = true`);
    } else {
      rest = rest.replace(how[0], '');
      const value = /^("(?:[^"\\]|\\.)*"|“[^”]*”|-?\d+(?:\.\d+)?|\d{4}-\d{2}-\d{2}|yes|no)(?=\s|$)/i.exec(
        rest.replace(/^(\d{4}-\d{2}-\d{2})/, '$1'),
      );
      const date = /^\d{4}-\d{2}-\d{2}(?=\s|$)/.exec(rest);
      const token = date?.[0] ?? value?.[1];
      if (token === undefined) return undefined;
      rest = rest.slice(token.length).trimStart();
      const kind: Value['kind'] = date
        ? 'date'
        : /^["“]/.test(token)
          ? 'text'
          : /^(yes|no)$/i.test(token)
            ? 'yes/no'
            : 'number';
      const text =
        kind === 'text'
          ? token.startsWith('“')
            ? token.slice(1, -1)
            : (JSON.parse(token) as string)
          : kind === 'yes/no'
            ? String(/^yes$/i.test(token))
            : token;
      parts.push(`${name} ${how[1]} ${valueFormula({ kind, text })}`);
    }
    if (rest === '') return parts.join(' and ');
    if (!/^and\s/i.test(rest)) return undefined;
    rest = rest.replace(/^and\s+/i, '');
  }
}
