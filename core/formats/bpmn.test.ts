import { describe, expect, test } from '@jest/globals';
import { BpmnModdle } from 'bpmn-moddle';
import fc from 'fast-check';
import { anyWorkflow } from '../testing/anyWorkflow.ts';
import { annualLeave, index } from '../testing/house.ts';
import { readBpmn, workflowJsonSchema, writeBpmn } from './index.ts';

const foreign = (body: string) => `<?xml version="1.0"?>
<definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL" id="d" targetNamespace="x">
  <process id="p" name="Boat repair" isExecutable="false">${body}</process>
</definitions>`;
const flow = (id: string, from: string, to: string, more = '') =>
  `<sequenceFlow id="${id}" sourceRef="${from}" targetRef="${to}" ${more}/>`;

describe('BPMN', () => {
  test('a workflow goes out and comes back the same, and the file is read without a warning', async () => {
    const xml = await writeBpmn(annualLeave, index);
    const { warnings, rootElement } = await new BpmnModdle().fromXML(xml);
    expect(warnings).toEqual([]);
    expect(JSON.stringify(rootElement.diagrams ?? '')).toContain('BPMNShape');
    expect(await readBpmn(xml)).toEqual({ ok: true, definition: annualLeave, unread: [] });
  });

  test('whatever its steps are', async () => {
    await fc.assert(
      fc.asyncProperty(anyWorkflow, async definition => {
        expect(await readBpmn(await writeBpmn(definition))).toEqual({ ok: true, definition, unread: [] });
      }),
      { numRuns: 60 },
    );
  });

  test('of other tools a structured part is read: tasks, decisions, lanes, timers and ends', async () => {
    const read = await readBpmn(
      foreign(`<startEvent id="s"/><userTask id="t" name="Inspect"/><exclusiveGateway id="g"/><parallelGateway id="f"/><task id="a" name="Order wood"/><task id="b" name="Clear the slip"/>
      <parallelGateway id="j"/><intermediateCatchEvent id="w"><timerEventDefinition id="td"><timeDuration>P3D</timeDuration></timerEventDefinition></intermediateCatchEvent><endEvent id="e" name="Repaired"/><endEvent id="r" name="Rejected"/>
      ${flow('f1', 's', 't')}${flow('f2', 't', 'g')}${flow('f3', 'g', 'f', 'name="Worth it"')}${flow('f4', 'g', 'r', 'name="Not worth it, rejected"')}${flow('f5', 'f', 'a', 'name="Wood"')}${flow('f6', 'f', 'b', 'name="Slip"')}${flow('f7', 'a', 'j')}${flow('f8', 'b', 'j')}${flow('f9', 'j', 'w')}${flow('f10', 'w', 'e')}`),
    );
    if (!read.ok) throw new Error(`${read.message} ${JSON.stringify(read.faults)}`);
    expect(read.definition.name).toBe('Boat repair');
    expect(read.definition.steps.map(s => s.verb)).toEqual(['Ask', 'Decide', 'Split', 'Hold', 'Close']);
    expect(read.definition.steps[1]).toMatchObject({
      outcomes: [
        { label: 'Worth it', leads: { to: 'next' } },
        { tone: 'bad', leads: { to: 'close' } },
      ],
    });
    expect(read.definition.steps[2]).toMatchObject({
      lanes: [{ name: 'Wood', steps: [{ verb: 'Do', task: 'Order wood' }] }, { name: 'Slip' }],
    });
    expect(read.definition.closings.map(c => `${c.name} ${c.tone}`)).toContain('Rejected bad');
    // Who handles a task is not in the file, and that is said.
    expect(read.unread.map(u => u.element)).toEqual(['t', 'a', 'b']);
  });

  test('what cannot be read is listed by element, nothing is dropped in silence', async () => {
    const read = await readBpmn(
      foreign(`<startEvent id="s"/><callActivity id="c" name="Elsewhere"/><intermediateCatchEvent id="w"><timerEventDefinition id="td"><timeDuration>PT3M</timeDuration></timerEventDefinition></intermediateCatchEvent><endEvent id="e" name="Done"/><task id="lost" name="Lost"/>
      ${flow('f1', 's', 'c')}${flow('f2', 'c', 'w')}${flow('f3', 'w', 'e')}`),
    );
    expect(read.unread.map(u => `${u.type} ${u.element}`)).toEqual([
      'CallActivity c',
      'IntermediateCatchEvent w',
      'Task lost',
    ]);
  });

  test.each([
    ['half a file', '<?xml version="1.0"?><definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL"><process'],
    ['something else', '<html><body/></html>'],
    [
      'no process',
      '<?xml version="1.0"?><definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL" id="d" targetNamespace="x"/>',
    ],
    ['no start', foreign('<endEvent id="e"/>')],
    ['far too much', `<a>${' '.repeat(5_000_001)}</a>`],
  ])('%s is refused in words', async (_, xml) => {
    const read = await readBpmn(xml);
    expect(read.ok).toBe(false);
    expect(read.ok || read.message.length).toBeGreaterThan(10);
  });
});

test('the JSON Schema names every verb', () => {
  const schema = JSON.stringify(workflowJsonSchema());
  for (const verb of ['Ask', 'Split', 'Provision']) expect(schema).toContain(`"const":"${verb}"`);
});
