/** Effects outside: asked for, on their way, delivered with a result, refused, done by hand, given up, taken back. */
import { describe, expect, test } from '@jest/globals';
import { bookOf, contextFor } from '../../testing/house.ts';
import { decide, flow, Run, refusal, told, who, wholeTrail } from '../../testing/run.ts';
import { findings, fold, procedure, readAloud, readProcedure, writeProcedure } from '../index.ts';
import type { Command, EffectCommand } from '../request/command.ts';

const account = (more: object = {}) => ({
  verb: 'Provision',
  id: 'account',
  when: null,
  connection: 'Directory',
  action: 'create account',
  values: [{ name: 'name', formula: 'Kind' }],
  ...more,
});
const tell = { verb: 'Tell', id: 'tell', when: null, to: [who({ kind: 'manager', levels: 1 })], message: 'yes' };
const waiting = account({ waits: true, fills: [{ from: 'account', field: 'remark' }] });

const keyOf = (run: Run): string => {
  const found = run.wanted.find(e => e.kind === 'provision');
  return found && 'key' in found ? found.key : '';
};
const answered = (run: Run, outcome: EffectCommand['outcome']) =>
  run.do({ kind: 'effect', key: keyOf(run), outcome }, null);
const delivered = { state: 'delivered', result: { account: 'ina.okell' } } as const;
const refused = { state: 'refused', reason: 'the name is taken' } as const;
const subjects = (run: Run) => run.wanted.flatMap(e => (e.kind === 'mail' ? [e.subject] : []));
const words = (run: Run) =>
  wholeTrail(run.definition, run.events, { index: contextFor(null).index, book: bookOf([]) }).map(line => line.text);
const hand = (run: Run, command: object, actor = 'dora') =>
  run.do({ seen: run.state.version, key: keyOf(run), ...command } as Command, actor);

describe('an effect that comes back', () => {
  test('lets out what was held back, once, in the order in which it was kept, and the closing after it', () => {
    const run = new Run(flow(account(), tell));
    expect(subjects(run).some(s => s.startsWith('Approved:'))).toBe(false);
    answered(run, delivered);
    expect(run.kinds.slice(-5)).toEqual(['delivered', 'let out', 'told', 'let out', 'told']);
    expect(subjects(run).filter(s => s.startsWith('Approved:'))).toHaveLength(2);
    const before = run.events.length;
    answered(run, delivered);
    answered(run, refused);
    expect(run.events).toHaveLength(before);
    expect(fold('R-1', run.events)).toEqual(run.state);
  });

  test('is waited for where the step says so, and fills the fields that it names', () => {
    const run = new Run(flow(waiting));
    expect(run.state).toMatchObject({ status: 'open', at: ['account'] });
    answered(run, delivered);
    expect(run.state).toMatchObject({ status: 'closed', closing: 'approved', answers: { remark: 'ina.okell' } });
    expect(words(run)).toContain('heard that step 2 is done');
  });

  test('makes nobody come too late who decides meanwhile', () => {
    const run = new Run(flow(account(), decide()));
    const seen = run.state.version;
    answered(run, delivered);
    run.answer('yes', 'tom', { seen });
    expect(run.state.status).toBe('closed');
  });

  test('says nothing of a message that another effect still stands in the way of', () => {
    const run = new Run(flow(account(), account({ id: 'group', action: 'add to group' }), tell));
    answered(run, delivered);
    expect(subjects(run).some(s => s.startsWith('Approved:'))).toBe(false);
  });
});

describe('an effect that is refused', () => {
  test('goes the way that the designer wrote', () => {
    const run = new Run(flow({ ...waiting, refused: { to: 'close', closing: 'declined' } }));
    answered(run, refused);
    expect(run.state).toMatchObject({ status: 'closed', closing: 'declined' });
  });

  test('stands among what cannot go on where no way is written, and is asked for once more', () => {
    const run = new Run(flow(waiting));
    answered(run, refused);
    expect(run.state.status).toBe('stuck');
    expect(told(run.state.stuck)).toContain('the name is taken');
    expect(refusal(run, { kind: 'ask again', key: 'unknown' } as Partial<Command>, 'dora')).toBe('not open');
    hand(run, { kind: 'ask again' });
    expect(run.wanted.at(-1)).toMatchObject({ kind: 'again', of: keyOf(run) });
    answered(run, delivered);
    expect(run.state).toMatchObject({ status: 'closed', closing: 'approved' });
  });

  test.each([
    ['done by hand', 'closed', true],
    ['go on without', 'closed', false],
  ] as const)('%s: it goes on, and what tells of it %s', (kind, status, told) => {
    const run = new Run(flow(waiting, tell));
    answered(run, refused);
    hand(run, { kind, note: 'At the counter.' });
    expect(run.state.status).toBe(status);
    expect(subjects(run).some(s => s.startsWith('Approved:'))).toBe(told);
    expect(run.wanted).toContainEqual(expect.objectContaining({ kind: 'call off', of: keyOf(run) }));
    // What comes back late is not heard any more.
    const before = run.events.length;
    answered(run, delivered);
    expect(run.events).toHaveLength(before);
  });

  test('after the end of the request it can still be helped', () => {
    const run = new Run(flow(account(), tell));
    answered(run, refused);
    expect(run.state).toMatchObject({ status: 'closed', undelivered: [{ refused: 'the name is taken' }] });
    hand(run, { kind: 'done by hand', note: 'Made by hand.' });
    expect(run.state.undelivered).toEqual([]);
    expect(subjects(run).some(s => s.startsWith('Approved:'))).toBe(true);
    expect(words(run)).toContain('did step 2 by hand');
  });
});

describe('what was brought about is taken back', () => {
  test('when the request is withdrawn: what is there is undone, what is on its way called off', () => {
    const run = new Run(flow(account(), account({ id: 'group', action: 'add to group' }), decide()));
    answered(run, delivered);
    run.do({ kind: 'withdraw', seen: run.state.version, note: null }, 'ina');
    const [first, second] = run.wanted.flatMap(e => (e.kind === 'provision' ? [e.key] : []));
    expect(run.wanted).toContainEqual({ kind: 'undo', key: `${first}:undo`, of: first });
    expect(run.wanted).toContainEqual({ kind: 'call off', key: `${second}:called off`, of: second });
    run.do({ kind: 'effect', key: first, outcome: { state: 'undone' } }, null);
    expect(run.state.provided).toEqual([]);
  });
});

describe('on the sheet', () => {
  test('waiting, filling and refusal are sentences, and read back', () => {
    const definition = flow({ ...waiting, refused: { to: 'close', closing: 'declined' } });
    const said = procedure(definition).map(readAloud).join('\n');
    expect(said).toContain('It waits until that is done.');
    expect(said).toContain('take account into Remark');
    expect(said).toContain('Refused: close as Declined');
    expect(readProcedure(writeProcedure(definition), definition)).toEqual({ ok: true, steps: definition.steps });
  });

  test('a refusal that leads on needs a step that waits', () => {
    const wrong = flow(account({ refused: { to: 'close', closing: 'declined' } }));
    expect(findings(wrong).find(f => f.id.startsWith('refused'))).toMatchObject({
      level: 'stops',
      fix: { value: true },
    });
    const right = flow({ ...waiting, refused: { to: 'close', closing: 'declined' } });
    expect(findings(right).some(f => f.id.startsWith('refused'))).toBe(false);
  });
});

test('a record of a person is changed to what there is, else the request waits with the reason', () => {
  const record = (property: string, formula: string) =>
    new Run(flow({ verb: 'Record', id: 'record', when: null, effect: { kind: 'person', property, formula } }));
  const changes = (run: Run) => run.wanted.flatMap(e => (e.kind === 'change person' ? [e.change] : []));
  expect(changes(record('post', '"empty"'))).toEqual([{ what: 'post', to: 'empty' }]);
  // What somebody else holds is not given twice.
  const held = record('post', 'Post');
  expect(changes(held)).toEqual([]);
  expect(told(held.state.stuck)).toBe(
    'post cannot be changed. Tom Lund holds it on Mon 2 February 2026. A post has one main holder on a day.',
  );
  expect(changes(record('full-time share', '0.6'))).toEqual([{ what: 'fte', to: 0.6 }]);
  expect(changes(record('line manager', 'Lead'))).toEqual([{ what: 'line', post: 'observer-1', to: 'lead' }]);
  const nowhere = record('place', '"Nowhere"');
  expect(told(nowhere.state.stuck)).toBe('“Nowhere” is no place, so place cannot be changed.');
});
