import { describe, expect, test } from '@jest/globals';
import { annualLeave, bookOf, halves, index, instant, person } from '../testing/house.ts';
import { flow, task, who } from '../testing/run.ts';
import { type Definition, setAt } from '../workflow/index.ts';
import {
  act,
  begin,
  handedIn,
  inWords,
  keep,
  nextMoment,
  type Rehearsal,
  type RehearsalFacts,
  runCheck,
  skip,
  skipTo,
  traceOf,
} from './index.ts';

const { today: _today, ...book } = bookOf();
const facts: RehearsalFacts = { index, away: [], lists: [], book };
const at = instant('2026-02-02T09:00:00Z');
const begun = (definition: Definition = annualLeave, to = '2026-02-13'): Rehearsal => {
  const played = begin(definition, facts, {
    asker: person('ina'),
    at,
    answers: { kind: 'annual', dates: halves('2026-02-09', to) },
  });
  if (!played.ok) throw new Error(played.refusal.message);
  return played.rehearsal;
};
const answered = (r: Rehearsal, outcome: string, by: string, note: string | null = null): Rehearsal => {
  const played = act(
    r,
    { kind: 'answer', seen: r.state.version, task: r.state.tasks[0].id, outcome, note },
    person(by),
  );
  if (!played.ok) throw new Error(played.refusal.message);
  return played.rehearsal;
};

describe('a rehearsal', () => {
  test('walks through a request with mails and ledger lines, and changes nothing that it began with', () => {
    const start = begun();
    const end = answered(start, 'approve', 'tom');
    expect(start.state.status).toBe('open');
    expect(end.state).toMatchObject({ status: 'closed', leave: { state: 'booked' } });
    expect(end.outgoing.flatMap(o => (o.kind === 'mail' ? [`${o.to}: ${o.subject}`] : []))).toEqual([
      'tom: For you to decide: Ina Okell, Annual leave, Mon 9 to Fri 13 February',
      'ina: Approved: 4½ days',
    ]);
  });

  test('time is skipped, and what comes due on the way happens at its own time', () => {
    const start = begun();
    expect(nextMoment(start)).toBe('2026-02-03T17:00:00Z');
    const later = skip(start, 3 * 24 * 60);
    expect(later.events.filter(e => e.kind === 'reminded').map(e => e.at)).toEqual(['2026-02-03T17:00:00Z']);
    expect(later.events.find(e => e.kind === 'passed limit')?.at).toBe('2026-02-04T17:00:00Z');
    expect(later.state.tasks.map(t => t.holder)).toEqual(['dora']);
    expect(later.now).toBe('2026-02-05T09:00:00Z');
    expect(skipTo(later, at).now).toBe(later.now);
  });

  test('what would be refused is refused here too, with the reason', () => {
    const short = begin(annualLeave, facts, { asker: person('ina'), at, answers: { kind: 'annual' } });
    expect(short.ok || short.faults).toEqual([{ field: 'dates', message: 'Dates is needed.' }]);
    const r = begun();
    const played = act(
      r,
      { kind: 'answer', seen: r.state.version, task: r.state.tasks[0].id, outcome: 'decline', note: null },
      person('tom'),
    );
    expect(played.ok || played.refusal.code).toBe('note needed');
  });
});

describe('a kept check', () => {
  const kept = keep(answered(skip(begun(), 24 * 60), 'back', 'tom', 'Shorter?'), 'Sent back');
  const done = keep(answered(begun(), 'approve', 'tom'), 'A week');

  test('comes out as it did on the same workflow', () => {
    for (const check of [kept, done])
      expect(runCheck(annualLeave, check, facts)).toMatchObject({ ok: true, differences: [] });
    expect(done.expect).toEqual([
      'asked; Days 4.5, Balance after 26.5, Others away 0',
      'choose: took otherwise',
      'manager: to tom, due 2026-02-04T17:00:00Z',
      'manager: tom answered approve',
      'above: skipped',
      'booked annual',
      'closed as approved',
      'told ina: yes',
    ]);
    expect(kept.acts).toMatchObject([
      { minutes: 1440, by: 'tom', step: 'manager', what: { kind: 'outcome', outcome: 'back' } },
    ]);
  });

  test.each<[string, Definition, RegExp]>([
    ['another limit', setAt(annualLeave, ['steps', 2, 'limit', 'within'], { workingDays: 5 }), /due/],
    ['another person', setAt(annualLeave, ['steps', 2, 'who', 'first'], { kind: 'post', post: 'director' }), /to dora/],
    ['another row', setAt(annualLeave, ['steps', 1, 'rows', 0, 'condition'], 'Days > 0'), /took short/],
    [
      'an outcome that is gone',
      setAt(
        annualLeave,
        ['steps', 2, 'outcomes'],
        annualLeave.steps[2].verb === 'Decide' ? annualLeave.steps[2].outcomes.slice(1) : [],
      ),
      /could not outcome/,
    ],
    ['a form that it does not fit any more', setAt(annualLeave, ['form', 'fields', 2, 'required'], true), /not sent/],
  ])('fails after %s, and says where', (_, changed, found) => {
    const result = runCheck(changed, done, facts);
    expect(result.ok).toBe(false);
    expect(result.differences.map(d => d.found).join(' | ')).toMatch(found);
  });

  test('gives the values that it tried, by name', () => {
    expect(runCheck(annualLeave, done, facts).sample).toMatchObject({ Days: 4.5, Kind: 'annual' });
    const words = inWords(annualLeave, 'above: to tom, due 2026', id => (id === 'tom' ? 'Tom Lund' : id));
    expect(words).toBe('step 4: to Tom Lund, due 2026');
    expect(traceOf(annualLeave, [])).toEqual([]);
  });
});

describe('a guest in a rehearsal', () => {
  const guests = {
    ...flow(
      task({
        id: 'papers',
        who: who({ kind: 'role', role: 'HR partner' }),
        guest: { name: 'name', mail: 'mail', sections: ['you', 'sign'], remind: { everyDays: 3, atMost: 2 } },
      }),
    ),
    form: {
      sections: [
        { id: 'you', title: 'You' },
        { id: 'sign', title: 'To sign' },
      ],
      fields: [
        { kind: 'text', id: 'name', label: 'Name', required: true },
        { kind: 'text', id: 'mail', label: 'Mail', required: true },
        { kind: 'text', id: 'home', label: 'Home', required: true, section: 'you' },
        {
          kind: 'paper',
          id: 'contract',
          label: 'Contract',
          required: true,
          section: 'sign',
          text: 'A',
          signed: 'here',
        },
        { kind: 'paper', id: 'rules', label: 'Rules', required: true, section: 'sign', text: 'B', signed: 'read' },
      ],
    },
    figures: [],
    messages: [],
    closings: [{ id: 'approved', name: 'Done', tone: 'good', message: null }],
  } as unknown as Definition;

  test('hands in part by part, is reminded meanwhile, and the check that is kept of it is played again', () => {
    const answers = { name: 'Mika', mail: 'mika@example.test' };
    const begun = begin(guests, facts, { asker: person('ina'), at, answers });
    if (!begun.ok) throw new Error(begun.refusal.message);
    let now = skip(begun.rehearsal, 4 * 24 * 60);
    expect(now.outgoing.filter(one => one.kind === 'mail out')).toHaveLength(2);
    const wrong = act(now, handedIn(now, 'papers', 'you', {}), null);
    expect(wrong).toMatchObject({ ok: false, faults: [{ field: 'home' }] });
    for (const [section, given] of [
      ['you', { home: 'Pier 4' }],
      ['sign', {}],
    ] as const) {
      const next = act(now, handedIn(now, 'papers', section, given), null);
      if (!next.ok) throw new Error(next.refusal.message);
      now = next.rehearsal;
    }
    const [first] = now.state.tasks;
    const done = act(
      now,
      { kind: 'complete', seen: now.state.version, task: first.id, ticked: [], answers: {}, note: null },
      first.holder,
    );
    if (!done.ok) throw new Error(done.refusal.message);
    const check = keep(done.rehearsal, 'A joiner');
    expect(check.expect).toEqual(
      expect.arrayContaining(['papers: invited Mika', 'papers: guest reminded', 'papers: sign handed in']),
    );
    expect(runCheck(guests, check, facts)).toMatchObject({ ok: true, differences: [] });
  });
});
