/** Renaming a name everywhere in a formula, at its places and nowhere else. */
import { type Expression, type Place, readFormula } from './tree.ts';

/** Every place at which a formula names something, columns included. */
export function namePlaces(source: string, names: Iterable<string>): (Place & { name: string })[] {
  const reading = readFormula(source, names);
  if (!reading.ok) return [];
  const found: (Place & { name: string })[] = [];
  const visit = (e: Expression): void => {
    switch (e.kind) {
      case 'name':
        found.push({ from: e.from, to: e.to, name: e.name });
        return;
      case 'negate':
        return visit(e.of);
      case 'arithmetic':
      case 'compare':
      case 'and':
      case 'or':
        visit(e.left);
        return visit(e.right);
      case 'between':
        for (const part of [e.of, e.low, e.high]) visit(part);
        return;
      case 'in':
        visit(e.of);
        for (const test of e.tests) {
          if (test.kind === 'interval') {
            visit(test.low);
            visit(test.high);
          } else visit(test.value);
        }
        return;
      case 'if':
        for (const part of [e.condition, e.holds, e.otherwise]) visit(part);
        return;
      case 'call':
        for (const arg of e.args) visit(arg);
        return;
    }
  };
  visit(reading.tree);
  return found.sort((a, b) => a.from - b.from);
}

/** The formula with one name put for another; a formula that cannot be read stays as it is. */
export function renameIn(source: string, before: string, after: string, names: Iterable<string>): string {
  let text = source;
  for (const place of namePlaces(source, names).reverse()) {
    if (place.name === before) text = text.slice(0, place.from) + after + text.slice(place.to);
    else if (place.name.startsWith(`${before}.`))
      text = text.slice(0, place.from) + after + text.slice(place.from + before.length);
  }
  return text;
}
