/**
 * A workflow as BPMN 2.0 with its diagram. The flow is plain BPMN that any tool can draw; what BPMN has no word for
 * stands beside it in extension elements, so that reading the file again gives the same workflow.
 */
import { BpmnModdle, type ModdleElement } from 'bpmn-moddle';
import type { DirectoryIndex } from '../people/index.ts';
import { workingWords } from '../time/index.ts';
import { type Definition, type Go, goWords, lineText, procedure, type Rework, type Step } from '../workflow/index.ts';
import { Drawing, type Shape } from './bpmnDiagram.ts';

export const namespace = 'https://north-pebble.example/bpmn';

type Flow = { from: string; to: string; name?: string; condition?: string; isDefault?: boolean };
type Node = { id: string; type: string; name?: string; documentation?: string; step?: unknown; timer?: string };

class Exporter {
  readonly nodes: Node[] = [];
  readonly flows: Flow[] = [];
  readonly drawing = new Drawing();
  readonly #definition: Definition;
  readonly #words: Map<string, string>;
  #column = 0;
  /** The lanes that are being drawn, by split, and in which each node stands. */
  readonly #lanes = new Map<string, number>();
  readonly #within = new Map<string, ReadonlyMap<string, number>>();

  constructor(definition: Definition, index: DirectoryIndex | undefined) {
    this.#definition = definition;
    this.#words = new Map(procedure(definition, index).map(line => [line.step, lineText(line)]));
  }

  #node(node: Node, shape: Shape, row: number): void {
    this.nodes.push(node);
    this.#within.set(node.id, new Map(this.#lanes));
    this.drawing.place(node.id, shape, this.#column++, row);
  }

  /** The element at which a step begins. */
  #entry(step: Step): string {
    return 'when' in step && step.when ? `${step.id}.when` : step.id;
  }

  #entryOf(id: string): string | undefined {
    const find = (steps: readonly Step[]): Step | undefined => {
      for (const step of steps) {
        if (step.id === id) return step;
        if (step.verb !== 'Split') continue;
        for (const lane of step.lanes) {
          const inside = find(lane.steps);
          if (inside) return inside;
        }
      }
      return undefined;
    };
    const step = find(this.#definition.steps);
    return step && this.#entry(step);
  }

  #closing(id: string): string {
    const end = `closed.${id}`;
    if (!this.nodes.some(n => n.id === end)) {
      const name = this.#definition.closings.find(c => c.id === id)?.name ?? id;
      this.#node({ id: end, type: 'bpmn:EndEvent', name }, 'event', 0);
    }
    return end;
  }

  #lead(from: string, go: Go | Rework, next: string | undefined, more: Partial<Flow> = {}): void {
    const to =
      go.to === 'next'
        ? next
        : go.to === 'close'
          ? this.#closing(go.closing)
          : this.#entryOf(go.to === 'step' ? go.step : go.resume);
    if (to) this.flows.push({ from, to, ...more });
  }

  /** @param next where it goes on behind the last of these steps */
  sequence(steps: readonly Step[], next: string | undefined, row: number): void {
    steps.forEach((step, i) => {
      const following = steps[i + 1];
      this.#step(step, following ? this.#entry(following) : next, row);
    });
  }

  #step(step: Step, next: string | undefined, row: number): void {
    if ('when' in step && step.when) {
      this.#node({ id: `${step.id}.when`, type: 'bpmn:ExclusiveGateway', name: step.when }, 'gateway', row);
      this.flows.push({ from: `${step.id}.when`, to: step.id, condition: step.when });
      if (next) this.flows.push({ from: `${step.id}.when`, to: next, name: 'otherwise', isDefault: true });
    }
    // The steps of lanes carry their own data.
    const data = step.verb === 'Split' ? { ...step, lanes: step.lanes.map(lane => ({ ...lane, steps: [] })) } : step;
    const node: Node = { id: step.id, type: 'bpmn:Task', step: data, documentation: this.#words.get(step.id) };
    switch (step.verb) {
      case 'Ask':
        this.#node({ ...node, type: 'bpmn:UserTask', name: 'Ask' }, 'task', row);
        return this.#lead(step.id, { to: 'next' }, next);
      case 'Decide': {
        this.#node({ ...node, type: 'bpmn:UserTask', name: 'Decide' }, 'task', row);
        const gateway = `${step.id}.outcomes`;
        this.#node({ id: gateway, type: 'bpmn:ExclusiveGateway', name: 'Outcome' }, 'gateway', row);
        this.flows.push({ from: step.id, to: gateway });
        for (const outcome of step.outcomes) this.#lead(gateway, outcome.leads, next, { name: outcome.label });
        return;
      }
      case 'Do':
        this.#node({ ...node, type: 'bpmn:UserTask', name: step.task }, 'task', row);
        if (!step.couldNot) return this.#lead(step.id, { to: 'next' }, next);
        this.#node({ id: `${step.id}.done`, type: 'bpmn:ExclusiveGateway', name: 'Done' }, 'gateway', row);
        this.flows.push({ from: step.id, to: `${step.id}.done` });
        this.#lead(`${step.id}.done`, { to: 'next' }, next, { name: 'Done' });
        this.#lead(`${step.id}.done`, step.couldNot, next, { name: 'Could not' });
        return;
      case 'Choose':
        this.#node({ ...node, type: 'bpmn:ExclusiveGateway', name: 'Choose' }, 'gateway', row);
        for (const r of step.rows)
          this.#lead(step.id, r.go, next, { condition: r.condition, name: goWords(this.#definition, r.go) });
        if (step.otherwise) this.#lead(step.id, step.otherwise, next, { name: 'otherwise', isDefault: true });
        return;
      case 'Split': {
        this.#node({ ...node, type: 'bpmn:ParallelGateway', name: 'Side by side' }, 'gateway', row);
        const join = `${step.id}.join`;
        const from = this.#column;
        let furthest = from;
        step.lanes.forEach((lane, n) => {
          this.#column = from;
          const [first] = lane.steps;
          this.flows.push({ from: step.id, to: first ? this.#entry(first) : join, name: lane.name });
          this.#lanes.set(step.id, n);
          this.sequence(lane.steps, join, row + n);
          this.#lanes.delete(step.id);
          furthest = Math.max(furthest, this.#column);
        });
        this.#column = furthest;
        const type = step.needs === 'all' ? 'bpmn:ParallelGateway' : 'bpmn:ComplexGateway';
        this.#node(
          { id: join, type, name: step.needs === 'all' ? 'All are done' : `${step.needs} done` },
          'gateway',
          row,
        );
        return this.#lead(join, { to: 'next' }, next);
      }
      case 'Hold': {
        const timer = step.until.kind === 'time' ? durationOf(step.until.amount) : undefined;
        this.#node(
          {
            ...node,
            type: 'bpmn:IntermediateCatchEvent',
            name: step.until.kind === 'time' ? workingWords(step.until.amount) : 'Wait',
            timer,
          },
          'event',
          row,
        );
        return this.#lead(step.id, { to: 'next' }, next);
      }
      case 'Record':
        this.#node({ ...node, type: 'bpmn:ServiceTask', name: 'Record' }, 'task', row);
        return this.#lead(step.id, { to: 'next' }, next);
      case 'Provision':
        this.#node({ ...node, type: 'bpmn:ServiceTask', name: `${step.connection}: ${step.action}` }, 'task', row);
        return this.#lead(step.id, { to: 'next' }, next);
      case 'Tell':
        this.#node(
          {
            ...node,
            type: 'bpmn:SendTask',
            name: this.#definition.messages.find(m => m.id === step.message)?.name ?? 'Tell',
          },
          'task',
          row,
        );
        return this.#lead(step.id, { to: 'next' }, next);
      case 'Close': {
        const name = this.#definition.closings.find(c => c.id === step.closing)?.name ?? step.closing;
        this.#node({ ...node, type: 'bpmn:EndEvent', name }, 'event', row);
        return;
      }
      default:
        // A verb that is forgotten here is named by the compiler.
        step satisfies never;
    }
  }

  /**
   * What BPMN asks for besides: two ways between the same two are one, and where ways come together a gateway says so,
   * which only takes together and never parts.
   */
  settle(): void {
    const splits = new Set(this.nodes.filter(node => (node.step as Step | undefined)?.verb === 'Split').map(n => n.id));
    const kept = new Map<string, Flow>();
    this.flows.forEach((flow, n) => {
      // Each lane of a split is a way of its own, also one in which nothing is done.
      const key = splits.has(flow.from) ? `${n}` : `${flow.from} ${flow.to}`;
      const before = kept.get(key);
      kept.set(key, before ? merged(before, flow) : flow);
    });
    this.flows.splice(0, this.flows.length, ...kept.values());
    for (const { id } of [...this.nodes]) {
      if (!id.endsWith('.join'))
        this.#merge(
          id,
          this.flows.filter(flow => flow.to === id),
          `${id}.merge`,
        );
      else {
        // A lane ends once: what leads to its end in several ways comes together first.
        const split = id.slice(0, -'.join'.length);
        const lanes = new Map<number, Flow[]>();
        for (const flow of this.flows.filter(one => one.to === id)) {
          const lane = this.#within.get(flow.from)?.get(split);
          if (lane !== undefined) lanes.set(lane, [...(lanes.get(lane) ?? []), flow]);
        }
        for (const [lane, flows] of lanes) this.#merge(id, flows, `${id}.${lane + 1}.merge`, lane);
      }
    }
  }

  #merge(id: string, flows: readonly Flow[], merge: string, below = 0): void {
    if (flows.length < 2) return;
    this.nodes.push({ id: merge, type: 'bpmn:ExclusiveGateway', name: 'Either way' });
    this.drawing.placeBefore(merge, id, below);
    for (const flow of flows) flow.to = merge;
    this.flows.push({ from: merge, to: id });
  }

  begin(): void {
    this.#node({ id: 'start.event', type: 'bpmn:StartEvent', name: 'Asked for' }, 'event', 0);
    const [first] = this.#definition.steps;
    if (first) this.flows.push({ from: 'start.event', to: this.#entry(first) });
  }
}

/** Two ways between the same two elements as one. */
function merged(a: Flow, b: Flow): Flow {
  const names = [...new Set([a.name, b.name].filter(name => name !== undefined))];
  const isDefault = a.isDefault || b.isDefault;
  return {
    from: a.from,
    to: a.to,
    ...(names.length > 0 ? { name: names.join(' or ') } : {}),
    // The way that is gone when no other fits needs no condition of its own.
    ...(isDefault
      ? { isDefault }
      : a.condition && b.condition
        ? { condition: `(${a.condition}) or (${b.condition})` }
        : {}),
  };
}

const durationOf = (amount: { workingDays: number } | { workingHours: number }): string =>
  'workingDays' in amount ? `P${amount.workingDays}D` : `PT${amount.workingHours}H`;

const without = <T extends object, K extends keyof T>(value: T, key: K): Omit<T, K> => {
  const { [key]: _, ...rest } = value;
  return rest;
};

/** @returns the XML of a BPMN 2.0 document */
export async function writeBpmn(definition: Definition, index?: DirectoryIndex): Promise<string> {
  const exporter = new Exporter(definition, index);
  exporter.begin();
  exporter.sequence(definition.steps, undefined, 0);
  exporter.settle();
  const moddle = new BpmnModdle();
  const any = (type: string, body: unknown) =>
    moddle.createAny(`np:${type}`, namespace, { $body: JSON.stringify(body) });
  const extension = (values: ModdleElement[]) => moddle.create('bpmn:ExtensionElements', { values });
  const elements = new Map<string, ModdleElement>();
  for (const node of exporter.nodes) {
    elements.set(
      node.id,
      moddle.create(node.type, {
        id: node.id,
        ...(node.name ? { name: node.name } : {}),
        ...(node.documentation
          ? { documentation: [moddle.create('bpmn:Documentation', { text: node.documentation })] }
          : {}),
        ...(node.step ? { extensionElements: extension([any('step', node.step)]) } : {}),
        ...(node.type === 'bpmn:IntermediateCatchEvent'
          ? {
              eventDefinitions: [
                moddle.create(
                  'bpmn:TimerEventDefinition',
                  node.timer ? { timeDuration: moddle.create('bpmn:FormalExpression', { body: node.timer }) } : {},
                ),
              ],
            }
          : {}),
      }),
    );
  }
  const flows = exporter.flows.map((flow, n) => {
    const source = elements.get(flow.from)!;
    const target = elements.get(flow.to)!;
    const made = moddle.create('bpmn:SequenceFlow', {
      id: `flow-${n + 1}`,
      sourceRef: source,
      targetRef: target,
      ...(flow.name ? { name: flow.name } : {}),
      ...(flow.condition
        ? {
            conditionExpression: moddle.create('bpmn:FormalExpression', {
              body: flow.condition,
              language: 'https://www.omg.org/spec/DMN/20191111/FEEL/',
            }),
          }
        : {}),
    });
    if (flow.isDefault) source.default = made;
    for (const [end, key] of [
      [source, 'outgoing'],
      [target, 'incoming'],
    ] as const) {
      const list = (end[key] as ModdleElement[] | undefined) ?? [];
      list.push(made);
      end[key] = list;
    }
    return made;
  });
  const process = moddle.create('bpmn:Process', {
    id: 'workflow',
    name: definition.name,
    isExecutable: false,
    documentation: [moddle.create('bpmn:Documentation', { text: definition.purpose })],
    extensionElements: extension([any('workflow', without(definition, 'steps'))]),
    flowElements: [...elements.values(), ...flows],
  });
  const plane = moddle.create('bpmndi:BPMNPlane', {
    id: 'plane',
    bpmnElement: process,
    planeElement: [
      ...[...exporter.drawing.boxes.values()].map(({ id, ...bounds }) =>
        moddle.create('bpmndi:BPMNShape', {
          id: `${id}-shape`,
          bpmnElement: elements.get(id),
          bounds: moddle.create('dc:Bounds', bounds),
        }),
      ),
      ...flows.map((flow, n) =>
        moddle.create('bpmndi:BPMNEdge', {
          id: `flow-${n + 1}-edge`,
          bpmnElement: flow,
          waypoint: exporter.drawing
            .edge(exporter.flows[n].from, exporter.flows[n].to)
            .map(p => moddle.create('dc:Point', p)),
        }),
      ),
    ],
  });
  const document = moddle.create('bpmn:Definitions', {
    id: 'definitions',
    targetNamespace: namespace,
    exporter: 'North Pebble',
    rootElements: [process],
    diagrams: [moddle.create('bpmndi:BPMNDiagram', { id: 'diagram', plane })],
  });
  document.$attrs['xmlns:np'] = namespace;
  const { xml } = await moddle.toXML(document, { format: true });
  return xml;
}
