/** The verbs, each in a module of its own; the compiler names one that is forgotten. */
import type { Step, StepOf, Verb } from '../definition/definition.ts';
import type { TakeStep } from '../execution/execution.ts';
import { ask } from './ask.ts';
import { choose } from './choose.ts';
import { close } from './close.ts';
import { decide } from './decide.ts';
import { doStep } from './do.ts';
import { hold } from './hold.ts';
import { provision } from './provision.ts';
import { record } from './record.ts';
import { split } from './split.ts';
import { tell } from './tell.ts';
import type { VerbModule } from './verb.ts';

const modules: { readonly [V in Verb]: VerbModule<V> } = {
  Ask: ask,
  Choose: choose,
  Decide: decide,
  Do: doStep,
  Split: split,
  Hold: hold,
  Record: record,
  Provision: provision,
  Tell: tell,
  Close: close,
};

export const verbModule = <V extends Verb>(verb: V): VerbModule<V> => modules[verb];
/** The module of a step’s own verb, for steps of whatever verb. */
export const moduleOf = (step: Step): VerbModule<Verb> => modules[step.verb] as unknown as VerbModule<Verb>;

export const takeStep: TakeStep = (execution, step) => moduleOf(step).take(execution, step as StepOf<Verb>);
