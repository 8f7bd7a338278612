/** Conditions that can be built without typing: comparisons of a name with a fixed value, joined by “and”. */
import type { Type } from '../type.ts';
import { readFormula } from './reader.ts';
import type { Comparator, Expression, Place } from './tree.ts';

export type SimpleComparison = {
  name: Place & { text: string };
  comparator: Comparator;
  /** The fixed value and its place, so that it can be changed in the formula's text. */
  value: Place & { kind: 'number' | 'text' | 'date' | 'yes/no'; text: string };
};

const turned: Record<Comparator, Comparator> = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '=': '=', '!=': '!=' };

function flatten(e: Expression): Expression[] {
  return e.kind === 'and' ? [...flatten(e.left), ...flatten(e.right)] : [e];
}

const isFixed = (e: Expression): e is Extract<Expression, { kind: 'number' | 'text' | 'date' | 'yes/no' }> =>
  e.kind === 'number' || e.kind === 'text' || e.kind === 'date' || e.kind === 'yes/no';

/** The comparisons of a condition in their order, or nothing when it is more than that. */
export function simpleComparisons(
  source: string,
  names: Readonly<Record<string, Type>>,
): SimpleComparison[] | undefined {
  const reading = readFormula(source, names);
  if (!reading.ok) return undefined;
  const found: SimpleComparison[] = [];
  for (const part of flatten(reading.tree)) {
    if (part.kind !== 'compare') return undefined;
    const [name, value] = part.left.kind === 'name' ? [part.left, part.right] : [part.right, part.left];
    const negative = value.kind === 'negate' && value.of.kind === 'number';
    if (name.kind !== 'name' || (!isFixed(value) && !negative)) return undefined;
    const number = negative ? -(value.of as Extract<Expression, { kind: 'number' }>).value : undefined;
    found.push({
      name: { from: name.from, to: name.to, text: name.name },
      comparator: name === part.left ? part.comparator : turned[part.comparator],
      value: {
        from: value.from,
        to: value.to,
        kind: isFixed(value) ? value.kind : 'number',
        text: isFixed(value) ? String(value.value) : String(number),
      },
    });
  }
  return found;
}

/** The formula with the text between two places replaced. */
export const replaceIn = (source: string, place: Place, text: string): string =>
  source.slice(0, place.from) + text + source.slice(place.to);
