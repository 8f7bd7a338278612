import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { annualLeave, contextFor, halves, person } from '../../testing/house.ts';
import { Run, refusal } from '../../testing/run.ts';
import {
  answersSeen,
  type Definition,
  figuresSeen,
  handle,
  insertions,
  newRequest,
  type Reader,
  readersWords,
  sightOf,
  sightsOf,
  titleOf,
  trail,
} from '../index.ts';

const lead = annualLeave.steps[2];
const nobody: Reader = { own: false, steps: [], roles: [], all: false };
const definition: Definition = {
  ...annualLeave,
  form: {
    fields: [
      ...annualLeave.form.fields,
      { kind: 'long text', id: 'reason', label: 'Reason', required: false, readers: ['HR partner'] },
      { kind: 'document', id: 'note', label: 'Doctor’s note', required: false, expires: false },
      { kind: 'text', id: 'desk', label: 'Desk number', required: false, askerReads: true },
      { kind: 'money', id: 'cost', label: 'Cost', currency: 'EUR', required: false },
    ],
  },
  access: { ask: { desk: 'hidden' }, [lead.id]: { desk: 'editable', cost: 'hidden' } },
  figures: [
    ...annualLeave.figures,
    { id: 'twice', name: 'Twice', formula: '2 * Cost', unit: 'number' },
    { id: 'four', name: 'Four times', formula: '2 * Twice', unit: 'number' },
  ],
};
const field = (id: string) => {
  const found = definition.form.fields.find(f => f.id === id);
  if (!found) throw new Error(id);
  return found;
};
const sight = (id: string, reader: Partial<Reader>) => sightOf(definition, field(id), { ...nobody, ...reader });
const file = { id: 'f1', name: 'note.pdf', size: 9000, type: 'application/pdf' };
const answers = {
  kind: 'annual',
  dates: halves('2026-02-09', '2026-02-13'),
  remark: 'Rowing',
  reason: 'A bad back',
  note: { file, expires: null },
  cost: 250,
};

describe('who sees a field', () => {
  test('whoever asks sees what they gave, and what is filled in for them later', () => {
    for (const id of ['kind', 'reason', 'note', 'desk', 'cost'])
      expect([id, sight(id, { own: true })]).toEqual([id, 'open']);
    const secret: Definition = { ...definition, access: { ask: { cost: 'hidden' } } };
    expect(sightOf(secret, field('cost'), { ...nobody, own: true })).toBe('hidden');
  });

  test('what others fill in is read by the asker only where the designer says so, and the sheet says who reads it', () => {
    const { askerReads: _, ...desk } = field('desk');
    expect(sightOf(definition, desk, { ...nobody, own: true })).toBe('hidden');
    expect(sightOf(definition, { ...desk, askerReads: true }, { ...nobody, own: true })).toBe('open');
    expect(readersWords(definition, desk)).toMatch(
      /^Read by whoever has step 3.* and those who look after requests\.$/,
    );
    expect(readersWords(definition, { ...desk, askerReads: true })).toContain('Read by the asker, whoever has step 3');
    expect(readersWords(definition, field('remark'))).toContain('everybody else who sees the request');
    expect(readersWords(definition, field('reason'))).toContain('those who are HR partner');
    expect(readersWords(definition, field('note'))).toContain('each look of others than the asker recorded');
  });

  test('a field with named readers is opened one at a time by them, and by nobody else', () => {
    expect(sight('reason', { roles: ['HR partner'] })).toBe('guarded');
    expect(sight('reason', { all: true })).toBe('withheld');
    expect(sight('reason', { steps: [lead.id] })).toBe('withheld');
    expect(sight('reason', {})).toBe('withheld');
  });

  test('a document is for those who decide on it unless readers are named', () => {
    expect(sight('note', { steps: [lead.id] })).toBe('guarded');
    expect(sight('note', { all: true })).toBe('withheld');
    const named: Definition = {
      ...definition,
      form: {
        fields: [{ kind: 'document', id: 'note', label: 'Note', required: false, expires: false, readers: ['Nurse'] }],
      },
    };
    expect(sightOf(named, named.form.fields[0], { ...nobody, steps: [lead.id] })).toBe('withheld');
    expect(sightOf(named, named.form.fields[0], { ...nobody, roles: ['Nurse'] })).toBe('guarded');
  });

  test('what is hidden at a step is hidden from those who hold it, and from the line above', () => {
    expect(sight('cost', { steps: [lead.id] })).toBe('hidden');
    expect(sight('cost', {})).toBe('hidden');
    expect(sight('cost', { all: true })).toBe('open');
    expect(sight('remark', {})).toBe('open');
  });

  test('having more to do with a request never shows less of it', () => {
    const order = { hidden: 0, withheld: 1, guarded: 2, open: 3 };
    const reader = fc.record({
      own: fc.boolean(),
      steps: fc.subarray([lead.id]),
      roles: fc.subarray(['HR partner']),
      all: fc.constant(false),
    });
    const levels = fc.constantFrom('hidden' as const, 'shown' as const, 'editable' as const);
    fc.assert(
      fc.property(reader, levels, levels, fc.constantFrom('reason', 'note', 'cost'), (some, atAsk, atLead, id) => {
        const access = { ask: { [id]: atAsk }, [lead.id]: { [id]: atLead } };
        const see = (who: Reader) => order[sightOf({ ...definition, access }, field(id), who)];
        expect(see({ ...some, own: true })).toBeGreaterThanOrEqual(see({ ...some, own: false, steps: [] }));
        expect(see({ ...some, roles: ['HR partner'] })).toBeGreaterThanOrEqual(see({ ...some, roles: [] }));
        expect(see({ ...some, all: true })).toBeGreaterThanOrEqual(see(some));
      }),
    );
  });
});

describe('what leaves the server', () => {
  const context = contextFor('ina');
  const sent = handle(definition, newRequest('R-1'), { kind: 'submit', answers }, context);
  if (!sent.ok) throw new Error(sent.refusal.message);
  const forLead = sightsOf(definition, { ...nobody, steps: [lead.id] });

  test('is without closed answers, and says where something was given', () => {
    const seen = answersSeen(sent.state.answers, forLead);
    expect(Object.keys(seen.answers).sort()).toEqual(['dates', 'desk', 'kind', 'remark']);
    expect(seen.closed).toEqual([
      { field: 'reason', sight: 'withheld' },
      { field: 'note', sight: 'guarded' },
    ]);
  });

  test('is without the figures that tell of them, however far away', () => {
    const all = sent.state.figures;
    expect([all.twice, all.four]).toEqual([500, 1000]);
    const seen = figuresSeen(definition, all, forLead, context.lists);
    expect(Object.keys(seen)).toEqual(annualLeave.figures.map(f => f.id));
    expect(figuresSeen(definition, all, sightsOf(definition, { ...nobody, own: true }), context.lists)).toBe(all);
  });

  test('mails say neither what is guarded nor what tells of it', () => {
    const words = insertions(definition, sent.state, context);
    expect([words.Reason, words['Doctor’s note']]).toEqual(Array(2).fill('not written in mails, see R-1'));
    expect([words.Remark, words.Twice]).toEqual(['Rowing', '500']);
  });

  test('a title is made of what everybody may read', () => {
    const guarded: Definition = {
      ...definition,
      form: { fields: definition.form.fields.map(f => (f.id === 'dates' ? { ...f, readers: ['HR partner'] } : f)) },
    };
    expect(titleOf(guarded, sent.state, context)).toBe('Annual leave');
  });

  test('the trail keeps values and reasons back', () => {
    const costly: Definition = {
      ...definition,
      steps: definition.steps.map(s =>
        s.id === lead.id ? { ...s, when: 'Four times > 5000' } : s,
      ) as Definition['steps'],
    };
    const run = handle(costly, newRequest('R-2'), { kind: 'submit', answers }, context);
    if (!run.ok) throw new Error(run.refusal.message);
    const why = (roles: Reader) =>
      trail(costly, run.events, { ...context, sights: sightsOf(costly, roles) }).find(l => l.text.startsWith('skipped'))
        ?.why;
    expect(why({ ...nobody, own: true })?.[0]).toMatch(/1,?000/);
    expect(why(nobody)).toEqual(['worked out from something that is not shown to you']);

    const corrected = handle(
      definition,
      sent.state,
      {
        kind: 'correct',
        seen: sent.state.version,
        answers: { reason: 'A sprain', cost: 90, remark: 'Sailing' },
        reason: 'typed wrongly',
      },
      contextFor('dora'),
    );
    if (!corrected.ok) throw new Error(corrected.refusal.message);
    const lines = trail(definition, corrected.events, { ...context, sights: forLead });
    expect(lines.flatMap(l => l.changes)).toEqual([
      { label: 'Remark', before: 'Rowing', after: 'Sailing' },
      { label: 'Reason', before: 'not shown', after: 'not shown' },
    ]);
  });
});

describe('a look', () => {
  test('is an event of its own, after which nobody comes too late', () => {
    const run = new Run(definition, answers);
    const seen = run.state.version;
    run.do({ kind: 'look', field: 'note' }, 'dora');
    expect(run.state.version).toBe(seen + 1);
    expect(run.events.at(-1)).toMatchObject({ kind: 'looked', field: 'note', by: person('dora') });
    const [task] = run.state.tasks;
    run.do({ kind: 'answer', seen, task: task.id, outcome: 'approve', note: null }, task.holder);
    expect(run.state.changed).toBeGreaterThan(seen);
  });

  test('finds nothing where nothing was given', () => {
    const run = new Run(definition, { ...answers, note: null });
    for (const field of ['note', 'moon']) expect(refusal(run, { kind: 'look', field }, 'dora')).toBe('not open');
  });
});
