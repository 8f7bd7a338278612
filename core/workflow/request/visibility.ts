/**
 * Who sees which answer of a request. A field is open to a reader, guarded (opened one at a time, each look recorded),
 * withheld (they know that something was given, not what), or hidden altogether.
 */
import {
  type AccessLevel,
  type Answers,
  type Field,
  isEmptyAnswer,
  mayChange,
  type ReferenceList,
} from '../../form/index.ts';
import type { Compiled } from '../../formula/index.ts';
import { listWords } from '../../time/index.ts';
import type { Definition, Step } from '../definition/definition.ts';
import { guestStepsOf, isGuestStep } from '../definition/guests.ts';
import { allSteps, stepNumber } from '../definition/structure.ts';
import { compileWorkflow, type FigureValues } from '../figures/evaluate.ts';
import { levelAt } from '../figures/filling.ts';

/** What somebody has to do with a request. */
export type Reader = {
  /** The asker, or the person that it is for. */
  readonly own: boolean;
  /** The steps that they hold or held. */
  readonly steps: readonly string[];
  /** Their roles on file. */
  readonly roles: readonly string[];
  /** Whether they read everybody’s requests because of their work. */
  readonly all: boolean;
};

export type Sight = 'open' | 'guarded' | 'withheld' | 'hidden';

/** Documents are guarded whatever is said; other fields when readers are named. */
export const isGuarded = (field: Field): boolean =>
  field.kind === 'document' || field.kind === 'paper' || field.readers !== undefined;

const isHiddenSomewhere = (definition: Definition, field: Field): boolean =>
  guestStepsOf(definition, field).length > 0 ||
  Object.values(definition.access ?? {}).some(levels => levels[field.id] === 'hidden');

function guardedSight(definition: Definition, field: Field, reader: Reader): Sight {
  if (field.readers?.some(role => reader.roles.includes(role))) return 'guarded';
  const levels = reader.steps.map(step => levelAt(definition, step, field));
  // Whoever fills it in must be able to read it; a document without named readers is there for those who decide on it.
  const byWork = levels.some(level => (field.readers ? mayChange(level) : level !== 'hidden'));
  if (byWork) return 'guarded';
  return isHiddenSomewhere(definition, field) && !reader.all ? 'hidden' : 'withheld';
}

export function sightOf(definition: Definition, field: Field, reader: Reader): Sight {
  if (reader.own && isTheirs(definition, field)) return 'open';
  if (isGuarded(field)) return guardedSight(definition, field, reader);
  if (reader.all || reader.steps.some(step => levelAt(definition, step, field) !== 'hidden')) return 'open';
  return isHiddenSomewhere(definition, field) ? 'hidden' : 'open';
}

/** What the asker gave, and what somebody fills in later that the designer says is for them to read. */
const isTheirs = (definition: Definition, field: Field): boolean =>
  levelAt(definition, definition.steps[0].id, field) !== 'hidden' || field.askerReads === true;

/** Who reads a field, in one sentence, as it is and not as it is meant. */
export function readersWords(definition: Definition, field: Field): string {
  const asker = isTheirs(definition, field) ? ['the asker'] : [];
  // What goes on by itself is nobody's to hold.
  const holding = allSteps(definition).filter(
    step => step.verb === 'Decide' || (step.verb === 'Do' && !(isGuestStep(step) && step.guest.goesOn)),
  );
  const guarded = isGuarded(field);
  const mayRead = (level: AccessLevel) => (guarded && field.readers ? mayChange(level) : level !== 'hidden');
  const steps = holding.filter(step => mayRead(levelAt(definition, step.id, field)));
  const numbers = steps.map(step => String(stepNumber(definition, step.id)));
  const roles = (field.readers ?? []).map(role => `those who are ${role}`);
  const others = guarded
    ? []
    : isHiddenSomewhere(definition, field)
      ? ['those who look after requests']
      : ['everybody else who sees the request'];
  const holders = numbers.length > 0 ? [`whoever has step ${listWords(numbers, 'or')}`] : [];
  const all = [...asker, ...roles, ...holders, ...others];
  if (all.length === 0) return 'Read by nobody.';
  return `Read by ${listWords(all, 'and')}${guarded ? ', each look of others than the asker recorded' : ''}.`;
}

/** Sight of every field. */
export type Sights = ReadonlyMap<string, Sight>;

/** What is not known to be seen is hidden. */
export const sightIn = (sights: Sights, field: string): Sight => sights.get(field) ?? 'hidden';

export const sightsOf = (definition: Definition, reader: Reader): Sights =>
  new Map(definition.form.fields.map(field => [field.id, sightOf(definition, field, reader)]));

/** The answers without those that are not open; what is guarded or withheld is named, when something was given. */
export function answersSeen(
  answers: Answers,
  sights: Sights,
): { answers: Answers; closed: { field: string; sight: 'guarded' | 'withheld' }[] } {
  const closed: { field: string; sight: 'guarded' | 'withheld' }[] = [];
  const seen = Object.entries(answers).filter(([field, answer]) => {
    const sight = sightIn(sights, field);
    if ((sight === 'guarded' || sight === 'withheld') && !isEmptyAnswer(answer)) closed.push({ field, sight });
    return sight === 'open';
  });
  return { answers: Object.fromEntries(seen), closed };
}

/** A figure tells of the fields that it is worked out from, so it is seen by those who see them all. */
export function figuresSeen(
  definition: Definition,
  figures: FigureValues,
  sights: Sights,
  lists: readonly ReferenceList[] | undefined,
): FigureValues {
  const shut = shutNames(definition, sights, lists);
  if (shut.size === 0) return figures;
  const open = definition.figures.filter(figure => !shut.has(figure.name));
  return Object.fromEntries(open.map(({ id }) => [id, figures[id]]));
}

/** Figures that tell of nothing that only some may read. */
export function figuresForEverybody(definition: Definition, lists?: readonly ReferenceList[]): Definition['figures'] {
  const known = forEverybody.get(definition);
  if (known && known.lists === lists) return known.figures;
  const shut = shutNames(definition, sightsInMail(definition), lists);
  const figures = definition.figures.filter(figure => !shut.has(figure.name));
  forEverybody.set(definition, { lists, figures });
  return figures;
}
/** A definition never changes, so what was found of it stays true. */
const forEverybody = new WeakMap<
  Definition,
  { lists: readonly ReferenceList[] | undefined; figures: Definition['figures'] }
>();

/** Names of the fields that are not open, and of the figures that tell of them. */
function shutNames(definition: Definition, sights: Sights, lists: readonly ReferenceList[] | undefined): Set<string> {
  const shut = new Set(definition.form.fields.filter(f => sightIn(sights, f.id) !== 'open').map(f => f.label));
  if (shut.size === 0) return shut;
  for (const { name, compiled } of compileWorkflow(definition, lists).figures)
    if (tells(compiled, shut)) shut.add(name);
  return shut;
}

const tells = (compiled: Compiled, shut: ReadonlySet<string>): boolean =>
  !compiled.ok || compiled.formula.uses.some(use => shut.has(use) || shut.has(use.split('.')[0]));

/** The formulas of a step, wherever in it they stand; those of steps inside it are their own. */
function formulasIn(part: unknown): string[] {
  if (typeof part !== 'object' || part === null) return [];
  return Object.entries(part).flatMap(([key, value]) => {
    if (key === 'lanes') return [];
    if (typeof value === 'string') return ['when', 'condition', 'formula', 'least'].includes(key) ? [value] : [];
    return formulasIn(value);
  });
}

/** Whether the reasons of a step may tell of something that is not open to a reader. */
export function tellsClosed(
  definition: Definition,
  step: Step,
  sights: Sights,
  lists: readonly ReferenceList[] | undefined,
): boolean {
  const shut = shutNames(definition, sights, lists);
  if (shut.size === 0) return false;
  const { formula } = compileWorkflow(definition, lists);
  return formulasIn(step).some(source => tells(formula(source, 'anything'), shut));
}

/** Fields whose answers may stand where anybody who sees the request reads them: its title, its mails. */
export const isForEverybody = (definition: Definition, field: Field): boolean =>
  !isGuarded(field) && !isHiddenSomewhere(definition, field);

/** Sight of a reader of mails: they lie in mailboxes, where nobody records a look. */
export const sightsInMail = (definition: Definition): Sights =>
  new Map(definition.form.fields.map(field => [field.id, isGuarded(field) ? 'withheld' : 'open']));
