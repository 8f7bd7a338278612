/** Checks of what steps refer to: fields, other steps, people, posts and roles. */
import { type Field, type FieldKind, listById, postColumn } from '../../form/index.ts';
import type { PeopleRule, SingleRule } from '../../people/index.ts';
import { fieldById, type Go, type Rework, type Step } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { mayGoTo, type Placed, standsBefore, structure } from '../definition/structure.ts';
import { levelAt } from '../figures/filling.ts';
import { type Findings, nearestFix } from './finding.ts';

/** A field that a step names must be there, and be of a kind that fits. */
export function fieldReference(
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
  const near = nearestFix(
    id,
    fitting.map(f => ({ id: f.id, name: f.label })),
    path,
  );
  const fix = near.fix
    ? near
    : fitting.length === 1
      ? { fix: { label: `Take “${only.label}”`, path, value: only.id } }
      : {};
  findings.add('stops', 'field', step, path, title, detail, fix);
  return undefined;
}

const capital = (text: string): string => text[0].toUpperCase() + text.slice(1);

export function goFinding(findings: Findings, { step }: Placed, go: Go | Rework, path: Path, what: string): void {
  if (go.to !== 'step' && go.to !== 'rework') return;
  const target = go.to === 'step' ? go.step : go.resume;
  const placed = structure(findings.definition).of(target);
  if (placed && mayGoTo(findings.definition, step.id, target)) return;
  const detail = placed
    ? `Step ${placed.number} stands inside a lane; it can be reached from within that lane only.`
    : `There is no step “${target}”.`;
  findings.add('stops', 'go', step, path, `${what} leads nowhere`, detail, {
    fix:
      go.to === 'step'
        ? { label: 'Let it go on', path, value: { to: 'next' } }
        : { label: 'Resume here', path: [...path, 'resume'], value: step.id },
  });
}

/** Fields, steps, posts, people and roles that a people rule names. */
export function ruleReferences(findings: Findings, rule: PeopleRule, step: Step, path: Path): void {
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
      fix: {
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
      if (field?.kind === 'pick' && !tellsPost(findings, field.list))
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
          nearestFix(
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
          nearestFix(rule.person, index.directory.people, [...path, 'person']),
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
          nearestFix(rule.role, roles, [...path, 'role']),
        );
      }
      return;
  }
}

/** Whether a row of a list says which post it is about. Where the lists of the house are not known here, any may. */
const tellsPost = ({ around }: Findings, list: string): boolean =>
  list === 'posts' ||
  around.lists === undefined ||
  listById(around.lists, list)?.columns.some(column => column.id === postColumn) === true;
