import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Away, Directory } from '../../../people/index.ts';
import { bookOf, contextFor, date, directory, instant, person, withDirectory } from '../../../testing/house.ts';
import { back, decide, flow, given, Run, refusal, who, wholeTrail } from '../../../testing/run.ts';
import { type Command, type Definition, handle, newRequest, type RequestState } from '../../index.ts';

const now = '2026-03-02T10:00:00Z';
const reports: Definition = { ...flow(decide()), opening: { forWhom: ['self', 'report'] } };
/** Tom asks for Ina; Dora, above him, has it to decide. */
function sends(definition: Definition = reports) {
  const sent = handle(
    definition,
    newRequest('R-1'),
    { kind: 'submit', answers: given, subject: 'ina' },
    contextFor('tom', { now: instant('2026-02-02T10:00:00Z') }),
  );
  if (!sent.ok) throw new Error(sent.refusal.message);
  return sent;
}
const asked = (definition?: Definition): RequestState => sends(definition).state;

const left = (...ids: string[]): Partial<Directory> => ({
  people: directory.people.map(one => (ids.includes(one.id) ? { ...one, left: date('2026-02-27') } : one)),
});
const around = (actor: string | null, change: Partial<Directory> = {}, away: Away[] = [], helps = false) => {
  const index = withDirectory(change);
  const book = bookOf([], { index, today: date('2026-03-02') });
  return { ...contextFor(actor, { now: instant(now), index, book }), away, helps };
};
/** The house looks, with these in HR operations. */
const looks = (
  state: RequestState,
  operations: string[],
  change: Partial<Directory> = {},
  away: Away[] = [],
  definition = reports,
) => {
  const result = handle(
    definition,
    state,
    { kind: 'mind owner', operations: operations.map(person) },
    around(null, change, away),
  );
  if (!result.ok) throw new Error(result.refusal.message);
  return result;
};
const mailsOf = (effects: readonly { kind: string }[]) =>
  effects.flatMap(one =>
    one.kind === 'mail' ? [one as unknown as { to: string; subject: string; body: string }] : [],
  );
const long: Away = { person: person('tom'), from: date('2026-02-20'), to: date('2026-05-29') };

describe('whoever looks after a request', () => {
  test('and the person concerned are both named to whoever decides', () => {
    const [mail] = mailsOf(sends().effects);
    expect(mail.subject).toMatch(/^For you to decide: Tom Lund for Ina Okell, /);
    expect(mail.body).toMatch(/^Tom Lund asks for Ina Okell: /);
  });

  test('is the asker, and nothing happens while they are here', () => {
    const { events, state } = looks(asked(), ['kay']);
    expect(events).toEqual([]);
    expect(state.owner).toBeUndefined();
  });

  test('goes to HR operations when the asker has left, and is told so; nothing goes to the address of the leaver', () => {
    const { events, effects, state } = looks(asked(), ['kay'], left('tom'));
    expect(events).toMatchObject([
      { kind: 'owner changed', to: 'kay', reason: { code: 'owner left', person: 'tom', left: '2026-02-27' } },
    ]);
    expect(state.owner).toBe('kay');
    const [mail, ...more] = mailsOf(effects);
    expect(more).toEqual([]);
    expect(mail).toMatchObject({ to: 'kay' });
    expect(mail.subject).toMatch(/^You are now the owner: /);
    expect(mail.body).toContain('Tom Lund asked for this for Ina Okell. Tom Lund left on ');
    expect(wholeTrail(reports, events, around(null, left('tom')))[0]).toMatchObject({
      text: 'made Kay Voss the owner',
      why: [expect.stringMatching(/^Tom Lund left on /)],
    });
    // Once is enough.
    expect(looks(state, ['kay'], left('tom')).events).toEqual([]);
  });

  test('of HR operations it is first whoever looks after the person concerned, and never somebody who has left', () => {
    const hr = {
      roles: [
        { role: 'HR partner', person: person('per'), place: 'ovay' },
        { role: 'HR partner', person: person('dora') },
      ],
    };
    expect(looks(asked(), ['kay', 'per'], { ...left('tom'), ...hr }).state.owner).toBe('per');
    expect(looks(asked(), ['kay', 'per'], { ...left('tom', 'per'), ...hr }).state.owner).toBe('kay');
    // Nobody is here who could: it stays, and is looked at again.
    expect(looks(asked(), [], left('tom')).events).toEqual([]);
  });

  test('is whom the workflow names before that, and whoever stands in for them', () => {
    const named = {
      ...reports,
      ownedNext: { first: { kind: 'manager' as const, levels: 1, of: 'subject' as const }, otherwise: [] },
    };
    expect(looks(asked(named), ['kay'], left('tom'), [], named).state.owner).toBe('dora');
    const covers = [{ person: person('tom'), by: person('per'), from: date('2026-02-20'), to: date('2026-12-31') }];
    expect(looks(asked(), ['kay'], { covers }, [long]).state.owner).toBe('per');
  });

  test('is another when the asker is away for long, but not for their own request nor for some weeks', () => {
    const { events, effects } = looks(asked(), ['kay'], {}, [long]);
    expect(events).toMatchObject([{ to: 'kay', reason: { code: 'owner away', person: 'tom', until: '2026-05-29' } }]);
    expect(mailsOf(effects).map(one => one.to)).toEqual(['kay', 'tom']);
    expect(looks(asked(), ['kay'], {}, [{ ...long, to: date('2026-03-29') }]).events).toEqual([]);
    const own = new Run(reports).state;
    expect(looks(own, ['kay'], {}, [{ ...long, person: person('ina') }]).events).toEqual([]);
    expect(looks(own, ['kay'], left('ina')).state.owner).toBe('kay');
  });

  test('a request that has ended goes to nobody', () => {
    const ended = new Run(reports).answer('no', 'tom').state;
    expect(ended.status).toBe('closed');
    expect(looks(ended, ['kay'], left('ina')).events).toEqual([]);
  });

  test('does from then on what the asker did: reads questions, hands in anew, withdraws', () => {
    const { state } = looks(asked(), ['kay'], left('tom'));
    const [task] = state.tasks;
    const at = { seen: state.version, task: task.id };
    const question = handle(reports, state, { kind: 'ask', ...at, question: 'Why?' }, around('dora', left('tom')));
    if (!question.ok) throw new Error(question.refusal.message);
    expect(mailsOf(question.effects).map(one => one.to)).toEqual(['kay']);
    const reply: Command = { kind: 'reply', seen: question.state.version, task: task.id, reply: 'So.' };
    expect(handle(reports, question.state, reply, around('per')).ok).toBe(false);
    expect(handle(reports, question.state, reply, around('kay')).ok).toBe(true);
    const returned = handle(
      reports,
      state,
      { kind: 'answer', ...at, outcome: back.id, note: null },
      around('dora', left('tom')),
    );
    if (!returned.ok) throw new Error(returned.refusal.message);
    expect(returned.state.returned?.to).toBe('kay');
    expect(mailsOf(returned.effects).map(one => one.to)).toContain('kay');
    expect(mailsOf(returned.effects).map(one => one.to)).not.toContain('tom');
    const withdraw = { kind: 'withdraw', seen: state.version } as const;
    expect(handle(reports, state, withdraw, around('kay')).ok).toBe(true);
    expect(handle(reports, state, withdraw, around('per')).ok).toBe(false);
  });

  test('what was sent back to the asker waits for whoever looks after it then', () => {
    const state = asked();
    const sent = handle(
      reports,
      state,
      { kind: 'answer', seen: state.version, task: state.tasks[0].id, outcome: back.id, note: null },
      around('dora'),
    );
    if (!sent.ok) throw new Error(sent.refusal.message);
    const { state: after } = looks(sent.state, ['kay'], left('tom'));
    expect(after.returned?.to).toBe('kay');
    const again = (actor: string) =>
      handle(
        reports,
        after,
        { kind: 'resubmit', seen: after.version, answers: { ...given, remark: 'x' } },
        around(actor),
      );
    expect(again('tom').ok).toBe(false);
    expect(again('kay').ok).toBe(true);
  });

  test('is named for the asker in people rules once the asker does not own it any more', () => {
    const told = {
      ...flow(decide({ who: who({ kind: 'manager', levels: 2, of: 'subject' }) }), {
        verb: 'Tell',
        id: 'tell',
        when: null,
        to: [who({ kind: 'asker' })],
        message: 'yes',
      }),
      opening: reports.opening,
    } as Definition;
    const { state } = looks(asked(told), ['kay'], left('tom'), [], told);
    const answer = {
      kind: 'answer',
      seen: state.version,
      task: state.tasks[0].id,
      outcome: 'yes',
      note: null,
    } as const;
    const done = handle(told, state, answer, around('dora', left('tom')));
    if (!done.ok) throw new Error(done.refusal.message);
    expect(done.events.find(one => one.kind === 'told')).toMatchObject({ people: ['kay'] });
    expect(mailsOf(done.effects).map(one => one.to)).not.toContain('tom');
  });
});

test('law: whoever leaves or is away for long, in whatever order, an open request has an owner who is here', () => {
  const staff = ['tom', 'ina', 'per', 'kay'];
  const happening = fc.record({
    gone: fc.subarray(staff),
    away: fc.subarray(staff),
    operations: fc.shuffledSubarray(['dora', 'kay', 'per'], { minLength: 1 }),
    handsTo: fc.option(fc.constantFrom(...staff, 'dora')),
  });
  fc.assert(
    fc.property(fc.array(happening, { maxLength: 6 }), all => {
      let state = asked();
      for (const { gone, away, operations, handsTo } of all) {
        // Dora stays: somebody who keeps accounts is here always, and stands at the end of those who are asked.
        const atWork = { ...left(...gone), covers: [] };
        const absent = away.map(id => ({ ...long, person: person(id) }));
        if (handsTo) {
          const command = { kind: 'change owner', seen: state.version, to: person(handsTo), note: null } as const;
          const handed = handle(reports, state, command, around('dora', atWork, absent, true));
          if (handed.ok) state = handed.state;
        }
        const looked = looks(state, [...operations, 'dora'], atWork, absent);
        state = looked.state;
        const owner = state.owner ?? 'tom';
        expect(gone).not.toContain(owner);
        if (owner !== 'ina') expect(away).not.toContain(owner);
        expect(mailsOf(looked.effects).filter(one => gone.includes(one.to))).toEqual([]);
      }
    }),
  );
});

describe('changing the owner by hand', () => {
  const change = (state: RequestState, to: string, actor: string, helps = false) =>
    handle(
      reports,
      state,
      { kind: 'change owner', seen: state.version, to: person(to), note: 'She knows it.' },
      around(actor, left('old'), [], helps),
    );

  test('is for the owner, HR of the person concerned and HR operations, and goes to somebody who is here', () => {
    const state = asked();
    const handed = change(state, 'per', 'tom');
    if (!handed.ok) throw new Error(handed.refusal.message);
    expect(handed.state.owner).toBe('per');
    expect(mailsOf(handed.effects).map(one => one.to)).toEqual(['per']);
    expect(mailsOf(handed.effects)[0].body).toContain('Handed over by Tom Lund.');
    expect(mailsOf(handed.effects)[0].body).toContain('“She knows it.”');
    expect(change(state, 'per', 'dora').ok).toBe(true);
    expect(change(state, 'per', 'kay').ok).toBe(false);
    expect(change(state, 'per', 'kay', true).ok).toBe(true);
    // Who asked stays who asked, and hears of it.
    const byHr = change(state, 'per', 'kay', true);
    if (!byHr.ok) throw new Error(byHr.refusal.message);
    expect(byHr.state.asker).toBe('tom');
    expect(mailsOf(byHr.effects).map(one => one.to)).toEqual(['per', 'tom']);
  });

  test.each([
    ['old', 'Olda Leaver does not work here now.'],
    ['nobody', 'This person does not work here now.'],
    ['tom', 'Tom Lund owns this request already.'],
  ])('to %s is refused at its place', (to, message) => {
    const refused = change(asked(), to, 'tom');
    expect(refused).toMatchObject({ ok: false, refusal: { faults: [{ field: 'to', message }] } });
  });
});

describe('HR withdraws a request', () => {
  test('with a reason, which whoever asked reads', () => {
    const state = asked();
    const withdraw = (note: string | null, actor: string, helps: boolean) =>
      handle(reports, state, { kind: 'withdraw', seen: state.version, note }, around(actor, {}, [], helps));
    expect(withdraw(null, 'kay', true)).toMatchObject({ ok: false, refusal: { code: 'note needed' } });
    expect(withdraw('No.', 'kay', false)).toMatchObject({ ok: false, refusal: { code: 'not yours' } });
    const done = withdraw('She never came.', 'kay', true);
    if (!done.ok) throw new Error(done.refusal.message);
    expect(done.state.status).toBe('withdrawn');
    const told = mailsOf(done.effects).filter(one => one.subject.startsWith('Withdrawn: '));
    expect(told.map(one => one.to)).toEqual(['tom']);
    expect(told[0].body).toContain('Kay Voss has withdrawn this request.');
    expect(told[0].body).toContain('“She never came.”');
  });

  test('whoever asked needs to give none, and is not written to about it', () => {
    const run = new Run(reports);
    run.do({ kind: 'withdraw', seen: run.state.version }, 'ina');
    expect(mailsOf(run.wanted).filter(one => one.subject.startsWith('Withdrawn: '))).toEqual([]);
    expect(refusal(run, { kind: 'change owner', to: person('per') }, 'ina')).toBe('not open');
  });
});
