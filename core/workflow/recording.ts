/** What Record and Provision bring about: the leave ledger at once, everything else as an effect that is carried out after. */
import { answerWords, isLeaveSpan } from '../form/index.ts';
import { obstacles } from '../leave/index.ts';
import type { CivilDate } from '../time/index.ts';
import type { Course } from './course.ts';
import { fieldById, type StepOf } from './definition.ts';
import { workOut } from './evaluate.ts';
import type { NamedValues } from './events.ts';
import { naming } from './letters.ts';

/** The values of some formulas by name; nothing when one has no value and the request is stuck. */
function values(
  course: Course,
  step: string,
  wanted: readonly { name: string; formula: string }[],
): NamedValues | null {
  const found: Record<string, unknown> = {};
  const scope = course.scope();
  for (const { name, formula } of wanted) {
    const worked = workOut(course.definition, formula, 'anything', scope, course.facts().lists);
    if (!worked.known) {
      course.stuck(step, `${worked.because}.`);
      return null;
    }
    found[name] = worked.value;
  }
  return found;
}

const listed = (found: NamedValues): string =>
  Object.entries(found)
    .map(([name, value]) => `${name} ${typeof value === 'object' ? JSON.stringify(value) : String(value)}`)
    .join(', ');

export function record(course: Course, step: StepOf<'Record'>): void {
  const { effect } = step;
  const { definition, state } = course;
  const label = (id: string) => fieldById(definition, id)?.label ?? id;
  const recorded = (words: string) => course.happen({ kind: 'recorded', step: step.id, words });
  switch (effect.kind) {
    case 'book leave':
      if (!bookLeave(course, step, effect)) return;
      break;
    case 'planner': {
      const from = course.dateOf(effect.span);
      const answer = state.answers[effect.span];
      if (!from || typeof answer !== 'object' || answer === null || !('to' in answer)) {
        return course.stuck(step.id, `${label(effect.span)} is not known, so nothing can be put on the planner.`);
      }
      const to = (typeof answer.to === 'string' ? answer.to : answer.to.date) as CivilDate;
      course.effect({
        kind: 'planner',
        key: course.key('planner'),
        person: course.subject,
        from,
        to,
        label: effect.label,
      });
      recorded(`put “${effect.label}” on the planner for ${course.who(course.subject)}, ${from} to ${to}`);
      break;
    }
    case 'person': {
      const found = values(course, step.id, [{ name: effect.property, formula: effect.formula }]);
      if (!found) return;
      const value = found[effect.property];
      course.effect({
        kind: 'change person',
        key: course.key('person'),
        person: course.subject,
        property: effect.property,
        value,
      });
      recorded(`set ${effect.property} of ${course.who(course.subject)} to ${String(value)}`);
      break;
    }
    case 'add row': {
      const found = values(course, step.id, effect.values);
      if (!found) return;
      course.effect({ kind: 'add row', key: course.key(effect.list), list: effect.list, values: found });
      recorded(`added a row to ${effect.list}: ${listed(found)}`);
      break;
    }
    case 'change row': {
      const field = fieldById(definition, effect.row);
      const row = state.answers[effect.row];
      if (field?.kind !== 'pick' || typeof row !== 'string') {
        return course.stuck(step.id, `${label(effect.row)} is not picked, so no row can be changed.`);
      }
      const found = values(course, step.id, effect.values);
      if (!found) return;
      course.effect({ kind: 'change row', key: course.key(field.list), list: field.list, row, values: found });
      recorded(`changed ${answerWords(field, row, naming(course.context))} in ${field.list}: ${listed(found)}`);
      break;
    }
    case 'set':
      if (!course.set(step.id, effect.field, effect.formula)) return;
      break;
    case 'open': {
      const found = values(course, step.id, effect.values);
      if (!found) return;
      const key = course.key(effect.workflow);
      course.effect({ kind: 'open request', key, workflow: effect.workflow, person: course.subject, values: found });
      course.happen({ kind: 'opened', step: step.id, workflow: effect.workflow, key });
      break;
    }
  }
  course.goOn({ to: 'next' }, step.id);
}

function bookLeave(
  course: Course,
  step: StepOf<'Record'>,
  effect: Extract<StepOf<'Record'>['effect'], { kind: 'book leave' }>,
): boolean {
  const span = course.state.answers[effect.span];
  const type = course.state.answers[effect.type];
  if (!isLeaveSpan(span) || typeof type !== 'string') {
    course.stuck(step.id, 'The dates or the kind of leave are not known, so nothing can be booked.');
    return false;
  }
  const how = { request: course.state.request, how: 'asked before' } as const;
  const [obstacle] = obstacles(course.context.book, course.subject, type, span, how);
  if (obstacle) {
    course.stuck(step.id, obstacle.message);
    return false;
  }
  course.happen({ kind: 'booked', type, span, planner: effect.planner });
  return true;
}

export function provision(course: Course, step: StepOf<'Provision'>): void {
  const found = values(course, step.id, step.values);
  if (!found) return;
  let undoOn: CivilDate | null = null;
  if (step.removeOn) {
    const worked = workOut(course.definition, step.removeOn, 'date', course.scope(), course.facts().lists);
    if (!worked.known) return course.stuck(step.id, `${worked.because}.`);
    undoOn = worked.value as CivilDate;
  }
  const { connection, action } = step;
  course.effect({ kind: 'provision', key: course.key(connection), connection, action, values: found, undoOn });
  const until = undoOn ? `, undone again on ${undoOn}` : '';
  course.happen({
    kind: 'provisioned',
    step: step.id,
    words: `asked ${connection} to ${action}: ${listed(found)}${until}`,
  });
  course.goOn({ to: 'next' }, step.id);
}
