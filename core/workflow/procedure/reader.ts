/**
 * Words turned into steps. Deterministic: the same words always give the same steps, what is not understood is said at
 * its place, and nothing is guessed in silence. Sentences that North Pebble writes read back into the same steps.
 */
import { idFrom } from '../../form/index.ts';
import type { DirectoryIndex } from '../../people/index.ts';
import { type Definition, type Step, verbs } from '../definition/definition.ts';
import { allSteps, structure } from '../definition/structure.ts';
import { namesOf } from '../figures/evaluate.ts';
import { conditionFrom } from '../language/conditionWords.ts';
import type { Known } from '../language/ruleReader.ts';
import { NotUnderstood, type Passage, readStep } from './stepReader.ts';

export type ReadingFault = { line: number; message: string; expected: readonly string[] };

type Numbered = Passage & { number: string; line: number };

const head = /^\s*(\d+(?:[a-z]\d+)*)\.\s+(\w+):\s*(.*)$/;

/** The lines of a written procedure gathered into one passage a step. */
function passages(text: string): { all: Numbered[]; faults: ReadingFault[] } {
  const all: (Numbered & { rows: string[]; after: string[] })[] = [];
  const faults: ReadingFault[] = [];
  text.split('\n').forEach((line, i) => {
    if (line.trim() === '') return;
    const found = head.exec(line);
    if (found) {
      const verb = verbs.find(v => v.toLowerCase() === found[2].toLowerCase());
      if (!verb) faults.push({ line: i + 1, message: `“${found[2]}” is not a verb of a step.`, expected: verbs });
      else all.push({ number: found[1], verb, sentence: found[3], rows: [], after: [], line: i + 1 });
      return;
    }
    const part = /^\s*([-+])\s+(.*)$/.exec(line);
    const last = all[all.length - 1];
    if (!part || !last)
      faults.push({ line: i + 1, message: `“${line.trim()}” belongs to no step.`, expected: ['1. Ask: …'] });
    else (part[1] === '-' ? last.rows : last.after).push(part[2]);
  });
  return { all, faults };
}

/** Ids of the base at the same places stay, so that only what the words changed is changed. */
function keepIds(step: Step, before: Step | undefined): Step {
  if (!before || before.verb !== step.verb) return step;
  const ids = <T extends { id: string }>(mine: readonly T[], theirs: readonly { id: string }[] | undefined): T[] =>
    mine.map((item, i) => (theirs?.[i] ? { ...item, id: theirs[i].id } : item));
  switch (step.verb) {
    case 'Choose':
      return { ...step, rows: ids(step.rows, (before as typeof step).rows) };
    case 'Decide': {
      const outcomes = ids(step.outcomes, (before as typeof step).outcomes);
      const { limit, undecided } = step;
      const kept = (id: string) => outcomes[step.outcomes.findIndex(o => o.id === id)]?.id ?? id;
      const named = { ...step, outcomes, ...(undecided === undefined ? {} : { undecided: kept(undecided) }) };
      if (!limit || typeof limit.atLimit !== 'object' || !('take' in limit.atLimit)) return named;
      return { ...named, limit: { ...limit, atLimit: { take: kept(limit.atLimit.take) } } };
    }
    case 'Do':
      return step.checklist ? { ...step, checklist: ids(step.checklist, (before as typeof step).checklist) } : step;
    case 'Split':
      return { ...step, lanes: ids(step.lanes, (before as typeof step).lanes) };
    default:
      return step;
  }
}

/**
 * Reads a whole written procedure.
 * @param base the definition whose form, figures, messages and closings the words name; its ids are kept where they fit
 */
export function readProcedure(
  text: string,
  base: Definition,
  index?: DirectoryIndex,
): { ok: true; steps: Step[] } | { ok: false; faults: ReadingFault[] } {
  const { all, faults } = passages(text);
  const before = new Map(structure(base).all.map(p => [p.number, p.step]));
  const ids = new Map<string, string>();
  const taken: string[] = [];
  for (const passage of all) {
    const old = before.get(passage.number);
    const id =
      old && old.verb === passage.verb && !taken.includes(old.id)
        ? old.id
        : idFrom(passage.verb, [...taken, ...allSteps(base).map(s => s.id)]);
    ids.set(passage.number, id);
    taken.push(id);
  }
  const known: Known = { definition: base, index, unsure: [], stepAt: number => ids.get(number) };
  const steps: Step[] = [];
  const byNumber = new Map<string, Step>();
  for (const passage of all) {
    try {
      const step = keepIds(readStep(passage, known, ids.get(passage.number)!), before.get(passage.number));
      byNumber.set(passage.number, step);
      const within = /^(.*)([a-z])\d+$/.exec(passage.number);
      if (!within) steps.push(step);
      else {
        const split = byNumber.get(within[1]);
        const lane = split?.verb === 'Split' ? split.lanes[within[2].charCodeAt(0) - 97] : undefined;
        if (lane) lane.steps.push(step);
        else
          faults.push({
            line: passage.line,
            message: `There is no lane ${within[2]} in step ${within[1]}.`,
            expected: [],
          });
      }
    } catch (fault) {
      if (!(fault instanceof NotUnderstood)) throw fault;
      faults.push({ line: passage.line, message: fault.message, expected: fault.expected });
    }
  }
  return faults.length > 0 ? { ok: false, faults } : { ok: true, steps };
}

/** Conditions typed in words, for places where only a condition is asked for. */
export const conditionOf = (words: string, definition: Definition): string | undefined =>
  conditionFrom(words, namesOf(definition));
