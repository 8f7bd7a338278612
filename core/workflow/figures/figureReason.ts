/** How a figure is worked out, as one sentence for whoever asks: never its formula. */
import { type Expression, readFormula } from '../../formula/index.ts';
import { amountWords } from '../../time/index.ts';
import type { Definition, Figure } from '../definition/definition.ts';
import { namesOf } from './evaluate.ts';

const comparators: Record<string, string> = {
  '<': 'below',
  '<=': 'at most',
  '>': 'over',
  '>=': 'at least',
  '=': '',
  '!=': 'not',
};

const operators: Record<string, string> = { '+': 'plus', '-': 'less', '*': 'times', '/': 'divided by' };

/** A column of a table is named as `Costs.Amount`. */
const nameWords = (name: string): string => {
  const [table, column] = name.split('.');
  return column === undefined ? `“${name}”` : `“${column}” in “${table}”`;
};

const calls: Partial<Record<string, (args: readonly string[]) => string>> = {
  sum: ([of]) => `the sum of ${of}`,
  count: ([of]) => `how many rows ${of} has`,
  min: args => `the least of ${args.join(' and ')}`,
  max: args => `the most of ${args.join(' and ')}`,
  abs: ([of]) => `${of} without its sign`,
  floor: ([of]) => `${of}, rounded down`,
  ceiling: ([of]) => `${of}, rounded up`,
  'days between': ([from, to]) => `the calendar days from ${from} to ${to}`,
  'add days': ([from, days]) => `the day ${days} calendar days after ${from}`,
  nights: ([of]) => `the nights of ${of}`,
  'leave days': ([of]) => `the days of leave in ${of}, by the own work pattern and holidays`,
  balance: ([type, day]) => `the balance of ${type} on ${day}`,
  'balance after': ([type, span]) => `the balance of ${type} after ${span}, with everything booked and asked for`,
  'others away': ([of]) => `how many others of the team are away in ${of}`,
  'cover left': ([of]) => `how many of the team are still here on the thinnest day of ${of}`,
  'working days between': ([from, to]) => `the working days from ${from} to ${to}`,
  'add working days': ([from, days]) => `the day ${days} working days after ${from}`,
  today: () => 'today',
  'paper due': ([type, span]) =>
    `the day from which a paper is due for ${span}, by the rules of ${type} and what is on file`,
  'days of notice': ([of]) => `the calendar days from today to the first day of ${of}`,
};

/** The table of which a condition says that it has no row. */
const emptyTable = (of: Expression): string | undefined =>
  of.kind === 'compare' &&
  of.comparator === '=' &&
  of.right.kind === 'number' &&
  of.right.value === 0 &&
  isCount(of.left)
    ? of.left.args[0].value.name
    : undefined;

type Count = Expression & { kind: 'call'; args: [{ value: { kind: 'name'; name: string } }] };
const isCount = (of: Expression): of is Count =>
  of.kind === 'call' && of.name === 'count' && of.args[0]?.value.kind === 'name';

/** What an expression says, or nothing when it has parts that read better as a formula. */
function words(of: Expression): string | undefined {
  switch (of.kind) {
    case 'number':
      return amountWords(of.value);
    case 'text':
      return `“${of.value}”`;
    case 'date':
      return of.value;
    case 'yes/no':
      return of.value ? 'yes' : 'no';
    case 'name':
      return nameWords(of.name);
    case 'arithmetic': {
      const [left, right] = [words(of.left), words(of.right)];
      const operator = operators[of.operator];
      return left && right && operator ? `${left} ${operator} ${right}` : undefined;
    }
    case 'compare': {
      const [left, right] = [words(of.left), words(of.right)];
      return left && right ? `${left} is ${comparators[of.comparator]} ${right}`.replace(/ {2}/, ' ') : undefined;
    }
    case 'and':
    case 'or': {
      const [left, right] = [words(of.left), words(of.right)];
      return left && right ? `${left} ${of.kind} ${right}` : undefined;
    }
    case 'if': {
      const table = emptyTable(of.condition);
      if (table && of.holds.kind === 'number') {
        const rest = words(of.otherwise);
        return rest && `${rest}; ${amountWords(of.holds.value)} while “${table}” has no row`;
      }
      const [condition, holds, otherwise] = [words(of.condition), words(of.holds), words(of.otherwise)];
      return condition && holds && otherwise ? `${holds} where ${condition}, otherwise ${otherwise}` : undefined;
    }
    case 'call': {
      const args = of.args.map(arg => words(arg.value)).filter(arg => arg !== undefined);
      return args.length === of.args.length ? calls[of.name]?.(args) : undefined;
    }
    default:
      return undefined;
  }
}

function namesIn(of: unknown, found = new Set<string>()): Set<string> {
  if (Array.isArray(of)) for (const one of of) namesIn(one, found);
  else if (of !== null && typeof of === 'object') {
    if ('kind' in of && of.kind === 'name' && 'name' in of) found.add(String(of.name));
    for (const value of Object.values(of)) namesIn(value, found);
  }
  return found;
}

/** `The sum of “Amount” in “Costs”.` */
export function figureReason(definition: Definition, figure: Pick<Figure, 'formula'>): string {
  const read = readFormula(figure.formula, namesOf(definition));
  if (!read.ok) return 'It cannot be worked out as it is written.';
  const said = words(read.tree);
  if (said) return `${said[0].toUpperCase()}${said.slice(1)}.`;
  const names = [...namesIn(read.tree)].map(nameWords);
  return names.length === 0 ? 'It is always the same.' : `Worked out from ${names.join(', ')}.`;
}
