/**
 * What a verb is made of besides the shape of its steps (`definition/steps`): what happens when a request comes to one,
 * its sentence, how the sentence is read back, and what may be wrong with it.
 */
import type { Findings } from '../checking/finding.ts';
import type { StepOf, Verb } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { Placed } from '../definition/structure.ts';
import type { Execution } from '../execution/execution.ts';
import type { LineParts } from '../language/line.ts';
import type { Passage } from '../language/passage.ts';
import type { Known } from '../language/ruleReader.ts';
import type { Writing } from '../language/writing.ts';

export type VerbModule<V extends Verb> = {
  /** A request comes to the step, and its condition holds. */
  readonly take: (execution: Execution, step: StepOf<V>) => void;
  readonly say: (writing: Writing, step: StepOf<V>, path: Path) => LineParts;
  /** @throws NotUnderstood */
  readonly read: (passage: Passage, known: Known, id: string) => StepOf<V>;
  readonly check: (findings: Findings, placed: Placed, step: StepOf<V>) => void;
};
