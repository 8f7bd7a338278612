import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { base } from '../../testing/anyWorkflow.ts';
import { contextFor, date, person, withDirectory } from '../../testing/house.ts';
import { back, bad, decide, flow, given, good, Run, refusal, task, told, who, wholeTrail } from '../../testing/run.ts';
import {
  cleanRich,
  type Definition,
  handle,
  move,
  newRequest,
  obstacles,
  plainOf,
  readDefinition,
  setAt,
  settle,
} from '../index.ts';

const line = who({ kind: 'managers', levels: 2 });

describe('several people decide', () => {
  test('somebody is asked even where no outcome counts in favour', () => {
    const step = { count: { atLeast: 1 }, outcomes: [bad] };
    expect(settle({ ...step, id: 'decide', count: { atLeast: 1 } }, [], 7)).toBeUndefined();
    const run = new Run(flow(decide({ who: line, ...step })));
    expect(run.holders).toEqual(['tom', 'dora']);
    run.answer('no', 'tom');
    expect(run.state.closing).toBe('declined');
  });

  test('in turn, one after another up the line; the first who is against settles it', () => {
    const run = new Run(flow(decide({ who: line, count: 'in turn' })));
    expect(run.holders).toEqual(['tom']);
    expect(run.answer('yes', 'tom').holders).toEqual(['dora']);
    expect(run.answer('yes', 'dora').state).toMatchObject({ status: 'closed', closing: 'approved' });
    expect(new Run(flow(decide({ who: line, count: 'in turn' }))).answer('no', 'tom').state.closing).toBe('declined');
  });

  test('all together: it settles as soon as one is against, and the others are told', () => {
    const run = new Run(flow(decide({ who: line, count: 'everyone' })));
    expect(run.holders).toEqual(['tom', 'dora']);
    run.answer('no', 'dora');
    expect(run.state).toMatchObject({ closing: 'declined', tasks: [] });
    expect(run.kinds).toContain('ended');
  });

  test('at least so many: with too few people it is stuck, and nothing is guessed', () => {
    expect(told(new Run(flow(decide({ who: line, count: { atLeast: 3 } }))).state.stuck)).toContain('only 2 are found');
    expect(new Run(flow(decide({ who: line, count: { atLeast: 1 } }))).answer('yes', 'dora').state.status).toBe(
      'closed',
    );
  });

  const other = { ...good, id: 'else', label: 'Ask the board' };
  const outcomes = [good, other, back, bad];
  const ids = outcomes.map(o => o.id);
  const votesOf = (all: readonly string[]) => all.map((outcome, i) => ({ person: `p${i}` as never, outcome }));
  const allOf = (n: number): string[][] =>
    n === 0 ? [[]] : allOf(n - 1).flatMap(rest => ids.map(id => [...rest, id]));
  type Count = 'everyone' | 'majority' | { atLeast: number };
  const counts: Count[] = ['everyone', 'majority', { atLeast: 2 }];

  /** What all answers together come to, said as the rule is said. */
  function final(count: Count, all: readonly string[]): string {
    const needed = count === 'everyone' ? all.length : count === 'majority' ? Math.floor(all.length / 2) + 1 : 2;
    const enough = ids.filter(id => all.filter(one => one === id).length >= Math.min(needed, all.length));
    const inFavour = enough.filter(id => id === 'yes' || id === 'else');
    if (typeof count !== 'object') return enough[0] ?? 'no';
    return inFavour[0] ?? enough[0] ?? 'no';
  }

  test.each(counts)('counting %j settles no sooner and no later than it is certain', count => {
    const step = { id: 'decide', count, outcomes, undecided: 'no' };
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...ids), { minLength: 1, maxLength: 5 }), all => {
        const of = all.length;
        const at = all.findIndex((_, i) => settle(step, votesOf(all.slice(0, i + 1)), of));
        expect(at).toBeGreaterThanOrEqual(0);
        const ends = (given: readonly string[]) =>
          new Set(allOf(of - given.length).map(rest => final(count, [...given, ...rest])));
        const settled = settle(step, votesOf(all.slice(0, at + 1)), of);
        // The first of two outcomes in favour to have so many settles it; all else is certain only when nothing can change it.
        if (typeof count !== 'object')
          expect([...ends(all.slice(0, at + 1))]).toEqual([settled && 'outcome' in settled && settled.outcome]);
        if (at > 0) expect(ends(all.slice(0, at)).size).toBeGreaterThan(1);
      }),
    );
  });

  test('an outcome of one’s own is its own side: three and one do not agree, and neither does a tie', () => {
    const four = (...all: string[]) => votesOf(all);
    const settled = (count: Count, votes: string[], undecided?: string) =>
      settle({ id: 'decide', count, outcomes, ...(undecided ? { undecided } : {}) }, four(...votes), votes.length);
    expect(settled('everyone', ['yes', 'yes', 'else', 'yes'])).toEqual({
      blocked: {
        code: 'no agreement',
        step: 'decide',
        needed: 4,
        of: 4,
        counts: [
          { outcome: 'yes', people: 3 },
          { outcome: 'else', people: 1 },
        ],
      },
    });
    expect(settled('everyone', ['yes', 'yes', 'else', 'yes'], 'back')).toMatchObject({ outcome: 'back' });
    // One of four against does not decline it.
    expect(settled('majority', ['yes', 'yes', 'else', 'no'])).toMatchObject({ blocked: { code: 'no agreement' } });
    expect(settled('majority', ['yes', 'yes', 'no', 'no'], 'else')).toMatchObject({ outcome: 'else' });
    expect(settled('majority', ['yes', 'yes', 'yes', 'no'])).toMatchObject({ outcome: 'yes' });
  });

  test('where nothing says what then, HR operations names somebody; the trail counts each outcome', () => {
    const run = new Run(flow(decide({ who: line, count: 'majority', outcomes })));
    run.answer('yes', 'tom').answer('no', 'dora');
    expect(run.state).toMatchObject({ status: 'stuck', tasks: [] });
    expect(told(run.state.stuck)).toContain('1 “yes” and 1 “no”');
  });
});

describe('doing', () => {
  test('the first of a pool takes it, puts it back, and ticks everything before it is done', () => {
    const run = new Run(
      flow(
        task({
          who: line,
          pool: true,
          checklist: [{ id: 'keys', label: 'Keys' }],
          couldNot: { to: 'close', closing: 'declined' },
        }),
      ),
    );
    expect(run.holders).toEqual(['tom', 'dora']);
    const mine = () => run.state.tasks.find(t => t.holder === 'tom')?.id ?? '';
    run.do({ kind: 'take', seen: run.state.version, task: mine() }, 'tom');
    expect(run.holders).toEqual(['tom']);
    run.do({ kind: 'put back', seen: run.state.version, task: mine() }, 'tom');
    expect(run.holders).toEqual(['tom', 'dora']);
    expect(refusal(run, { kind: 'complete', task: mine(), ticked: [], answers: {} }, 'tom')).toBe('not ticked');
    expect(refusal(run, { kind: 'could not', task: mine() }, 'tom')).toBe('note needed');
    run.do({ kind: 'complete', seen: run.state.version, task: mine(), ticked: ['keys'], answers: {} }, 'tom');
    expect(run.state).toMatchObject({ status: 'closed', closing: 'approved' });
  });

  test('fills in the fields of its step, and no others', () => {
    const definition = {
      ...flow(task()),
      access: { ask: { remark: 'hidden' as const }, do: { remark: 'required' as const } },
    };
    const run = new Run(definition);
    const { id } = run.state.tasks[0];
    expect(refusal(run, { kind: 'complete', task: id, ticked: [], answers: {} }, 'tom')).toBe('bad answers');
    expect(refusal(run, { kind: 'complete', task: id, ticked: [], answers: { remark: 'ok', amount: 1 } }, 'tom')).toBe(
      'bad answers',
    );
    run.do({ kind: 'complete', seen: run.state.version, task: id, ticked: [], answers: { remark: 'laid out' } }, 'tom');
    expect(run.state.answers).toMatchObject({ remark: 'laid out', amount: 250 });
    expect(refusal(new Run(flow(task()), given), { kind: 'submit', answers: given } as never, 'ina')).not.toBe('taken');
  });
});

describe('lanes', () => {
  const lanes = (needs: unknown) => ({
    verb: 'Split',
    id: 'split',
    when: null,
    needs,
    lanes: [
      { id: 'a', name: 'A', steps: [task({ id: 'one' })] },
      { id: 'b', name: 'B', steps: [task({ id: 'two', who: who({ kind: 'post', post: 'director' }) })] },
    ],
  });
  const finish = (run: Run, holder: string) => {
    const found = run.state.tasks.find(t => t.holder === holder);
    return run.do(
      { kind: 'complete', seen: run.state.version, task: found?.id ?? '', ticked: [], answers: {} },
      holder,
    );
  };
  test('run side by side, and it goes on when all are done', () => {
    const run = new Run(flow(lanes('all')));
    expect(run.state.at).toEqual(['split', 'one', 'two']);
    expect(finish(run, 'tom').state.at).toEqual(['split', 'two']);
    expect(finish(run, 'dora').state.status).toBe('closed');
  });
  test('when any is enough, the others are called off and told', () => {
    const run = finish(new Run(flow(lanes('any'), decide())), 'dora');
    expect(run.state).toMatchObject({ at: ['decide'], status: 'open' });
    expect(run.state.tasks.map(t => t.step)).toEqual(['decide']);
    expect(run.kinds).toContain('joined');
  });
  test('leaving the split from within calls the other lanes off', () => {
    const leaving = {
      ...lanes('all'),
      lanes: [
        { id: 'a', name: 'A', steps: [decide({ outcomes: [{ ...good, leads: { to: 'step', step: 'end' } }] })] },
        lanes('all').lanes[1],
      ],
    };
    expect(new Run(flow(leaving)).answer('yes', 'tom').state).toMatchObject({ status: 'closed', tasks: [], at: [] });
  });
});

describe('waiting', () => {
  test('until a day counted back from a date, then it goes on by its timer', () => {
    const run = new Run(
      flow({ verb: 'Hold', id: 'hold', when: null, until: { kind: 'before', workingDays: 5, field: 'start' } }),
    );
    expect(run.state.holds).toMatchObject([{ step: 'hold', until: '2026-02-23T00:00:00Z' }]);
    run.do({ kind: 'timer', task: 'hold', what: 'hold' }, null, '2026-02-20T00:00:00Z');
    expect(run.state.status).toBe('open');
    run.do({ kind: 'timer', task: 'hold', what: 'hold' }, null, '2026-02-23T00:00:00Z');
    expect(run.state.status).toBe('closed');
  });
  test('a day that is past is not waited for; a document is, until it is handed in', () => {
    expect(
      new Run(
        flow({ verb: 'Hold', id: 'hold', when: null, until: { kind: 'date', formula: 'add days(Start date, -60)' } }),
      ).state.status,
    ).toBe('closed');
    const run = new Run(flow({ verb: 'Hold', id: 'hold', when: null, until: { kind: 'document', field: 'paper' } }));
    const paper = { file: { id: 'f', name: 'a.pdf', size: 1, type: 'application/pdf' }, expires: null };
    expect(refusal(run, { kind: 'hand in', step: 'hold', answers: {} }, 'ina')).toBe('bad answers');
    expect(refusal(run, { kind: 'hand in', step: 'hold', answers: { paper } }, 'tom')).toBe('not yours');
    expect(
      run.do({ kind: 'hand in', seen: run.state.version, step: 'hold', answers: { paper } }, 'ina').state.status,
    ).toBe('closed');
  });
  test('for the requests that it opened', () => {
    const run = new Run(
      flow(
        { verb: 'Record', id: 'open', when: null, effect: { kind: 'open', workflow: 'kit', values: [] } },
        { verb: 'Hold', id: 'hold', when: null, until: { kind: 'requests' } },
      ),
    );
    const [key] = run.state.opened;
    expect(run.effects).toContain('open request');
    expect(run.do({ kind: 'opened closed', key, closing: 'done' }, null).state.status).toBe('closed');
  });
});

describe('rework', () => {
  const two = (access: Definition['access']) => ({
    ...flow(
      decide(),
      decide({
        id: 'second',
        who: who({ kind: 'post', post: 'director' }),
        outcomes: [good, { ...back, leads: { ...back.leads, resume: 'decide' } }, bad],
      }),
    ),
    access,
  });
  const changed = (definition: Definition, answers: Record<string, unknown>) => {
    const run = new Run(definition).answer('yes', 'tom').answer('back', 'dora');
    return run.do({ kind: 'resubmit', seen: run.state.version, answers }, 'ina');
  };
  test('an earlier answer is kept when nothing that was looked at changed', () => {
    const run = changed(two({ decide: { remark: 'hidden' } }), { remark: 'more' });
    expect(run.holders).toEqual(['dora']);
    expect(run.kinds).toContain('kept');
  });
  test('and is asked for again, with the reason, when something did', () => {
    const run = changed(two({ decide: { remark: 'hidden' } }), { amount: 300 });
    expect(run.holders).toEqual(['tom']);
    expect(run.state.tasks[0].reasons.map(r => told(r)).join()).toContain('asked again, because Amount changed');
  });
  test('may go to whoever settled an earlier step', () => {
    const whom = { ...back, leads: { ...back.leads, whom: 'decide' } };
    const run = new Run(
      flow(decide(), decide({ id: 'second', who: who({ kind: 'post', post: 'director' }), outcomes: [good, whom] })),
    )
      .answer('yes', 'tom')
      .answer('back', 'dora');
    expect(run.state.returned?.to).toBe('tom');
    expect(refusal(run, { kind: 'resubmit', answers: {} }, 'ina')).toBe('not yours');
  });
  test('whoever approved the step before is not asked twice when the step says so', () => {
    expect(new Run(flow(decide(), decide({ id: 'second', once: true }))).answer('yes', 'tom').state.status).toBe(
      'closed',
    );
    expect(new Run(flow(decide(), decide({ id: 'second' }))).answer('yes', 'tom').holders).toEqual(['tom']);
  });
});

describe('at the limit', () => {
  const limited = (atLimit: unknown) => flow(decide({ limit: { within: { workingDays: 1 }, remind: null, atLimit } }));
  const pass = (run: Run) =>
    run.do({ kind: 'timer', task: run.state.tasks[0].id, what: 'limit' }, null, '2026-02-03T17:00:00Z');
  test('it passes to somebody else, an outcome is taken, or somebody is told', () => {
    expect(pass(new Run(limited({ passTo: who({ kind: 'post', post: 'director' }) }))).holders).toEqual(['dora']);
    expect(pass(new Run(limited({ take: 'no' }))).state.closing).toBe('declined');
    const told = pass(new Run(limited({ tell: who({ kind: 'post', post: 'director' }) })));
    expect([told.holders, told.state.tasks[0].late]).toEqual([['tom'], true]);
  });
  test('a limit counted back from a date is due at the end of that working day', () => {
    const run = new Run(
      flow(decide({ limit: { within: { workingDaysBefore: 2, field: 'start' }, remind: null, atLimit: 'wait' } })),
    );
    expect(run.state.tasks[0]).toMatchObject({
      due: '2026-02-26T17:00:00Z',
    });
    expect(told(run.state.tasks[0].dueReason)).toContain('2 working days before Start date');
  });
});

describe('recording and provisioning', () => {
  test('are described for whoever carries them out, each with a key of its own', () => {
    const values = [{ name: 'Title', formula: 'Remark' }];
    const run = new Run(
      flow(
        { verb: 'Record', id: 'set', when: null, effect: { kind: 'set', field: 'remark', formula: '"Relief"' } },
        { verb: 'Record', id: 'row', when: null, effect: { kind: 'add row', list: 'open', values } },
        { verb: 'Record', id: 'change', when: null, effect: { kind: 'change row', row: 'post', values } },
        { verb: 'Record', id: 'person', when: null, effect: { kind: 'person', property: 'post', formula: '"empty"' } },
        { verb: 'Record', id: 'plan', when: null, effect: { kind: 'planner', span: 'dates', label: 'Away' } },
        {
          verb: 'Provision',
          id: 'group',
          when: null,
          connection: 'Directory',
          action: 'add to group',
          values,
          removeOn: 'Start date',
        },
      ),
    );
    expect(run.state).toMatchObject({ status: 'closed', answers: { remark: 'Relief' } });
    expect(run.effects.filter(e => e !== 'mail')).toEqual([
      'add row',
      'change row',
      'change person',
      'planner',
      'provision',
    ]);
    expect(run.wanted.find(e => e.kind === 'provision')).toMatchObject({
      undoOn: given.start,
      undoAt: '2026-03-03T00:00:00Z',
    });
  });
  test('a value that is not known stops the step with its reason', () => {
    const run = new Run(
      flow({
        verb: 'Provision',
        id: 'group',
        when: null,
        connection: 'Directory',
        action: 'add to group',
        values: [{ name: 'to', formula: 'Lead' }],
      }),
      { ...given, lead: null },
    );
    expect(told(run.state.stuck)).toContain('“Lead” has no value');
  });
});

describe('who may ask', () => {
  const opened = (opening: Definition['opening']): Definition => ({ ...flow(), opening });
  const asks = (definition: Definition, actor: string, subject?: string) => {
    const result = handle(
      definition,
      newRequest('R-1'),
      { kind: 'submit', answers: given, subject },
      contextFor(actor),
    );
    return result.ok ? 'sent' : result.refusal.message;
  };
  test('only those it is open to, only while it is open, and for whom it says', () => {
    expect(asks(opened(undefined), 'ina')).toBe('sent');
    expect(asks(opened(undefined), 'tom', 'ina')).toContain('oneself only');
    expect(asks(opened({ forWhom: ['self'], who: who({ kind: 'role', role: 'HR partner' }) as never }), 'ina')).toBe(
      'This is not open to you.',
    );
    expect(asks(opened({ forWhom: ['self'], from: date('2026-03-01') }), 'ina')).toContain('from Sun 1 March');
    expect(asks(opened({ forWhom: ['self'], to: date('2026-01-01') }), 'ina')).toContain('until');
    expect(asks(opened({ forWhom: ['report'] }), 'tom', 'ina')).toBe('sent');
    expect(asks(opened({ forWhom: ['report'] }), 'ina')).toContain('for somebody else');
  });
  test('nobody decides a request that is for themselves', () => {
    const definition = {
      ...flow(decide({ who: who({ kind: 'person in', field: 'lead' }) })),
      opening: { forWhom: ['report' as const] },
    };
    const result = handle(
      definition,
      newRequest('R-1'),
      { kind: 'submit', answers: { ...given, lead: 'ina' }, subject: 'ina' },
      contextFor('tom'),
    );
    expect(result.ok && result.state.tasks.map(t => t.holder)).toEqual(['dora']);
  });
});

describe('moving to another version', () => {
  const before = flow(decide());
  const run = () => new Run(before);
  const versions = { from: 1, to: 2, reason: 'the limit was wrong' };
  test('an open request that fits goes on by the new version', () => {
    const after = setAt(before, ['steps', 1, 'outcomes', 0, 'leads'], { to: 'close', closing: 'declined' });
    const moved = move(before, after, versions, run().state, contextFor('kay'));
    if (!moved.ok) throw new Error(moved.refusal.message);
    expect(wholeTrail(after, moved.events, contextFor('kay'))[0].text).toBe('moved it from version 1 to version 2');
    expect(moved.state.tasks).toHaveLength(1);
  });
  test.each<[string, Definition, string]>([
    ['the step where it stands is gone', flow(), 'is not there any more'],
    ['it has become another', flow(task({ id: 'decide' })), 'which is Do now'],
    [
      'an answer would be lost',
      setAt(
        before,
        ['form', 'fields'],
        before.form.fields.filter(f => f.id !== 'amount'),
      ),
      'would be lost',
    ],
    [
      'something is needed that was never asked',
      setAt(before, ['form', 'fields', 2, 'required'], true),
      '“Remark” is needed now',
    ],
  ])('it does not when %s', (_, after, why) => {
    expect(obstacles(before, after, run().state, contextFor('kay')).join(' ')).toContain(why);
    expect(move(before, after, versions, run().state, contextFor('kay')).ok).toBe(false);
  });
});

describe('older and newer documents', () => {
  test('format 1 is read in today’s; a newer one, or none, is refused in words', () => {
    expect(readDefinition({ ...base, formatVersion: 1 })).toEqual({ ok: true, definition: base });
    const words = (formatVersion: unknown) => {
      const read = readDefinition({ ...base, formatVersion });
      return read.ok ? '' : read.faults[0].message;
    };
    expect(words(4)).toContain('newer than this version reads');
    expect(words('2')).toContain('says no format');
  });
});

describe('rich text', () => {
  test('becomes plain words, and nothing dangerous is left of it', () => {
    const html =
      '<p>Hello <strong>Ina</strong>,</p><ul><li>keys</li><li>badge</li></ul><p>see <a href="https://selkie.example/x">the list</a></p>';
    expect(plainOf(html)).toBe('Hello Ina,\n\n- keys\n- badge\n\nsee the list (https://selkie.example/x)');
    expect(cleanRich('<p onclick="x()">a<script>b</script><a href="javascript:x">c</a><img src=x>')).toBe('<p>abc</p>');
    expect(plainOf('a < b')).toBe('a < b');
  });
  test('cleaning twice is cleaning once, and only known elements stay', () => {
    const piece = fc.constantFrom(
      '<p>',
      '</p>',
      '<script>',
      '<li>',
      '</ul>',
      '<a href="https://a.example">',
      '<a href="data:x">',
      '<',
      '>',
      '&amp;',
      'x',
      '<em',
      '<b>',
    );
    fc.assert(
      fc.property(
        fc.array(piece).map(p => p.join('')),
        html => {
          const once = cleanRich(html);
          expect(cleanRich(once)).toBe(once);
          for (const [, name] of once.matchAll(/<\/?([a-z0-9]+)/g))
            expect(['p', 'br', 'strong', 'em', 'u', 'ul', 'ol', 'li', 'h3', 'a', 'blockquote']).toContain(name);
        },
      ),
    );
  });
});

test('a circle in the reporting line finds nobody, and says so', () => {
  expect(withDirectory({}).directory.people.length).toBeGreaterThan(0);
  expect(told(new Run(flow(decide()), given, 'rin').state.stuck)).toMatch(/circle|round/i);
});

test('a step that can only send back, once it has, is stuck and says why, instead of asking for no answer at all', () => {
  const once = { ...back, leads: { ...back.leads, resume: 'decide', atMost: 1 } } as typeof back;
  const run = new Run(flow(decide({ outcomes: [once] }))).answer('back', 'tom');
  run.do({ kind: 'resubmit', seen: run.state.version, answers: given }, 'ina');
  expect(run.state.tasks).toEqual([]);
  expect(told(run.state.stuck)).toContain('it was sent back as often as it may be');
  expect(refusal(run, { kind: 'appoint', step: 'decide', to: person('kay') }, 'dora')).toBe('not open');
});
