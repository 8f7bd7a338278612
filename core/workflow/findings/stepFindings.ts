/** Findings about single steps: what they refer to, what they ask, and tables of conditions. */
import type { Field, FieldKind } from '../../form/index.ts';
import { readTable } from '../../formula/index.ts';
import type { PeopleRule, SingleRule } from '../../people/index.ts';
import {
  fieldById,
  type Go,
  type LimitTime,
  type Rework,
  recordProperties,
  type Step,
  type StepOf,
} from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { mayGoTo, type Placed, structure } from '../definition/structure.ts';
import { standsBefore, undeliveredBy } from '../execution/delivery.ts';
import { compileWorkflow } from '../figures/evaluate.ts';
import { levelAt } from '../figures/filling.ts';
import { domainOf } from '../figures/formulas.ts';
import { type Findings, nearestMend } from './finding.ts';

const dated: readonly FieldKind[] = ['date', 'leave span', 'date range'];

export function stepFindings(findings: Findings): void {
  const { definition } = findings;
  const { all } = structure(definition);
  const [first] = all;
  if (first.step.verb !== 'Ask') {
    findings.add('stops', 'ask', first.step, first.path, 'Nobody asks', 'The first step is always Ask.');
  }
  const ids = new Set<string>();
  for (const placed of all) {
    const { step, path } = placed;
    if (ids.has(step.id))
      findings.add('stops', 'id', step, [...path, 'id'], 'Two steps have one id', `“${step.id}” stands twice.`);
    ids.add(step.id);
    if (step.verb === 'Ask' && placed !== first)
      findings.add('stops', 'ask', step, path, 'Ask stands twice', 'Only the first step asks.');
    one(findings, placed);
    deliveryFinding(findings, placed);
  }
}

/** What the house only asks for is not done when the step is behind it. */
function deliveryFinding(findings: Findings, { step, path, number }: Placed): void {
  const what = undeliveredBy(step);
  if (!what) return;
  findings.add(
    'warns',
    'undelivered',
    step,
    path,
    `Step ${number} is asked for, and not delivered`,
    `North Pebble cannot bring about ${what} yet. The trail says so, and messages after it that say it is done do not go out.`,
  );
}

function one(findings: Findings, placed: Placed): void {
  const { step, path } = placed;
  switch (step.verb) {
    case 'Choose':
      return tableFindings(findings, placed, step);
    case 'Decide':
      return decideFindings(findings, placed, step);
    case 'Do':
      ruleReferences(findings, step.who, step, [...path, 'who']);
      limitFindings(findings, placed, step);
      if (step.couldNot) goFinding(findings, placed, step.couldNot, [...path, 'couldNot'], '“could not”');
      return;
    case 'Split':
      if (typeof step.needs === 'number' && step.needs > step.lanes.length) {
        findings.add(
          'stops',
          'lanes',
          step,
          [...path, 'needs'],
          `${step.needs} of ${step.lanes.length} lanes can never be done`,
          'There are not so many lanes.',
          {
            mend: { label: 'Wait for all lanes', path: [...path, 'needs'], value: 'all' },
          },
        );
      }
      step.lanes.forEach((lane, n) => {
        if (lane.steps.length === 0)
          findings.add(
            'warns',
            'lane',
            step,
            [...path, 'lanes', n],
            `Nothing happens in “${lane.name}”`,
            'The lane is done at once.',
          );
      });
      return;
    case 'Hold':
      return holdFindings(findings, placed, step);
    case 'Record':
      return recordFindings(findings, placed, step);
    case 'Tell':
      if (step.to.length === 0 && !step.addresses?.length)
        findings.add('stops', 'to', step, [...path, 'to'], 'Nobody is told', 'Say who gets the message.');
      step.to.forEach((rule, n) => ruleReferences(findings, rule, step, [...path, 'to', n]));
      return;
  }
}

/** A field that a step names must be there, and be of a kind that fits. */
function fieldReference(
  findings: Findings,
  step: Step,
  id: string,
  path: Path,
  kinds: readonly FieldKind[] | null,
  what: string,
): Field | undefined {
  const { definition } = findings;
  const field = fieldById(definition, id);
  const fitting = definition.form.fields.filter(f => !kinds || kinds.includes(f.kind));
  if (field && (!kinds || kinds.includes(field.kind))) return field;
  const title = field ? `“${field.label}” is not ${what}` : `${capital(what)} is not in the form`;
  const detail = field ? `It is ${field.kind}.` : `There is no field “${id}”.`;
  const [only] = fitting;
  const near = nearestMend(
    id,
    fitting.map(f => ({ id: f.id, name: f.label })),
    path,
  );
  const mend = near.mend
    ? near
    : fitting.length === 1
      ? { mend: { label: `Take “${only.label}”`, path, value: only.id } }
      : {};
  findings.add('stops', 'field', step, path, title, detail, mend);
  return undefined;
}

const capital = (text: string): string => text[0].toUpperCase() + text.slice(1);

function goFinding(findings: Findings, { step }: Placed, go: Go | Rework, path: Path, what: string): void {
  if (go.to !== 'step' && go.to !== 'rework') return;
  const target = go.to === 'step' ? go.step : go.resume;
  const placed = structure(findings.definition).of(target);
  if (placed && mayGoTo(findings.definition, step.id, target)) return;
  const detail = placed
    ? `Step ${placed.number} stands inside a lane; it can be reached from within that lane only.`
    : `There is no step “${target}”.`;
  findings.add('stops', 'go', step, path, `${what} leads nowhere`, detail, {
    mend:
      go.to === 'step'
        ? { label: 'Let it go on', path, value: { to: 'next' } }
        : { label: 'Resume here', path: [...path, 'resume'], value: step.id },
  });
}

function tableFindings(findings: Findings, placed: Placed, step: StepOf<'Choose'>): void {
  const { definition, around } = findings;
  const { path } = placed;
  step.rows.forEach((row, n) => {
    goFinding(findings, placed, row.go, [...path, 'rows', n, 'go'], `Row ${n + 1}`);
    row.sets?.forEach((set, s) =>
      fieldReference(
        findings,
        step,
        set.field,
        [...path, 'rows', n, 'sets', s, 'field'],
        null,
        'the field that is set',
      ),
    );
  });
  if (step.otherwise) goFinding(findings, placed, step.otherwise, [...path, 'otherwise'], '“Otherwise”');
  const { names } = compileWorkflow(definition, around.lists);
  const reading = readTable(
    step.rows.map(r => r.condition),
    domainOf(definition, names),
  );
  const mend = { label: 'Add “otherwise go on”', path: [...path, 'otherwise'], value: { to: 'next' } };
  if (!reading) {
    if (!step.otherwise)
      findings.add(
        'stops',
        'gap',
        step,
        [...path, 'otherwise'],
        'Some requests may match no row',
        'Without “otherwise” they would be stuck here.',
        { mend },
      );
    return;
  }
  for (const n of reading.never) {
    findings.add(
      'stops',
      'never',
      step,
      [...path, 'rows', n, 'condition'],
      `Row ${n + 1} can never match`,
      n === 0 ? 'No answers make it true.' : 'The rows before it take every case, or no answers make it true.',
      { mend: { label: 'Take the row out', path: [...path, 'rows'], value: step.rows.filter((_, i) => i !== n) } },
    );
  }
  if (!step.otherwise && reading.gap) {
    findings.add(
      'stops',
      'gap',
      step,
      [...path, 'otherwise'],
      'Some requests match no row',
      `For example: ${reading.gap}. They would be stuck here.`,
      { mend },
    );
  }
  for (const { rows, example } of reading.overlaps) {
    const [a, b] = rows;
    if (JSON.stringify([step.rows[a].go, step.rows[a].sets]) === JSON.stringify([step.rows[b].go, step.rows[b].sets]))
      continue;
    findings.add(
      'warns',
      `overlap:${a}:${b}`,
      step,
      [...path, 'rows', b, 'condition'],
      `Rows ${a + 1} and ${b + 1} overlap`,
      `For example: ${example}. Row ${a + 1} is taken, because it stands first.`,
    );
  }
}

function decideFindings(findings: Findings, placed: Placed, step: StepOf<'Decide'>): void {
  const { definition } = findings;
  const { path } = placed;
  ruleReferences(findings, step.who, step, [...path, 'who']);
  limitFindings(findings, placed, step);
  if (step.askerMay)
    findings.add(
      'warns',
      'asker may',
      step,
      [...path, 'askerMay'],
      `The asker may have step ${placed.number}`,
      'That is right where they take it back, confirm or give something in. Nobody should decide their own wish.',
      { mend: { label: 'Never let the asker have it', path: [...path, 'askerMay'], value: undefined } },
    );
  if (typeof step.count === 'object' && !step.outcomes.some(o => o.tone === 'good')) {
    findings.add(
      'stops',
      'count',
      step,
      [...path, 'count'],
      'No outcome here counts as in favour',
      `At least ${step.count.atLeast} answers in favour are wanted, and they can never come.`,
      { mend: { label: 'Let the first answer settle', path: [...path, 'count'], value: undefined } },
    );
  }
  if (step.outcomes.every(outcome => outcome.leads.to === 'rework')) {
    findings.add(
      'stops',
      'only back',
      step,
      [...path, 'outcomes'],
      'Every outcome here sends it back',
      'Once it was sent back as often as it may be, nobody can answer any more. Add one that leads on or closes.',
    );
  }
  const labels = new Set<string>();
  step.outcomes.forEach((outcome, o) => {
    const at: Path = [...path, 'outcomes', o];
    if (labels.has(outcome.label))
      findings.add(
        'stops',
        'label',
        step,
        [...at, 'label'],
        `“${outcome.label}” stands twice`,
        'Each outcome needs words of its own.',
      );
    labels.add(outcome.label);
    goFinding(findings, placed, outcome.leads, [...at, 'leads'], `“${outcome.label}”`);
    outcome.needs?.forEach((id, n) => {
      const field = fieldReference(findings, step, id, [...at, 'needs', n], null, 'what this outcome needs');
      if (!field || ['editable', 'required'].includes(levelAt(definition, step.id, field))) return;
      findings.add(
        'stops',
        'needs',
        step,
        [...at, 'needs', n],
        `“${outcome.label}” needs ${field.label}, which cannot be filled in here`,
        `At this step it is ${levelAt(definition, step.id, field)}.`,
        {
          mend: { label: 'Let it be filled in here', path: ['access', step.id, field.id], value: 'editable' },
        },
      );
    });
    if (outcome.leads.to !== 'rework') return;
    const { leads } = outcome;
    const unknown = leads.fields.filter(id => !fieldById(definition, id));
    const rest = leads.fields.filter(id => !unknown.includes(id));
    if (unknown.length > 0) {
      findings.add(
        'stops',
        'rework',
        step,
        [...at, 'leads', 'fields'],
        `“${outcome.label}” opens a field that is not in the form`,
        `${unknown.join(', ')} cannot be changed.`,
        rest.length > 0 ? { mend: { label: 'Take it out', path: [...at, 'leads', 'fields'], value: rest } } : {},
      );
    }
    const by = leads.whom === undefined ? undefined : structure(definition).of(leads.whom)?.step;
    if (leads.whom !== undefined && by?.verb !== 'Decide' && by?.verb !== 'Do') {
      findings.add(
        'stops',
        'whom',
        step,
        [...at, 'leads', 'whom'],
        `“${outcome.label}” sends back to a step that nobody handles`,
        'Choose a step that somebody decides or does.',
        {
          mend: { label: 'Send it back to the asker', path: [...at, 'leads', 'whom'], value: undefined },
        },
      );
    }
  });
}

const limitField = (within: LimitTime): string | null => ('workingDaysBefore' in within ? within.field : null);

function limitFindings(findings: Findings, { path }: Placed, step: StepOf<'Decide'> | StepOf<'Do'>): void {
  const { limit } = step;
  if (!limit) return;
  const field = limitField(limit.within);
  if (field)
    fieldReference(
      findings,
      step,
      field,
      [...path, 'limit', 'within', 'field'],
      dated,
      'the date that the limit is counted from',
    );
  const { atLimit } = limit;
  if (typeof atLimit === 'string') return;
  if ('take' in atLimit) {
    const known = step.verb === 'Decide' && step.outcomes.some(o => o.id === atLimit.take);
    if (!known)
      findings.add(
        'stops',
        'take',
        step,
        [...path, 'limit', 'atLimit'],
        'At the limit an outcome is taken that is not there',
        `There is no outcome “${atLimit.take}”.`,
        {
          mend: { label: 'Let it wait', path: [...path, 'limit', 'atLimit'], value: 'wait' },
        },
      );
  } else
    ruleReferences(findings, 'passTo' in atLimit ? atLimit.passTo : atLimit.tell, step, [...path, 'limit', 'atLimit']);
}

function holdFindings(findings: Findings, { path }: Placed, step: StepOf<'Hold'>): void {
  const { until } = step;
  const at: Path = [...path, 'until', 'field'];
  if (until.kind === 'before') fieldReference(findings, step, until.field, at, dated, 'the date that is counted from');
  if (until.kind === 'document')
    fieldReference(findings, step, until.field, at, ['document', 'files'], 'the document that is waited for');
  if (until.kind === 'requests') {
    const { all } = structure(findings.definition);
    if (!all.some(p => p.step.verb === 'Record' && p.step.effect.kind === 'open'))
      findings.add(
        'stops',
        'requests',
        step,
        [...path, 'until'],
        'There is no request to wait for',
        'No step before it opens another request.',
      );
  }
}

function recordFindings(findings: Findings, { path }: Placed, step: StepOf<'Record'>): void {
  const { effect } = step;
  const { around } = findings;
  const at: Path = [...path, 'effect'];
  switch (effect.kind) {
    case 'book leave': {
      fieldReference(findings, step, effect.span, [...at, 'span'], ['leave span'], 'a span of leave');
      const type = fieldReference(findings, step, effect.type, [...at, 'type'], ['choice'], 'a choice of leave types');
      if (type?.kind === 'choice' && type.options !== 'leave types')
        findings.add(
          'stops',
          'leave types',
          step,
          [...at, 'type'],
          'No kind of leave to book',
          `“${type.label}” is no choice of leave types.`,
        );
      return;
    }
    case 'planner':
      fieldReference(findings, step, effect.span, [...at, 'span'], ['leave span', 'date range'], 'a range of dates');
      return;
    case 'change row':
      fieldReference(findings, step, effect.row, [...at, 'row'], ['pick'], 'a pick from a list');
      return;
    case 'set':
      fieldReference(findings, step, effect.field, [...at, 'field'], null, 'the field that is set');
      return;
    case 'add row':
      if (around.lists && !around.lists.some(l => l.id === effect.list))
        findings.add(
          'stops',
          'list',
          step,
          [...at, 'list'],
          `There is no list “${effect.list}”`,
          'No row can be added to it.',
          nearestMend(effect.list, around.lists, [...at, 'list']),
        );
      return;
    case 'open':
      if (around.workflows && !around.workflows.includes(effect.workflow))
        findings.add(
          'stops',
          'workflow',
          step,
          [...at, 'workflow'],
          `There is no workflow “${effect.workflow}”`,
          'No request can be opened in it.',
          nearestMend(
            effect.workflow,
            around.workflows.map(id => ({ id, name: id })),
            [...at, 'workflow'],
          ),
        );
      return;
    case 'person':
      if ((recordProperties as readonly string[]).includes(effect.property)) return;
      findings.add(
        'stops',
        'property',
        step,
        [...at, 'property'],
        `The record of a person has no “${effect.property}”`,
        `It has ${recordProperties.join(', ')}.`,
        nearestMend(
          effect.property,
          recordProperties.map(name => ({ id: name, name })),
          [...at, 'property'],
        ),
      );
      return;
  }
}

/** Fields, steps, posts, people and roles that a people rule names. */
function ruleReferences(findings: Findings, rule: PeopleRule, step: Step, path: Path): void {
  [rule.first, ...rule.otherwise].forEach((single, n) => {
    reference(findings, single, step, [...path, ...(n === 0 ? ['first'] : ['otherwise', n - 1])]);
  });
  rule.except?.forEach((single, n) => reference(findings, single, step, [...path, 'except', n]));
}

/** A step that goes to whoever stands in a field goes to nobody while the field is empty and nobody else is named. */
function mayBeEmpty(findings: Findings, step: Step, field: Field, path: Path): void {
  const { definition } = findings;
  // Only the holders of a step are waited for, and only the first whom its rule names can be missed.
  if ((step.verb !== 'Decide' && step.verb !== 'Do') || path.at(-1) !== 'first' || path.at(-2) !== 'who') return;
  const before = structure(definition).all.filter(
    ({ step: other }) => other.id === definition.steps[0].id || standsBefore(definition, other.id, step.id),
  );
  const isNeeded =
    field.shownWhen === undefined &&
    field.places === undefined &&
    before.some(({ step: other }) => levelAt(definition, other.id, field) === 'required');
  const isGuarded = step.when?.includes(field.label) ?? false;
  if (isNeeded || isGuarded || step.who.otherwise.length > 0 || field.start !== undefined) return;
  findings.add(
    'stops',
    'may be empty',
    step,
    path,
    `“${field.label}” may be empty, and then nobody has this step`,
    'Make the field needed, or say who has the step instead.',
    {
      mend: {
        label: 'Else ask an HR partner',
        path: [...path.slice(0, -1), 'otherwise'],
        value: [{ kind: 'role', role: 'HR partner' }],
      },
    },
  );
}

function reference(findings: Findings, rule: SingleRule, step: Step, path: Path): void {
  const { definition, around } = findings;
  const index = around.people?.index;
  if ('of' in rule && typeof rule.of === 'object')
    fieldReference(findings, step, rule.of.field, [...path, 'of', 'field'], ['person'], 'a person');
  switch (rule.kind) {
    case 'person in': {
      const field = fieldReference(findings, step, rule.field, [...path, 'field'], ['person'], 'a person');
      if (field) mayBeEmpty(findings, step, field, path);
      return;
    }
    case 'either':
      rule.rules.forEach((one, n) => reference(findings, one, step, [...path, 'rules', n]));
      return;
    case 'above post in':
    case 'post in': {
      const field = fieldReference(findings, step, rule.field, [...path, 'field'], ['pick'], 'a pick of posts');
      if (field?.kind === 'pick' && field.list !== 'posts')
        findings.add(
          'stops',
          'post',
          step,
          [...path, 'field'],
          `“${field.label}” picks no posts`,
          `It picks from “${field.list}”.`,
        );
      if (field) mayBeEmpty(findings, step, field, path);
      return;
    }
    case 'decided': {
      const target = structure(definition).of(rule.step)?.step;
      if (target?.verb !== 'Decide' && target?.verb !== 'Do')
        findings.add(
          'stops',
          'decided',
          step,
          [...path, 'step'],
          'It names a step that nobody decides',
          `“${rule.step}” has no decider.`,
        );
      return;
    }
    case 'post':
      if (index && !index.post(rule.post))
        findings.add(
          'stops',
          'post',
          step,
          [...path, 'post'],
          `There is no post “${rule.post}”`,
          'It is not on file.',
          nearestMend(
            rule.post,
            index.directory.posts.map(p => ({ id: p.id, name: p.title })),
            [...path, 'post'],
          ),
        );
      return;
    case 'person':
      if (index && !index.person(rule.person))
        findings.add(
          'stops',
          'person',
          step,
          [...path, 'person'],
          `There is no “${rule.person}” in the directory`,
          'A named person must be on file.',
          nearestMend(rule.person, index.directory.people, [...path, 'person']),
        );
      return;
    case 'role':
      if (index && !index.directory.roles.some(r => r.role === rule.role)) {
        const roles = [...new Set(index.directory.roles.map(r => r.role))].map(role => ({ id: role, name: role }));
        findings.add(
          'stops',
          'role',
          step,
          [...path, 'role'],
          `There is no role “${rule.role}”`,
          'Nobody has it, so nobody would be found.',
          nearestMend(rule.role, roles, [...path, 'role']),
        );
      }
      return;
  }
}
