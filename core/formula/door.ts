/** One formula worked out over plain values: the calculation door `formula`. */
import { z } from 'zod';
import { compile, type Names } from './compile.ts';
import { longestFormula } from './text/reader.ts';
import { atoms, type Type } from './type.ts';
import { typeNamed } from './typeNames.ts';
import type { Value } from './values/value.ts';

const Json: z.ZodType<Value> = z.lazy(() =>
  z.union([
    z.string().max(100_000),
    z.number(),
    z.boolean(),
    z.null(),
    z.array(Json).max(20_000),
    z.record(z.string(), Json),
  ]),
);

export const FormulaInput = z.object({
  formula: z.string().max(longestFormula),
  /** The kind of each name, in our words (`yes/no`, `text`) or in those of FEEL (`boolean`, `list<number>`). */
  names: z.record(z.string().min(1).max(200), z.string().min(1).max(1_000)).default({}),
  values: z.record(z.string().min(1).max(200), Json).default({}),
});
export type FormulaInput = z.infer<typeof FormulaInput>;

export type FormulaOutput = { value: Value } | { error: string; at: [from: number, to: number] | null };

const ours = new Set<string>(atoms);

function kindOf(name: string): Type | undefined {
  if (ours.has(name)) return name as Type;
  const named = typeNamed(name);
  return named === 'Null'
    ? 'anything'
    : named === 'duration'
      ? { either: ['days and time duration', 'years and months duration'] }
      : named;
}

/** The value of a formula, or what is wrong with it and where: `at` are offsets into its text, the end not included. */
export function worked({ formula, names, values }: FormulaInput): FormulaOutput {
  const types: Record<string, Type> = {};
  for (const [name, kind] of Object.entries(names)) {
    const type = kindOf(kind);
    if (!type) return { error: `There is no kind “${kind}”, as “${name}” is said to be.`, at: null };
    Object.defineProperty(types, name, { value: type, enumerable: true });
  }
  const compiled = compile(formula, types as Names);
  if (!compiled.ok) {
    const [{ message, from, to }] = compiled.problems;
    return { error: message, at: [from, to] };
  }
  const came = compiled.formula.attempt({ values, call: () => null });
  if ('value' in came) return came;
  return { error: 'This is more work than a formula may be.', at: [0, formula.length] };
}
