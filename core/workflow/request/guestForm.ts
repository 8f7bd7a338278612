/** The form as a guest sees it: their sections in order, what is asked in each with these answers, and what is missing. */
import { type Answers, isAsked as asksSomething, type Field, isEmptyAnswer, type Section } from '../../form/index.ts';
import type { Definition } from '../definition/definition.ts';
import type { GuestStep } from '../definition/guests.ts';
import { evaluateFigures, type Facts } from '../figures/evaluate.ts';
import { isAsked, isNeeded, levelAt } from '../figures/filling.ts';
import type { GuestStanding } from './guest.ts';

export type GuestField = { readonly field: Field; readonly needed: boolean };
export type GuestSection = {
  readonly section: Section;
  readonly fields: readonly GuestField[];
  /** `open` where nothing was handed in, or where something is needed now that was not then. */
  readonly state: 'open' | 'in' | 'back';
  readonly note?: string;
};

/** What a guest may fill in at their step: the fields of a section, unless they are hidden there. */
export const guestFields = (definition: Definition, step: GuestStep, section: string): Field[] =>
  definition.form.fields.filter(f => f.section === section && levelAt(definition, step.id, f) !== 'hidden');

/** The sections of a guest for these answers; a section in which nothing is asked is left out. */
export function guestForm(
  definition: Definition,
  step: GuestStep,
  answers: Answers,
  standing: Pick<GuestStanding, 'sections'>,
  facts: Facts,
): GuestSection[] {
  const { scope } = evaluateFigures(definition, answers, facts);
  return step.guest.sections.flatMap((id): GuestSection[] => {
    const section = definition.form.sections?.find(one => one.id === id);
    if (!section) return [];
    const fields = guestFields(definition, step, id)
      .filter(field => isAsked(definition, field, scope, facts))
      .map(field => ({ field, needed: field.required || isNeeded(definition, field, scope, facts) }));
    if (!fields.some(({ field }) => asksSomething(field))) return [];
    const given = standing.sections[id];
    const lacks = fields.some(
      ({ field, needed }) => needed && asksSomething(field) && isEmptyAnswer(answers[field.id]),
    );
    const state = given?.state === 'in' ? (lacks ? 'open' : 'in') : (given?.state ?? 'open');
    return [{ section, fields, state, ...(given?.state === 'back' && given.note ? { note: given.note } : {}) }];
  });
}

/** The sections that are not handed in. */
export const stillMissing = (form: readonly GuestSection[]): GuestSection[] => form.filter(one => one.state !== 'in');
