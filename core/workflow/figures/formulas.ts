/** Every formula of a definition with its place, and what is known of the values that they look at. */
import type { Domain, Type } from '../../formula/index.ts';
import { type Definition, type Step, shapeOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { structure } from '../definition/structure.ts';
import { namesOf, unitType } from './evaluate.ts';

/** A formula of a definition, where it stands, and what it must give. */
export type Placement = { source: string; path: Path; step: Step | null; wanted: Type; figure?: number };

/** Every formula of a definition with its place. */
export function formulasOf(definition: Definition): Placement[] {
  const found: Placement[] = [];
  const add = (
    source: string | null | undefined,
    wanted: Type,
    path: Path,
    step: Step | null = null,
    figure?: number,
  ) => {
    if (source !== null && source !== undefined)
      found.push({ source, wanted, path, step, ...(figure === undefined ? {} : { figure }) });
  };
  definition.form.fields.forEach((field, i) => {
    const at: Path = ['form', 'fields', i];
    add(field.shownWhen, 'yes/no', [...at, 'shownWhen']);
    add(field.neededWhen, 'yes/no', [...at, 'neededWhen']);
    if (field.start?.from === 'formula') add(field.start.formula, 'anything', [...at, 'start', 'formula']);
    field.checks?.forEach((check, n) => add(check.formula, 'yes/no', [...at, 'checks', n, 'formula']));
  });
  definition.figures.forEach((figure, i) =>
    add(figure.formula, unitType[figure.unit], ['figures', i, 'formula'], null, i),
  );
  for (const { step, path } of structure(definition).all) {
    if ('when' in step) add(step.when, 'yes/no', [...path, 'when'], step);
    for (const placed of shapeOf(step).formulas(step))
      add(placed.formula, placed.wanted, [...path, ...placed.path], step);
  }
  return found;
}

/** What is known of the values of names: whole numbers are told from others. */
export function domainOf(definition: Definition, names = namesOf(definition)): Domain {
  const whole = new Set(definition.form.fields.filter(f => f.kind === 'whole number').map(f => f.label));
  for (const figure of definition.figures) {
    if (
      /^\s*(count|others away|cover left|days of notice|nights|working days between|days between)\s*\([^()]*\)\s*$/.test(
        figure.formula,
      )
    )
      whole.add(figure.name);
  }
  return { names, whole };
}
