/** An application from the public address to the answer to the offer, with what goes wrong on the way. */
import { describe, expect, test } from '@jest/globals';
import type { ReferenceList } from '../form/index.ts';
import { act, begin, handedIn, keep, nextMoment, runCheck, skipTo } from '../proof/index.ts';
import { later } from '../testing/run.ts';
import {
  type Command,
  type Context,
  type Effect,
  type EffectCommand,
  type GuestCommand,
  handle,
  newRequest,
  type RequestState,
  type TimerCommand,
} from '../workflow/index.ts';
import { starters } from './index.ts';

const { definition } = starters.find(one => one.id === 'application') ?? { definition: null as never };
const openPosts = (to: string | null = null): ReferenceList => ({
  id: 'open-posts',
  name: 'Open posts',
  columns: [{ id: 'post-on-file', label: 'Post on file', kind: 'text' }],
  rows: [{ id: 'observer', title: 'Observer', cells: { 'post-on-file': 'observer-1' }, from: null, to: to as never }],
});
const noon = '2026-02-02T10:00:00Z';

class Applying {
  state: RequestState = newRequest('R-1');
  readonly wanted: Effect[] = [];
  now = noon;
  lists = [openPosts()];
  context(actor: string | null): Context {
    return { ...later(this.now, actor), lists: this.lists };
  }
  try(command: Parameters<typeof handle>[2], actor: string | null = null) {
    return handle(definition, this.state, command, this.context(actor));
  }
  do(command: Parameters<typeof handle>[2], actor: string | null = null): this {
    const result = this.try(command, actor);
    if (!result.ok) throw new Error(`${result.refusal.message} ${JSON.stringify(result.refusal.faults ?? [])}`);
    this.state = result.state;
    this.wanted.push(...result.effects);
    // Letters are made at once.
    for (const effect of result.effects)
      if (effect.kind === 'make letter') {
        const file = { id: 'f1', name: `${effect.name}.pdf`, size: 1, type: 'application/pdf' };
        const outcome = { state: 'delivered', result: { file } } as const;
        this.do({ kind: 'effect', key: effect.key, outcome } as EffectCommand);
      }
    return this;
  }
  guest(step: string, section: string, answers: object): GuestCommand {
    return { kind: 'guest', step, what: { kind: 'hand in', section, answers, signed: {} } };
  }
  hand(step: string, section: string, answers: object): this {
    return this.do(this.guest(step, section, answers));
  }
  /** Whoever has the step does it. */
  does(answers: object, outcome?: string): this {
    const [{ id, holder, pool }] = this.state.tasks;
    if (pool === 'free') this.do({ kind: 'take', seen: this.state.version, task: id }, holder);
    const seen = this.state.version;
    const ticked = definition.steps.flatMap(step =>
      step.id === this.state.at[0] && 'checklist' in step ? (step.checklist ?? []).map(item => item.id) : [],
    );
    const command = outcome
      ? { kind: 'answer', seen, task: id, outcome, note: null, answers }
      : { kind: 'complete', seen, task: id, ticked, answers, note: null };
    return this.do(command as Command, holder);
  }
  get holders(): string[] {
    return this.state.tasks.map(task => task.holder);
  }
  get letters(): string[] {
    return this.wanted.flatMap(e => (e.kind === 'mail out' ? [e.subject] : []));
  }
}

const ada = {
  name: 'Ada Ní Bhraonáin',
  mail: 'ada@post.example',
  'open-post': 'observer',
  privacy: { version: '1', at: '1999-01-01T00:00:00Z' },
};
const paper = [{ id: '00000000-0000-4000-8000-000000000001', name: 'life.pdf', size: 10, type: 'application/pdf' }];
const asked = () => new Applying().do({ kind: 'ask from outside', answers: ada });
const applied = () => asked().hand('fill', 'more', { why: 'The sea', experience: 3, papers: paper });
const talked = () =>
  applied().does({ 'papers-mark': 4, 'experience-mark': 3 }, 'invite').does({ 'interview-day': '2026-02-10' });
const offered = () =>
  talked()
    .does({ 'work-mark': 5, 'people-mark': 4 }, 'offer')
    .does({ pay: 43_500, share: 1, start: '2026-05-04', 'good-until': '2026-02-20', boat: false });
const accept = { answer: 'I accept', 'answer-words': null };

describe('an application', () => {
  test('is talked to by whoever stands above the post that was picked, not by whoever keeps it', () => {
    const run = talked();
    expect(run.state.at).toEqual(['interview']);
    expect(run.holders).toEqual(['tom']);
    expect(run.state.asker).toBe('dora');
  });

  test('is invited with the day for their calendar, offered with the letter, and told each time', () => {
    const run = offered();
    expect(run.state.at).toEqual(['answering']);
    expect(run.letters).toEqual([
      'Your application: Observer',
      'Your application is here: Observer',
      'A talk about Observer on Tue 10 February 2026',
      'An offer for you: Observer',
      'Your answer to our offer',
    ]);
    const outs = run.wanted.filter(e => e.kind === 'mail out');
    expect(outs[2]).toMatchObject({ attach: { invitation: { title: 'Talk about Observer' } } });
    expect(outs[3]).toMatchObject({ attach: { files: [{ name: 'Offer.pdf' }] } });
  });

  test('works its marks out once all of them are there', () => {
    expect(applied().state.figures).toMatchObject({ screened: null, mark: null });
    expect(offered().state.figures).toMatchObject({ screened: 3.5, mark: 4 });
  });

  test('accepted, asks for the new colleague with what is known, by the post itself', () => {
    const run = offered().hand('answering', 'answer', accept);
    expect(run.wanted.find(e => e.kind === 'open request')).toMatchObject({
      workflow: 'new-colleague',
      values: {
        Name: ada.name,
        Post: 'observer-1',
        'Start date': '2026-05-04',
        'Private mail': ada.mail,
        'Works on a boat': false,
      },
    });
  });

  test('turned down, or never answered, ends without a colleague', () => {
    const no = offered().hand('answering', 'answer', { answer: 'I do not accept' });
    expect(no.state).toMatchObject({ status: 'closed', closing: 'turned-down' });
    const lapsed = offered();
    lapsed.now = '2026-02-24T10:00:00Z';
    lapsed.do({ kind: 'timer', task: 'answering', what: 'guest' } as TimerCommand);
    expect(lapsed.state).toMatchObject({ status: 'closed', closing: 'lapsed' });
    expect([...no.wanted, ...lapsed.wanted].some(e => e.kind === 'open request')).toBe(false);
  });

  test('an offer is not accepted after its last day', () => {
    const run = offered();
    run.now = '2026-02-20T22:00:00Z';
    expect(run.try(run.guest('answering', 'answer', accept)).ok).toBe(true);
    run.now = '2026-02-21T10:00:00Z';
    expect(run.try(run.guest('answering', 'answer', accept))).toMatchObject({
      ok: false,
      refusal: { faults: [{ field: 'answer', message: expect.stringContaining('last day of this offer is over') }] },
    });
  });

  test('goes on when the post is closed meanwhile, and nobody new can apply for it', () => {
    const run = applied();
    run.lists = [openPosts('2026-02-02')];
    run.now = '2026-02-03T10:00:00Z';
    run.does({ 'papers-mark': 4, 'experience-mark': 3 }, 'invite').does({ 'interview-day': '2026-02-10' });
    expect(run.state.at).toEqual(['interview']);
    const other = new Applying();
    other.lists = run.lists;
    other.now = run.now;
    expect(other.try({ kind: 'ask from outside', answers: ada })).toMatchObject({
      ok: false,
      refusal: { faults: [{ field: 'open-post' }] },
    });
  });

  test('a consent that is taken back on the way is gone, and whoever has it hears of it', () => {
    const run = asked();
    const back = run.try({ kind: 'guest', step: 'fill', what: { kind: 'withdraw consent', field: 'privacy' } });
    expect(back).toMatchObject({ ok: false });
    run.do({ kind: 'guest', step: 'ask', what: { kind: 'withdraw' } });
    expect(run.state.status).toBe('withdrawn');
  });
});

describe('rehearsed', () => {
  const facts = () => {
    const { index, away, book } = later(noon, null);
    return { index, away, book, lists: [openPosts()] };
  };
  const begun = () => {
    const found = begin(definition, facts(), { asker: 'ina' as never, at: noon as never, answers: ada, outside: true });
    if (!found.ok) throw new Error(found.refusal.message);
    return found.rehearsal;
  };
  const must = (played: ReturnType<typeof act>) => {
    if (!played.ok) throw new Error(`${played.refusal.message} ${JSON.stringify(played.faults)}`);
    return played.rehearsal;
  };

  test('as somebody outside, it is kept by whoever would keep it, and ends by itself when the link does', () => {
    const run = begun();
    expect(run).toMatchObject({ asker: 'dora', subject: 'dora', state: { outside: { name: ada.name }, at: ['fill'] } });
    let at = run;
    for (let n = 0; n < 5 && at.state.status === 'open'; n++) at = skipTo(at, nextMoment(at) ?? at.now);
    expect(at.state).toMatchObject({ status: 'closed', closing: 'not-finished' });
  });

  test('kept as a check, it goes the same way again', () => {
    const filled = must(
      act(begun(), handedIn(begun(), 'fill', 'more', { why: 'x', experience: 1, papers: paper }), null),
    );
    const check = keep(filled, 'Begun and filled in');
    expect(check).toMatchObject({ outside: true, asker: 'dora' });
    expect(runCheck(definition, check, facts())).toMatchObject({ ok: true, differences: [] });
  });

  test('shows the letter and the invitation as they would go out', () => {
    const run = offered();
    expect(run.wanted.find(e => e.kind === 'make letter')).toMatchObject({
      letter: { title: `An offer for ${ada.name}` },
    });
    // In a rehearsal a letter is there at once, under its name.
    let at = must(act(begun(), handedIn(begun(), 'fill', 'more', { why: 'x', experience: 1, papers: paper }), null));
    const does = (answers: object, outcome?: string) => {
      const [{ id, holder, pool }] = at.state.tasks;
      if (pool === 'free') at = must(act(at, { kind: 'take', seen: at.state.version, task: id }, holder));
      const seen = at.state.version;
      const step = definition.steps.find(one => one.id === at.state.at[0]);
      const ticked = step && 'checklist' in step ? (step.checklist ?? []).map(item => item.id) : [];
      const command = outcome
        ? { kind: 'answer', seen, task: id, outcome, note: null, answers }
        : { kind: 'complete', seen, task: id, ticked, answers, note: null };
      at = must(act(at, command as Command, holder));
    };
    does({ 'papers-mark': 4, 'experience-mark': 3 }, 'invite');
    does({ 'interview-day': '2026-02-10' });
    does({ 'work-mark': 5, 'people-mark': 4 }, 'offer');
    does({ pay: 43_500, share: 1, start: '2026-05-04', 'good-until': '2026-02-20', boat: false });
    expect(at.state.answers['offer-letter']).toMatchObject([{ name: 'Offer.pdf' }]);
  });
});
