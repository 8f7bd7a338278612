/**
 * A definition as sentences. Each sentence is a row of phrases; some can be changed in place and say where in the
 * definition they stand, so that the written procedure is both what people read and what the designer edits.
 */
import { type Comparator, type Place, simpleComparisons } from '../formula/index.ts';
import type { DirectoryIndex, PeopleRule, SingleRule } from '../people/index.ts';
import { workingWords } from '../time/index.ts';
import {
  closingById,
  type Definition,
  fieldById,
  type Go,
  type Limit,
  type Outcome,
  type Step,
  type StepOf,
  stepNumber,
} from './definition.ts';
import { namesOf } from './evaluate.ts';
import type { Path } from './findings.ts';

export type Edit =
  | {
      kind: 'value';
      path: Path;
      source: string;
      place: Place;
      value: string;
      valueKind: 'number' | 'text' | 'date' | 'yes/no';
    }
  | { kind: 'comparator'; path: Path; source: string; place: Place; value: Comparator }
  | { kind: 'formula'; path: Path; source: string }
  | { kind: 'people'; path: Path; rule: PeopleRule }
  | { kind: 'limit'; path: Path; limit: Limit | null }
  | { kind: 'fields'; path: Path; fields: readonly string[] }
  | { kind: 'go'; path: Path; go: Go };

export type Phrase = { text: string; edit?: Edit };

export type Line = {
  step: string;
  number: number;
  verb: Step['verb'];
  sentence: Phrase[];
  /** Rows under the sentence: of a table, or the outcomes of a decision. */
  rows: { label: string; tone: Outcome['tone'] | 'plain'; phrases: Phrase[] }[];
  /** What holds besides: reminders, the limit. */
  after: Phrase[];
};

export const comparatorWords: Record<Comparator, string> = {
  '<': 'is below',
  '<=': 'is at most',
  '>': 'is over',
  '>=': 'is at least',
  '=': 'is',
  '!=': 'is not',
};

const say = (text: string): Phrase => ({ text });

function ruleWords(rule: SingleRule, index: DirectoryIndex | undefined): string {
  switch (rule.kind) {
    case 'asker':
      return 'the asker';
    case 'person':
      return index?.person(rule.person)?.name ?? rule.person;
    case 'manager':
      if (rule.levels === 1) return 'the asker’s line manager';
      if (rule.levels === 2) return 'the manager above the asker’s line manager';
      return `the manager ${rule.levels} levels above the asker`;
    case 'head of department':
      return 'the head of the asker’s department';
    case 'dotted-line manager':
      return 'the asker’s dotted-line manager';
    case 'post':
      return `the ${index?.post(rule.post)?.title ?? rule.post}`;
    case 'role':
      return `anyone with the role ${rule.role}`;
  }
}

export function peopleWords(rule: PeopleRule, index: DirectoryIndex | undefined): string {
  return [rule.first, ...rule.otherwise].map(r => ruleWords(r, index)).join(', else ');
}

/** A formula as words with its values to change, or as it is written when it is more than comparisons. */
function conditionPhrases(definition: Definition, source: string, path: Path): Phrase[] {
  const comparisons = simpleComparisons(source, Object.keys(namesOf(definition)));
  if (!comparisons) return [{ text: source.trim() || '(nothing yet)', edit: { kind: 'formula', path, source } }];
  return comparisons.flatMap((c, i) => {
    const between = source.slice(Math.min(c.name.to, c.value.to), Math.max(c.name.from, c.value.from));
    const from = Math.min(c.name.to, c.value.to) + (between.length - between.trimStart().length);
    const place = { from, to: from + between.trim().length };
    const nameFirst = c.name.from < c.value.from;
    const phrases: Phrase[] = [{ text: c.name.text, edit: { kind: 'formula', path, source } }];
    phrases.push(
      nameFirst
        ? {
            text: comparatorWords[c.comparator],
            edit: { kind: 'comparator', path, source, place, value: c.comparator },
          }
        : say(comparatorWords[c.comparator]),
    );
    const { kind, text } = c.value;
    phrases.push({
      text: kind === 'yes/no' ? (text === 'true' ? 'yes' : 'no') : text,
      edit: { kind: 'value', path, source, place: c.value, value: text, valueKind: kind },
    });
    return i === 0 ? phrases : [say('and'), ...phrases];
  });
}

function goWords(definition: Definition, go: Go, from: Step): string {
  if (go.to === 'close') return `close as ${closingById(definition, go.closing)?.name ?? go.closing}`;
  const number = go.to === 'next' ? stepNumber(definition, from.id) + 1 : stepNumber(definition, go.step);
  return number > 0 && number <= definition.steps.length ? `go to ${number}` : 'go nowhere yet';
}

const goPhrase = (definition: Definition, go: Go, from: Step, path: Path): Phrase => ({
  text: goWords(definition, go, from),
  edit: { kind: 'go', path, go },
});

function outcomePhrases(definition: Definition, step: Step, outcome: Outcome, path: Path): Phrase[] {
  const note = outcome.note === 'must' ? 'note needed; ' : '';
  const { leads } = outcome;
  if (leads.to !== 'rework')
    return [...(note ? [say(note.trim())] : []), goPhrase(definition, leads, step, [...path, 'leads'])];
  const names = leads.fields.map(id => fieldById(definition, id)?.label ?? id).join(', ');
  return [
    say('the asker may change'),
    { text: names, edit: { kind: 'fields', path: [...path, 'leads', 'fields'], fields: leads.fields } },
    say(`; ${note}again from ${stepNumber(definition, leads.resume) || '?'}, at most ${leads.atMost} times`),
  ];
}

function limitWords(limit: Limit | null): string {
  return limit ? `within ${workingWords(limit.within)}` : 'with no limit';
}

function decideLine(definition: Definition, step: StepOf<'Decide'>, i: number, index?: DirectoryIndex) {
  const path: Path = ['steps', i];
  const when = step.when ? [say('When'), ...conditionPhrases(definition, step.when, [...path, 'when']), say(',')] : [];
  const people: Phrase = {
    text: peopleWords(step.who, index),
    edit: { kind: 'people', path: [...path, 'who'], rule: step.who },
  };
  const after: Phrase[] = [];
  if (step.limit?.remind) {
    const { after: wait, atMost } = step.limit.remind;
    after.push(say(`A reminder after ${workingWords(wait)}, ${atMost === 1 ? 'once' : `at most ${atMost} times`}.`));
  }
  if (step.limit) {
    after.push(
      say(
        step.limit.atLimit === 'pass up'
          ? 'Unanswered at the limit: pass to the manager above.'
          : 'Unanswered at the limit: it stays and is shown as late.',
      ),
    );
  }
  if (step.whenAway === 'goes up') after.push(say('Away without cover: it goes up the line.'));
  return {
    sentence: [
      ...when,
      people,
      say('decides'),
      { text: limitWords(step.limit), edit: { kind: 'limit' as const, path: [...path, 'limit'], limit: step.limit } },
      say('.'),
    ],
    rows: step.outcomes.map((outcome, o) => ({
      label: outcome.label,
      tone: outcome.tone,
      phrases: outcomePhrases(definition, step, outcome, [...path, 'outcomes', o]),
    })),
    after,
  };
}

function chooseLine(definition: Definition, step: StepOf<'Choose'>, i: number) {
  const path: Path = ['steps', i];
  const row = (phrases: Phrase[]) => ({ label: '', tone: 'plain' as const, phrases });
  const rows = step.rows.map((r, n) =>
    row([
      ...conditionPhrases(definition, r.condition, [...path, 'rows', n, 'condition']),
      say(':'),
      goPhrase(definition, r.go, step, [...path, 'rows', n, 'go']),
    ]),
  );
  if (step.otherwise) {
    rows.push(row([say('Otherwise:'), goPhrase(definition, step.otherwise, step, [...path, 'otherwise'])]));
  }
  return { sentence: [say('by the first line that holds.')], rows, after: [] };
}

/** The written procedure, a line a step. */
export function procedure(definition: Definition, index?: DirectoryIndex): Line[] {
  return definition.steps.map((step, i) => {
    const head = { step: step.id, number: i + 1, verb: step.verb };
    switch (step.verb) {
      case 'Ask': {
        const labels = definition.form.fields.map(f => f.label).join(', ');
        return { ...head, sentence: [say(`The asker fills in ${labels || 'nothing yet'}.`)], rows: [], after: [] };
      }
      case 'Choose':
        return { ...head, ...chooseLine(definition, step, i) };
      case 'Decide':
        return { ...head, ...decideLine(definition, step, i, index) };
      case 'Record': {
        const span = fieldById(definition, step.effect.span)?.label ?? '?';
        const type = fieldById(definition, step.effect.type)?.label ?? '?';
        const planner = step.effect.planner ? '; put them on the team’s planner' : '';
        return {
          ...head,
          sentence: [say(`Book ${span} as leave of the chosen ${type}${planner}.`)],
          rows: [],
          after: [],
        };
      }
      case 'Tell': {
        const people = step.to.map(rule => peopleWords(rule, index)).join(' and ');
        const message = definition.messages.find(m => m.id === step.message)?.name ?? '?';
        return { ...head, sentence: [say(`Send “${message}” to ${people}.`)], rows: [], after: [] };
      }
      case 'Close': {
        const closing = closingById(definition, step.closing);
        const message = definition.messages.find(m => m.id === closing?.message);
        const told = message ? ` and send the asker “${message.name}”` : '';
        return { ...head, sentence: [say(`The request ends as ${closing?.name ?? '?'}${told}.`)], rows: [], after: [] };
      }
    }
  });
}

/** A sentence read aloud: phrases joined, no space before a mark. */
export const aloud = (phrases: readonly Phrase[]): string =>
  phrases
    .map(p => p.text)
    .join(' ')
    .replace(/ ([.,:;])/g, '$1');

/** A copy of a value with another value at a path. */
export function setAt<T>(whole: T, path: Path, value: unknown): T {
  if (path.length === 0) return value as T;
  const [key, ...rest] = path;
  if (Array.isArray(whole)) {
    const copy = [...whole];
    copy[key as number] = setAt(copy[key as number], rest, value);
    return copy as T;
  }
  const object = whole as Record<string, unknown>;
  return { ...object, [key]: setAt(object[key as string], rest, value) } as T;
}
