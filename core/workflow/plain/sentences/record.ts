/** What is recorded in the house. */
import { comingProperties, postProperties, recordProperties } from '../../../facts/index.ts';
import type { Step, StepOf } from '../../definition/definition.ts';
import type { Named } from '../words.ts';
import { type Around, behindAll, isSound, leading, whenOf } from './around.ts';
import type { Saying } from './saying.ts';
import { readFormula, readValues } from './values.ts';

type Effect = StepOf<'Record'>['effect'];

/** `book Dates as leave of the chosen Kind` */
function bookLeave(s: Saying): Effect | undefined {
  const { w } = s;
  const { definition } = s.known;
  if (
    !w.eat(
      'book|books|record the? leave?',
      'book|books the',
      'the? leave is booked',
      'the? days|leave is|are booked',
      'take|takes|deduct|deducts the? days|leave from the? balance',
    )
  )
    return undefined;
  const spans: Named<string>[] = definition.form.fields
    .filter(f => f.kind === 'leave span')
    .map(f => ({ name: f.label, value: f.id }));
  const named = w.name(spans, false);
  const span = named ?? (spans.length === 1 ? spans[0].value : undefined);
  const types = definition.form.fields.filter(f => f.kind === 'choice');
  const type = types.find(f => f.kind === 'choice' && f.options === 'leave types') ?? types[0];
  if (!span || !type) return undefined;
  w.eat('as leave', 'in the ledger');
  const said = w.try(() => {
    if (!w.eat('of the? chosen')) return undefined;
    return w.name(types.map(f => ({ name: f.label, value: f.id })));
  });
  const texts = definition.form.fields.filter(f => f.kind === 'text' || f.kind === 'long text');
  const why = w.try(() => {
    w.eat(',');
    if (!w.eat('with the? reason|why in|from')) return undefined;
    return w.name(texts.map(f => ({ name: f.label, value: f.id })));
  });
  let planner = true;
  w.eat(',');
  if (
    w.eat("; put them on the? team's? planner", 'and put them|it on the? team|planner? planner?', 'and on the planner')
  )
    planner = true;
  else if (w.eat('; not on the planner', 'but? not on the planner')) planner = false;
  return { kind: 'book leave', span, type: said ?? type.id, planner, ...(why ? { why } : {}) };
}

/** `make the letter Agreement and keep it in Papers` */
function makeLetter(s: Saying): Effect | undefined {
  const { w } = s;
  const { definition } = s.known;
  if (!w.eat('make|makes|write|writes the? letter', 'make|makes a? letter')) return undefined;
  const letter = w.name((definition.letters ?? []).map(one => ({ name: one.name, value: one.id })));
  if (letter === undefined || !w.eat('and? keep|keeps|put it? in|into', 'into|in')) return undefined;
  const field = w.name(
    definition.form.fields.filter(f => f.kind === 'files').map(f => ({ name: f.label, value: f.id })),
  );
  return field === undefined ? undefined : { kind: 'make letter', letter, field };
}

/** `keep Card among the papers as Identity card of Holder` */
function keepPaper(s: Saying): Effect | undefined {
  const { w } = s;
  const { definition } = s.known;
  if (!w.eat('keep|keeps|file|files the?')) return undefined;
  const named = (kind: 'document' | 'text') =>
    definition.form.fields.filter(f => f.kind === kind).map(f => ({ name: f.label, value: f.id }));
  const field = w.name(named('document'));
  if (field === undefined || !w.eat('among|in|with the? papers|register as', 'among the papers as')) return undefined;
  let as = w.quoted();
  if (as === undefined) {
    const from = w.at;
    while (!w.done && w.peek() !== 'of') w.at++;
    as = w.between(from, w.at);
  }
  const holder = w.eat('of') ? w.name(named('text')) : undefined;
  return as ? { kind: 'keep paper', field, as, ...(holder ? { holder } : {}) } : undefined;
}

/** `put on the balance of the chosen Kind: ‹-How many›` */
function adjust(s: Saying): Effect | undefined {
  const { w } = s;
  const { definition } = s.known;
  if (!w.eat('put|puts on the? balance of the? chosen?')) return undefined;
  const kinds = definition.form.fields.filter(f => f.kind === 'choice' && f.options === 'leave types');
  const type = w.name(kinds.map(f => ({ name: f.label, value: f.id })));
  if (type === undefined) return undefined;
  const people = definition.form.fields.filter(f => f.kind === 'person').map(f => ({ name: f.label, value: f.id }));
  const holder = w.try(() => (w.eat('of|for the?') ? w.name(people) : undefined));
  w.eat(':');
  const token = w.tokens[w.at];
  if (!token?.quoted || w.text[token.from] !== '‹') return undefined;
  w.at++;
  return { kind: 'adjust', type, amount: token.text, ...(holder ? { holder } : {}) };
}

/** `put Trip on the planner over Legs` */
function onPlanner(s: Saying): Effect | undefined {
  const { w } = s;
  const { definition } = s.known;
  if (!w.eat('put|puts|enter|show|shows')) return undefined;
  const spans: Named<string>[] = definition.form.fields
    .filter(f => f.kind === 'leave span' || f.kind === 'date range')
    .map(f => ({ name: f.label, value: f.id }));
  let label = w.quoted();
  w.eat('the');
  const before = label === undefined ? w.name(spans) : undefined;
  if (label === undefined && before === undefined) {
    const from = w.at;
    while (!w.done && w.peek() !== 'on' && w.at - from < 6) w.at++;
    label = w.between(from, w.at);
    if (!label) return undefined;
  }
  if (!w.eat('on|in the? planner')) return undefined;
  w.eat('over|for|from the?');
  const span = before ?? w.name(spans);
  const field = definition.form.fields.find(f => f.id === span);
  return field && span ? { kind: 'planner', span, label: label ?? field.label } : undefined;
}

/** `put somebody on file with Name = Name, From = Start date` */
function addPerson(s: Saying): Effect | undefined {
  const { w } = s;
  if (!w.eat('put|puts somebody|someone|them|the? new? joiner|person|colleague? on|in the? file|records? with|:'))
    return undefined;
  const values = readValues(s, comingProperties);
  return values && { kind: 'add person', values };
}

/** `put a new post on file with Title = Title` */
function addPost(s: Saying): Effect | undefined {
  const { w } = s;
  const { definition } = s.known;
  if (!w.eat('put|puts a|the? new? post on|in the? file|records? with|:')) return undefined;
  const values = readValues(s, postProperties);
  if (!values) return undefined;
  const picks = definition.form.fields.flatMap(f =>
    f.kind === 'pick' && f.list === 'posts' ? [{ name: f.label, value: f.id }] : [],
  );
  const field = w.eat(';? it stands in') ? (w.name(picks) ?? undefined) : undefined;
  return { kind: 'add post', values, ...(field === undefined ? {} : { field }) };
}

/** `add a row to Visitors with Name = Name` */
function addRow(s: Saying): Effect | undefined {
  const { w } = s;
  const { known } = s;
  if (!w.eat('add|adds a|an|one? new? row|line|entry to|in', 'add|adds to')) return undefined;
  w.eat('the');
  w.eat('list of?');
  let list = w.quoted() ?? w.name(known.lists.map(l => ({ name: l.name, value: l.id })));
  list = known.lists.find(l => l.name.toLowerCase() === list?.toLowerCase())?.id ?? list;
  if (list === undefined || !w.eat('with|:')) return undefined;
  const values = readValues(s);
  return values && { kind: 'add row', list, values };
}

/** `change the row in Vehicle: Used = true` */
function changeRow(s: Saying): Effect | undefined {
  const { w } = s;
  const { definition } = s.known;
  if (!w.eat('change|changes|update|updates the? row|line picked|chosen|of? in?')) return undefined;
  w.eat('in|of');
  const row = w.name(definition.form.fields.filter(f => f.kind === 'pick').map(f => ({ name: f.label, value: f.id })));
  if (row === undefined || !w.eat(':|with')) return undefined;
  const values = readValues(s);
  return values && { kind: 'change row', row, values };
}

/** `set Place of their record to Place` */
function setRecord(s: Saying): Effect | undefined {
  const { w } = s;
  if (!w.eat('change|changes|set|sets|update|updates the?')) return undefined;
  const property =
    w.quoted() ??
    w.name(
      recordProperties.map(name => ({ name, value: name })),
      false,
    );
  if (
    property === undefined ||
    !w.eat(
      "of|in|on the? subject's|person's|asker's|their record? to",
      'in their record to',
      "of the subject's record to",
      'of|in|on the? record of the? person concerned to',
    )
  )
    return undefined;
  const [value] = readFormula(s) ?? [];
  return value === undefined ? undefined : { kind: 'person', property, formula: value };
}

/** `set Sum to 4` */
function setField(s: Saying): Effect | undefined {
  const { w } = s;
  if (!w.eat('set|sets|fill|fills the?')) return undefined;
  w.eat('in');
  const field = w.name(s.fields);
  if (field === undefined || !w.eat('to|with|=')) return undefined;
  const [value] = readFormula(s) ?? [];
  return value === undefined ? undefined : { kind: 'set', field, formula: value };
}

const forThem = ['for the person concerned', 'for the subject'] as const;

/** `open a request in Travel for the person concerned with To = Place` */
function openRequest(s: Saying): Effect | undefined {
  const { w } = s;
  if (!w.eat('open|opens|start|starts a|an|the? request? in|of?', 'open|opens')) return undefined;
  let workflow = w.quoted();
  if (workflow === undefined) {
    // Without marks it goes up to the words after it.
    const from = w.at;
    const end = w.tokens.findIndex((token, n) => n > from && n < from + 12 && token.low === 'for');
    if (end === -1) return undefined;
    workflow = w.between(from, end).trim();
    w.at = end;
    if (!/^[a-z][a-z0-9-]*$/.test(workflow) || !w.eat(...forThem)) return undefined;
  } else w.eat(...forThem);
  if (!w.eat('with') || w.eat('nothing')) return { kind: 'open', workflow, values: [] };
  const values = readValues(s);
  return values && { kind: 'open', workflow, values };
}

const effects: readonly ((s: Saying) => Effect | undefined)[] = [
  bookLeave,
  makeLetter,
  keepPaper,
  adjust,
  onPlanner,
  addPerson,
  addPost,
  addRow,
  changeRow,
  setRecord,
  setField,
  openRequest,
];

export function recorded(s: Saying): Step[] | undefined {
  const around = leading(s);
  if (around.limit || around.remind) return undefined;
  for (const effectOf of effects) {
    const steps = s.w.try((): Step[] | undefined => {
      const effect = effectOf(s);
      if (!effect) return undefined;
      const inner: Around = { when: [...around.when] };
      if (!behindAll(s, inner) || inner.limit || inner.back || inner.count || !isSound(inner)) return undefined;
      return [{ verb: 'Record', id: s.id('record'), when: whenOf(inner), effect }];
    });
    if (steps) return steps;
  }
  return undefined;
}
