import { describe, expect, test } from '@jest/globals';
import { BpmnModdle, type ModdleElement } from 'bpmn-moddle';
import fc from 'fast-check';
import { starters } from '../starters/index.ts';
import { anyWorkflow } from '../testing/anyWorkflow.ts';
import type { Definition } from '../workflow/index.ts';
import { writeBpmn } from './index.ts';

type Way = { from: string; to: string };

/** What is against the rules in a drawing, in words. */
async function against(definition: Definition): Promise<string[]> {
  const { rootElement } = await new BpmnModdle().fromXML(await writeBpmn(definition));
  const [process] = rootElement.rootElements as ModdleElement[];
  const elements = process.flowElements as ModdleElement[];
  const ways = elements
    .filter(e => e.$type === 'bpmn:SequenceFlow')
    .map(
      (e): Way => ({
        from: String((e.sourceRef as ModdleElement).id),
        to: String((e.targetRef as ModdleElement).id),
      }),
    );
  const seen = new Set<string>();
  const faults: string[] = [];
  for (const { from, to } of ways) {
    // A split has a way into each lane, also into two in which nothing is done.
    const isSplit = elements.some(e => e.id === from && e.$type === 'bpmn:ParallelGateway');
    if (!isSplit && seen.has(`${from} ${to}`)) faults.push(`twice from ${from} to ${to}`);
    seen.add(`${from} ${to}`);
  }
  for (const element of elements) {
    if (element.$type === 'bpmn:SequenceFlow') continue;
    const incoming = ways.filter(way => way.to === element.id).length;
    const outgoing = ways.filter(way => way.from === element.id).length;
    const isGateway = element.$type.endsWith('Gateway');
    if (isGateway && !element.name) faults.push(`${element.id} has no name`);
    if (!isGateway && incoming > 1) faults.push(`${incoming} ways come together at ${element.id}`);
    if (isGateway && incoming > 1 && outgoing > 1) faults.push(`${element.id} takes together and parts`);
  }
  return faults;
}

describe('the drawing in BPMN', () => {
  test.each(starters.map(starter => [starter.definition.name, starter.definition] as const))(
    'of “%s” has no way twice, no gateway without a name, and no ways that come together unsaid',
    async (_, definition) => {
      expect(await against(definition)).toEqual([]);
    },
  );

  test('nor has that of any workflow', async () => {
    await fc.assert(
      fc.asyncProperty(anyWorkflow, async definition => {
        expect(await against(definition)).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
});
