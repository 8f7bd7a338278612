/** The functions that a formula may call: FEEL's own, worked out here, and the house's, which need facts about people. */
import { amountFunctions } from './amounts.ts';
import { dateFunctions } from './dates.ts';
import { houseFunctions, isHouseFunction } from './house.ts';
import { listFunctions } from './lists.ts';
import { numberFunctions } from './numbers.ts';
import { rangeFunctions } from './ranges.ts';
import { rowFunctions } from './rows.ts';
import type { BuiltIn, Parameter } from './signature.ts';
import { textFunctions } from './texts.ts';

/** The functions of each group, as the help of the editor lists them. */
export const functionGroups: readonly {
  readonly about: string;
  readonly functions: Readonly<Record<string, BuiltIn>>;
}[] = [
  { about: 'Numbers', functions: numberFunctions },
  { about: 'Texts', functions: textFunctions },
  { about: 'Dates, times and durations', functions: dateFunctions },
  { about: 'Lists and rows of a table', functions: listFunctions },
  { about: 'Ranges', functions: rangeFunctions },
  { about: 'Amounts of money', functions: amountFunctions },
  { about: 'Rows, and yes or no', functions: rowFunctions },
];

export const builtIns: Readonly<Record<string, BuiltIn>> = Object.assign({}, ...functionGroups.map(g => g.functions));

export type { HouseFunction } from './house.ts';
export { atText } from './ranges.ts';
export { type BuiltIn, type Form, guarded, type Parameter } from './signature.ts';
export { houseFunctions, isHouseFunction };

/** Every name of a function. */
export const functionNames: readonly string[] = [...Object.keys(builtIns), ...Object.keys(houseFunctions)];

export type FunctionHelp = {
  readonly name: string;
  readonly about: string;
  readonly help: string;
  /** A formula and what it gives; those of the house depend on whom it is about. */
  readonly example: readonly [formula: string, gives: string] | null;
};

/** Every function with what it is for, as the editor offers it: those of the house first. */
export const functionHelp: readonly FunctionHelp[] = [
  ...Object.entries(houseFunctions).map(([name, { help }]) => ({
    name,
    about: 'People, leave and working days',
    help,
    example: null,
  })),
  ...functionGroups.flatMap(({ about, functions }) =>
    Object.entries(functions).map(([name, { help, example }]) => ({ name, about, help, example })),
  ),
];

/** What a function takes in its first form, and what it is for; nothing when there is none of that name. */
export function signatureOf(name: string): { takes: readonly Parameter[]; help: string } | undefined {
  if (Object.hasOwn(builtIns, name)) return { takes: builtIns[name].forms[0].takes, help: builtIns[name].help };
  return isHouseFunction(name) ? houseFunctions[name] : undefined;
}
