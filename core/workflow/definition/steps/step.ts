/** A step: one of the verbs, each in a module of its own; and Split, whose lanes hold steps again. */
import { z } from 'zod';
import { Id, Name } from '../../../form/index.ts';
import { Ask, askShape } from './ask.ts';
import { Choose, chooseShape } from './choose.ts';
import { Close, closeShape } from './close.ts';
import { Decide, decideShape } from './decide.ts';
import { Do, doShape } from './do.ts';
import { Hold, holdShape } from './hold.ts';
import { noFormulas, noLeads, type Shape, when } from './parts.ts';
import { Provision, provisionShape } from './provision.ts';
import { Record, recordShape } from './record.ts';
import { Tell, tellShape } from './tell.ts';

const flat = [Ask, Choose, Decide, Do, Hold, Record, Provision, Tell, Close] as const;

export type FlatStep = z.infer<(typeof flat)[number]>;
export type Lane = { id: string; name: string; steps: Step[] };
export type SplitStep = {
  verb: 'Split';
  id: string;
  when: string | null;
  /** How many lanes must be done before it goes on. */
  needs: 'all' | 'any' | number;
  lanes: Lane[];
};
export type Step = FlatStep | SplitStep;
export type Verb = Step['verb'];
export type StepOf<V extends Verb> = Extract<Step, { verb: V }>;

export const verbs = [
  'Ask',
  'Choose',
  'Decide',
  'Do',
  'Split',
  'Hold',
  'Record',
  'Provision',
  'Tell',
  'Close',
] as const satisfies readonly Verb[];

// Named once, so that a getter can point back at it.
const Split = z.object({
  verb: z.literal('Split'),
  id: Id,
  when,
  needs: z.union([z.enum(['all', 'any']), z.number().int().min(1).max(20)]),
  get lanes(): z.ZodArray<z.ZodObject<{ id: typeof Id; name: typeof Name; steps: z.ZodArray<z.ZodType<Step>> }>> {
    return z
      .array(z.object({ id: Id, name: Name, steps: z.array(Step).max(200) }))
      .min(1)
      .max(20);
  },
});
export const Step: z.ZodType<Step> = z.discriminatedUnion('verb', [...flat, Split]) as unknown as z.ZodType<Step>;

/** What each verb says of the shape of its steps; the compiler names a verb that is forgotten. */
const shapes: { readonly [V in Verb]: Shape<StepOf<V>> } = {
  Ask: askShape,
  Choose: chooseShape,
  Decide: decideShape,
  Do: doShape,
  // Its lanes are sequences of their own, so they are walked by the structure.
  Split: { leads: noLeads, goesOn: () => false, formulas: noFormulas },
  Hold: holdShape,
  Record: recordShape,
  Provision: provisionShape,
  Tell: tellShape,
  Close: closeShape,
};

export const shapeOf = <S extends Step>(step: S): Shape<S> => shapes[step.verb] as unknown as Shape<S>;

/** A step that people hold. */
export type PersonStep = StepOf<'Decide'> | StepOf<'Do'>;
export const isPersonStep = (step: Step | undefined): step is PersonStep =>
  step?.verb === 'Decide' || step?.verb === 'Do';
