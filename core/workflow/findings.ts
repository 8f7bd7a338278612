/** What is wrong with a definition, found without running it. Each finding has its place, its words, and often a mend. */
import { compile, type Problem } from '../formula/index.ts';
import { type DirectoryIndex, isEmployed, type PeopleRule, type PersonId, resolve } from '../people/index.ts';
import type { CivilDate } from '../time/index.ts';
import { type Definition, type Step, type StepOf, stepNumber } from './definition.ts';
import { compileWorkflow, namesOf } from './evaluate.ts';
import { idleCircles, leadingOut, reachable, waysFrom } from './graph.ts';
import { insertedNames, insertionNames } from './letters.ts';

export type Path = readonly (string | number)[];

export type Finding = {
  /** Stable while the cause is there. */
  id: string;
  level: 'stops' | 'warns';
  title: string;
  detail: string;
  /** The step that it is about, if any. */
  step: string | null;
  path: Path;
  /** Where in the formula, when it is about one. */
  place?: { from: number; to: number };
  people?: { person: PersonId; name: string; why: string }[];
  mend?: { label: string; path: Path; value: unknown };
};

/** The directory on a day, for trying people rules on everyone. */
export type People = { index: DirectoryIndex; day: CivilDate };

export function findings(definition: Definition, people?: People): Finding[] {
  return [
    ...nameFindings(definition),
    ...formulaFindings(definition),
    ...stepFindings(definition),
    ...wayFindings(definition),
    ...messageFindings(definition),
    ...(people ? peopleFindings(definition, people) : []),
  ];
}

function nameFindings(definition: Definition): Finding[] {
  const found: Finding[] = [];
  const seen = new Map<string, string>();
  const named = [
    ...definition.form.fields.map((f, i) => ({ name: f.label, what: 'field', path: ['form', 'fields', i, 'label'] })),
    ...definition.figures.map((f, i) => ({ name: f.name, what: 'figure', path: ['figures', i, 'name'] })),
  ];
  for (const { name, what, path } of named) {
    const other = seen.get(name);
    if (other) {
      found.push({
        id: `name:${path.join('.')}`,
        level: 'stops',
        title: `“${name}” is used twice`,
        detail: `A ${other} has this name already; give this ${what} another.`,
        step: null,
        path,
      });
    }
    seen.set(name, what);
  }
  return found;
}

function formulaFinding(source: string, problem: Problem, step: Step | null, path: Path): Finding {
  const word = source.slice(problem.from, problem.to);
  return {
    id: `formula:${path.join('.')}`,
    level: 'stops',
    title: word.trim() ? `“${word.trim()}”` : 'A formula is not complete',
    detail: problem.message,
    step: step?.id ?? null,
    path,
    place: { from: problem.from, to: problem.to },
    ...mendFor(source, problem, path),
  };
}

/** The nearest known name, offered as a mend. */
function mendFor(source: string, problem: Problem, path: Path): Pick<Finding, 'mend'> {
  const near = /Did you mean “(.+)”\?/.exec(problem.message)?.[1];
  if (!near) return {};
  const value = source.slice(0, problem.from) + near + source.slice(problem.to);
  return { mend: { label: `Change to “${near}”`, path, value } };
}

function formulaFindings(definition: Definition): Finding[] {
  const found: Finding[] = [];
  compileWorkflow(definition).figures.forEach((figure, i) => {
    if (figure.compiled.ok) return;
    const source = definition.figures[i].formula;
    found.push(formulaFinding(source, figure.compiled.problems[0], null, ['figures', i, 'formula']));
  });
  const names = namesOf(definition);
  const check = (source: string, step: Step, path: Path) => {
    const compiled = compile(source, names, 'yes/no');
    if (!compiled.ok) found.push(formulaFinding(source, compiled.problems[0], step, path));
  };
  definition.steps.forEach((step, i) => {
    if ('when' in step && step.when !== null) check(step.when, step, ['steps', i, 'when']);
    if (step.verb === 'Choose') {
      step.rows.forEach((row, r) => {
        check(row.condition, step, ['steps', i, 'rows', r, 'condition']);
      });
    }
  });
  return found;
}

function stepFindings(definition: Definition): Finding[] {
  const found: Finding[] = [];
  const stop = (step: Step | null, path: Path, title: string, detail: string, mend?: Finding['mend']) =>
    found.push({
      id: `step:${path.join('.')}:${title}`,
      level: 'stops',
      title,
      detail,
      step: step?.id ?? null,
      path,
      ...(mend ? { mend } : {}),
    });
  if (definition.steps[0].verb !== 'Ask') {
    stop(definition.steps[0], ['steps', 0], 'Nobody asks', 'The first step is always Ask.');
  }
  const ids = new Set<string>();
  definition.steps.forEach((step, i) => {
    if (ids.has(step.id)) stop(step, ['steps', i, 'id'], 'Two steps have one id', `“${step.id}” stands twice.`);
    ids.add(step.id);
    if (i > 0 && step.verb === 'Ask') stop(step, ['steps', i], 'Ask stands twice', 'Only the first step asks.');
    if (step.verb === 'Record') recordFindings(definition, step, i, stop);
    if (step.verb === 'Choose' && !step.otherwise) {
      stop(
        step,
        ['steps', i, 'otherwise'],
        'Some requests match no row',
        'Without “otherwise” they would be stuck here.',
        {
          label: 'Add “otherwise go on”',
          path: ['steps', i, 'otherwise'],
          value: { to: 'next' },
        },
      );
    }
    if (step.verb === 'Decide') {
      step.outcomes.forEach((outcome, o) => {
        if (outcome.leads.to !== 'rework') return;
        const unknown = outcome.leads.fields.filter(id => !definition.form.fields.some(f => f.id === id));
        if (unknown.length === 0) return;
        const path = ['steps', i, 'outcomes', o, 'leads', 'fields'];
        const rest = outcome.leads.fields.filter(id => !unknown.includes(id));
        stop(
          step,
          path,
          `“${outcome.label}” opens a field that is not in the form`,
          `${unknown.join(', ')} cannot be changed.`,
          rest.length > 0 ? { label: 'Take it out', path, value: rest } : undefined,
        );
      });
    }
  });
  return found;
}

function recordFindings(
  definition: Definition,
  step: StepOf<'Record'>,
  i: number,
  stop: (step: Step, path: Path, title: string, detail: string) => void,
): void {
  const span = definition.form.fields.find(f => f.id === step.effect.span);
  const type = definition.form.fields.find(f => f.id === step.effect.type);
  if (span?.kind !== 'leave span') {
    stop(step, ['steps', i, 'effect', 'span'], 'No dates to book', 'The form has no such span of leave.');
  }
  if (type?.kind !== 'choice' || type.options !== 'leave types') {
    stop(
      step,
      ['steps', i, 'effect', 'type'],
      'No kind of leave to book',
      'The form has no such choice of leave types.',
    );
  }
}

function wayFindings(definition: Definition): Finding[] {
  const found: Finding[] = [];
  const reached = reachable(definition);
  const out = leadingOut(definition);
  const circles = idleCircles(definition);
  definition.steps.forEach((step, i) => {
    const number = stepNumber(definition, step.id);
    const say = (level: Finding['level'], what: string, title: string, detail: string) =>
      found.push({ id: `way:${step.id}:${what}`, level, title, detail, step: step.id, path: ['steps', i] });
    if (!reached.has(step.id))
      return void say('stops', 'unreached', `Step ${number} is never reached`, 'No step leads to it.');
    for (const way of waysFrom(definition, step)) {
      if (way.to === 'nowhere') {
        const label = way.label ? `“${way.label}” leads nowhere` : `After step ${number} there is nothing`;
        say('stops', `nowhere:${way.label}`, label, 'Let it go to a step or close the request.');
      }
    }
    if (!out.has(step.id))
      say('stops', 'no-out', `No way out of step ${number}`, 'From here no closing can be reached.');
    if (circles.has(step.id)) {
      say('stops', 'circle', `Step ${number} goes round in a circle`, 'Nobody is asked and no limit ends it.');
    }
  });
  return found;
}

function messageFindings(definition: Definition): Finding[] {
  const found: Finding[] = [];
  const names = new Set(insertionNames(definition));
  definition.messages.forEach((message, i) => {
    for (const part of ['subject', 'body'] as const) {
      for (const name of insertedNames(message[part])) {
        if (names.has(name)) continue;
        found.push({
          id: `message:${i}:${part}:${name}`,
          level: 'stops',
          title: `“${name}” in the message “${message.name}”`,
          detail: 'There is no field or figure of that name to insert.',
          step: null,
          path: ['messages', i, part],
        });
      }
    }
  });
  definition.steps.forEach((step, i) => {
    if (step.verb === 'Tell' && !definition.messages.some(m => m.id === step.message)) {
      const number = stepNumber(definition, step.id);
      found.push({
        id: `message:${step.id}`,
        level: 'stops',
        title: `Step ${number} has no message to send`,
        detail: `The message “${step.message}” is not there.`,
        step: step.id,
        path: ['steps', i, 'message'],
      });
    }
  });
  definition.closings.forEach((closing, i) => {
    const message = definition.messages.find(m => m.id === closing.message);
    if (message) return;
    found.push({
      id: `closing:${closing.id}`,
      level: closing.message === null ? 'warns' : 'stops',
      title: `The asker is not told of “${closing.name}”`,
      detail: closing.message === null ? 'Choose a message for this closing.' : 'Its message is not there.',
      step: null,
      path: ['closings', i, 'message'],
      ...(definition.messages[0]
        ? {
            mend: {
              label: `Send “${definition.messages[0].name}”`,
              path: ['closings', i, 'message'],
              value: definition.messages[0].id,
            },
          }
        : {}),
    });
  });
  return found;
}

/** Tries the people rule of every Decide step for everyone employed on the day. */
function peopleFindings(definition: Definition, { index, day }: People): Finding[] {
  const found: Finding[] = [];
  const employed = index.directory.people.filter(p => isEmployed(p, day));
  definition.steps.forEach((step, i) => {
    if (step.verb !== 'Decide') return;
    const stranded: NonNullable<Finding['people']> = [];
    for (const person of employed) {
      const resolution = resolve(step.who, {
        index,
        day,
        asker: person.id,
        away: [],
        mayBeAsker: false,
        whenAway: step.whenAway,
      });
      if (!resolution.ok) stranded.push({ person: person.id, name: person.name, why: resolution.gap });
    }
    if (stranded.length === 0 || employed.length === 0) return;
    const all = stranded.length === employed.length;
    const number = stepNumber(definition, step.id);
    found.push({
      id: `people:${step.id}`,
      level: all ? 'stops' : 'warns',
      title: all
        ? `Nobody is found at step ${number}, for anyone`
        : `${stranded.length} of ${employed.length} people would get stuck at ${number}`,
      detail: reasonsInShort(stranded.map(s => s.why)),
      step: step.id,
      path: ['steps', i, 'who'],
      people: stranded,
      ...fallbackMend(step.who, i, index),
    });
  });
  return found;
}

function reasonsInShort(reasons: string[]): string {
  const counts = new Map<string, number>();
  for (const reason of reasons) counts.set(reason, (counts.get(reason) ?? 0) + 1);
  const sorted = [...counts].sort((a, b) => b[1] - a[1]);
  const shown = sorted.slice(0, 2).map(([reason, n]) => (n > 1 ? `${reason} (${n})` : reason));
  return sorted.length > 2 ? `${shown.join(' ')} And ${sorted.length - 2} more reasons.` : shown.join(' ');
}

function fallbackMend(rule: PeopleRule, i: number, index: DirectoryIndex): Pick<Finding, 'mend'> {
  const role = 'HR partner';
  if (index.holdersOfRole(role).length === 0 || rule.otherwise.length >= 5) return {};
  const value = [...rule.otherwise, { kind: 'role', role }];
  return { mend: { label: 'Else ask an HR partner', path: ['steps', i, 'who', 'otherwise'], value } };
}

export const stopsPublishing = (found: readonly Finding[]): boolean => found.some(f => f.level === 'stops');
