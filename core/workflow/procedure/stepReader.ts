/** Reads one step from its sentence, its rows and what stands after it. */
import type { Step } from '../definition/definition.ts';
import type { Passage } from '../language/passage.ts';
import type { Known } from '../language/ruleReader.ts';
import { verbModule } from '../verbs/index.ts';

export { NotUnderstood, type Passage, readCondition, readGo } from '../language/passage.ts';
export { readUntil } from '../verbs/hold.ts';

/** Reads a whole passage as one step; ids are made from the words. */
export const readStep = (passage: Passage, known: Known, id: string): Step =>
  verbModule(passage.verb).read(passage, known, id);
