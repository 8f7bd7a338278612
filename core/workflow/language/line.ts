/** A line of the written procedure: its sentence and what stands below it. */
import type { Outcome, Verb } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { Phrase } from './phrase.ts';

export type Row = {
  label: string;
  /** How the label is written where it is read back. */
  written: string;
  tone: Outcome['tone'] | 'plain';
  phrases: Phrase[];
  path: Path;
};

export type Line = {
  step: string;
  path: Path;
  /** `3`, or `4a2` for the second step in lane a of step 4. */
  number: string;
  depth: number;
  /** The lane that begins here, when this is its first step. */
  lane: string | null;
  verb: Verb;
  sentence: Phrase[];
  /** Rows under the sentence: of a table, the outcomes of a decision, a checklist, lanes. */
  rows: Row[];
  /** What holds besides: reminders, the limit. */
  after: Phrase[];
};

/** What a verb writes of a line. */
export type LineParts = Pick<Line, 'sentence' | 'rows' | 'after'>;
