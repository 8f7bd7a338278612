/** A field that a step sets: it must be there, and a value that is said outright must be one that it can have. */
import type { Field } from '../../../form/index.ts';
import { nearest } from '../../../formula/index.ts';
import { isCivilDate } from '../../../time/index.ts';
import type { Findings } from '../../checking/finding.ts';
import { fieldReference } from '../../checking/references.ts';
import type { Step } from '../../definition/definition.ts';
import type { Path } from '../../definition/path.ts';
import { compileWorkflow } from '../../figures/evaluate.ts';

/** What a field can have, in words, where a value is none of it; nothing where it is, or where that is not known here. */
function wanted(findings: Findings, field: Field, value: unknown): { words: string; known?: readonly string[] } | null {
  switch (field.kind) {
    case 'choice': {
      const known = field.options === 'leave types' ? findings.around.leaveTypes : field.options;
      if (!known || (typeof value === 'string' && known.includes(value))) return null;
      return { words: `It can be ${known.map(one => `“${one}”`).join(', ')}.`, known };
    }
    case 'yes/no':
      return typeof value === 'boolean' ? null : { words: 'It can be yes or no.' };
    case 'whole number':
    case 'decimal':
    case 'money':
      return typeof value === 'number' || typeof value === 'object' ? null : { words: 'It is a number.' };
    case 'date':
      return typeof value === 'string' && isCivilDate(value) ? null : { words: 'It is a date.' };
    default:
      return null;
  }
}

/**
 * @param path of the part that sets it, in which `field` and `formula` stand
 */
export function settingFindings(
  findings: Findings,
  step: Step,
  { field: id, formula }: { readonly field: string; readonly formula: string },
  path: Path,
): void {
  const field = fieldReference(findings, step, id, [...path, 'field'], null, 'the field that is set');
  const compiled = compileWorkflow(findings.definition, findings.around.lists).formula(formula, 'anything');
  // What looks at something is known only when a request is there.
  if (!field || !compiled.ok || compiled.formula.uses.length > 0) return;
  const value = compiled.formula.run({ values: {}, call: () => null });
  const other = value === null ? null : wanted(findings, field, value);
  if (!other) return;
  const said = typeof value === 'string' ? value : JSON.stringify(value);
  const near = nearest(said, other.known ?? []);
  findings.add(
    'stops',
    'no such value',
    step,
    [...path, 'formula'],
    `“${field.label}” is never “${said}”`,
    other.words,
    near === undefined
      ? {}
      : { fix: { label: `Take “${near}”`, path: [...path, 'formula'], value: JSON.stringify(near) } },
  );
}
