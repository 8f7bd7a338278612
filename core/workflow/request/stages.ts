/** One form in stages: who fills in each section when, and who reads what is in it, in words. */
import { isAsked, mayChange, type Section } from '../../form/index.ts';
import { type Definition, fieldById } from '../definition/definition.ts';
import { guestSteps } from '../definition/guests.ts';
import { allSteps, stepNumber } from '../definition/structure.ts';
import { levelAt } from '../figures/filling.ts';
import { readersWords } from './visibility.ts';

export type Stage = {
  /** Nothing for fields that stand above the sections. */
  readonly section: Section | null;
  /** Who fills it in, in the order of the steps; nobody where this is empty. */
  readonly filled: readonly string[];
  /** Who reads what, with the fields of which it is so, where it is not so of all of them. */
  readonly read: readonly { readonly words: string; readonly fields: readonly string[] }[];
};

/** The sections of a form that ask something, in their order. */
export function stages(definition: Definition): Stage[] {
  const sections: (Section | null)[] = [null, ...(definition.form.sections ?? [])];
  return sections.flatMap(section => {
    const fields = definition.form.fields.filter(
      field => isAsked(field) && (field.section ?? null) === (section?.id ?? null),
    );
    if (fields.length === 0) return [];
    const filled = allSteps(definition).flatMap((step, n) => {
      const isOpen = fields.some(field => mayChange(levelAt(definition, step.id, field)));
      if (n === 0) return isOpen ? askedBy(definition, section) : [];
      if (step.verb !== 'Decide' && step.verb !== 'Do')
        return set(
          step,
          fields.map(f => f.id),
        )
          ? [`North Pebble at step ${stepNumber(definition, step.id)}`]
          : [];
      return isOpen ? [`whoever has step ${stepNumber(definition, step.id)}`] : [];
    });
    const guests = guestSteps(definition)
      .filter(step => section !== null && step.guest.sections.includes(section.id))
      .map(
        step =>
          `${fieldById(definition, step.guest.name)?.label ?? 'the guest'} by a personal link at step ${stepNumber(definition, step.id)}`,
      );
    const byWords = new Map<string, string[]>();
    for (const field of fields) {
      const words = readersWords(definition, field);
      byWords.set(words, [...(byWords.get(words) ?? []), field.label]);
    }
    const read = [...byWords].map(([words, labels]) => ({ words, fields: byWords.size === 1 ? [] : labels }));
    return [{ section, filled: [...filled, ...guests], read }];
  });
}

function askedBy({ opening }: Definition, section: Section | null): string[] {
  const isOutside = section !== null && opening?.outside?.sections.includes(section.id);
  return isOutside ? ['the asker', 'whoever asks from outside, at the public address'] : ['the asker'];
}

const set = (step: ReturnType<typeof allSteps>[number], fields: readonly string[]): boolean =>
  step.verb === 'Record' &&
  'field' in step.effect &&
  step.effect.field !== undefined &&
  step.effect.kind !== 'keep paper' &&
  fields.includes(step.effect.field);

/** `Filled in by the asker and whoever has step 4.` */
export const filledWords = ({ filled }: Stage): string =>
  filled.length === 0
    ? 'Filled in by nobody.'
    : `Filled in by ${filled.length === 1 ? filled[0] : `${filled.slice(0, -1).join(', ')} and ${filled.at(-1)}`}.`;
