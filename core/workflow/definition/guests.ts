/** Which sections of a form are filled in by guests, and at which step. */
import type { Field } from '../../form/index.ts';
import type { Definition, StepOf } from './definition.ts';
import { mostLinkDays } from './steps/index.ts';
import { structure } from './structure.ts';

export type GuestStep = StepOf<'Do'> & { guest: NonNullable<StepOf<'Do'>['guest']> };

export const isGuestStep = (step: unknown): step is GuestStep =>
  (step as { verb?: unknown } | undefined)?.verb === 'Do' && (step as { guest?: unknown }).guest !== undefined;

const found = new WeakMap<
  Definition,
  { steps: readonly GuestStep[]; bySection: ReadonlyMap<string, readonly string[]> }
>();

function guestsOf(definition: Definition) {
  const known = found.get(definition);
  if (known) return known;
  const steps = structure(definition).all.flatMap(({ step }) => (isGuestStep(step) ? [step] : []));
  const bySection = new Map<string, string[]>();
  for (const step of steps)
    for (const section of step.guest.sections) bySection.set(section, [...(bySection.get(section) ?? []), step.id]);
  const guests = { steps, bySection };
  found.set(definition, guests);
  return guests;
}

/** The steps of a definition at which guests fill something in. */
export const guestSteps = (definition: Definition): readonly GuestStep[] => guestsOf(definition).steps;

const asGuests = new WeakMap<Definition, GuestStep>();

/** Whoever asked from outside, as the guest of the first step: they have a page of their own, and nothing to fill in on it. */
export function outsideGuest(definition: Definition): GuestStep | undefined {
  const outside = definition.opening?.outside;
  if (!outside) return undefined;
  const known = asGuests.get(definition);
  if (known) return known;
  const { name, mail, keptBy: who } = outside;
  const { id } = definition.steps[0];
  const step: GuestStep = {
    verb: 'Do',
    id,
    when: null,
    who,
    whenAway: 'waits',
    task: definition.name,
    limit: null,
    guest: { name, mail, sections: [], days: mostLinkDays },
  };
  asGuests.set(definition, step);
  return step;
}

/** Whether the guest of a step is whoever asked from outside. */
export const isOutsideGuest = (definition: Definition, step: GuestStep): boolean =>
  definition.opening?.outside !== undefined && step.guest.mail === definition.opening.outside.mail;

/** The steps at which a guest fills a field in; nothing for most fields. */
export const guestStepsOf = (definition: Definition, field: Field): readonly string[] =>
  (field.section !== undefined && guestsOf(definition).bySection.get(field.section)) || none;

const none: readonly string[] = [];
