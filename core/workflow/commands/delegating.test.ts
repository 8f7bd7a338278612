import { describe, expect, test } from '@jest/globals';
import { person, withDirectory } from '../../testing/house.ts';
import { bad, decide as decided, flow, good, later, Run, refusal, task, who, wholeTrail } from '../../testing/run.ts';
import { type Command, fold, handle } from '../index.ts';

/** Where the designer lets a holder pass it to anybody; who else may have a step is tried beside the people rules. */
const decide = (more: object = {}) => decided({ handTo: 'anybody', ...more });
const limited = decide({
  limit: {
    within: { workingHours: 10 },
    remind: { after: { workingHours: 4 }, atMost: 2 },
    atLimit: 'pass up',
  },
});
const first = (run: Run) => run.state.tasks[0];
const mails = (run: Run) => run.wanted.flatMap(e => (e.kind === 'mail' ? [`${e.to}: ${e.subject}`] : []));
const timers = (run: Run) => run.wanted.flatMap(e => (e.kind === 'timer' ? [e] : []));
const give = (run: Run, command: object, actor: string | null, now?: string) =>
  run.do({ seen: run.state.version, task: first(run)?.id, ...command } as Command, actor, now);
/** Lets the timers that are due by then go off, as the server would. */
const wait = (run: Run, until: string) => {
  const gone = new Set<string>();
  for (let next = 0; next < timers(run).length; next++) {
    const timer = timers(run)[next];
    if (timer.at > until || gone.has(timer.key)) continue;
    gone.add(timer.key);
    run.do({ kind: 'timer', task: timer.task, what: timer.what }, null, timer.at);
  }
  return run;
};

describe('a question to the asker', () => {
  // Tom works 9:00 to 12:30 and 13:00 to 17:00; it is Monday, 10:00, and ten hours are left.
  const asked = () =>
    give(new Run(flow(limited)), { kind: 'ask', question: 'Which boat?' }, 'tom', '2026-02-02T11:00:00Z');

  test('stands on the trail and is mailed to the asker; the task stays where it is', () => {
    const run = asked();
    expect(first(run)).toMatchObject({ holder: 'tom', question: { text: 'Which boat?', by: 'tom' } });
    expect(mails(run).at(-1)).toMatch(/^ina: A question: /);
    expect(run.kinds.at(-1)).toBe('questioned');
  });

  test('lets the clock stand still: no limit passes and no reminder goes out meanwhile', () => {
    const run = wait(asked(), '2026-02-20T18:00:00Z');
    expect(run.kinds).not.toContain('passed limit');
    expect(run.kinds).not.toContain('reminded');
    expect(first(run).holder).toBe('tom');
  });

  test('the reply brings it back with exactly the working time that was left', () => {
    const run = asked();
    expect(first(run).due).toBe('2026-02-03T12:30:00Z');
    // Nine hours were left at 11:00; they begin again on Friday at 15:00.
    give(run, { kind: 'reply', reply: 'The small one.' }, 'ina', '2026-02-06T15:00:00Z');
    expect(first(run)).toMatchObject({ holder: 'tom', due: '2026-02-09T16:30:00Z' });
    expect(first(run).question).toBeUndefined();
    expect(mails(run).at(-1)).toMatch(/^tom: Replied: /);
    wait(run, '2026-02-09T16:29:59Z');
    expect(run.kinds).not.toContain('passed limit');
    // Four hours after the reply and four after that; the reminder set before the question is no more.
    const reminded = run.events.filter(e => e.kind === 'reminded').map(e => e.at);
    expect(reminded).toEqual(['2026-02-09T11:00:00Z', '2026-02-09T15:30:00Z']);
    wait(run, '2026-02-09T16:30:00Z');
    expect(run.kinds).toContain('passed limit');
    expect(run.holders).toEqual(['dora']);
  });

  test('is answered by the asker only, once, and asked by the holder only, one at a time', () => {
    const run = asked();
    const id = first(run).id;
    expect(refusal(run, { kind: 'ask', task: id, question: 'And?' }, 'tom')).toBe('not open');
    expect(refusal(run, { kind: 'reply', task: id, reply: 'Me!' }, 'kay')).toBe('not yours');
    give(run, { kind: 'reply', reply: 'Small.' }, 'ina');
    expect(refusal(run, { kind: 'reply', task: id, reply: 'Again' }, 'ina')).toBe('not open');
    expect(refusal(run, { kind: 'ask', task: id, question: 'And?' }, 'kay')).toBe('not yours');
    expect(refusal(run, { kind: 'ask', task: 'R-1.9', question: 'And?' }, 'tom')).toBe('not open');
  });

  test('does not keep the holder from deciding', () => {
    expect(asked().answer('yes', 'tom').state.closing).toBe('approved');
  });
});

describe('handing over', () => {
  test('gives the task to somebody else with a note, and the limit goes on', () => {
    const run = new Run(flow(limited));
    const { due } = first(run);
    give(run, { kind: 'hand over', to: { person: 'per' }, note: 'You know the boats.' }, 'tom');
    expect(run.state.tasks).toMatchObject([{ holder: 'per', due, reasons: [{ code: 'handed over', by: 'tom' }] }]);
    expect(mails(run)).toEqual(
      expect.arrayContaining([expect.stringMatching(/^per: For you to decide/), expect.stringMatching(/^ina: News/)]),
    );
    expect(wait(run, '2026-02-03T12:30:00Z').kinds).toContain('passed limit');
  });

  test.each([
    ['the asker', { person: 'ina' }],
    ['somebody who has left', { person: 'old' }],
    ['oneself', { person: 'tom' }],
    ['nobody on file', { person: 'nobody' }],
    ['a role that nobody holds', { role: 'Harbour master' }],
  ])('never to %s', (_, to) => {
    const run = new Run(flow(decide()));
    expect(refusal(run, { kind: 'hand over', task: first(run).id, to, note: 'x' } as Partial<Command>, 'tom')).toBe(
      'bad answers',
    );
  });

  test('to a role goes to whoever holds it', () => {
    const run = new Run(flow(decide()));
    give(run, { kind: 'hand over', to: { role: 'HR partner' }, note: 'Yours.' }, 'tom');
    expect(run.holders).toEqual(['dora']);
  });

  test('where votes are counted, nobody gets two', () => {
    const run = new Run(flow(decide({ who: who({ kind: 'managers', levels: 2 }), count: 'everyone' })));
    expect(run.holders).toEqual(['tom', 'dora']);
    expect(
      refusal(run, { kind: 'hand over', task: first(run).id, to: { person: person('dora') }, note: 'x' }, 'tom'),
    ).toBe('bad answers');
    give(run, { kind: 'hand over', to: { person: 'kay' }, note: 'x' }, 'tom');
    run.answer('yes', 'kay').answer('yes', 'dora');
    expect(run.state.closing).toBe('approved');
  });

  test('in turn, the next in turn is still asked after', () => {
    const run = new Run(flow(decide({ who: who({ kind: 'managers', levels: 2 }), count: 'in turn' })));
    give(run, { kind: 'hand over', to: { person: 'per' }, note: 'x' }, 'tom');
    expect(run.answer('yes', 'per').holders).toEqual(['dora']);
  });

  test('only by its holder, and what waits in a pool is taken first', () => {
    const run = new Run(flow(task({ pool: true, who: who({ kind: 'role', role: 'HR partner' }) })));
    const { id } = first(run);
    expect(refusal(run, { kind: 'hand over', task: id, to: { person: person('kay') }, note: 'x' }, 'per')).toBe(
      'not yours',
    );
    expect(refusal(run, { kind: 'hand over', task: id, to: { person: person('kay') }, note: 'x' }, 'dora')).toBe(
      'not open',
    );
  });
});

describe('setting aside', () => {
  test('for oneself keeps the task out of sight until the morning of that day', () => {
    const run = new Run(flow(decide()));
    give(run, { kind: 'set aside', until: '2026-02-10', note: 'after the tide table' }, 'tom');
    expect(first(run)).toMatchObject({ holder: 'tom', aside: { until: '2026-02-10', note: 'after the tide table' } });
    wait(run, '2026-02-09T23:00:00Z');
    expect(first(run).aside).toBeDefined();
    wait(run, '2026-02-10T00:00:00Z');
    expect(first(run).aside).toBeUndefined();
    expect(run.kinds.at(-1)).toBe('brought back');
  });

  test('to somebody else lends it until that day, then it goes back', () => {
    const run = new Run(flow(decide()));
    give(run, { kind: 'set aside', until: '2026-02-10', to: { person: 'kay' }, note: null }, 'tom');
    expect(run.state.tasks).toMatchObject([{ holder: 'kay', lentBy: 'tom' }]);
    wait(run, '2026-02-10T00:00:00Z');
    expect(run.holders).toEqual(['tom']);
    expect(run.answer('yes', 'tom').state.closing).toBe('approved');
  });

  test('whoever has it meanwhile decides it, and the day passes without anything', () => {
    const run = new Run(flow(decide()));
    give(run, { kind: 'set aside', until: '2026-02-10', to: { person: 'kay' } }, 'tom');
    run.answer('yes', 'kay');
    expect(wait(run, '2026-03-01T00:00:00Z').state.closing).toBe('approved');
  });

  test('can be brought back early, and not twice', () => {
    const run = new Run(flow(decide()));
    give(run, { kind: 'set aside', until: '2026-02-10' }, 'tom');
    give(run, { kind: 'bring back' }, 'tom');
    expect(first(run).aside).toBeUndefined();
    expect(refusal(run, { kind: 'bring back', task: first(run).id }, 'tom')).toBe('not open');
  });

  test('only until a day to come', () => {
    const run = new Run(flow(decide()));
    expect(
      refusal(run, { kind: 'set aside', task: first(run).id, until: '2026-02-02' } as Partial<Command>, 'tom'),
    ).toBe('bad answers');
  });

  test('does not stop the limit', () => {
    const run = new Run(flow(limited));
    give(run, { kind: 'set aside', until: '2026-02-10' }, 'tom');
    expect(wait(run, '2026-02-03T12:30:00Z').holders).toEqual(['dora']);
  });
});

describe('standing in', () => {
  const covered = withDirectory({
    covers: [{ person: person('tom'), by: person('kay'), from: '2026-01-01', to: '2026-12-31' } as never],
  });
  const away = [{ person: person('tom'), from: '2026-02-01', to: '2026-02-28' } as never];
  const asked = () => {
    const definition = flow(decide());
    const answers = { ...new Run(definition).state.answers };
    const context = { ...later('2026-02-02T10:00:00Z', 'ina'), index: covered, away };
    const result = handle(definition, new Run(definition).state, { kind: 'submit', answers }, context);
    expect(result.ok).toBe(false);
    const fresh = fold('R-1', []);
    const sent = handle(definition, fresh, { kind: 'submit', answers }, context);
    if (!sent.ok) throw new Error(sent.refusal.message);
    return { definition, sent };
  };

  test.each([
    ['kay', 'tom', 'answered “Approve” at step 2 for Tom Lund'],
    ['tom', null, 'answered “Approve” at step 2'],
  ])('%s may answer, and the trail says for whom', (actor, coverFor, words) => {
    const { definition, sent } = asked();
    const [held] = sent.state.tasks;
    expect(held).toMatchObject({ holder: 'kay', coverFor: 'tom' });
    const command = { kind: 'answer' as const, seen: sent.state.version, task: held.id, outcome: 'yes', note: null };
    const context = { ...later('2026-02-02T11:00:00Z', actor), index: covered };
    const result = handle(definition, sent.state, command, context);
    if (!result.ok) throw new Error(result.refusal.message);
    expect(result.events[0]).toMatchObject({ kind: 'answered', coverFor });
    expect(wholeTrail(definition, [result.events[0]], context)[0].text).toBe(words);
  });
});

describe('naming somebody for a step that finds nobody', () => {
  const stuck = () => new Run(flow(decide({ who: who({ kind: 'role', role: 'Harbour master' }) })));

  test('gives it to them and the request goes on', () => {
    const run = stuck();
    expect(run.state.status).toBe('stuck');
    run.do({ kind: 'appoint', seen: run.state.version, step: 'decide', to: person('kay'), note: 'until May' }, 'dora');
    expect(run.state).toMatchObject({ status: 'open', stuck: null });
    expect(run.answer('yes', 'kay').state.closing).toBe('approved');
  });

  test('is refused for the asker, for a step that is not stuck, and for nobody on file', () => {
    const run = stuck();
    expect(refusal(run, { kind: 'appoint', step: 'decide', to: person('ina') }, 'dora')).toBe('bad answers');
    expect(refusal(run, { kind: 'appoint', step: 'decide', to: person('x') }, 'dora')).toBe('bad answers');
    expect(refusal(run, { kind: 'appoint', step: 'end', to: person('kay') }, 'dora')).toBe('not open');
  });

  test('instead of somebody who cannot: their voice goes over, with a limit that begins anew', () => {
    const run = new Run(flow(decide({ who: who({ kind: 'managers', levels: 2 }), count: 'everyone' })));
    const { id } = first(run);
    const give = (to: string) => ({ kind: 'appoint' as const, step: 'decide', task: id, to: person(to) });
    expect(refusal(run, give('dora'), 'kay')).toBe('bad answers');
    run.do({ seen: run.state.version, ...give('per') }, 'kay');
    expect(run.holders).toEqual(['dora', 'per']);
    run.answer('yes', 'per').answer('yes', 'dora');
    expect(run.state.closing).toBe('approved');
  });

  test('where everyone must answer, the one who is named is everyone', () => {
    const run = new Run(flow(decide({ count: 'everyone', who: who({ kind: 'role', role: 'Harbour master' }) })));
    run.do({ kind: 'appoint', seen: run.state.version, step: 'decide', to: person('kay') }, 'dora');
    expect(run.answer('yes', 'kay').state.closing).toBe('approved');
  });
});

describe('comments', () => {
  test('are said at any time, by any version, and tell those they mention', () => {
    const run = new Run(flow(decide({ outcomes: [good, bad] }))).answer('yes', 'tom');
    run.do({ kind: 'comment', text: 'Well done', mentions: [person('kay'), person('kay'), person('nobody')] }, 'dora');
    expect(run.events.at(-1)).toMatchObject({ kind: 'commented', mentions: ['kay'] });
    expect(mails(run).filter(m => m.startsWith('kay'))).toHaveLength(1);
    expect(run.state.closing).toBe('approved');
  });

  test('may come with files, of kinds that are taken', () => {
    const run = new Run(flow(decide({ outcomes: [good, bad] })));
    const plan = { id: 'f1', name: 'Plan.pdf', size: 900, type: 'application/pdf' };
    run.do({ kind: 'comment', text: 'As drawn', mentions: [], files: [plan] }, 'tom');
    expect(wholeTrail(run.definition, run.events, later('2026-02-02T10:00:00Z', null)).at(-1)).toMatchObject({
      text: 'wrote a comment, with Plan.pdf',
      note: 'As drawn',
      files: [plan],
    });
    const program = { ...plan, name: 'plan.exe', type: 'application/x-msdownload' };
    expect(refusal(run, { kind: 'comment', text: 'So', mentions: [], files: [program] }, 'tom')).toBe('bad answers');
  });

  test('each of these has words on the trail, and the events fold to the state', () => {
    const run = new Run(flow(limited));
    give(run, { kind: 'ask', question: 'Which?' }, 'tom');
    give(run, { kind: 'reply', reply: 'That.' }, 'ina');
    give(run, { kind: 'set aside', until: '2026-02-10', to: { person: 'kay' } }, 'tom');
    give(run, { kind: 'hand over', to: { role: 'HR partner' }, note: 'Yours.' }, 'kay');
    run.do({ kind: 'comment', text: 'Hm', mentions: [person('per')] }, 'ina');
    const words = wholeTrail(run.definition, run.events, later('2026-02-02T10:00:00Z', null)).map(
      l => `${l.who} ${l.text}`,
    );
    expect(words).toEqual(
      expect.arrayContaining([
        'Tom Lund asked a question at step 2; the clock stands still',
        'Ina Okell replied to the question at step 2',
        'Tom Lund set step 2 aside until Tue 10 February and lent it to Kay Voss',
        'Kay Voss handed step 2 over to Dora Quill (HR partner)',
        'Ina Okell wrote a comment for Per Lauder',
      ]),
    );
    expect(fold('R-1', run.events)).toEqual(run.state);
  });
});
