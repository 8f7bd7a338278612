/**
 * Reads BPMN 2.0 into a workflow. Files that North Pebble wrote give back the very same workflow; of others a structured
 * subset is read. Whatever cannot be read is listed by element; nothing is dropped in silence.
 */
import { BpmnModdle, type ModdleElement } from 'bpmn-moddle';
import { idFrom } from '../form/index.ts';
import {
  type Definition,
  type DefinitionFault,
  formatVersion,
  type Go,
  type Lane,
  type Outcome,
  readDefinition,
  type Step,
} from '../workflow/index.ts';
import { namespace } from './bpmnExport.ts';

export type Unread = { element: string; type: string; name: string; why: string };
export type BpmnReading =
  | { ok: true; definition: Definition; unread: Unread[] }
  | { ok: false; message: string; faults: DefinitionFault[]; unread: Unread[] };

const largest = 5_000_000;
const plain = (type: string): string => type.replace(/^bpmn:/, '');

const extensionOf = (element: ModdleElement, type: string): unknown => {
  const values = (element.extensionElements as ModdleElement | undefined)?.values as ModdleElement[] | undefined;
  const found = values?.find(
    v => v.$type === `np:${type}` || (v.$type?.endsWith(`:${type}`) && v.$descriptor?.ns?.uri === namespace),
  );
  if (!found) return undefined;
  try {
    return JSON.parse(String(found.$body)) as unknown;
  } catch {
    return undefined;
  }
};

const list = (value: unknown): ModdleElement[] => (Array.isArray(value) ? (value as ModdleElement[]) : []);
const text = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
const describe = (element: ModdleElement, why: string): Unread => ({
  element: text(element.id) || '(no id)',
  type: plain(element.$type),
  name: text(element.name),
  why,
});

export async function readBpmn(xml: string): Promise<BpmnReading> {
  const fail = (message: string, unread: Unread[] = [], faults: DefinitionFault[] = []): BpmnReading => ({
    ok: false,
    message,
    faults,
    unread,
  });
  if (xml.length > largest)
    return fail(`The file has ${Math.round(xml.length / 1e6)} million letters; at most 5 million are read.`);
  const moddle = new BpmnModdle();
  let root: ModdleElement;
  let warnings: { message: string }[];
  try {
    const read = await moddle.fromXML(xml);
    root = read.rootElement;
    warnings = read.warnings;
  } catch (fault) {
    return fail(`This is no BPMN 2.0: ${fault instanceof Error ? fault.message.split('\n')[0] : 'it cannot be read'}.`);
  }
  const unread: Unread[] = warnings.map(w => ({
    element: '',
    type: 'warning',
    name: '',
    why: w.message.split('\n')[0],
  }));
  const processes = list(root.rootElements).filter(e => e.$type === 'bpmn:Process');
  for (const other of list(root.rootElements)) {
    if (other.$type !== 'bpmn:Process') unread.push(describe(other, 'Only processes are read.'));
  }
  const [process, ...more] = processes;
  if (!process) return fail('There is no process in this file.', unread);
  for (const other of more) unread.push(describe(other, 'Only the first process is read.'));
  const own = extensionOf(process, 'workflow');
  const document = own ? ownDocument(process, own, unread) : foreignDocument(process, unread);
  if ('message' in document) return fail(document.message, unread);
  const read = readDefinition(document.document);
  if (!read.ok) return fail('The process was read, but it is no whole workflow.', unread, read.faults);
  return { ok: true, definition: read.definition, unread };
}

/** Where ways come together in a file of ours: it holds no step. */
const isMerge = (element: ModdleElement): boolean =>
  element.$type === 'bpmn:ExclusiveGateway' && text(element.id).endsWith('.merge');

type Document = { document: unknown } | { message: string };

/** A file that North Pebble wrote: steps from their own data, in the order in which they stand. */
function ownDocument(process: ModdleElement, rest: unknown, unread: Unread[]): Document {
  const elements = list(process.flowElements);
  const data = new Map<string, Step>();
  const helpers = /^(.+)\.(when|outcomes|join|done)$/;
  for (const element of elements) {
    const step = extensionOf(element, 'step') as Step | undefined;
    if (step && typeof step === 'object' && 'id' in step) data.set(step.id, step);
  }
  for (const element of elements) {
    const id = text(element.id);
    if (element.$type === 'bpmn:SequenceFlow' || data.has(id) || id === 'start.event' || id.startsWith('closed.'))
      continue;
    if (helpers.test(id) && data.has(helpers.exec(id)![1])) continue;
    if (isMerge(element)) continue;
    unread.push(describe(element, 'It was added by another tool and has no step of a workflow.'));
  }
  // Lanes hold their steps in the order in which the file lists them, between the split and its join.
  const order = elements.map(e => text(e.id)).filter(id => data.has(id) || id.endsWith('.join'));
  const steps: Step[] = [];
  const open: { split: Extract<Step, { verb: 'Split' }>; lane: number; starts: Map<string, number> }[] = [];
  const flows = elements.filter(e => e.$type === 'bpmn:SequenceFlow');
  const target = (flow: ModdleElement) =>
    text((flow.targetRef as ModdleElement | undefined)?.id)
      .replace(/\.merge$/, '')
      .replace(/\.when$/, '');
  for (const id of order) {
    const top = open[open.length - 1];
    if (id.endsWith('.join')) {
      if (top && id === `${top.split.id}.join`) open.pop();
      continue;
    }
    const step = data.get(id)!;
    const placed =
      step.verb === 'Split' ? { ...step, lanes: step.lanes.map(lane => ({ ...lane, steps: [] as Step[] })) } : step;
    if (top) {
      const begins = top.starts.get(id);
      if (begins !== undefined) top.lane = begins;
      const lane: Lane | undefined = top.split.lanes[top.lane];
      if (!lane) return { message: `“${id}” stands in no lane.` };
      lane.steps.push(placed);
    } else steps.push(placed);
    if (placed.verb === 'Split') {
      const out = flows.filter(f => text((f.sourceRef as ModdleElement | undefined)?.id) === id);
      open.push({ split: placed, lane: 0, starts: new Map(out.map((f, n) => [target(f), n])) });
    }
  }
  return { document: { ...(rest as object), steps } };
}

/** A file of another tool: start, tasks, gateways, timers and ends, as far as they are well nested. */
function foreignDocument(process: ModdleElement, unread: Unread[]): Document {
  const elements = list(process.flowElements);
  // Tools may leave out which flows go in and out of an element; the flows themselves always say it.
  for (const flow of elements.filter(e => e.$type === 'bpmn:SequenceFlow')) {
    for (const [end, key] of [
      [flow.sourceRef, 'outgoing'],
      [flow.targetRef, 'incoming'],
    ] as const) {
      const element = end as ModdleElement | undefined;
      if (element && !list(element[key]).includes(flow)) element[key] = [...list(element[key]), flow];
    }
  }
  const start = elements.find(e => e.$type === 'bpmn:StartEvent');
  if (!start) return { message: 'The process has no start event.' };
  const reader = new ForeignReader(process, unread);
  const steps: Step[] = [{ verb: 'Ask', id: 'ask' }, ...reader.sequence(reader.next(start), null)];
  reader.rest(elements);
  if (!reader.closings.some(c => c.id === 'done'))
    reader.closings.push({ id: 'done', name: 'Done', tone: 'good', message: null });
  return {
    document: {
      formatVersion,
      name: text(process.name) || 'Imported workflow',
      area: 'Imported',
      purpose: text(list(process.documentation)[0]?.text).slice(0, 500),
      form: { fields: [] },
      figures: [],
      steps,
      messages: reader.messages,
      closings: reader.closings,
    },
  };
}

/** Tasks that people carry out. */
const byHand = new Set(['User', 'Manual', ''].map(kind => `bpmn:${kind}Task`));

class ForeignReader {
  readonly closings: Definition['closings'] = [];
  readonly messages: Definition['messages'] = [];
  readonly #unread: Unread[];
  readonly #seen = new Set<ModdleElement>();
  readonly #ids = new Map<ModdleElement, string>();
  readonly #lanes = new Map<ModdleElement, string>();

  constructor(process: ModdleElement, unread: Unread[]) {
    this.#unread = unread;
    for (const set of list(process.laneSets)) {
      for (const lane of list(set.lanes))
        for (const node of list(lane.flowNodeRef)) this.#lanes.set(node, text(lane.name));
    }
  }

  next(element: ModdleElement): ModdleElement | undefined {
    this.#seen.add(element);
    const out = list(element.outgoing);
    for (const flow of out) this.#seen.add(flow);
    return out[0]?.targetRef as ModdleElement | undefined;
  }

  #id(element: ModdleElement): string {
    let id = this.#ids.get(element);
    if (!id) {
      id = idFrom(text(element.name) || plain(element.$type), ['ask', ...this.#ids.values()]);
      this.#ids.set(element, id);
    }
    return id;
  }

  #closing(element: ModdleElement): string {
    const name = text(element.name) || 'Done';
    const known = this.closings.find(c => c.name === name);
    if (known) return known.id;
    const id = idFrom(
      name,
      this.closings.map(c => c.id),
    );
    const bad = /declin|reject|refus|cancel|denied/i.test(name);
    this.closings.push({ id, name, tone: bad ? 'bad' : 'good', message: null });
    return id;
  }

  /** Who handles a task: the lane that it stands in, as a role. */
  #who(element: ModdleElement): Extract<Step, { verb: 'Do' }>['who'] {
    const role = this.#lanes.get(element);
    if (role) return { first: { kind: 'role', role }, otherwise: [] };
    this.#unread.push(describe(element, 'It says nobody who handles it; the line manager was taken.'));
    return { first: { kind: 'manager', levels: 1 }, otherwise: [] };
  }

  #go(element: ModdleElement | undefined, following: ModdleElement | undefined): Go {
    if (!element || element === following) return { to: 'next' };
    if (element.$type === 'bpmn:EndEvent') {
      this.#seen.add(element);
      return { to: 'close', closing: this.#closing(element) };
    }
    return { to: 'step', step: this.#id(element) };
  }

  /** The steps from an element up to another one, or to the end. */
  sequence(from: ModdleElement | undefined, until: ModdleElement | null): Step[] {
    const steps: Step[] = [];
    let at = from;
    while (at && at !== until && !this.#seen.has(at)) {
      const [step, next] = this.#step(at);
      if (step) steps.push(step);
      at = next;
    }
    return steps;
  }

  #step(element: ModdleElement): [Step | null, ModdleElement | undefined] {
    const id = this.#id(element);
    const name = text(element.name);
    if (byHand.has(element.$type)) return this.#task(element, id, name);
    switch (element.$type) {
      case 'bpmn:ServiceTask':
      case 'bpmn:ScriptTask':
        return [
          { verb: 'Provision', id, when: null, connection: name || 'Service', action: 'change account', values: [] },
          this.next(element),
        ];
      case 'bpmn:SendTask': {
        const message = idFrom(
          name || 'message',
          this.messages.map(m => m.id),
        );
        this.messages.push({
          id: message,
          name: name || 'Message',
          subject: name || 'Message',
          body: name || 'Message',
        });
        return [
          { verb: 'Tell', id, when: null, to: [{ first: { kind: 'asker' }, otherwise: [] }], message },
          this.next(element),
        ];
      }
      case 'bpmn:IntermediateCatchEvent': {
        const timer = list(element.eventDefinitions)[0]?.timeDuration as ModdleElement | undefined;
        const duration = /^P(?:(\d+)D|T(\d+)H)$/.exec(text(timer?.body));
        if (!duration) {
          this.#unread.push(describe(element, 'Only timers of whole days or hours are read.'));
          return [null, this.next(element)];
        }
        const amount = duration[1] ? { workingDays: Number(duration[1]) } : { workingHours: Number(duration[2]) };
        return [{ verb: 'Hold', id, when: null, until: { kind: 'time', amount } }, this.next(element)];
      }
      case 'bpmn:ExclusiveGateway':
        return this.#choose(element, id);
      case 'bpmn:ParallelGateway':
        return this.#split(element, id);
      case 'bpmn:EndEvent':
        this.#seen.add(element);
        return [{ verb: 'Close', id, closing: this.#closing(element) }, undefined];
      default:
        this.#unread.push(describe(element, 'There is no step of this kind.'));
        return [null, this.next(element)];
    }
  }

  #task(element: ModdleElement, id: string, name: string): [Step, ModdleElement | undefined] {
    const next = this.next(element);
    const who = this.#who(element);
    const out = list(next?.outgoing);
    const decides = next?.$type === 'bpmn:ExclusiveGateway' && out.length > 1 && out.every(f => text(f.name) !== '');
    if (!decides || !next) {
      return [{ verb: 'Do', id, when: null, who, whenAway: 'waits', task: name || 'Do it', limit: null }, next];
    }
    this.next(next);
    const following = out[0].targetRef as ModdleElement;
    const outcomes: Outcome[] = [];
    for (const flow of out.slice(0, 9)) {
      const label = text(flow.name).slice(0, 80);
      const tone = /declin|reject|refus|\bno\b|denied/i.test(label) ? ('bad' as const) : ('good' as const);
      const leads = this.#go(flow.targetRef as ModdleElement, following);
      outcomes.push({
        id: idFrom(
          label,
          outcomes.map(o => o.id),
        ),
        label,
        tone,
        note: tone === 'bad' ? 'must' : 'none',
        leads,
      });
    }
    return [{ verb: 'Decide', id, when: null, who, whenAway: 'waits', limit: null, outcomes }, following];
  }

  #choose(element: ModdleElement, id: string): [Step | null, ModdleElement | undefined] {
    const out = list(element.outgoing);
    if (out.length < 2) return [null, this.next(element)];
    this.next(element);
    const byDefault = element.default as ModdleElement | undefined;
    const following = (byDefault ?? out[out.length - 1]).targetRef as ModdleElement;
    const rows: Extract<Step, { verb: 'Choose' }>['rows'] = [];
    for (const flow of out) {
      if (flow === byDefault) continue;
      const condition = text((flow.conditionExpression as ModdleElement | undefined)?.body);
      if (!condition) {
        this.#unread.push(describe(flow, 'It has no condition, so it became the way otherwise or was left out.'));
        continue;
      }
      rows.push({
        id: idFrom(
          `row-${rows.length + 1}`,
          rows.map(r => r.id),
        ),
        condition,
        go: this.#go(flow.targetRef as ModdleElement, following),
      });
    }
    return [{ verb: 'Choose', id, when: null, rows, otherwise: { to: 'next' } }, following];
  }

  #split(element: ModdleElement, id: string): [Step | null, ModdleElement | undefined] {
    const out = list(element.outgoing);
    if (out.length < 2) return [null, this.next(element)];
    this.next(element);
    const join = this.#joinOf(out.map(f => f.targetRef as ModdleElement));
    if (!join) {
      this.#unread.push(describe(element, 'Its lanes do not come together again in one gateway.'));
      return [null, out[0].targetRef as ModdleElement];
    }
    this.#seen.add(join);
    const ids: string[] = [];
    const lanes: Lane[] = out.map((flow, n) => {
      const name = text(flow.name) || `Lane ${n + 1}`;
      const lane = idFrom(name, ids);
      ids.push(lane);
      const first = flow.targetRef as ModdleElement;
      return { id: lane, name, steps: first === join ? [] : this.sequence(first, join) };
    });
    return [{ verb: 'Split', id, when: null, needs: 'all', lanes }, this.next(join)];
  }

  /** The first parallel gateway that every lane leads to. */
  #joinOf(firsts: ModdleElement[]): ModdleElement | undefined {
    const reached = firsts.map(first => {
      const found: ModdleElement[] = [];
      const open = [first];
      for (let at = open.shift(); at; at = open.shift()) {
        if (found.includes(at)) continue;
        found.push(at);
        for (const flow of list(at.outgoing)) open.push(flow.targetRef as ModdleElement);
      }
      return found;
    });
    return reached[0].find(
      e => e.$type === 'bpmn:ParallelGateway' && list(e.incoming).length > 1 && reached.every(r => r.includes(e)),
    );
  }

  /** Lists everything that no way led to. */
  rest(elements: ModdleElement[]): void {
    for (const element of elements) {
      if (this.#seen.has(element) || element.$type === 'bpmn:SequenceFlow') continue;
      this.#unread.push(describe(element, 'It was not reached from the start along ways that can be read.'));
    }
  }
}
