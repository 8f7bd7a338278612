/** Renaming a name everywhere in a formula, at its places and nowhere else. */
import type { Type } from '../type.ts';
import { readFormula } from './reader.ts';
import { type Expression, namesBoundIn, type Place, partsOf } from './tree.ts';

/** Every place at which a formula names something that is not its own, columns included. */
export function namePlaces(source: string, names: Readonly<Record<string, Type>>): (Place & { name: string })[] {
  const reading = readFormula(source, names);
  if (!reading.ok) return [];
  const found: (Place & { name: string })[] = [];
  const visit = (e: Expression, own: ReadonlySet<string>): void => {
    if (e.kind === 'name' && !own.has(e.name)) found.push({ from: e.from, to: e.to, name: e.name });
    // What stands after a dot is named too: a column of rows that a loop goes through.
    if (e.kind === 'path' && e.of.kind === 'name' && !own.has(e.of.name))
      found.push({ from: e.from, to: e.to, name: `${e.of.name}.${e.name}` });
    else {
      const bound = namesBoundIn(e);
      const inside = bound.length === 0 ? own : new Set([...own, ...bound]);
      for (const part of partsOf(e)) visit(part, inside);
    }
  };
  visit(reading.tree, new Set());
  return found.sort((a, b) => a.from - b.from);
}

/** The formula with one name put for another; a formula that cannot be read stays as it is. */
export function renameIn(source: string, before: string, after: string, names: Readonly<Record<string, Type>>): string {
  let text = source;
  for (const place of namePlaces(source, names).reverse()) {
    if (place.name === before) text = text.slice(0, place.from) + after + text.slice(place.to);
    else if (place.name.startsWith(`${before}.`))
      text = text.slice(0, place.from) + after + text.slice(place.from + before.length);
  }
  return text;
}
