/** Checks of what steps refer to: fields, other steps, people, posts and roles. */
import { type Field, type FieldKind, listById, postColumn } from '../../form/index.ts';
import type { PeopleRule, SingleRule } from '../../people/index.ts';
import { type Definition, fieldById, type Go, type Rework, type Step } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import { mayGoTo, type Placed, standsBefore, structure } from '../definition/structure.ts';
import { levelAt } from '../figures/filling.ts';
import { type Findings, type Fix, nearestFix } from './finding.ts';

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
  if ('of' in rule && typeof rule.of === 'object') {
    if ('post' in rule.of) postReference(findings, step, rule.of.post, [...path, 'of', 'post']);
    else fieldReference(findings, step, rule.of.field, [...path, 'of', 'field'], ['person'], 'a person');
  }
  askersLine(findings, rule, step, path);
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
      const field = postReference(findings, step, rule.field, [...path, 'field']);
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

/** A field that names a post must pick from a list whose rows say which post they are about. */
function postReference(findings: Findings, step: Step, id: string, path: Path): Field | undefined {
  const field = fieldReference(findings, step, id, path, ['pick'], 'a pick of posts');
  if (field?.kind === 'pick' && !tellsPost(findings, field.list))
    findings.add('stops', 'post', step, path, `“${field.label}” picks no posts`, `It picks from “${field.list}”.`);
  return field;
}

/** Whether a rule goes by where somebody stands: their line, their department, their place. */
const goesByPerson = (rule: SingleRule): rule is Extract<SingleRule, { of?: unknown }> =>
  rule.kind === 'role' ? rule.within !== undefined : rulesOfLine.has(rule.kind);
const rulesOfLine: ReadonlySet<string> = new Set<SingleRule['kind']>([
  'manager',
  'managers',
  'manager with',
  'head of department',
  'head of place',
  'dotted-line manager',
]);

/** Whom a request may be about besides whoever asks. */
type Other = 'somebody on file' | 'somebody who is not on file yet' | 'whoever asks from outside';

function othersConcerned(definition: Definition): Other | undefined {
  const { opening } = definition;
  if (opening?.outside) return 'whoever asks from outside';
  const adds = structure(definition).all.some(
    ({ step }) => step.verb === 'Record' && step.effect.kind === 'add person',
  );
  if (adds) return 'somebody who is not on file yet';
  const others = opening?.forWhom.some(whom => whom !== 'self');
  return others ? 'somebody on file' : undefined;
}

/** The asker’s line, department or place is taken in a request that may be about somebody else. */
function askersLine(findings: Findings, rule: SingleRule, step: Step, path: Path): void {
  if (!goesByPerson(rule) || rule.of !== undefined || path[0] === 'opening') return;
  const { definition } = findings;
  const other = othersConcerned(definition);
  if (other === undefined) return;
  const placed = structure(definition).of(step.id);
  const at = path[0] === 'steps' && placed ? `Step ${placed.number}` : 'A rule';
  const post = definition.form.fields.find(field => field.kind === 'pick' && tellsPost(findings, field.list));
  findings.add(
    'warns',
    'asker’s line',
    step,
    [...path, 'of'],
    `${at} goes by where the asker works`,
    other === 'somebody on file'
      ? 'The request may be about somebody else. Say whose line, department or place is meant.'
      : `The request is about ${other}. Say whose line, department or place is meant: that of a post or of a person in the form.`,
    other === 'somebody on file'
      ? { fix: { label: 'Take that of the person concerned', path: [...path, 'of'], value: 'subject' } }
      : post
        ? { fix: fixByPost(rule, post, path) }
        : {},
  );
}

function fixByPost(rule: SingleRule, post: Field, path: Path): Fix {
  const isUnit = rule.kind === 'role' || rule.kind === 'head of department' || rule.kind === 'head of place';
  return isUnit
    ? { label: `Take that of the post in “${post.label}”`, path: [...path, 'of'], value: { post: post.id } }
    : {
        label: `Ask the manager above the post in “${post.label}”`,
        path,
        value: { kind: 'above post in', field: post.id },
      };
}

/** Whether a row of a list says which post it is about. Where the lists of the house are not known here, any may. */
const tellsPost = ({ around }: Findings, list: string): boolean =>
  list === 'posts' ||
  around.lists === undefined ||
  listById(around.lists, list)?.columns.some(column => column.id === postColumn) === true;
