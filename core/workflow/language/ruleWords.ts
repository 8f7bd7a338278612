/** People rules, limits and where it goes on, in words. */
import type { DirectoryIndex, PeopleRule, SingleRule, WhoseUnit } from '../../people/index.ts';
import { workingWords } from '../../time/index.ts';
import {
  closingById,
  type Definition,
  fieldById,
  type Go,
  type InPlan,
  type Limit,
  type LimitTime,
  type Quorum,
} from '../definition/definition.ts';
import { stepNumber } from '../definition/structure.ts';
import { marked, quoted } from './phrase.ts';

/** A post by its title; where several have the same, with its department and place, and its number where that is not enough. */
export function postWords(index: DirectoryIndex, id: string): string {
  const post = index.post(id);
  if (!post) return id;
  const same = index.directory.posts.filter(other => other.title === post.title);
  if (same.length === 1) return post.title;
  const where = (one: typeof post): string =>
    [index.department(one.department)?.name, index.place(one.place)?.name].filter(Boolean).join(', ');
  const alike = same.filter(other => where(other) === where(post));
  return `${post.title} (${where(post)}${alike.length > 1 ? `, ${post.id}` : ''})`;
}

/** Names as people see them, or written so that they can be read back. */
export type Style = 'shown' | 'written';

const name = (words: string, style: Style): string => (style === 'shown' ? words : quoted(words));

function owner(of: WhoseUnit | undefined, definition: Definition | undefined, style: Style): string {
  if (of === undefined) return 'the asker';
  if (of === 'subject') return concerned;
  if ('post' in of) return `the post in ${name(labelOf(definition, of.post), style)}`;
  return `the person in ${name(labelOf(definition, of.field), style)}`;
}

const labelOf = (definition: Definition | undefined, field: string): string =>
  (definition && fieldById(definition, field)?.label) ?? field;

/** Whom a request is about, as sheets call them. */
export const concerned = 'the person concerned';

/** `the asker’s line manager`, `the line manager of the person in “Lead”`. */
const owned = (what: string, of: WhoseUnit | undefined, definition: Definition | undefined, style: Style): string =>
  of === undefined ? `the asker’s ${what}` : `the ${what} of ${owner(of, definition, style)}`;

export function ruleWords(
  rule: SingleRule,
  index: DirectoryIndex | undefined,
  definition?: Definition,
  style: Style = 'shown',
): string {
  switch (rule.kind) {
    case 'asker':
      return 'the asker';
    case 'subject':
      return concerned;
    case 'person':
      return style === 'shown' ? (index?.person(rule.person)?.name ?? rule.person) : `person ${quoted(rule.person)}`;
    case 'person in':
      return `the person in ${name(labelOf(definition, rule.field), style)}`;
    case 'manager':
      if (rule.levels === 1) return owned('line manager', rule.of, definition, style);
      if (rule.levels === 2) return `the manager above ${owned('line manager', rule.of, definition, style)}`;
      return `the manager ${rule.levels} levels above ${owner(rule.of, definition, style)}`;
    case 'managers':
      return `each manager above ${owner(rule.of, definition, style)} up to level ${rule.levels}`;
    case 'manager with': {
      const least = style === 'shown' ? rule.least : marked(rule.least);
      return `the first manager above ${owner(rule.of, definition, style)} with a ${rule.what} of at least ${least}`;
    }
    case 'head of department':
      return `the head of ${owned('department', rule.of, definition, style)}`;
    case 'head of place':
      return `the head of ${owned('place', rule.of, definition, style)}`;
    case 'dotted-line manager':
      return owned('dotted-line manager', rule.of, definition, style);
    case 'post':
      return style === 'shown'
        ? `the ${index ? postWords(index, rule.post) : rule.post}`
        : `the holder of post ${quoted(rule.post)}`;
    case 'post in':
      return `the holder of the post in ${name(labelOf(definition, rule.field), style)}`;
    case 'role': {
      const where = rule.within ? ` in ${owned(rule.within, rule.of, definition, style)}` : '';
      return `anyone with the role ${name(rule.role, style)}${where}`;
    }
    case 'everyone': {
      const place =
        rule.place === undefined
          ? ''
          : ` in place ${name(style === 'shown' ? (index?.place(rule.place)?.name ?? rule.place) : rule.place, style)}`;
      const department =
        rule.department === undefined
          ? ''
          : ` in department ${name(style === 'shown' ? (index?.department(rule.department)?.name ?? rule.department) : rule.department, style)}`;
      return `everyone${place}${department}`;
    }
    case 'above post in':
      return `the manager above the post in ${name(labelOf(definition, rule.field), style)}`;
    case 'either':
      return `either ${rule.rules.map(one => ruleWords(one, index, definition, style)).join(' or ')}`;
    case 'decided': {
      const number = definition && stepNumber(definition, rule.step);
      return `whoever settled step ${number || '?'}`;
    }
  }
}

export function peopleWords(
  rule: PeopleRule,
  index: DirectoryIndex | undefined,
  definition?: Definition,
  style: Style = 'shown',
): string {
  const words = (r: SingleRule) => ruleWords(r, index, definition, style);
  const except = rule.except?.length ? `, but never ${rule.except.map(words).join(' or ')}` : '';
  return `${[rule.first, ...rule.otherwise].map(words).join(', else ')}${except}`;
}

export function limitTimeWords(within: LimitTime, definition?: Definition, style: Style = 'shown'): string {
  if ('byPlan' in within) return 'by its last day in the plan';
  if (!('workingDaysBefore' in within)) return `within ${workingWords(within)}`;
  const n = within.workingDaysBefore;
  return `at the latest ${n} working ${n === 1 ? 'day' : 'days'} before ${name(labelOf(definition, within.field), style)}`;
}

export const limitWords = (limit: Limit | null, definition?: Definition, style: Style = 'shown'): string =>
  limit ? limitTimeWords(limit.within, definition, style) : 'with no limit';

const workingDays = (n: number): string => `${n} working ${n === 1 ? 'day' : 'days'}`;

/** What a step says of the plan, as a sentence: `In the plan it takes 3 working days, and begins after 3a1.` */
export function planWords(plan: InPlan, definition: Definition, style: Style = 'shown'): string {
  const { takes, daysBefore, after } = plan;
  const number = (id: string) => {
    const found = stepNumber(definition, id);
    return found || (style === 'shown' ? 'a step that is not there' : quoted(id));
  };
  const parts = [
    takes === undefined ? '' : `takes ${workingDays(takes)}`,
    daysBefore === undefined ? '' : `is finished ${workingDays(daysBefore)} before`,
    after === undefined ? '' : `begins after ${after.map(number).join(' and ')}`,
  ].filter(Boolean);
  return `In the plan it ${parts.join(', ')}.`;
}

export function countWords(count: Quorum | undefined): string {
  if (count === undefined) return '';
  if (count === 'everyone') return 'and everyone must agree';
  if (count === 'majority') return 'by majority';
  if (count === 'in turn') return 'in turn';
  return `with at least ${count.atLeast} in favour`;
}

const times = (n: number): string => (n === 1 ? 'once' : `at most ${n} times`);

/** What happens when the limit passes unanswered: `it passes to the manager above`. */
export function atLimitWords(
  atLimit: Limit['atLimit'],
  definition: Definition,
  index?: DirectoryIndex,
  style: Style = 'shown',
  labelOfOutcome: (id: string) => string = id => id,
): string {
  const people = (rule: PeopleRule) => peopleWords(rule, index, definition, style);
  return atLimit === 'wait'
    ? 'it stays and is shown as late'
    : atLimit === 'pass up'
      ? 'it passes to the manager above'
      : 'passTo' in atLimit
        ? `it passes to ${people(atLimit.passTo)}`
        : 'tell' in atLimit
          ? `it stays, and ${people(atLimit.tell)} is told`
          : `${name(labelOfOutcome(atLimit.take), style)} is taken`;
}

/** Reminders and what happens at the limit, as sentences. */
export function limitSentences(
  limit: Limit,
  definition: Definition,
  index?: DirectoryIndex,
  style: Style = 'shown',
  labelOfOutcome: (id: string) => string = id => id,
): string[] {
  const sentences: string[] = [];
  if (limit.remind) {
    const { after, every, atMost } = limit.remind;
    const then = every ? `, then every ${workingWords(every)}` : '';
    sentences.push(`A reminder after ${workingWords(after)}${then}, ${times(atMost)}.`);
  }
  const what = atLimitWords(limit.atLimit, definition, index, style, labelOfOutcome);
  sentences.push(`Unanswered at the limit: ${what}.`);
  return sentences;
}

export function goWords(definition: Definition, go: Go, style: Style = 'shown'): string {
  if (go.to === 'next') return 'go on';
  if (go.to === 'close') return `close as ${name(closingById(definition, go.closing)?.name ?? go.closing, style)}`;
  const number = stepNumber(definition, go.step);
  return number ? `go to ${number}` : style === 'shown' ? 'go nowhere yet' : `go to step ${quoted(go.step)}`;
}
