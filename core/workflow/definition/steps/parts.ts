/** What steps are made of: where they lead, limits, outcomes, and what every shape of a step must say of itself. */
import { z } from 'zod';
import { Formula, Id, Name } from '../../../form/index.ts';
import { PeopleRule } from '../../../people/index.ts';
import { WorkingAmount } from '../../../time/index.ts';
import type { Path } from '../path.ts';

/** Where an outcome or a row leads. `next` in the last place of a lane ends the lane. */
export const Go = z.discriminatedUnion('to', [
  z.object({ to: z.literal('next') }),
  z.object({ to: z.literal('step'), step: Id }),
  z.object({ to: z.literal('close'), closing: Id }),
]);
export type Go = z.infer<typeof Go>;

/** Back to the asker, or to whoever settled an earlier step, who may change the named fields; it goes on at `resume`. */
export const Rework = z.object({
  to: z.literal('rework'),
  whom: Id.optional(),
  fields: z.array(Id).min(1, 'names no field that may be changed').max(200),
  resume: Id,
  atMost: z.number().int().min(1).max(20),
});
export type Rework = z.infer<typeof Rework>;

export const Tone = z.enum(['good', 'rework', 'bad']);
export type Tone = z.infer<typeof Tone>;

export const Outcome = z.object({
  id: Id,
  label: Name,
  tone: Tone,
  note: z.enum(['none', 'may', 'must']),
  /** Fields that must be filled in before this outcome can be chosen. */
  needs: z.array(Id).min(1).max(200).optional(),
  leads: z.discriminatedUnion('to', [...Go.options, Rework]),
});
export type Outcome = z.infer<typeof Outcome>;

/** So many working days are counted back at most. */
export const mostCountedBack = 400;

/**
 * A task in the plan that is counted back from the date of the form: how many working days it takes (one, when nothing is
 * said), how many before the date it must be finished, and what it waits for besides what comes before it in the order of
 * lines and lanes.
 */
export const InPlan = z
  .object({
    takes: z.number().int().min(1).max(mostCountedBack).optional(),
    daysBefore: z.number().int().min(1).max(mostCountedBack).optional(),
    after: z.array(Id).min(1).max(20).optional(),
  })
  .strict()
  .refine(plan => Object.keys(plan).length > 0, 'says nothing of the plan');
export type InPlan = z.infer<typeof InPlan>;

/** Working time of the holder, so many working days before a date of the form, or its last day in the plan. */
export const LimitTime = z.union([
  ...WorkingAmount.options,
  z.object({ byPlan: z.literal(true) }).strict(),
  z.object({ workingDaysBefore: z.number().int().min(0).max(400), field: Id }).strict(),
]);
export type LimitTime = z.infer<typeof LimitTime>;

export const AtLimit = z.union([
  z.enum(['wait', 'pass up']),
  z.object({ passTo: PeopleRule }).strict(),
  z.object({ take: Id }).strict(),
  z.object({ tell: PeopleRule }).strict(),
]);
export type AtLimit = z.infer<typeof AtLimit>;

export const Limit = z.object({
  within: LimitTime,
  /** Working time before the first reminder, then between one and the next. */
  remind: z
    .object({ after: WorkingAmount, every: WorkingAmount.optional(), atMost: z.number().int().min(1).max(20) })
    .nullable(),
  atLimit: AtLimit,
});
export type Limit = z.infer<typeof Limit>;

/** How many of those asked must answer; the first answer settles when nothing is said. */
export const Quorum = z.union([
  z.enum(['everyone', 'majority', 'in turn']),
  z.object({ atLeast: z.number().int().min(1).max(50) }).strict(),
]);
export type Quorum = z.infer<typeof Quorum>;

export const when = Formula.nullable().default(null);
export const whenAway = z.enum(['waits', 'goes up']);
/** To whom a holder may pass it on: those whom its own rule may find, when nothing is said, or anybody. */
export const handTo = z.literal('anybody').optional();
export const Valued = z.object({ name: Name, formula: Formula });

/** Where a step may lead besides to the one after it; `label` tells it from its other leads. */
export type Lead = { go: Go | Rework; label: string; path: Path };

/** What a formula of a step must give. */
export type PlacedFormula = { formula: string; wanted: 'yes/no' | 'date' | 'number' | 'anything'; path: Path };

/** What a verb says of the shape of its steps. Paths begin at the step. */
export type Shape<Step> = {
  leads: (step: Step) => readonly Lead[];
  /** Whether it goes on to the next step when nothing leads elsewhere. */
  goesOn: (step: Step) => boolean;
  /** Its formulas, without its condition. */
  formulas: (step: Step) => readonly PlacedFormula[];
};

export const noFormulas = (): readonly PlacedFormula[] => [];
export const noLeads = (): readonly Lead[] => [];

export const formulasOfValues = (values: readonly { formula: string }[], path: Path): PlacedFormula[] =>
  values.map(({ formula }, n) => ({ formula, wanted: 'anything', path: [...path, n, 'formula'] }));

/** Formulas in the rule of who handles a step: the least grade or spending limit of a manager. */
export function formulasOfRule({ first, otherwise }: PeopleRule): PlacedFormula[] {
  const found: PlacedFormula[] = [];
  [first, ...otherwise].forEach((rule, n) => {
    const at: Path = ['who', ...(n === 0 ? ['first'] : ['otherwise', n - 1])];
    if (rule.kind === 'manager with') found.push({ formula: rule.least, wanted: 'number', path: [...at, 'least'] });
    if (rule.kind === 'either')
      rule.rules.forEach((one, r) => {
        if (one.kind === 'manager with')
          found.push({ formula: one.least, wanted: 'number', path: [...at, 'rules', r, 'least'] });
      });
  });
  return found;
}

/** The files of a field: what somebody gave, or a letter that was kept there. */
export const AttachedFiles = z.object({ what: z.literal('files'), field: Id });
export type AttachedFiles = z.infer<typeof AttachedFiles>;

/** Kinds of field that an invitation can be over. */
export const invitable = ['date', 'date range', 'leave span', 'table'] as const;

/** What goes out with a message. */
export const Attachment = z.discriminatedUnion('what', [
  AttachedFiles,
  /** An invitation for calendars over a date, a range of dates, a span of leave, or the rows of a table. */
  z.object({ what: z.literal('invitation'), of: Id, title: Name }),
]);
export type Attachment = z.infer<typeof Attachment>;

export const Attachments = z
  .array(Attachment)
  .min(1)
  .max(5)
  .refine(all => all.filter(one => one.what === 'invitation').length < 2, 'has more than one invitation');
