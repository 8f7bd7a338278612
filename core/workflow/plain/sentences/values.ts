/** `Title = Name, From = Start date`: values by their names. */
import { postColumns } from '../../../form/index.ts';
import type { Named } from '../words.ts';
import type { Saying } from './saying.ts';

/** The columns of a list of the house, by their labels. */
export function columnsOf(s: Saying, list: string): string[] {
  if (list === 'posts') return postColumns.map(({ label }) => label);
  return (s.known.lists.find(one => one.id === list)?.columns ?? []).map(({ label }) => label);
}

/** After how many words a value begins that is known and ends the part; after one where that is nowhere so. */
export function nameEnd(s: Saying, from: number, names: readonly Named<string>[]): number {
  const { w } = s;
  for (let end = from + 1; end <= Math.min(from + 6, w.tokens.length - 1); end++) {
    const ends = w.try(() => {
      w.at = end;
      if (w.name(names, false) === undefined) return undefined;
      const next = w.tokens[w.at]?.low;
      return next === undefined || [',', ';', '.', 'and'].includes(next) ? true : undefined;
    });
    w.at = from;
    if (ends) return end;
  }
  return from + 1;
}

/** `Title = Name, From = Start date`. */
/** @param known names of several words that values may have */
export function readValues(s: Saying, known: readonly string[] = []): { name: string; formula: string }[] | undefined {
  const { w } = s;
  const values: { name: string; formula: string }[] = [];
  const names: Named<string>[] = [
    // What stands beside a row that is picked: the place of a post and its department, the columns of other lists.
    ...s.known.definition.form.fields
      .flatMap(f => (f.kind === 'pick' ? columnsOf(s, f.list).map(label => `${f.label}.${label}`) : []))
      .map(name => ({ name, value: name })),
    ...s.known.definition.form.fields.map(f => ({ name: f.label, value: f.label })),
    ...s.known.definition.figures.map(f => ({ name: f.name, value: f.name })),
    ...['Asker', 'Subject', 'Asker post', 'Asker place', 'Asker department'].map(name => ({ name, value: name })),
  ];
  do {
    w.eat('the');
    const token = w.tokens[w.at];
    if (!token || (!token.quoted && !/^\p{L}/u.test(token.low))) return undefined;
    const from = w.at;
    // The name is one word or one in marks, or all the words up to an equals sign.
    let end = w.at + 1;
    const own = token.quoted
      ? undefined
      : w.try(() =>
          w.name(
            known.map(name => ({ name, value: name })),
            false,
          ),
        );
    if (own !== undefined) end = w.at;
    else if (!token.quoted)
      while (
        end < w.tokens.length &&
        end < from + 5 &&
        /^\p{L}/u.test(w.tokens[end].low) &&
        w.tokens[end + 1] &&
        ['=', 'is', 'as', ':'].includes(w.tokens[end + 1].low)
      )
        end++;
    // A name of several words may stand right before what it becomes, as it is shown.
    if (!token.quoted && own === undefined && end === from + 1) end = nameEnd(s, from, names);
    const name = token.quoted ? token.text : (own ?? w.between(from, end));
    w.at = end;
    w.eat('=|:|is|as|from|of');
    const value = w.tokens[w.at];
    if (value?.quoted) {
      w.at++;
      values.push({ name, formula: w.text[value.from] === '‹' ? value.text : JSON.stringify(value.text) });
      continue;
    }
    w.eat('the');
    const formula = w.name(names);
    const n = formula === undefined ? w.number() : undefined;
    if (formula === undefined && n === undefined) return undefined;
    values.push({ name, formula: formula ?? String(n) });
  } while (w.eat(', and?', 'and'));
  return values;
}

/** A value to set: a name, a number, words or a formula in marks. */
export function readFormula(s: Saying): [string] | undefined {
  const { w } = s;
  const token = w.tokens[w.at];
  if (token?.quoted) {
    w.at++;
    return [w.text[token.from] === '‹' ? token.text : JSON.stringify(token.text)];
  }
  if (w.eat('yes')) return ['true'];
  if (w.eat('no')) return ['false'];
  w.eat('the');
  const { definition } = s.known;
  const name = w.name(
    [...definition.form.fields.map(f => f.label), ...definition.figures.map(f => f.name), 'Asker', 'Subject'].map(
      one => ({ name: one, value: one }),
    ),
  );
  if (name !== undefined) return [name];
  const n = w.number();
  return n === undefined ? undefined : [String(n)];
}
