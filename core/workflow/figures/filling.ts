/** Filling in a form at a step: what is seen and may be changed there, what stands in it before, and whether it is right. */
import {
  type AccessLevel,
  type Answer,
  type Answers,
  accessAt,
  asAnswer,
  type Change,
  changesBetween,
  type Field,
  type FieldFault,
  type HouseLists,
  isEmptyAnswer,
  isAsked as isGiven,
  type KnownFact,
  listById,
  mayChange,
  readAnswers,
  rowById,
  sameAnswer,
} from '../../form/index.ts';
import type { Scope } from '../../formula/index.ts';
import { mainPost, managerOf, recordOn } from '../../people/index.ts';
import type { Definition } from '../definition/definition.ts';
import { guestStepsOf } from '../definition/guests.ts';
import { evaluateFigures, type Facts, type FigureValues, judge, workOut } from './evaluate.ts';
import { formulaWords } from './formulaReason.ts';

export const isAsk = (definition: Definition, step: string): boolean => definition.steps[0].id === step;

/**
 * What one reader may do with a field at a step, leaving aside whether it is shown for these answers. What a guest fills in
 * is seen by whoever looks after that, and by nobody else unless it is said.
 */
export function levelAt(definition: Definition, step: string, field: Field): AccessLevel {
  const guests = guestStepsOf(definition, field);
  if (guests.length > 0 && definition.access?.[step]?.[field.id] === undefined)
    return guests.includes(step) ? 'shown' : 'hidden';
  return accessAt(definition.access, step, isAsk(definition, step), field);
}

/** The fields that the asker may fill in when asking, whatever else is answered: not those of guests and of later steps. */
export const askersFields = (definition: Definition): Field[] =>
  definition.form.fields.filter(field => {
    const level = levelAt(definition, definition.steps[0].id, field);
    return isGiven(field) && (level === 'editable' || level === 'required');
  });

/** Whether a field is asked of these people with these answers. A condition without an answer shows the field. */
export function isAsked(definition: Definition, field: Field, scope: Scope, facts: Facts): boolean {
  if (field.places) {
    const person = facts.book.index.person(facts.subject ?? facts.asker);
    const place = person && recordOn(person, facts.book.today).place;
    if (!place || !field.places.includes(place)) return false;
  }
  if (!field.shownWhen) return true;
  const verdict = judge(definition, field.shownWhen, scope, facts.lists);
  return !verdict.known || verdict.holds;
}

/** Whether a field is needed with these answers, though it is not always. */
export function isNeeded(definition: Definition, field: Field, scope: Scope, facts: Facts): boolean {
  if (!field.neededWhen) return false;
  const verdict = judge(definition, field.neededWhen, scope, facts.lists);
  return verdict.known && verdict.holds;
}

/** The fields that stand on the form at a step for these answers, in order, with what may be done with each. */
export function fieldsAt(
  definition: Definition,
  step: string,
  answers: Answers,
  facts: Facts,
): { field: Field; level: AccessLevel }[] {
  const { scope } = evaluateFigures(definition, answers, facts);
  return definition.form.fields
    .map(field => ({ field, level: levelAt(definition, step, field) }))
    .filter(({ field, level }) => level !== 'hidden' && isAsked(definition, field, scope, facts));
}

const nothingKnown: Scope = { values: {}, call: () => null };

export type FilledIn = { answers: Answers; figures: FigureValues; scope: Scope; changes: Change[] };

/**
 * Reads what somebody filled in at a step over the answers so far.
 * @param only when set, just these fields may change, whatever the access at the step says
 */
export function fillIn(
  definition: Definition,
  step: string,
  before: Answers,
  input: unknown,
  facts: Facts,
  house: HouseLists,
  only?: readonly string[],
): { ok: true; filled: FilledIn } | { ok: false; faults: FieldFault[]; barred: readonly string[]; filled: FilledIn } {
  const asking = !only && isAsk(definition, step);
  const level = (field: Field): AccessLevel => {
    if (!only) return levelAt(definition, step, field);
    if (!only.includes(field.id)) return 'shown';
    return field.required ? 'required' : 'editable';
  };
  const given = typeof input === 'object' && input !== null && !Array.isArray(input) ? (input as Answers) : {};
  const open = definition.form.fields.filter(f => mayChange(level(f)));
  const merged: Record<string, unknown> = { ...before };
  for (const field of open) if (field.id in given || asking) merged[field.id] = given[field.id] ?? null;
  const unknown = Object.keys(given).filter(id => !definition.form.fields.some(f => f.id === id));
  for (const id of unknown) merged[id] = given[id];
  const isOpen = new Set(open.map(f => f.id));
  const need = (scope: Scope) => (field: Field) => {
    const asked = isAsked(definition, field, scope, facts);
    // What was answered before stays, also where it is only shown.
    if (!isOpen.has(field.id)) return asking ? ('not asked' as const) : ('may' as const);
    if (!asked) return 'not asked' as const;
    return level(field) === 'required' || isNeeded(definition, field, scope, facts)
      ? ('needed' as const)
      : ('may' as const);
  };
  // Figures are dear; they are looked at here only where they decide whether a field is asked.
  const conditional = definition.form.fields.some(f => f.shownWhen !== undefined || f.neededWhen !== undefined);
  const rough = conditional
    ? evaluateFigures(definition, readAnswers(definition.form, merged, house, () => 'may').answers, facts).scope
    : nothingKnown;
  const read = readAnswers(definition.form, merged, house, need(rough));
  const faults = read.ok ? [] : read.faults.filter(f => isOpen.has(f.field) || unknown.includes(f.field));
  const kept: Record<string, Answer> = { ...read.answers };
  for (const field of definition.form.fields) {
    if (!isOpen.has(field.id) && !asking) kept[field.id] = before[field.id] ?? null;
  }
  /** Fields that were changed and are not open. */
  const barred: string[] = [];
  let asGiven: ReturnType<typeof readAnswers> | undefined;
  for (const id of Object.keys(given)) {
    const field = definition.form.fields.find(f => f.id === id);
    if (!field || isOpen.has(id) || isEmptyAnswer(given[id])) continue;
    // Compared as it was read: the order in which parts were written makes no difference.
    asGiven ??= readAnswers(definition.form, { ...before, ...given }, house, () => 'may');
    if (sameAnswer(asGiven.answers[id], before[id])) continue;
    barred.push(id);
    faults.push({ field: id, message: 'This may not be changed now.' });
  }
  const { figures, scope } = evaluateFigures(definition, kept, facts);
  for (const field of open) {
    if (isEmptyAnswer(kept[field.id])) continue;
    for (const check of field.checks ?? []) {
      const verdict = judge(definition, check.formula, scope, facts.lists);
      if (verdict.known && !verdict.holds) faults.push({ field: field.id, message: check.message });
      if (!verdict.known)
        faults.push({ field: field.id, message: `This cannot be checked: ${formulaWords(verdict.because)}.` });
    }
  }
  const filled = { answers: kept, figures, scope, changes: changesBetween(definition.form, before, kept) };
  return faults.length > 0 ? { ok: false, faults, barred, filled } : { ok: true, filled };
}

function knownFact(fact: KnownFact, field: Field, facts: Facts): Answer {
  const { book } = facts;
  const id = facts.subject ?? facts.asker;
  const person = book.index.person(id);
  if (!person) return null;
  const record = recordOn(person, book.today);
  switch (fact) {
    case 'name':
      return field.kind === 'person' ? id : person.name;
    case 'mail':
      return person.mail;
    case 'post': {
      const post = mainPost(book.index, id, book.today);
      return (field.kind === 'pick' ? post?.id : post?.title) ?? null;
    }
    case 'manager': {
      const found = managerOf(book.index, id, book.today, 1);
      if ('gap' in found) return null;
      return field.kind === 'person' ? found.person.id : found.person.name;
    }
    case 'department':
      return book.index.department(record.department)?.name ?? null;
    case 'place':
      return book.index.place(record.place)?.name ?? null;
  }
}

/** What stands in a field before anybody types, given the other answers. */
export function startOf(definition: Definition, field: Field, answers: Answers, facts: Facts): Answer {
  const { start } = field;
  if (!start) return null;
  switch (start.from) {
    case 'fixed':
      return start.value;
    case 'known':
      return knownFact(start.fact, field, facts);
    case 'formula': {
      const { scope } = evaluateFigures(definition, answers, facts);
      const worked = workOut(definition, start.formula, 'anything', scope, facts.lists);
      return worked.known ? asAnswer(field, worked.value) : null;
    }
    case 'picked': {
      const from = definition.form.fields.find(f => f.id === start.field);
      const picked = answers[start.field];
      if (from?.kind === 'pick') {
        const list = listById(facts.lists ?? [], from.list);
        const value = rowById(list, picked)?.cells[start.column] ?? null;
        if (field.kind !== 'person' || typeof value !== 'string') return value;
        return facts.book.index.directory.people.find(p => p.id === value || p.name === value)?.id ?? null;
      }
      if (from?.kind === 'person' && typeof picked === 'string') {
        const person = { ...facts, asker: picked as Facts['asker'], subject: null };
        return knownFact(start.column as KnownFact, field, person);
      }
      return null;
    }
  }
}

/** The answers with everything that stands in untouched fields before anybody types. */
export function withStarts(
  definition: Definition,
  answers: Answers,
  facts: Facts,
  touched: ReadonlySet<string> = new Set(),
): Answers {
  let filled: Record<string, Answer> = { ...answers };
  for (const field of definition.form.fields) {
    if (!field.start || touched.has(field.id)) continue;
    filled = { ...filled, [field.id]: startOf(definition, field, filled, facts) };
  }
  return filled;
}
