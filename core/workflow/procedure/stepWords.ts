/** One step in a sentence by itself, wherever it will stand. */
import type { DirectoryIndex } from '../../people/index.ts';
import type { Definition, Step } from '../definition/definition.ts';
import type { NamedLists } from '../language/writing.ts';
import { procedure, readAloud } from './procedure.ts';

export function inSentence(definition: Definition, step: Step, index?: DirectoryIndex, lists?: NamedLists): string {
  const alone = { ...definition, steps: [...definition.steps, step] };
  const line = procedure(alone, index, lists).find(l => l.path.length === 2 && l.path[1] === definition.steps.length);
  return line ? `${line.verb}: ${readAloud(line)}` : step.verb;
}
