/** Formulas of a workflow: the names they may use, compiled once a definition, worked out over a request. */
import {
  type Compiled,
  compile,
  type Formula,
  type Names,
  type Scope,
  type Type,
  type Value,
} from '../formula/index.ts';
import {
  amountOf,
  balanceAhead,
  daysOfNotice,
  isTimed,
  type LeaveBook,
  type LeaveSpan,
  leaveType,
  othersAway,
  statementOf,
} from '../leave/index.ts';
import type { PersonId } from '../people/index.ts';
import { type CivilDate, isCivilDate } from '../time/index.ts';
import type { Answers } from './answers.ts';
import type { Definition, Field } from './definition.ts';

const fieldType: Record<Field['kind'], Type> = {
  'leave span': 'leave span',
  choice: 'text',
  text: 'text',
  'long text': 'text',
  'yes/no': 'yes/no',
};

const figureType = { days: 'number', number: 'number', text: 'text', 'yes/no': 'yes/no' } as const;

/** Every name that a formula of the workflow may use, with its type. Figures see only the figures before them. */
export function namesOf(definition: Definition, beforeFigure = definition.figures.length): Names {
  const names: Record<string, Type> = {};
  for (const field of definition.form.fields) names[field.label] = fieldType[field.kind];
  for (const figure of definition.figures.slice(0, beforeFigure)) names[figure.name] = figureType[figure.unit];
  return names;
}

export type CompiledFigure = { id: string; name: string; compiled: Compiled };
export type CompiledWorkflow = {
  readonly figures: readonly CompiledFigure[];
  readonly condition: (source: string) => Compiled;
};

const compiledBefore = new WeakMap<Definition, CompiledWorkflow>();

/** Compiles the formulas of a definition, once for as long as the definition lives. */
export function compileWorkflow(definition: Definition): CompiledWorkflow {
  const known = compiledBefore.get(definition);
  if (known) return known;
  const names = namesOf(definition);
  const conditions = new Map<string, Compiled>();
  const workflow: CompiledWorkflow = {
    figures: definition.figures.map((figure, i) => ({
      id: figure.id,
      name: figure.name,
      compiled: compile(figure.formula, namesOf(definition, i), figureType[figure.unit]),
    })),
    condition(source) {
      let compiled = conditions.get(source);
      if (!compiled) {
        compiled = compile(source, names, 'yes/no');
        conditions.set(source, compiled);
      }
      return compiled;
    },
  };
  compiledBefore.set(definition, workflow);
  return workflow;
}

/** The leave type that a request is about: the answer of the field that its Record step names. */
export function leaveTypeAnswer(definition: Definition, answers: Answers): string | undefined {
  for (const step of definition.steps) {
    if (step.verb !== 'Record') continue;
    const answer = answers[step.effect.type];
    if (typeof answer === 'string') return answer;
  }
  return undefined;
}

const isSpan = (value: Value): value is LeaveSpan => typeof value === 'object' && value !== null && 'from' in value;

/** The house's functions over the leave book, for one asker and one request. */
function houseCalls(definition: Definition, answers: Answers, book: LeaveBook, asker: PersonId, request?: string) {
  const asked = leaveTypeAnswer(definition, answers);
  const typeNamed = (name: Value) => (typeof name === 'string' ? leaveType(book, name) : undefined);
  return (name: string, args: Value[]): Value => {
    const [first, second] = args;
    switch (name) {
      case 'leave days': {
        const type = typeNamed(asked ?? book.types[0]?.id ?? null);
        if (!type || !isSpan(first)) return null;
        const amount = amountOf(book, asker, type, first);
        if (!amount) return null;
        return amount.unit === 'days' ? amount.amount : amount.minutes / type.dayMinutes;
      }
      case 'balance': {
        const type = typeNamed(first);
        if (!type || typeof second !== 'string' || !isCivilDate(second)) return null;
        return statementOf(book, asker, type, second as CivilDate)?.balance ?? null;
      }
      case 'balance after': {
        const type = typeNamed(first);
        if (!type || !isSpan(second)) return null;
        if (type.takesFrom === 'nothing') return 0;
        return balanceAhead(book, asker, type, second, request)?.after ?? null;
      }
      case 'others away':
        return isSpan(first) ? othersAway(book, asker, first).length : null;
      case 'days of notice':
        return isSpan(first) ? daysOfNotice(book, first) : null;
      default:
        return null;
    }
  };
}

export type FigureValues = Readonly<Record<string, Value>>;

/** The values that formulas see, and the figures worked out from them; a figure that fails to compile is unknown. */
export function evaluateFigures(
  definition: Definition,
  answers: Answers,
  book: LeaveBook,
  asker: PersonId,
  request?: string,
): { scope: Scope; figures: FigureValues } {
  const values: Record<string, Value> = {};
  for (const field of definition.form.fields) {
    const answer = answers[field.id] ?? null;
    const named = field.kind === 'choice' && field.options === 'leave types' && typeof answer === 'string';
    values[field.label] = named ? (leaveType(book, answer)?.name ?? answer) : answer;
  }
  const scope: Scope = { values, call: houseCalls(definition, answers, book, asker, request) };
  const figures: Record<string, Value> = {};
  for (const figure of compileWorkflow(definition).figures) {
    const value = figure.compiled.ok ? figure.compiled.formula.run(scope) : null;
    figures[figure.id] = value;
    values[figure.name] = value;
  }
  return { scope, figures };
}

export type Verdict = { known: true; holds: boolean; because: string } | { known: false; because: string };

const said = (value: Value): string => {
  if (value === null) return 'not known';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (isSpan(value)) return `${value.from.date} to ${value.to.date}${isTimed(value) ? ' with times' : ''}`;
  return String(value);
};

const inputsWords = (formula: Formula, scope: Scope): string =>
  formula.uses.map(name => `${name} is ${said(scope.values[name] ?? null)}`).join(', ');

/** Whether a condition holds for a request, and the values that it looked at. */
export function judge(definition: Definition, source: string, scope: Scope): Verdict {
  const compiled = compileWorkflow(definition).condition(source);
  if (!compiled.ok) return { known: false, because: `“${source}” cannot be read: ${compiled.problems[0].message}` };
  const value = compiled.formula.run(scope);
  const inputs = inputsWords(compiled.formula, scope);
  if (typeof value !== 'boolean') return { known: false, because: `“${source}” has no answer: ${inputs}` };
  return { known: true, holds: value, because: inputs };
}
