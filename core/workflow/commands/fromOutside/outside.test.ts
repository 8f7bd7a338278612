/** Asked for from outside: what is taken in there, who keeps it, and what whoever asked may do on their own page. */
import { describe, expect, test } from '@jest/globals';
import { bad, decide, flow, good, later, Run, refusal, task, who, wholeTrail } from '../../../testing/run.ts';
import {
  type Definition,
  findings,
  fold,
  type GuestCommand,
  guestNow,
  handle,
  newRequest,
  openingWords,
  sightsOf,
} from '../../index.ts';

const text = (id: string, label: string, required: boolean, section: string) => ({
  kind: 'text',
  id,
  label,
  required,
  section,
});
const hr = who({ kind: 'role', role: 'HR partner' });
const sections = [
  { id: 'you', title: 'About you' },
  { id: 'more', title: 'Your application' },
  { id: 'house', title: 'For the house' },
];
const fields = [
  text('name', 'Name', true, 'you'),
  text('mail', 'Mail', true, 'you'),
  { kind: 'choice', id: 'sort', label: 'Sort', required: true, options: ['Deck', 'Engine'], section: 'you' },
  text('why', 'Why', true, 'more'),
  text('score', 'Score', false, 'house'),
  text('pay', 'Pay', false, 'house'),
];
const application: Definition = {
  ...flow(
    task({
      id: 'fill',
      who: hr,
      guest: { name: 'name', mail: 'mail', sections: ['more'], goesOn: true, days: 10 },
      couldNot: { to: 'close', closing: 'declined' },
    }),
    decide({ who: hr, outcomes: [good, bad] }),
    { verb: 'Tell', id: 'tell', when: null, to: [who({ kind: 'asker' })], message: 'come' },
  ),
  opening: {
    forWhom: ['self'],
    outside: { name: 'name', mail: 'mail', sections: ['you'], keptBy: hr as never, keptMonths: 6 },
  },
  form: { sections, fields } as Definition['form'],
  access: { ask: { score: 'hidden', pay: 'hidden' }, decide: { why: 'shown', score: 'editable' } },
  figures: [],
  messages: [
    { id: 'come', name: 'Come', subject: 'Come and see us', body: 'Hello {asker}, {subject}.' },
    { id: 'no', name: 'No', subject: 'Not this time', body: 'Hello {asker}.' },
  ],
  closings: [
    { id: 'approved', name: 'Done', tone: 'good', message: null },
    { id: 'declined', name: 'Declined', tone: 'bad', message: 'no' },
  ],
};
const lea = { name: 'Léa O’Neill-Åström', mail: 'lea@example.test', sort: 'Deck' };
const at = '2026-02-02T10:00:00Z';

class Outside extends Run {
  guest(step: string, what: GuestCommand['what'], now?: string): this {
    return this.do({ kind: 'guest', step, what }, null, now);
  }
  fill(now?: string): this {
    return this.guest('fill', { kind: 'hand in', section: 'more', answers: { why: 'The sea' }, signed: {} }, now);
  }
  get outs(): { address: string; subject: string; body: string; link?: { step: string } }[] {
    return this.wanted.flatMap(e => (e.kind === 'mail out' ? [e as never] : []));
  }
  get mails(): string[] {
    return this.wanted.flatMap(e => (e.kind === 'mail' ? [`${e.to}: ${e.subject}`] : []));
  }
}
const asked = () => new Outside(application, lea, null);

const refusedWith = (answers: unknown, definition = application, now = at) => {
  const result = handle(definition, newRequest('R-1'), { kind: 'ask from outside', answers }, later(now, null));
  return result.ok
    ? 'taken'
    : [result.refusal.code, ...(result.refusal.faults ?? []).map(f => `${f.field}: ${f.message}`)].join(' ');
};

describe('asking from outside', () => {
  test('is kept by somebody of the house, and called by the name that was given', () => {
    const run = asked();
    expect(run.state).toMatchObject({
      asker: 'dora',
      outside: { name: lea.name, mail: lea.mail },
      at: ['fill'],
      tasks: [],
    });
    // One letter: the way to what is to be done at once; nobody in the house is written to yet.
    expect(run.outs).toMatchObject([{ address: lea.mail, link: { step: 'fill', n: 1 } }]);
    expect(run.mails).toEqual([]);
    const lines = wholeTrail(application, run.events, later(at, null));
    expect(lines[0]).toMatchObject({ who: lea.name, text: expect.stringContaining('keeps it in the house') });
    expect(fold('R-1', run.events)).toEqual(run.state);
  });

  test('without anything to fill in later, a letter says that it is there', () => {
    const short: Definition = { ...application, steps: application.steps.filter(step => step.id !== 'fill') };
    const run = new Outside(short, lea, null);
    expect(run.outs).toMatchObject(
      [{ subject: 'We have it: Base', link: { step: 'ask', n: 1 }, body: expect.stringContaining('R-1') }].map(one => ({
        ...one,
        subject: expect.stringContaining('We have it'),
      })),
    );
  });

  test('takes what stands at the public address, and nothing else', () => {
    expect(refusedWith({})).toBe('bad answers name: Name is needed. mail: Mail is needed. sort: Sort is needed.');
    // Neither what stands around an address nor what nobody sees makes another one of it.
    for (const mail of [
      'nowhere',
      'eve@evil.example\0',
      '<eve@evil.example>',
      'eve@evil.example,mallory@evil.example',
      'e\u200bve@evil.example',
    ])
      expect(refusedWith({ ...lea, mail })).toContain('mail: Write the mail address');
    expect(refusedWith({ ...lea, name: 'Eve\nBcc: all' })).toContain('Write your name on one line');
    expect(refusedWith({ ...lea, name: '   ' })).toMatch(/name:/);
    expect(refusedWith({ ...lea, name: 'x'.repeat(300) })).toMatch(/name:/);
    expect(refusedWith({ ...lea, sort: 'Bridge' })).toContain('sort: Choose one of');
    expect(refusedWith({ ...lea, pay: '90,000' })).toContain('pay: This may not be changed now.');
    expect(refusedWith({ ...lea, score: '1' })).toContain('score:');
    expect(refusedWith({ ...lea, unheard: '1' })).toContain('unheard');
    for (const odd of [null, 7, 'x', [], [lea], { name: {}, mail: [], sort: {} }])
      expect(refusedWith(odd)).toMatch(/^bad answers/);
  });

  test.each(['person', 'files', 'document', 'paper'])('takes no %s, also where a form has one there', kind => {
    const odd = { id: 'odd', label: 'Odd', required: false, section: 'you', kind, text: 'x', signed: 'read' };
    const form = { ...application.form, fields: [...application.form.fields, odd] } as Definition['form'];
    const file = { id: '00000000-0000-4000-8000-000000000001', name: 'x.pdf', size: 1, type: 'application/pdf' };
    const signed = { how: 'read', name: null, at, digest: '0'.repeat(64), file: null };
    const answer = { person: 'ina', files: [file], document: { file, expires: null }, paper: signed }[kind];
    expect(refusedWith({ ...lea, odd: answer }, { ...application, form })).toContain('odd: ');
    expect(refusedWith(lea, { ...application, form })).toBe('taken');
  });

  test('is shut outside its days, where it is not for outside, and where nobody keeps it', () => {
    const opening = application.opening!;
    const until = { ...application, opening: { ...opening, to: '2026-02-01' as never } };
    expect(refusedWith(lea, until)).toBe('not open');
    expect(refusedWith(lea, until, '2026-01-31T10:00:00Z')).toBe('taken');
    expect(refusedWith(lea, { ...application, opening: { forWhom: ['self'] } })).toBe('not open');
    const nobody = { ...opening.outside!, keptBy: who({ kind: 'role', role: 'Nobody has it' }) as never };
    expect(refusedWith(lea, { ...application, opening: { ...opening, outside: nobody } })).toBe('not open');
  });

  test('goes on by itself once all is in, and whoever keeps it may decide it', () => {
    const run = asked().fill();
    expect(run.state.at).toEqual(['decide']);
    expect(run.holders).toEqual(['dora']);
    expect(run.mails[0]).toContain(lea.name);
    run.answer('yes', 'dora', { answers: { score: '4' } });
    expect(run.outs.at(-1)).toMatchObject({
      address: lea.mail,
      subject: 'Come and see us',
      body: `Hello ${lea.name}, ${lea.name}.`,
    });
    expect(run.state.status).toBe('closed');
  });

  test('ends by itself when the days of the link are over and not all is in', () => {
    const run = asked();
    const due = run.wanted.flatMap(e => (e.kind === 'timer' ? [e.at] : []));
    expect(due).toContain('2026-02-12T10:00:00Z');
    run.do({ kind: 'timer', task: 'fill', what: 'guest' }, null, '2026-02-11T10:00:00Z');
    expect(run.state.status).toBe('open');
    run.do({ kind: 'timer', task: 'fill', what: 'guest' }, null, '2026-02-12T10:00:00Z');
    expect(run.state).toMatchObject({ status: 'closed', closing: 'declined' });
    expect(run.outs.at(-1)).toMatchObject({ address: lea.mail, subject: 'Not this time' });
  });

  test('reads nothing that others write about them; who keeps it reads by their work alone', () => {
    const run = asked().fill();
    const sights = sightsOf(application, { own: false, steps: ['decide'], roles: [], all: false });
    expect([...sights.entries()]).toMatchObject([
      ['name', 'open'],
      ['mail', 'open'],
      ['sort', 'open'],
      ['why', 'open'],
      ['score', 'open'],
      ['pay', 'open'],
    ]);
    expect(sightsOf(application, { own: false, steps: [], roles: [], all: false }).get('why')).toBe('hidden');
    expect(run.outs.every(letter => !letter.body.includes('The sea'))).toBe(true);
  });
});

describe('their own page', () => {
  test('every link of theirs leads to what is asked of them now, then to their page', () => {
    const run = asked();
    const now = (step: string) => guestNow(application, run.state, step)?.step;
    expect([now('ask')?.id, now('fill')?.id]).toEqual(['fill', 'fill']);
    run.fill();
    expect([now('ask')?.id, now('fill')?.id]).toEqual(['ask', 'ask']);
    expect(now('ask')?.guest.sections).toEqual([]);
    run.answer('no', 'dora');
    expect([now('ask'), now('fill')]).toEqual([undefined, undefined]);
  });

  test('is asked and replies; the clock of the task goes on', () => {
    const run = asked().fill();
    const [{ id }] = run.state.tasks;
    run.do({ kind: 'ask', seen: run.state.version, task: id, question: 'When can you begin?' }, 'dora');
    expect(run.outs.at(-1)).toMatchObject({ address: lea.mail, link: { step: 'ask' } });
    expect(run.outs.at(-1)?.body).toContain('When can you begin?');
    run.guest('ask', { kind: 'reply', task: id, reply: 'In May' });
    expect(run.state.tasks[0].question).toBeUndefined();
    expect(run.mails.at(-1)).toContain('dora: Replied');
    const context = later(at, null);
    expect(wholeTrail(application, run.events, context).at(-1)).toMatchObject({ who: lea.name });
    const again = handle(
      application,
      run.state,
      { kind: 'guest', step: 'ask', what: { kind: 'reply', task: id, reply: 'Once more' } },
      context,
    );
    expect(again).toMatchObject({ ok: false, refusal: { code: 'not open' } });
  });

  test('asks whoever has it, and is answered there', () => {
    const run = asked();
    run.guest('fill', { kind: 'ask', text: 'Is the boat provided?' });
    expect(run.mails.at(-1)).toContain('dora: ');
    run.fill().guest('ask', { kind: 'ask', text: 'And the oars?' });
    expect(run.mails.at(-1)).toContain('asks');
    run.do({ kind: 'answer guest', seen: run.state.version, step: 'ask', text: 'They are.' }, 'dora');
    expect(run.outs.at(-1)).toMatchObject({ address: lea.mail, link: { step: 'ask' } });
    expect(refusal(run, { kind: 'answer guest', step: 'ask', text: 'x' } as never, 'ina')).toBe('not yours');
  });

  test('withdraws it, and nobody works on it any more', () => {
    const run = asked().fill();
    run.guest('ask', { kind: 'withdraw' });
    expect(run.state).toMatchObject({ status: 'withdrawn', tasks: [] });
    expect(run.mails.at(-1)).toContain('dora: No longer needed');
    expect(wholeTrail(application, run.events, later(at, null)).at(-1)).toMatchObject({ who: lea.name });
  });

  test('a guest who did not ask for it can neither withdraw it nor reply', () => {
    const inside = new Outside(application, lea, 'ina');
    for (const what of [{ kind: 'withdraw' }, { kind: 'reply', task: 'x', reply: 'y' }] as const) {
      const result = handle(application, inside.state, { kind: 'guest', step: 'fill', what }, later(at, null));
      expect(result.ok).toBe(false);
    }
  });
});

describe('the designer', () => {
  const wrong = (outside: object, form = application.form, access = application.access) =>
    findings({
      ...application,
      form,
      access,
      opening: { forWhom: ['self'], outside: { ...application.opening!.outside!, ...outside } },
    })
      .filter(one => one.level === 'stops')
      .map(one => one.title);

  test('says in words what is asked for from outside', () => {
    expect(openingWords(application)).toContain('they fill in About you, are called by Name and written to at Mail');
    expect(openingWords(application)).toContain('deleted 6 months after its end');
  });

  test('finds what cannot work at a public address', () => {
    expect(wrong({})).toEqual([]);
    expect(wrong({ name: 'sort' })).toEqual(['Nobody would know who asks']);
    expect(wrong({ mail: 'score' })).toEqual(['Nobody could be written to']);
    expect(wrong({ sections: ['you', 'gone'] })).toEqual(['A section stands at the public address that is not there']);
    expect(wrong({ sections: ['you', 'house'] })).toEqual([
      'Nothing is asked in “For the house” at the public address',
    ]);
    expect(wrong({ keptBy: who({ kind: 'asker' }) })).toContain('Whoever asks from outside has nobody in the house');
    const more = (kind: object) => ({
      ...application.form,
      fields: [...application.form.fields, { id: 'one', label: 'One', required: false, section: 'you', ...kind }],
    });
    expect(wrong({}, more({ kind: 'person' }) as never)).toEqual(['The public form asks for a person: “One”']);
    expect(wrong({}, more({ kind: 'files' }) as never)).toEqual(['The public form takes “One”']);
  });
});
