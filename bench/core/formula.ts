/** A compiled formula against another reader of FEEL, which reads the text at every evaluation. */
import { compile, corpus, type Names, type Value } from '@north-pebble/core/formula';
import { evaluate } from 'feelin';
import { perSecond, type Row } from '../measure.ts';

const names: Names = { Days: 'number', 'Balance after': 'number', Kind: 'text', Urgent: 'yes/no' };
const values: Record<string, Value> = { Days: 4.5, 'Balance after': -1, Kind: 'Annual', Urgent: true };

export function formulaRow(): Row {
  const compiled = corpus.map(source => {
    const found = compile(source, names);
    if (!found.ok) throw new Error(`${source} does not compile`);
    return found.formula;
  });
  const scope = { values, call: () => null };
  corpus.forEach((source, i) => {
    const { value } = evaluate(source, values) as { value: Value };
    if (value !== compiled[i].run(scope)) throw new Error(`${source}: the two do not agree`);
  });
  let a = 0;
  let b = 0;
  const ours = perSecond(() => compiled[a++ % compiled.length].run(scope));
  const theirs = perSecond(() => evaluate(corpus[b++ % corpus.length], values));
  return {
    what: `a formula, over a corpus of ${corpus.length}`,
    ours,
    theirs,
    baseline: 'feelin',
    ratio: ours / theirs,
    bar: 1500,
    better: 'more',
  };
}
