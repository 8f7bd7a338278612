/** What a formula does, read from its tree: by what it divides, which words it compares with, which functions it calls. */
import type { Type } from '../type.ts';
import { readFormula } from './reader.ts';
import { type Expression, eachPart, type Place, partsOf } from './tree.ts';

function treeOf(source: string, names: Readonly<Record<string, Type>>): Expression | undefined {
  const reading = readFormula(source, names);
  return reading.ok ? reading.tree : undefined;
}

/** Names that a condition compares with something: whoever asks about them has thought of what they may be. */
function comparedIn(e: Expression): string[] {
  const own = e.kind === 'compare' ? [e.left, e.right].flatMap(side => (side.kind === 'name' ? [side.name] : [])) : [];
  return [...own, ...partsOf(e).flatMap(comparedIn)];
}

/** Names by which something is divided without a condition around it that asks about them. */
export function divisorsOf(source: string, names: Readonly<Record<string, Type>>): { name: string; place: Place }[] {
  const tree = treeOf(source, names);
  const found: { name: string; place: Place }[] = [];
  const visit = (e: Expression, asked: ReadonlySet<string>): void => {
    if (e.kind === 'arithmetic' && e.operator === '/' && e.right.kind === 'name' && !asked.has(e.right.name))
      found.push({ name: e.right.name, place: { from: e.right.from, to: e.right.to } });
    if (e.kind === 'if' || e.kind === 'and' || e.kind === 'or') {
      const condition = e.kind === 'if' ? e.condition : e.left;
      visit(condition, asked);
      const inside = new Set([...asked, ...comparedIn(condition)]);
      for (const part of partsOf(e)) if (part !== condition) visit(part, inside);
    } else for (const part of partsOf(e)) visit(part, asked);
  };
  if (tree) visit(tree, new Set());
  return found;
}

/** Names that are compared with fixed words, with the words and their place. */
export function wordsCompared(
  source: string,
  names: Readonly<Record<string, Type>>,
): { name: string; value: string; place: Place }[] {
  const tree = treeOf(source, names);
  const found: { name: string; value: string; place: Place }[] = [];
  const pair = (a: Expression, b: Expression) => {
    if (a.kind === 'name' && b.kind === 'text')
      found.push({ name: a.name, value: b.value, place: { from: b.from, to: b.to } });
  };
  const visit = (e: Expression): void => {
    if (e.kind === 'compare' && (e.comparator === '=' || e.comparator === '!=')) {
      pair(e.left, e.right);
      pair(e.right, e.left);
    }
    if (e.kind === 'in') for (const test of e.tests) if (test.kind === 'value') pair(e.of, test.value);
    for (const part of partsOf(e)) visit(part);
  };
  if (tree) visit(tree);
  return found;
}

/** Functions that are called, with the first of what they are given where that is a fixed text. */
export function callsIn(
  source: string,
  names: Readonly<Record<string, Type>>,
): { name: string; text: string | undefined; place: Place }[] {
  const tree = treeOf(source, names);
  const found: { name: string; text: string | undefined; place: Place }[] = [];
  if (tree)
    eachPart(tree, e => {
      if (e.kind !== 'call') return;
      const first = e.args[0]?.name === undefined ? e.args[0]?.value : undefined;
      found.push({ name: e.name, text: first?.kind === 'text' ? first.value : undefined, place: first ?? e.nameAt });
    });
  return found;
}
