/** Guests: invited, filling in their sections, asking, given back, reminded, and what they may not do. */
import { describe, expect, test } from '@jest/globals';
import { flow, later, Run, refusal, task, who, wholeTrail } from '../../../testing/run.ts';
import {
  type Command,
  type Definition,
  findings,
  type GuestCommand,
  guestForm,
  guestHere,
  handle,
  levelAt,
  nextReminderLetter,
  readProcedure,
  sightsOf,
  writeProcedure,
} from '../../index.ts';

const text = (id: string, label: string, required: boolean, more: object = {}) => ({
  kind: 'text',
  id,
  label,
  required,
  ...more,
});
const papers: Definition = {
  ...flow(
    task({
      id: 'papers',
      who: who({ kind: 'role', role: 'HR partner' }),
      guest: {
        name: 'name',
        mail: 'mail',
        sections: ['you', 'bank', 'permit', 'agree'],
        days: 20,
        remind: { everyDays: 3, atMost: 2 },
      },
    }),
  ),
  form: {
    sections: [
      { id: 'you', title: 'About you' },
      { id: 'bank', title: 'Bank' },
      { id: 'permit', title: 'Permit' },
      { id: 'agree', title: 'Agreements' },
    ],
    fields: [
      text('name', 'Name', true),
      text('mail', 'Private mail', true),
      { kind: 'choice', id: 'from', label: 'From', required: true, options: ['Here', 'Elsewhere'], section: 'you' },
      text('why', 'Why there', false, { section: 'you', neededWhen: 'From = "Elsewhere"' }),
      text('iban', 'IBAN', true, { section: 'bank', readers: ['Payroll'] }),
      text('number', 'Number of the permit', true, { section: 'permit', shownWhen: 'From = "Elsewhere"' }),
      {
        kind: 'consent',
        id: 'picture',
        label: 'Picture',
        required: true,
        section: 'agree',
        text: 'Yes.',
        version: '2',
      },
      {
        kind: 'paper',
        id: 'contract',
        label: 'Contract',
        required: false,
        section: 'agree',
        text: 'A',
        signed: 'here',
      },
    ],
  } as Definition['form'],
  figures: [],
  messages: [],
  closings: [{ id: 'approved', name: 'Done', tone: 'good', message: null }],
};
const mika = { name: 'Mika Ødegård-Ng', mail: 'mika@example.test' };

class Guested extends Run {
  guest(what: GuestCommand['what'], now?: string): this {
    return this.do({ kind: 'guest', step: 'papers', what }, null, now);
  }
  handIn(section: string, answers: object, signed: object = {}, now?: string): this {
    return this.guest({ kind: 'hand in', section, answers, signed: signed as never }, now);
  }
  /** Why what a guest does is refused, with what is wrong at which field; `taken` when it is not. */
  refused(what: GuestCommand['what']): string {
    const result = handle(
      this.definition,
      this.state,
      { kind: 'guest', step: 'papers', what },
      later('2026-02-02T10:00:00Z', null),
    );
    if (result.ok) return 'taken';
    const { code, faults = [] } = result.refusal;
    return [code, ...faults.map(fault => `${fault.field}: ${fault.message}`)].join(' ');
  }
  get sections(): string[] {
    const here = guestHere(this.definition, this.state, 'papers');
    if (!here) return [];
    const facts = {
      book: later('2026-02-02T10:00:00Z', null).book,
      asker: this.state.asker!,
      subject: null,
      request: 'R-1',
    };
    return guestForm(this.definition, here.step, this.state.answers, here.standing, facts as never).map(
      one => `${one.section.id} ${one.state}`,
    );
  }
  get letters(): { address: string; subject: string; body: string; link?: unknown }[] {
    return this.wanted.flatMap(e => (e.kind === 'mail out' ? [e] : []));
  }
  get mails(): string[] {
    return this.wanted.flatMap(e => (e.kind === 'mail' ? [`${e.to}: ${e.subject}`] : []));
  }
}
const begun = (answers: object = mika) => new Guested(papers, answers as Record<string, unknown>);
const all = (run: Guested) =>
  run
    .handIn('you', { from: 'Here' })
    .handIn('bank', { iban: 'NO 1' })
    .handIn('agree', { picture: { version: '2', at: '1999-01-01T00:00:00Z' } });

describe('a guest', () => {
  test('is invited by the address on the request, with the parts that are asked of them and no word of an answer', () => {
    const run = begun();
    expect(run.holders).toEqual(['dora']);
    expect(run.letters).toMatchObject([
      { address: 'mika@example.test', link: { step: 'papers', n: 1, until: '2026-02-22T10:00:00Z' } },
    ]);
    expect(run.letters[0].body).toContain('- About you\n- Bank\n- Permit\n- Agreements');
    expect(run.sections).toEqual(['you open', 'bank open', 'agree open']);
  });

  test('fills in sections one by one; what depends on another answer comes and goes', () => {
    const run = begun();
    expect(run.refused({ kind: 'hand in', section: 'you', answers: { from: 'Elsewhere' }, signed: {} })).toBe(
      'bad answers why: Why there is needed.',
    );
    expect(run.refused({ kind: 'hand in', section: 'permit', answers: { number: '7' }, signed: {} })).toBe('not open');
    run.handIn('you', { from: 'Elsewhere', why: 'Born there' });
    expect(run.sections).toEqual(['you in', 'bank open', 'permit open', 'agree open']);
    run.handIn('permit', { number: '7' }).handIn('you', { from: 'Here' });
    expect(run.sections).toEqual(['you in', 'bank open', 'agree open']);
  });

  test('changes nothing but what is in their section, whatever they send', () => {
    const run = begun();
    for (const answers of [{ name: 'Somebody' }, { iban: 'NO 2', from: 'Here' }, { nonsense: 1 }, { from: ['Here'] }])
      expect(run.refused({ kind: 'hand in', section: 'you', answers, signed: {} })).toContain('bad answers');
    for (const answers of [null, 7, 'x', []])
      expect(run.refused({ kind: 'hand in', section: 'you', answers, signed: {} })).toBe(
        'bad answers from: From is needed.',
      );
    expect(run.state.answers.name).toBe('Mika Ødegård-Ng');
  });

  test('agrees at the time of the house and to the version that is there', () => {
    const run = begun();
    const agree = (version: string) => ({ picture: { version, at: '1999-01-01T00:00:00Z' } });
    expect(run.refused({ kind: 'hand in', section: 'agree', answers: agree('1'), signed: {} })).toContain(
      'The text has changed since',
    );
    run.handIn('agree', agree('2'));
    expect(run.state.answers.picture).toEqual({ version: '2', at: '2026-02-02T10:00:00Z' });
    // Handed in again later, it was agreed to when it was.
    run.handIn('agree', agree('2'), {}, '2026-02-05T10:00:00Z');
    expect(run.state.answers.picture).toEqual({ version: '2', at: '2026-02-02T10:00:00Z' });
  });

  test('cannot say of themselves that a paper was signed in the page', () => {
    const run = begun();
    const forged = { how: 'typed', name: 'Mika', at: '2026-02-02T10:00:00Z', digest: 'a'.repeat(64), file: null };
    const file = { id: 'f', name: 'c.pdf', size: 10, type: 'application/pdf' };
    const agree = { picture: { version: '2', at: '1999-01-01T00:00:00Z' } };
    run.handIn('agree', { ...agree, contract: { ...forged, file } });
    expect(run.state.answers.contract).toBeNull();
    run.handIn('agree', { ...agree, contract: forged }, { contract: { ...forged, file } });
    expect(run.state.answers.contract).toMatchObject({ how: 'typed', file: { id: 'f' } });
  });

  test('is looked after by the holder, who hears once that all is in and cannot finish before', () => {
    const run = begun();
    const [first] = run.state.tasks;
    const finish = { kind: 'complete', task: first.id, ticked: [] } as Partial<Command>;
    expect(refusal(run, finish, 'dora')).toBe('not ticked');
    all(run);
    expect(run.mails.filter(mail => mail.includes('All is in'))).toHaveLength(1);
    run.handIn('bank', { iban: 'NO 2' });
    expect(run.mails.filter(mail => mail.includes('All is in'))).toHaveLength(1);
    // What came in since they looked is not passed unseen.
    expect(refusal(run, { ...finish, seen: run.state.version - 1 }, 'dora')).toBe('stale');
    run.do({ kind: 'complete', seen: run.state.version, task: first.id, ticked: [], answers: {} }, 'dora');
    expect(run.state.closing).toBe('approved');
    expect(run.refused({ kind: 'ask', text: 'Still there?' })).toBe('not open');
  });

  test('gets a section back with a word, and may ask and be answered', () => {
    const run = all(begun());
    const of = { seen: run.state.version, step: 'papers' };
    expect(refusal(run, { kind: 'give back section', ...of, section: 'bank', note: 'x' }, 'ben')).toBe('not yours');
    run.do({ kind: 'give back section', ...of, section: 'bank', note: 'A digit is missing.' }, 'dora');
    expect(run.sections).toEqual(['you in', 'bank back', 'agree in']);
    expect(run.letters.at(-1)?.body).toContain('“A digit is missing.”');
    expect(refusal(run, { kind: 'give back section', step: 'papers', section: 'bank', note: 'x' }, 'dora')).toBe(
      'not open',
    );
    run.guest({ kind: 'ask', text: 'Which digit?' });
    expect(run.mails.at(-1)).toContain('dora: Mika Ødegård-Ng asks');
    run.do({ kind: 'answer guest', seen: run.state.version, step: 'papers', text: 'The last.' }, 'dora');
    expect(run.state.guests?.papers.words.map(word => [word.by, word.text])).toEqual([
      [null, 'Which digit?'],
      ['dora', 'The last.'],
    ]);
    run.handIn('bank', { iban: 'NO 3' });
    expect(run.sections).toEqual(['you in', 'bank in', 'agree in']);
    expect(run.mails.filter(mail => mail.includes('All is in'))).toHaveLength(2);
  });

  test('takes a consent back: the section is open again where it is needed, and the holder hears of it', () => {
    const run = all(begun());
    run.guest({ kind: 'withdraw consent', field: 'picture' });
    expect(run.sections).toEqual(['you in', 'bank in', 'agree open']);
    expect(run.state.answers.picture).toBeNull();
    expect(run.mails.at(-1)).toContain('takes a consent back');
    for (const field of ['picture', 'iban', 'name', 'nothing'])
      expect(run.refused({ kind: 'withdraw consent', field })).toBe('not open');
  });

  test('is reminded every three days, twice, of what is missing, and not once all is in', () => {
    const run = begun();
    const context = later('2026-02-03T10:00:00Z', null);
    expect(nextReminderLetter(papers, run.state, 'papers', context)?.body).toContain('- Bank');
    const ring = (now: string) => run.do({ kind: 'timer', task: 'papers', what: 'guest' }, null, now);
    ring('2026-02-04T10:00:00Z');
    expect(run.letters).toHaveLength(1);
    ring('2026-02-05T10:00:00Z').handIn('you', { from: 'Here' }).handIn('bank', { iban: '1' });
    expect(run.letters).toHaveLength(2);
    ring('2026-02-08T10:00:00Z');
    expect(run.letters.at(-1)?.body).toContain('- Agreements');
    expect(run.letters.at(-1)?.body).not.toContain('- Bank');
    ring('2026-02-11T10:00:00Z').do({ kind: 'timer', task: 'papers', what: 'guest' }, null, '2026-02-14T10:00:00Z');
    expect(run.letters).toHaveLength(3);
    const done = all(begun());
    done.do({ kind: 'timer', task: 'papers', what: 'guest' }, null, '2026-02-05T10:00:00Z');
    expect(done.letters).toHaveLength(1);
  });

  test('gets another link in place of the one before; one that was ended is not given again', () => {
    const run = begun();
    run.guest({ kind: 'ask for link' }, '2026-03-01T10:00:00Z');
    expect(run.state.guests?.papers.link).toEqual({ n: 2, until: '2026-03-21T10:00:00Z' });
    run.do({ kind: 'end link', seen: run.state.version, step: 'papers', note: 'Sent to the wrong person.' }, 'dora');
    expect(run.state.guests?.papers.link.ended).toBe(true);
    expect(run.refused({ kind: 'ask for link' })).toBe('not open');
    run.do({ kind: 'renew link', seen: run.state.version, step: 'papers' }, 'dora');
    expect(run.state.guests?.papers.link).toEqual({ n: 3, until: '2026-02-22T10:00:00Z' });
  });

  test('is written to with a link that opens: another one where its days are over, and nothing where it was ended', () => {
    const run = all(begun());
    const late = '2026-03-10T10:00:00Z';
    const of = { step: 'papers', section: 'bank', note: 'A digit is missing.' };
    run.do({ kind: 'give back section', seen: run.state.version, ...of }, 'dora', late);
    expect(run.letters.at(-1)?.link).toEqual({ step: 'papers', n: 2, until: '2026-03-30T10:00:00Z' });
    run.do({ kind: 'end link', seen: run.state.version, step: 'papers', note: null }, 'dora', late);
    const letters = run.letters.length;
    expect(refusal(run, { kind: 'answer guest', step: 'papers', text: 'Hello?' }, 'dora')).toBe('not open');
    expect(run.letters).toHaveLength(letters);
  });

  test.each([
    ['no address', { name: 'Mika', mail: 'nowhere' }],
    ['a name of blanks', { name: '  .', mail: 'a b@c.d' }],
  ])('with %s gets no link: the request says why and waits for help', (_, answers) => {
    const run = begun(answers);
    expect(run.letters).toEqual([]);
    expect(run.state.status).toBe('stuck');
    expect(run.state.stuck).toEqual({ code: 'nobody to invite', field: 'mail' });
  });

  test('is read by whoever looks after them, and by nobody else', () => {
    const field = (id: string) => papers.form.fields.find(f => f.id === id)!;
    expect(levelAt(papers, 'ask', field('from'))).toBe('hidden');
    expect(levelAt(papers, 'papers', field('from'))).toBe('shown');
    const asker = sightsOf(papers, { own: true, steps: [], roles: [], all: false });
    const holder = sightsOf(papers, { own: false, steps: ['papers'], roles: [], all: false });
    const payroll = sightsOf(papers, { own: false, steps: [], roles: ['Payroll'], all: false });
    expect(['from', 'iban', 'contract'].map(id => asker.get(id))).toEqual(['hidden', 'hidden', 'hidden']);
    expect(['from', 'iban', 'contract'].map(id => holder.get(id))).toEqual(['open', 'hidden', 'guarded']);
    expect(payroll.get('iban')).toBe('guarded');
  });

  test('stands on the trail by name', () => {
    const run = all(begun());
    const context = later('2026-02-02T10:00:00Z', null);
    const lines = wholeTrail(papers, run.events, { index: context.index, book: context.book });
    expect(lines.map(line => `${line.who} ${line.text}`)).toEqual(
      expect.arrayContaining([
        'Mika Ødegård-Ng handed in “Bank”',
        expect.stringMatching(/^North Pebble invited Mika Ødegård-Ng to fill in step 2 by a personal link/),
      ]),
    );
  });
});

describe('a guest in a definition', () => {
  test('is said in words that read back', () => {
    const words = writeProcedure(papers);
    expect(words).toContain(
      '“Name” fills in “About you”, “Bank”, “Permit”, “Agreements” by a personal link to “Private mail”, good for 20 days, reminded every 3 days at most 2 times.',
    );
    expect(readProcedure(words, papers)).toEqual({ ok: true, steps: papers.steps });
  });

  const with_ = (change: (definition: Definition) => void) => {
    const copy = JSON.parse(JSON.stringify(papers)) as Definition;
    change(copy);
    return findings(copy)
      .filter(f => f.level === 'stops')
      .map(f => f.title);
  };
  const step = (d: Definition) => d.steps[1] as { guest: { sections: string[]; mail: string; message?: string } };
  test.each<[string, (d: Definition) => void, string]>([
    [
      'whose address may be empty',
      d => void Object.assign(d.form.fields[1], { required: false }),
      '“Private mail” may be empty, and then no link can be sent',
    ],
    [
      'whose section is gone',
      d => void step(d).guest.sections.push('gone'),
      'A section is given to a guest that is not there',
    ],
    [
      'with nothing to fill in',
      d => void Object.assign(d.form.fields[4], { section: 'you' }),
      'The guest never comes to “Bank”',
    ],
    [
      'with conditions that nothing meets',
      d => void Object.assign(d.form.fields[5], { shownWhen: 'From = "Here" and From = "Elsewhere"' }),
      'The guest never comes to “Permit”',
    ],
    [
      'with a message that is gone',
      d => void Object.assign(step(d).guest, { message: 'gone' }),
      'The message with the link is not there',
    ],
    [
      'whose paper nobody signs',
      d => void Object.assign(d.form.fields[7], { section: undefined }),
      'Nobody is given “Contract” to sign',
    ],
    [
      'whose paper is taken from nowhere',
      d => void Object.assign(d.form.fields[7], { from: 'name' }),
      '“Contract” is taken from a field that holds no file',
    ],
  ])('%s is found', (_, change, title) => {
    expect(with_(() => {})).toEqual([]);
    expect(with_(change)).toContain(title);
  });
});
