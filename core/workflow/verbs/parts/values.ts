/** Values by name that steps work out and pass on; worked out, said in words, and as a list keeps them. */
import { isAmount } from '../../../formula/index.ts';
import type { PersonId } from '../../../people/index.ts';
import type { Path } from '../../definition/path.ts';
import type { Execution } from '../../execution/execution.ts';
import { workOut } from '../../figures/evaluate.ts';
import { marked, type Phrase, quoted } from '../../language/phrase.ts';
import type { NamedValues } from '../../request/events.ts';

/** The values of some formulas by name; nothing when one has no value and the request is stuck. */
export function values(
  execution: Execution,
  step: string,
  wanted: readonly { name: string; formula: string }[],
): NamedValues | null {
  const found: Record<string, unknown> = {};
  const scope = execution.scope();
  for (const { name, formula } of wanted) {
    const worked = workOut(execution.definition, formula, 'anything', scope, execution.facts().lists);
    if (!worked.known) {
      execution.stuck(step, worked.because);
      return null;
    }
    // Others take an amount as a number.
    found[name] = isAmount(worked.value) ? worked.value.amount : worked.value;
  }
  return found;
}

/** Values as a list keeps them: whoever reads a row reads a name, not the id of a person. */
export const inCells = (execution: Execution, found: NamedValues): NamedValues =>
  Object.fromEntries(
    Object.entries(found).map(([name, value]) => {
      const person = typeof value === 'string' ? execution.context.index.person(value as PersonId) : undefined;
      return [name, person ? person.name : value];
    }),
  );

export function valuesPhrase(values: readonly { name: string; formula: string }[], path: Path): Phrase {
  return {
    text: values.map(v => `${v.name} ${v.formula}`).join(', ') || 'nothing',
    written: values.map(v => `${quoted(v.name)} ${marked(v.formula)}`).join(', ') || 'nothing',
    edit: { kind: 'values', path, values },
  };
}
