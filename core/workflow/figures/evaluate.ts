/** Formulas of a workflow: the names they may use, compiled once a definition, worked out over a request. */
import { type Answers, moduleOf, placesAsList, postsAsList, type ReferenceList } from '../../form/index.ts';
import {
  type Compiled,
  compile,
  type Formula,
  Meter,
  mostStepsTogether,
  type Names,
  type Scope,
  type Type,
  type Value,
} from '../../formula/index.ts';
import {
  amountOf,
  awayDays,
  daysOf,
  daysOfNotice,
  evidenceDue,
  type LeaveBook,
  LeaveSpan,
  leaveType,
  othersAway,
  spanEffect,
  statementOf,
  typeOn,
} from '../../leave/index.ts';
import {
  type DirectoryIndex,
  mainPost,
  managerOf,
  type PersonId,
  recordOn,
  teamOf,
  workingTimeOf,
} from '../../people/index.ts';
import {
  type CivilDate,
  type DayNumber,
  fromDay,
  isCivilDate,
  toDay,
  workingDayFrom,
  workingDaysBetween,
} from '../../time/index.ts';
import type { Definition, Figure, Unit } from '../definition/definition.ts';
import { allSteps } from '../definition/structure.ts';
import type { FormulaReason, Inputs } from './formulaReason.ts';
import { inCurrency, rowOf } from './listRows.ts';

export const unitType: Record<Unit, Type> = {
  days: 'number',
  hours: 'number',
  money: 'money',
  number: 'number',
  date: 'date',
  text: 'text',
  'yes/no': 'yes/no',
};

/** What every workflow may name without asking for it. */
export const standingNames = {
  Asker: 'person',
  Subject: 'person',
  'Asker post': 'text',
  'Asker place': 'text',
  'Asker department': 'text',
  'Asker grade': 'number',
} as const satisfies Names;

/** Every name that a formula of the workflow may use, with its type. Figures see only the figures before them. */
export function namesOf(
  definition: Definition,
  lists: readonly ReferenceList[] = [],
  beforeFigure = definition.figures.length,
): Names {
  const names: Record<string, Type> = { ...standingNames };
  for (const field of definition.form.fields) {
    const { asksNothing, type, typeOf, parts } = moduleOf(field.kind);
    if (asksNothing) continue;
    names[field.label] = typeOf ? typeOf(field) : type;
    for (const [part, of] of Object.entries(parts?.(field, lists) ?? {})) names[`${field.label}.${part}`] = of;
  }
  for (const figure of definition.figures.slice(0, beforeFigure)) names[figure.name] = unitType[figure.unit];
  return names;
}

export type CompiledFigure = { id: string; name: string; compiled: Compiled };
export type CompiledWorkflow = {
  readonly figures: readonly CompiledFigure[];
  readonly names: Names;
  readonly formula: (source: string, wanted: Type) => Compiled;
};

type Kept = { lists: readonly ReferenceList[]; workflow: CompiledWorkflow };
/** The last few, the newest first: some ask with the posts and places among the lists and some without, in turns. */
const compiledBefore = new WeakMap<Definition, Kept[]>();
const mostKept = 4;

const sameColumns = (a: readonly ReferenceList[], b: readonly ReferenceList[]): boolean =>
  a === b || (a.length === b.length && a.every((list, i) => list.id === b[i].id && list.columns === b[i].columns));

/** Compiles the formulas of a definition, once for as long as the definition lives. */
export function compileWorkflow(definition: Definition, lists: readonly ReferenceList[] = []): CompiledWorkflow {
  const before = compiledBefore.get(definition) ?? [];
  const known = before.find(one => sameColumns(one.lists, lists));
  if (known) return known.workflow;
  const names = namesOf(definition, lists);
  const formulas = new Map<string, Compiled>();
  const workflow: CompiledWorkflow = {
    names,
    figures: definition.figures.map((figure, i) => ({
      id: figure.id,
      name: figure.name,
      compiled: compile(figure.formula, namesOf(definition, lists, i), unitType[figure.unit]),
    })),
    formula(source, wanted) {
      const key = `${wanted}:${source}`;
      let compiled = formulas.get(key);
      if (!compiled) {
        compiled = compile(source, names, wanted);
        formulas.set(key, compiled);
      }
      return compiled;
    },
  };
  compiledBefore.set(definition, [{ lists, workflow }, ...before].slice(0, mostKept));
  return workflow;
}

/** What formulas look at besides the answers. */
export type Facts = {
  readonly book: LeaveBook;
  readonly asker: PersonId;
  /** Whose leave, team and calendar are meant; the asker as a rule. */
  readonly subject?: PersonId | null;
  readonly request?: string;
  readonly lists?: readonly ReferenceList[];
  /** The time that it is, where that is known. */
  readonly now?: string;
};

const standing = new WeakMap<DirectoryIndex, readonly ReferenceList[]>();
const withPostsBefore = new WeakMap<
  readonly ReferenceList[],
  { index: DirectoryIndex; all: readonly ReferenceList[] }
>();
const noLists: readonly ReferenceList[] = [];

/** The reference lists of the house with its posts and places among them. */
export function withPosts(index: DirectoryIndex, lists: readonly ReferenceList[] = noLists): readonly ReferenceList[] {
  const known = withPostsBefore.get(lists);
  if (known?.index === index) return known.all;
  let own = standing.get(index);
  if (!own) {
    own = [postsAsList(index), placesAsList(index)];
    standing.set(index, own);
  }
  const all = [...own, ...lists];
  withPostsBefore.set(lists, { index, all });
  return all;
}

/** The leave type that a request is about: the answer of the field that its Record step names. */
export function leaveTypeAnswer(definition: Definition, answers: Answers): string | undefined {
  for (const step of allSteps(definition)) {
    if (step.verb !== 'Record' || step.effect.kind !== 'book leave') continue;
    const answer = answers[step.effect.type];
    if (typeof answer === 'string') return answer;
  }
  return undefined;
}

export const isBalanceFigure = (figure: Pick<Figure, 'formula'>): boolean =>
  figure.formula.startsWith('balance after(');

/** Figures that say something of these answers: no balance where the leave takes from none. */
export function figuresToTell(
  definition: Definition,
  answers: Answers,
  takesFromNone: (leaveType: string) => boolean,
): Figure[] {
  const type = leaveTypeAnswer(definition, answers);
  if (type === undefined || !takesFromNone(type)) return [...definition.figures];
  return definition.figures.filter(figure => !isBalanceFigure(figure));
}

/** The farthest that days are counted over: longer ago and later nothing is known. */
const farthestDays = 3660;

/** A span that can be counted. */
const isSpan = (value: Value): value is LeaveSpan =>
  typeof value === 'object' &&
  value !== null &&
  'from' in value &&
  LeaveSpan.safeParse(value).success &&
  daysOf(value as LeaveSpan) <= farthestDays;

const isFar = (a: CivilDate, b: CivilDate): boolean => Math.abs(toDay(a) - toDay(b)) > 2 * farthestDays;

const isDate = (value: Value): value is CivilDate => typeof value === 'string' && isCivilDate(value);

/** The fewest people of the team who are here on a day of the span, the person not counted. */
function coverLeft(book: LeaveBook, id: PersonId, span: LeaveSpan): number {
  const others = teamOf(book.index, id, span.from.date as CivilDate).filter(p => p.id !== id);
  const away = new Map<DayNumber, number>();
  for (const other of others) for (const day of awayDays(book, other.id, span)) away.set(day, (away.get(day) ?? 0) + 1);
  return others.length - Math.max(0, ...away.values());
}

/** The house's functions over the leave book, for one subject and one request. */
function houseCalls(definition: Definition, answers: Answers, facts: Facts) {
  const { book, request } = facts;
  const subject = facts.subject ?? facts.asker;
  const asked = leaveTypeAnswer(definition, answers);
  const typeNamed = (name: Value) => (typeof name === 'string' ? leaveType(book, name) : undefined);
  const time = () => {
    const person = book.index.person(facts.asker);
    const day = toDay(book.today);
    return person && workingTimeOf(book.index, person, { first: day, last: day - 1 });
  };
  return (name: string, args: Value[]): Value => {
    const [first, second] = args;
    switch (name) {
      case 'leave days': {
        const type = typeNamed(asked ?? book.types[0]?.id ?? null);
        if (!type || !isSpan(first)) return null;
        return amountOf(book, subject, type, first)?.days ?? null;
      }
      case 'balance': {
        const type = typeNamed(first);
        if (!type || !isDate(second) || isFar(second, book.today)) return null;
        return statementOf(book, subject, type, second)?.balance ?? null;
      }
      case 'balance after': {
        const type = typeNamed(first);
        if (!type || !isSpan(second)) return null;
        if (typeOn(type, second.from.date).takesFrom === 'nothing') return 0;
        return spanEffect(book, subject, type, second, request)?.after ?? null;
      }
      case 'others away':
        return isSpan(first) ? othersAway(book, subject, first).length : null;
      case 'cover left':
        return isSpan(first) ? coverLeft(book, subject, first) : null;
      case 'paper due': {
        const type = typeNamed(first);
        return type && isSpan(second) ? (evidenceDue(type, second, book.index.person(subject))?.on ?? null) : null;
      }
      case 'days of notice':
        return isSpan(first) ? daysOfNotice(book, first) : null;
      case 'row of': {
        const { index } = book;
        return typeof first === 'string' && typeof second === 'string'
          ? rowOf(withPosts(index, facts.lists), first, second, book.today)
          : null;
      }
      case 'in currency':
        return inCurrency(withPosts(book.index, facts.lists), first, second, args[2]);
      case 'today':
        return book.today;
      case 'now':
        return facts.now ?? null;
      case 'working days between': {
        const working = time();
        return working && isDate(first) && isDate(second) && !isFar(first, second)
          ? workingDaysBetween(working, toDay(first), toDay(second))
          : null;
      }
      case 'add working days': {
        const working = time();
        if (!working || !isDate(first) || typeof second !== 'number' || !Number.isInteger(second)) return null;
        if (Math.abs(second) > farthestDays) return null;
        if (second === 0) return first;
        const day = workingDayFrom(working, toDay(first), -second);
        return day === undefined ? null : fromDay(day);
      }
      case 'manager': {
        if (typeof first !== 'string' || typeof second !== 'number' || !Number.isInteger(second) || second < 1)
          return null;
        const found = managerOf(book.index, first as PersonId, book.today, second);
        return 'gap' in found ? null : found.person.id;
      }
      default:
        return null;
    }
  };
}

export type FigureValues = Readonly<Record<string, Value>>;

/** The answers as formulas see them, by name. */
function namedValues(definition: Definition, answers: Answers, facts: Facts): Record<string, Value> {
  const { book, lists = [] } = facts;
  const person = book.index.person(facts.asker);
  const record = person && recordOn(person, book.today);
  const values: Record<string, Value> = {
    Asker: facts.asker,
    Subject: facts.subject ?? facts.asker,
    'Asker post': mainPost(book.index, facts.asker, book.today)?.title ?? null,
    'Asker place': (record && book.index.place(record.place)?.name) ?? null,
    'Asker grade': mainPost(book.index, facts.asker, book.today)?.grade ?? null,
    'Asker department': (record && book.index.department(record.department)?.name) ?? null,
  };
  const seen = { lists, leaveType: (id: string) => leaveType(book, id)?.name };
  for (const field of definition.form.fields) {
    const answer = answers[field.id] ?? null;
    const { value, partValues } = moduleOf(field.kind);
    values[field.label] = value ? value(field, answer, seen) : answer;
    for (const [part, of] of Object.entries(partValues?.(field, answer, lists) ?? {}))
      values[`${field.label}.${part}`] = of;
  }
  return values;
}

type Worked = { scope: Scope; figures: FigureValues };
const workedBefore = new WeakMap<Answers, { definition: Definition; facts: Facts; worked: Worked }>();

/** Whether nothing that a formula may look at is another one; a book is not looked into, since looking may read it. */
const sameFacts = (a: Facts, b: Facts): boolean =>
  a.asker === b.asker && a.subject === b.subject && a.request === b.request && a.lists === b.lists && a.book === b.book;

/**
 * The values that formulas see, and the figures worked out from them; a figure that fails to compile is unknown.
 * Neither answers nor facts ever change, so that what was worked out from the same ones is true still.
 */
export function evaluateFigures(definition: Definition, answers: Answers, facts: Facts): Worked {
  const before = workedBefore.get(answers);
  if (before?.definition === definition && sameFacts(before.facts, facts)) return before.worked;
  const worked = work(definition, answers, facts);
  workedBefore.set(answers, { definition, facts, worked });
  return worked;
}

function work(definition: Definition, answers: Answers, facts: Facts): Worked {
  const values = namedValues(definition, answers, facts);
  const together = new Meter(undefined, mostStepsTogether);
  const scope: Scope = { values, call: houseCalls(definition, answers, facts), together };
  const figures: Record<string, Value> = {};
  for (const figure of compileWorkflow(definition, facts.lists).figures) {
    const value = figure.compiled.ok ? figure.compiled.formula.run(scope) : null;
    figures[figure.id] = value;
    values[figure.name] = value;
  }
  return { scope, figures };
}

/** The value of any formula of the workflow, or why it has none. */
export function workOut(
  definition: Definition,
  source: string,
  wanted: Type,
  scope: Scope,
  lists?: readonly ReferenceList[],
): { known: true; value: Value } | { known: false; because: FormulaReason } {
  const compiled = compileWorkflow(definition, lists).formula(source, wanted);
  if (!compiled.ok) return { known: false, because: { code: 'formula not read', formula: source } };
  const value = compiled.formula.run(scope);
  if (value !== null) return { known: true, value };
  const inputs = inputsOf(compiled.formula, scope);
  return { known: false, because: { code: 'formula has no value', formula: source, inputs } };
}

export type Verdict = { known: true; holds: boolean; inputs: Inputs } | { known: false; because: FormulaReason };

const inputsOf = (formula: Formula, scope: Scope): Inputs =>
  formula.uses.map(name => ({ name, value: scope.values[name] ?? null }));

/** Whether a condition holds for a request, and the values that it looked at. */
export function judge(definition: Definition, source: string, scope: Scope, lists?: readonly ReferenceList[]): Verdict {
  const compiled = compileWorkflow(definition, lists).formula(source, 'yes/no');
  if (!compiled.ok) return { known: false, because: { code: 'formula not read', formula: source } };
  const value = compiled.formula.run(scope);
  const inputs = inputsOf(compiled.formula, scope);
  if (typeof value === 'boolean') return { known: true, holds: value, inputs };
  return { known: false, because: { code: 'condition has no answer', formula: source, inputs } };
}
