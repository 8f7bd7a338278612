import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyWorkflow } from '../../testing/anyWorkflow.ts';
import { contextFor, index } from '../../testing/house.ts';
import { bad, decide, flow, given, good, later, Run, refusal, task, who } from '../../testing/run.ts';
import { findings } from '../findings/findings.ts';
import { type Definition, handle, newRequest, previewDate, procedure, readAloud } from '../index.ts';
import { type Plan, planOf } from './plan.ts';
import { planTasks } from './tasks.ts';
import { planSays, planWhy } from './why.ts';

const steps = [
  decide({ outcomes: [good, bad], plan: { takes: 2 } }),
  {
    verb: 'Split',
    id: 'ready',
    when: null,
    needs: 'all',
    lanes: [
      {
        id: 'stores',
        name: 'Stores',
        steps: [task({ id: 'kit', task: 'Lays out the kit', plan: { takes: 3, daysBefore: 3 }, limit: byPlan() })],
      },
      {
        id: 'pay',
        name: 'Pay',
        steps: [task({ id: 'contract', task: 'Writes the contract', plan: { takes: 4, daysBefore: 5 } })],
      },
      {
        id: 'systems',
        name: 'Systems',
        steps: [
          task({ id: 'account', task: 'Makes the account', plan: { takes: 2, after: ['contract'] } }),
          task({ id: 'boat', task: 'Plans the drill', when: 'Urgent = true', plan: { takes: 1 } }),
        ],
      },
    ],
  },
  { verb: 'Hold', id: 'eve', when: null, until: { kind: 'before', workingDays: 1, field: 'start' } },
];
function byPlan() {
  return { within: { byPlan: true }, remind: null, atLimit: 'wait' };
}
const joining = (countsBack: object = {}, ...more: unknown[]): Definition => ({
  ...flow(...steps, ...more),
  countsBack: { field: 'start', place: 'post', tightWithin: 1, ...countsBack },
});
const asked = (start = '2026-03-02', definition = joining(), now = '2026-02-02T10:00:00Z') => {
  const run = new Run(definition, { ...given, start }, 'ina');
  return { run, plan: planAt(run, now) };
};
function planAt(run: Run, now: string): Plan {
  const found = planOf(run.definition, run.state, later(now, null));
  if (!found?.ok) throw new Error(JSON.stringify(found));
  return found.plan;
}
const told = (plan: Plan) =>
  plan.lines.map(line => [line.step, line.state, line.days?.earliestFinish ?? null, line.days?.latestFinish ?? null]);
const done = (run: Run, step: string, actor = 'tom', now?: string) =>
  run.do(
    {
      kind: 'complete',
      seen: run.state.version,
      task: run.state.tasks.find(t => t.step === step)?.id ?? '',
      ticked: [],
      answers: {},
      note: null,
    },
    actor,
    now,
  );

describe('what a definition says of its plan', () => {
  test('order of lines and lanes says most of what waits for what, and “after” the rest', () => {
    expect(planTasks(joining()).map(({ step, takes, after }) => [step.id, takes, after])).toEqual([
      ['decide', 2, []],
      ['kit', 3, ['decide']],
      ['contract', 4, ['decide']],
      ['account', 2, ['decide', 'contract']],
      ['boat', 1, ['account']],
    ]);
  });

  test('is read aloud with its numbers', () => {
    const lines = procedure(joining(), index).map(readAloud);
    expect(lines[3]).toContain('by its last day in the plan');
    expect(lines[3]).toContain('In the plan it takes 3 working days, is finished 3 working days before.');
    expect(lines[5]).toContain('In the plan it takes 2 working days, begins after 3b1.');
  });

  const kinds = (definition: Definition) =>
    findings(definition, {}).flatMap(f =>
      f.id.startsWith('plan') || f.id.startsWith('no plan') ? [f.id.split(':')[0]] : [],
    );
  test.each<[string, Definition, string[]]>([
    ['nothing is wrong', joining({ notice: 12 }), []],
    ['too little notice for what must be done', joining({ notice: 8 }), ['plan notice']],
    ['a circle across lanes', joining({}, task({ id: 'last', plan: { after: ['decide'] } })), []],
    [
      'two that wait for one another',
      {
        ...flow(task({ id: 'a', plan: { after: ['b'] } }), task({ id: 'b' })),
        countsBack: { field: 'start' },
      },
      ['plan circle'],
    ],
    [
      'after something that nobody holds',
      { ...flow(task({ plan: { after: ['eve'] } }), steps[2]), countsBack: { field: 'start' } },
      ['plan after'],
    ],
    [
      'behind a wait that ends with the date',
      {
        ...flow(
          { verb: 'Hold', id: 'day', when: null, until: { kind: 'before', workingDays: 0, field: 'start' } },
          task(),
        ),
        countsBack: { field: 'start' },
      },
      ['plan behind'],
    ],
    [
      'a plan and a limit by it, and no date',
      flow(task({ plan: { takes: 2 }, limit: byPlan() })),
      ['no plan', 'no plan for limit'],
    ],
  ])('%s', (_, definition, expected) => {
    expect(kinds(definition)).toEqual(expected);
  });
});

describe('the plan of a request', () => {
  test('counts back over lanes from the date, and forwards from today', () => {
    const { plan } = asked();
    expect(told(plan)).toEqual([
      // Given today, of two working days: today and tomorrow.
      ['decide', 'fine', '2026-02-03', '2026-02-16'],
      ['kit', 'fine', '2026-02-06', '2026-02-24'],
      ['contract', 'fine', '2026-02-09', '2026-02-20'],
      ['account', 'fine', '2026-02-11', '2026-02-26'],
      ['boat', 'fine', '2026-02-12', '2026-02-27'],
    ]);
    expect([plan.toGo, plan.state, plan.slack]).toEqual([20, 'fine', 9]);
    expect(plan.chain).toEqual(['decide', 'contract']);
  });

  test('what nobody does any more goes from it as time passes, and what is in hand is worked off', () => {
    const { run } = asked();
    run.answer('yes', 'tom');
    const later = planAt(run, '2026-02-05T10:00:00Z');
    expect(later.lines[0]).toMatchObject({ state: 'done', doneAt: '2026-02-02T10:00:00Z', people: ['tom'] });
    // The contract was given on Monday: of its four days Monday, Tuesday and Wednesday are worked off.
    expect(later.lines[2]).toMatchObject({ inHand: true, left: 1, days: { earliestFinish: '2026-02-05' } });
    done(run, 'contract', 'tom');
    expect(planAt(run, '2026-02-05T10:00:00Z').lines[2]).toMatchObject({ state: 'done' });
  });

  test('a condition that does not hold leaves its task out, and whatever waits for it waits for what came before', () => {
    const run = new Run(joining({}, task({ id: 'last', task: 'Checks all' })), { ...given, urgent: false }, 'ina');
    const plan = planAt(run, '2026-02-02T10:00:00Z');
    expect(plan.lines.find(line => line.step === 'boat')).toMatchObject({ state: 'not needed', days: null });
    expect(plan.lines.at(-1)?.days?.earliestFinish).toBe('2026-02-27');
  });

  test('is late when the date is too near, and says what decides and when it would be ready', () => {
    const { run, plan } = asked('2026-02-11');
    expect([plan.state, plan.slack, plan.chain]).toEqual(['late', -4, ['decide', 'contract']]);
    const says = planSays(run.definition, plan, index);
    expect(says[0]).toMatchObject({ tone: 'late', title: '3b1 Writes the contract decides: 4 working days late' });
    expect(says[1].text).toBe(
      'on Tue 17 February, or if 2 Decision, 3b1 Writes the contract together took 4 working days less.',
    );
    // What was said holds: on that day it is ready.
    expect(asked('2026-02-17').plan.slack).toBe(0);
  });

  test('answers why for both of its days', () => {
    const { run, plan } = asked();
    const why = (step: string) => planWhy(run.definition, plan, plan.lines.find(line => line.step === step)!, index);
    expect(why('account')).toEqual({
      earliest:
        '3b1 Writes the contract can be finished on Mon 9 February; after it this begins on Tue 10 February, and takes 2 working days: Wed 11 February.',
      latest:
        '3c2 Plans the drill waits for it and must begin by Fri 27 February, so this is finished the working day before: Thu 26 February.',
    });
    expect(why('contract')?.latest).toBe(
      'It is finished 5 working days before Start date, Mon 2 March 2026, in working days of Ovay Station: Fri 20 February.',
    );
    expect(why('decide')?.earliest).toBe('It is in hand, and takes 2 working days: Tue 3 February.');
  });

  test('limits by the plan are its last days, in the holder’s time', () => {
    const { run } = asked();
    run.answer('yes', 'tom');
    const kit = run.state.tasks.find(t => t.step === 'kit');
    expect(kit).toMatchObject({ due: '2026-02-24T17:00:00Z', dueReason: { code: 'by the plan', day: '2026-02-24' } });
  });

  test('where the place is not on file there is a reason instead of a plan', () => {
    const run = new Run(joining({ place: undefined }), given, 'ina');
    const nobody = { ...run.state, subject: 'nobody' as never };
    expect(planOf(run.definition, nobody, later('2026-02-02T10:00:00Z', null))).toMatchObject({
      ok: false,
      reason: { code: 'place not on file' },
    });
  });
});

describe('asking with too little notice', () => {
  const refused = (start: string) => {
    const result = handle(
      joining({ notice: 12 }),
      newRequest('R-1'),
      { kind: 'submit', answers: { ...given, start } },
      later('2026-02-02T10:00:00Z', 'ina'),
    );
    return result.ok ? null : result.refusal.faults;
  };
  test('is refused at the date, with the first day that can be; that day is taken', () => {
    const [fault] = refused('2026-02-17') ?? [];
    expect(fault).toEqual({
      field: 'start',
      message: '12 working days are needed before it, so Wed 18 February is the first day that can be.',
    });
    expect(refused('2026-02-18')).toBeNull();
  });
});

describe('the date moves', () => {
  const moved = (run: Run, date: string, actor = 'ina', now?: string) =>
    run.do(
      { kind: 'move date', seen: run.state.version, date: date as never, reason: 'The boat is late.' },
      actor,
      now,
    );

  const follows = (run: Run, date: string) => {
    const found = previewDate(run.definition, run.state, date as never, later('2026-02-02T10:00:00Z', 'ina'));
    return found.ok ? found.move.follows : found.fault;
  };

  test('everything is planned anew, done work stays, and whoever has something in hand is told once', () => {
    const { run } = asked();
    run.answer('yes', 'tom');
    done(run, 'account');
    const before = run.wanted.length;
    moved(run, '2026-03-09');
    const plan = planAt(run, '2026-02-02T10:00:00Z');
    expect(plan.date).toBe('2026-03-09');
    expect(plan.lines.find(line => line.step === 'account')?.state).toBe('done');
    expect(run.state.tasks.find(t => t.step === 'kit')?.due).toBe('2026-03-03T17:00:00Z');
    const mails = run.wanted.slice(before).filter(e => e.kind === 'mail');
    expect(mails.map(mail => mail.to)).toEqual(['tom']);
    expect(mails[0]).toMatchObject({ subject: expect.stringContaining('Moved to Mon 9 March') });
    expect(mails[0].body).toContain('- Lays out the kit: due Tue 3 Mar 17:00, which is new');
    expect(mails[0].body).toContain('“The boat is late.”');
    expect(run.wanted.slice(before)).toContainEqual(
      expect.objectContaining({ kind: 'timer', what: 'limit', at: '2026-03-03T17:00:00Z' }),
    );
  });

  test('waits for the day before it follow, and are over where that day has come', () => {
    const { run } = asked();
    run.answer('yes', 'tom');
    for (const step of ['kit', 'contract', 'account', 'boat']) done(run, step);
    expect(run.state.holds[0].until).toBe('2026-02-27T00:00:00Z');
    expect(follows(run, '2026-03-09')).toEqual([
      { what: 'goes on', step: 'eve', before: '2026-02-27T00:00:00Z', after: '2026-03-06T00:00:00Z' },
    ]);
    moved(run, '2026-03-09');
    expect(run.state.holds[0].until).toBe('2026-03-06T00:00:00Z');
    expect(follows(run, '2026-02-03')).toEqual([
      { what: 'goes on', step: 'eve', before: '2026-03-06T00:00:00Z', after: null },
    ]);
    moved(run, '2026-02-03');
    expect(run.state.status).toBe('closed');
  });

  test('a wait until an hour of the day keeps its hour, at the place of the person', () => {
    const hold = {
      verb: 'Hold',
      id: 'evening',
      when: null,
      until: { kind: 'date', formula: 'Start date', at: '17:00' },
    };
    const definition = { ...flow(hold), countsBack: { field: 'start', place: 'post' } };
    const run = new Run(definition, given, 'ina');
    expect(run.state.holds[0].until).toBe('2026-03-02T17:00:00Z');
    // In summer the clocks of Lisbon are an hour ahead.
    moved(run, '2026-06-08');
    expect(run.state.holds[0].until).toBe('2026-06-08T16:00:00Z');
  });

  test('by whoever may: the asker, HR of the person, whom the workflow names, whoever helps requests on', () => {
    const { run } = asked();
    const command = { kind: 'move date', date: '2026-03-09', reason: 'so' } as never;
    expect(['ina', 'dora', 'tom', 'per'].map(actor => refusal(run, command, actor))).toEqual([
      'taken',
      'taken',
      'not yours',
      'not yours',
    ]);
    const named = asked('2026-03-02', joining({ movedBy: who({ kind: 'manager', levels: 1 }) })).run;
    expect(refusal(named, command, 'tom')).toBe('taken');
    const helping = { ...later('2026-02-02T10:00:00Z', 'kay'), helps: true };
    expect(
      handle(run.definition, run.state, { ...(command as object), seen: run.state.version } as never, helping).ok,
    ).toBe(true);
  });

  test('not behind today, unless it has passed already; not to where it is', () => {
    const { run } = asked();
    const to = (date: string) => refusal(run, { kind: 'move date', date, reason: 'so' } as never, 'ina');
    expect([to('2026-02-01'), to('2026-03-02'), to('2026-02-02')]).toEqual(['bad answers', 'bad answers', 'taken']);
    const passed = { ...run.state, answers: { ...run.state.answers, start: '2026-01-26' } };
    const result = handle(
      run.definition,
      passed,
      { kind: 'move date', seen: passed.version, date: '2026-01-28' as never, reason: 'so' },
      later('2026-02-02T10:00:00Z', 'ina'),
    );
    expect(result.ok).toBe(true);
  });

  test('a date that an administrator corrects takes limits and waits along, and tells the asker once', () => {
    const { run } = asked();
    run.answer('yes', 'tom');
    const before = run.wanted.length;
    const answers = { start: '2026-03-09' };
    run.do({ kind: 'correct', seen: run.state.version, answers, reason: 'A slip.' }, 'dora');
    expect(run.state.tasks.find(t => t.step === 'kit')?.due).toBe('2026-03-03T17:00:00Z');
    const mails = run.wanted.slice(before).flatMap(e => (e.kind === 'mail' ? [e.to] : []));
    expect(mails.sort()).toEqual(['ina', 'tom']);
  });

  test('what is taken back outside on a day that follows the date is taken back on the new one', () => {
    const definition = {
      ...joining({}, task({ id: 'last' })),
    };
    const provision = {
      verb: 'Provision',
      id: 'door',
      when: null,
      connection: 'Directory',
      action: 'add to group',
      values: [],
      removeOn: 'add days(Start date, 30)',
    };
    const withDoor = { ...definition, steps: [definition.steps[0], provision as never, ...definition.steps.slice(1)] };
    const run = new Run(withDoor, given, 'ina');
    const key = run.wanted.find(e => e.kind === 'provision')?.key;
    expect(follows(run, '2026-03-09')).toEqual([
      { what: 'taken back', step: 'door', before: '2026-04-01', after: '2026-04-08' },
    ]);
    moved(run, '2026-03-09');
    expect(run.wanted).toContainEqual({
      kind: 'undo on',
      key: `${key}:undo on`,
      of: key,
      on: '2026-04-08',
      at: '2026-04-08T23:00:00Z',
    });
  });
});

describe('telling in time', () => {
  const alert = { workingDays: 8, tell: who({ kind: 'role', role: 'HR partner' }) };
  const due = (run: Run) => run.wanted.flatMap(e => (e.kind === 'timer' && e.what === 'alert' ? [e.at] : []));
  const ring = (run: Run, now: string) => run.do({ kind: 'timer', task: 'plan', what: 'alert' }, null, now);

  test('on the morning before it, once, with what is left; it goes by itself when all is ready', () => {
    const { run } = asked('2026-03-02', joining({ alert }));
    expect(due(run)).toEqual(['2026-02-18T07:00:00Z']);
    ring(run, '2026-02-18T06:59:00Z');
    expect(run.state.alerted ?? null).toBeNull();
    ring(run, '2026-02-18T07:00:00Z');
    expect(run.state.alerted).toMatchObject({ people: ['dora'] });
    const mails = run.wanted.filter(e => e.kind === 'mail' && e.subject.startsWith('Not ready'));
    expect(mails).toHaveLength(1);
    expect(mails[0]).toMatchObject({ to: 'dora', body: expect.stringContaining('8 working days are left') });
    ring(run, '2026-02-18T09:00:00Z');
    expect(run.wanted.filter(e => e.kind === 'mail' && e.subject.startsWith('Not ready'))).toHaveLength(1);
    run.answer('yes', 'tom');
    for (const step of ['kit', 'contract', 'account']) done(run, step);
    expect(run.state.alerted).not.toBeNull();
    done(run, 'boat');
    expect(run.state.alerted).toBeNull();
    expect(run.kinds).toContain('alert over');
  });

  test('asked for when that morning has passed, it is told now: nothing is told before it was asked for', () => {
    const { run } = asked('2026-02-09', joining({ alert }));
    const now = '2026-02-02T10:00:00Z';
    expect(due(run)).toEqual([now]);
    expect(run.wanted.flatMap(e => (e.kind === 'timer' && e.at < now ? [e.what] : []))).toEqual([]);
  });

  test('a date that moves away takes it back, and it is told anew for the new date', () => {
    const { run } = asked('2026-03-02', joining({ alert }));
    ring(run, '2026-02-18T07:00:00Z');
    run.do(
      { kind: 'move date', seen: run.state.version, date: '2026-04-13' as never, reason: 'so' },
      'ina',
      '2026-02-18T10:00:00Z',
    );
    expect(run.state.alerted).toBeNull();
    expect(due(run)).toHaveLength(2);
    // The timer of the old date finds nothing to say any more.
    ring(run, '2026-02-19T00:00:00Z');
    expect(run.state.alerted).toBeNull();
    ring(run, due(run)[1]);
    expect(run.state.alerted).toMatchObject({ people: ['dora'] });
  });

  test('nothing is said of what is ready', () => {
    const { run } = asked('2026-03-02', joining({ alert }));
    run.answer('yes', 'tom');
    for (const step of ['kit', 'contract', 'account', 'boat']) done(run, step);
    ring(run, '2026-02-18T07:00:00Z');
    expect(run.kinds).not.toContain('alerted');
  });
});

describe('whatever happens', () => {
  const moves = fc.array(
    fc.oneof(
      fc.record({ what: fc.constant('finish' as const), which: fc.nat() }),
      fc.record({ what: fc.constant('date' as const), days: fc.integer({ min: 0, max: 90 }) }),
      fc.record({ what: fc.constant('wait' as const), hours: fc.integer({ min: 1, max: 120 }) }),
    ),
    { maxLength: 14 },
  );

  test('a task that is done stays done through every move of the date, and the plan is that of its facts', () => {
    fc.assert(
      fc.property(fc.integer({ min: 5, max: 60 }), moves, (ahead, all) => {
        const day = (n: number) => new Date(Date.UTC(2026, 1, 2 + n)).toISOString().slice(0, 10);
        const run = new Run(joining(), { ...given, start: day(ahead) }, 'ina');
        let now = Date.parse('2026-02-02T10:00:00Z');
        const finished = new Set<string>();
        for (const move of all) {
          const at = new Date(now).toISOString().replace('.000', '');
          if (move.what === 'wait') now += move.hours * 3_600_000;
          else if (run.state.status !== 'open') break;
          else if (move.what === 'finish') {
            const found = run.state.tasks[move.which % Math.max(1, run.state.tasks.length)];
            if (!found) continue;
            if (found.step === 'decide') run.answer('yes', found.holder);
            else done(run, found.step, found.holder, at);
            finished.add(found.step);
          } else {
            const to = day(Math.floor((now - Date.parse('2026-02-02T00:00:00Z')) / 86_400_000) + move.days);
            if (to === run.state.answers.start) continue;
            run.do({ kind: 'move date', seen: run.state.version, date: to as never, reason: 'so' }, 'ina', at);
          }
          if (run.state.status !== 'open') break;
          const plan = planAt(run, at);
          for (const line of plan.lines) expect(line.state === 'done').toBe(finished.has(line.step));
          expect(plan.date).toBe(run.state.answers.start);
          // The same facts, folded anew, come to the same plan.
          expect(planOf(run.definition, JSON.parse(JSON.stringify(run.state)), later(at, null))).toEqual({
            ok: true,
            plan,
          });
        }
      }),
    );
  });

  test('every workflow that counts back has a plan, or a reason why not, at every step of its course', () => {
    fc.assert(
      fc.property(anyWorkflow, definition => {
        const result = handle(
          definition,
          newRequest('R-1'),
          { kind: 'submit', answers: given },
          later('2026-02-02T10:00:00Z', 'ina'),
        );
        if (!result.ok) return;
        const found = planOf(definition, result.state, contextFor('ina'));
        expect(found === null).toBe(definition.countsBack === undefined);
        if (!found?.ok) return;
        const { lines, chain, slack } = found.plan;
        expect(chain.length === 0).toBe(slack === null);
        for (const id of chain) expect(lines.find(line => line.step === id)?.days?.slack).toBe(slack);
      }),
      { numRuns: 200 },
    );
  });
});
