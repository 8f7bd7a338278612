/** What Record and Provision bring about: the leave ledger at once, everything else as an effect that is carried out after. */
import { answerWords, isLeaveSpan } from '../../form/index.ts';
import { obstacles } from '../../leave/index.ts';
import type { PersonId } from '../../people/index.ts';
import { type CivilDate, fullDate, isCivilDate, rangeWords } from '../../time/index.ts';
import { fieldById, type StepOf } from '../definition/definition.ts';
import type { Course } from '../execution/execution.ts';
import { workOut } from '../figures/evaluate.ts';
import { naming } from '../mail/letters.ts';
import type { NamedValues } from '../request/events.ts';

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

/** A value as people read it: a person by name, a date with its weekday. */
function valueWords(course: Course, value: unknown): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') {
    const person = course.context.index.person(value as PersonId);
    return person?.name ?? (isCivilDate(value) ? fullDate(value as CivilDate) : value);
  }
  if (Array.isArray(value)) return value.map(one => valueWords(course, one)).join(', ');
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

const listed = (course: Course, found: NamedValues): string =>
  Object.entries(found)
    .map(([name, value]) => `${name} ${valueWords(course, value)}`)
    .join(', ');

/** Values as a list keeps them: whoever reads a row reads a name, not the id of a person. */
const inCells = (course: Course, found: NamedValues): NamedValues =>
  Object.fromEntries(
    Object.entries(found).map(([name, value]) => {
      const person = typeof value === 'string' ? course.context.index.person(value as PersonId) : undefined;
      return [name, person ? person.name : value];
    }),
  );

export function record(course: Course, step: StepOf<'Record'>): void {
  const { effect } = step;
  const { definition, state } = course;
  const label = (id: string) => fieldById(definition, id)?.label ?? id;
  const recorded = (words: string) => course.happen({ kind: 'recorded', step: step.id, words });
  const askedFor = (words: string) => course.happen({ kind: 'recorded', step: step.id, words, undelivered: true });
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
      askedFor(
        `“${effect.label}” on the planner for ${course.who(course.subject)}, ${rangeWords(from, to, Number.NaN)}`,
      );
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
      askedFor(`${effect.property} of ${course.who(course.subject)}: ${valueWords(course, value)}`);
      break;
    }
    case 'add row': {
      const found = values(course, step.id, effect.values);
      if (!found) return;
      course.effect({
        kind: 'add row',
        key: course.key(effect.list),
        list: effect.list,
        values: inCells(course, found),
      });
      recorded(`added a row to ${effect.list}: ${listed(course, found)}`);
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
      course.effect({
        kind: 'change row',
        key: course.key(field.list),
        list: field.list,
        row,
        values: inCells(course, found),
      });
      recorded(`changed ${answerWords(field, row, naming(course.context))} in ${field.list}: ${listed(course, found)}`);
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
      course.happen({ kind: 'opened', step: step.id, workflow: effect.workflow, key, undelivered: true });
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
  const until = undoOn ? `, until ${fullDate(undoOn)}` : '';
  course.happen({
    kind: 'provisioned',
    step: step.id,
    words: `${connection}: ${action}, ${listed(course, found)}${until}`,
    undelivered: true,
  });
  course.goOn({ to: 'next' }, step.id);
}
