/** Steps on the clipboard, as JSON, so that they can be taken to another workflow, another tab, or a mail to a colleague. */
import { type Definition, readDefinition, type Step } from '@north-pebble/core/workflow';

const mark = 'north-pebble steps';

export const stepsAsText = (steps: readonly Step[]): string => JSON.stringify({ [mark]: 2, steps }, null, 2);

/** The steps in a text from the clipboard, or why there are none. */
export function stepsFromText(text: string): { steps: Step[] } | { wrong: string } {
  let found: unknown;
  try {
    found = JSON.parse(text);
  } catch {
    return { wrong: 'There are no steps on the clipboard. Copy a line first.' };
  }
  if (typeof found !== 'object' || found === null || !(mark in found) || !('steps' in found)) {
    return { wrong: 'What is on the clipboard is not a step of a workflow.' };
  }
  const whole: Definition = {
    formatVersion: 3,
    name: 'x',
    area: 'x',
    purpose: '',
    form: { fields: [] },
    figures: [],
    steps: found.steps as Step[],
    messages: [],
    closings: [{ id: 'x', name: 'x', tone: 'good', message: null }],
  };
  const read = readDefinition(whole);
  return read.ok
    ? { steps: read.definition.steps }
    : { wrong: `A step on the clipboard cannot be read: ${read.faults[0].message}` };
}
