/** Courses that went wrong once: counted in the wrong days, passed to the wrong people, told to nobody, said to be done. */
import { describe, expect, test } from '@jest/globals';
import { hrOperations } from '../../people/index.ts';
import {
  annualLeave,
  bookOf,
  contextFor,
  date,
  directory,
  halves,
  instant,
  person,
  withDirectory,
} from '../../testing/house.ts';
import { bad, decide, flow, given, good, Run, refusal, task, told, who, wholeTrail } from '../../testing/run.ts';
import { mailedOutcomes } from '../execution/voting.ts';
import {
  type Command,
  type Context,
  type Definition,
  type Effect,
  findings,
  handle,
  isHeldBy,
  newRequest,
  openOutcomes,
  procedure,
  type RequestEvent,
  type RequestState,
  readAloud,
  readProcedure,
  writeProcedure,
} from '../index.ts';

/** A request run in a house of its own. */
class ClockedRun {
  state: RequestState = newRequest('R-1');
  readonly events: RequestEvent[] = [];
  readonly effects: Effect[] = [];
  constructor(
    readonly definition: Definition,
    readonly house: Partial<Context> = {},
    asker = 'ina',
    subject = asker,
    answers: Record<string, unknown> = given,
  ) {
    this.do({ kind: 'submit', answers, subject } as Command, asker);
  }
  context(actor: string | null, now = '2026-02-02T10:00:00Z'): Context {
    const index = this.house.index ?? contextFor(null).index;
    return contextFor(actor, {
      now: instant(now),
      book: bookOf([], { index, today: date(now.slice(0, 10)) }),
      ...this.house,
    });
  }
  do(command: Parameters<typeof handle>[2], actor: string | null, now?: string): this {
    const result = handle(this.definition, this.state, command, this.context(actor, now));
    if (!result.ok) throw new Error(`${result.refusal.code}: ${result.refusal.message}`);
    this.state = result.state;
    this.events.push(...result.events);
    this.effects.push(...result.effects);
    return this;
  }
  give(command: object, actor: string | null, now?: string): this {
    const [first] = this.state.tasks;
    return this.do({ seen: this.state.version, task: first?.id, ...command } as Command, actor, now);
  }
  refused(command: object, actor: string): string {
    const [first] = this.state.tasks;
    const sent = { seen: this.state.version, task: first?.id, ...command } as Command;
    const result = handle(this.definition, this.state, sent, this.context(actor));
    return result.ok ? 'taken' : result.refusal.message;
  }
  get holders() {
    return this.state.tasks.map(t => t.holder);
  }
  get mails() {
    return this.effects.flatMap(e =>
      e.kind === 'mail' ? [{ to: e.to as string, subject: e.subject, body: e.body }] : [],
    );
  }
  limit(): this {
    const timer = this.effects.findLast(e => e.kind === 'timer' && e.what === 'limit');
    if (timer?.kind !== 'timer') throw new Error('no limit');
    return this.do({ kind: 'timer', task: timer.task, what: 'limit' }, null, timer.at);
  }
  get said() {
    return wholeTrail(this.definition, this.events, this.context(null)).map(line => line.text);
  }
}

const within = { within: { workingDays: 2 }, remind: null };
const hr = { kind: 'role', role: 'HR partner' };

describe('days before a date', () => {
  // Nora joins on Monday 2 March; before that nothing is scheduled for her.
  const nora = {
    ...directory.people[2],
    id: person('nora'),
    name: 'Nora New',
    joined: date('2026-03-02'),
    records: [{ ...directory.people[2].records[0], from: date('2026-03-02') }],
  };
  const index = withDirectory({
    people: [...directory.people, nora],
    holdings: [
      ...directory.holdings,
      { person: nora.id, post: 'observer-1', from: date('2026-03-02'), to: null, main: true },
    ],
  });
  const definition: Definition = {
    ...flow({ verb: 'Hold', id: 'hold', when: null, until: { kind: 'before', workingDays: 1, field: 'start' } }),
    opening: { forWhom: ['self', 'joiner'] },
  };

  test('are working days of the place where a joiner will work, whose pattern does not hold yet', () => {
    const course = new ClockedRun(definition, { index }, 'ina', 'nora', { ...given, start: '2026-03-02' });
    // One working day before Monday 2 March is Friday 27 February, at midnight in Lisbon.
    expect(course.state.holds).toMatchObject([{ until: '2026-02-27T00:00:00Z' }]);
    expect(course.state.stuckAt).toEqual([]);
  });

  test('for limits too, at the end of the holder’s work on that day', () => {
    const limit = { within: { workingDaysBefore: 2, field: 'start' }, remind: null, atLimit: 'wait' };
    const course = new ClockedRun(
      { ...flow(task({ limit })), opening: { forWhom: ['self', 'joiner'] } },
      { index },
      'ina',
      'nora',
      { ...given, start: '2026-03-02' },
    );
    expect(course.state.tasks[0].due).toBe('2026-02-26T17:00:00Z');
    expect(told(course.state.tasks[0].dueReason)).toContain('working days of Ovay Station');
  });
});

describe('what was given outside', () => {
  const given1 = {
    verb: 'Provision',
    id: 'give',
    when: null,
    connection: 'Directory',
    action: 'add to group',
    values: [],
  };
  const workflow = {
    ...flow(decide({ outcomes: [good] }), given1),
    afterwards: { change: 'decided', cancel: 'at once' },
  } as Definition;

  test('is taken back when what was approved is cancelled', () => {
    const course = new ClockedRun(workflow);
    course.give({ kind: 'answer', outcome: 'yes', note: null }, 'tom');
    const [asked] = course.effects.filter(e => e.kind === 'provision');
    course.do({ kind: 'effect', key: asked?.key ?? '', outcome: { state: 'delivered', result: {} } }, null);
    expect(course.state.provided).toMatchObject([{ step: 'give', what: { code: 'asked of connection' } }]);
    course.give({ kind: 'cancel after approval', note: null }, 'ina');
    expect(course.effects.filter(e => e.kind === 'undo')).toMatchObject([{ of: asked?.key }]);
  });
});

describe('a limit', () => {
  const up = decide({ limit: { ...within, atLimit: 'pass up' } });

  test('passes up the line of whoever is covered, never of whoever covers', () => {
    // Tom is covered by Sub, whose own line is another one.
    const covers = [{ person: person('tom'), by: person('sub'), from: date('2026-01-01'), to: date('2026-12-31') }];
    const course = new ClockedRun(flow(up), { index: withDirectory({ covers }) });
    expect(course.state.tasks[0]).toMatchObject({ holder: 'sub', coverFor: 'tom' });
    course.limit();
    expect(course.holders).toEqual(['dora']);
  });

  test('passes up a line of three and no further: nobody has it again, and HR operations is told', () => {
    const above: Record<string, string> = { lead: 'keeper', keeper: 'director' };
    const posts = directory.posts.map(post =>
      above[post.id] ? { ...post, lines: [{ from: date('2020-01-01'), reportsTo: above[post.id] }] } : post,
    );
    const course = new ClockedRun(flow(up), { index: withDirectory({ posts }) });
    const seen = [course.holders];
    for (let n = 0; n < 4; n++) if (course.state.tasks[0]?.late === false) seen.push(course.limit().holders);
    expect(seen).toEqual([['tom'], ['kay'], ['dora'], ['dora']]);
    expect(course.mails.at(-1)).toMatchObject({ to: hrOperations, subject: expect.stringContaining('Nobody is left') });
    expect(course.state.tasks[0].late).toBe(true);
  });

  test('goes up past whoever has left meanwhile, never back down', () => {
    const above: Record<string, string> = { lead: 'keeper', keeper: 'director' };
    const posts = directory.posts.map(post =>
      above[post.id] ? { ...post, lines: [{ from: date('2020-01-01'), reportsTo: above[post.id] }] } : post,
    );
    // Kay is covered by Ina’s manager Tom: what comes to Kay does not come back to Tom, and then goes to Dora.
    const covers = [{ person: person('kay'), by: person('tom'), from: date('2026-01-01'), to: date('2026-12-31') }];
    const course = new ClockedRun(flow(up), { index: withDirectory({ posts, covers }) });
    expect(course.limit().holders).toEqual(['kay']);
    expect(course.limit().holders).toEqual(['dora']);
  });

  test('is reminded of before it passes, each time with what the next one is, and never as it passes', () => {
    const often = { within: { workingDays: 3 }, remind: { after: { workingDays: 1 }, atMost: 5 }, atLimit: 'wait' };
    const course = new ClockedRun(flow(decide({ limit: often })));
    const set = () => course.effects.flatMap(e => (e.kind === 'timer' && e.what === 'remind' ? [e.at] : []));
    expect(set()).toEqual(['2026-02-03T17:00:00Z']);
    const remind = (at: string) =>
      course.do({ kind: 'timer', task: course.state.tasks[0]?.id ?? '', what: 'remind' }, null, at);
    remind('2026-02-03T17:00:00Z');
    expect(set().at(-1)).toBe('2026-02-04T17:00:00Z');
    remind('2026-02-04T17:00:00Z');
    expect(set()).toHaveLength(2);
  });

  test('is news to the asker, when it changes hands and when it does not', () => {
    const course = new ClockedRun(flow(up)).limit();
    const news = (c: ClockedRun) => c.mails.filter(m => m.to === 'ina' && m.subject.startsWith('News'));
    expect(news(course).at(-1)?.body).toContain('has not answered in time, so it went to Dora Quill');
    const stays = new ClockedRun(flow(decide({ limit: { ...within, atLimit: 'wait' } }))).limit();
    expect(news(stays).at(-1)?.body).toContain('still waits for Tom Lund');
    const told = new ClockedRun(
      flow(decide({ limit: { ...within, atLimit: { tell: who({ kind: 'asker' }) } } })),
    ).limit();
    expect(news(told)).toHaveLength(1);
    // Nobody else is told of what was meant for the asker.
    expect(told.mails.filter(m => m.subject.startsWith('Past the limit')).map(m => m.to)).toEqual(['tom']);
  });

  test('that brought it to somebody does not have them asked twice in a row', () => {
    const above = decide({ id: 'above', who: who({ kind: 'manager', levels: 2 }) });
    const course = new ClockedRun(flow(up, above)).limit();
    expect(course.holders).toEqual(['dora']);
    course.give({ kind: 'answer', outcome: 'yes', note: null }, 'dora', '2026-02-05T10:00:00Z');
    expect(course.state.status).toBe('closed');
    expect(course.events.some(e => e.kind === 'kept' && e.reason.code === 'approved the step before')).toBe(true);
    // Who answers both in their own right is asked both times, unless the step says otherwise.
    const twice = new ClockedRun(flow(decide({ who: who({ kind: 'manager', levels: 2 }) }), above));
    twice.give({ kind: 'answer', outcome: 'yes', note: null }, 'dora');
    expect(twice.holders).toEqual(['dora']);
  });
});

describe('who may hold a step', () => {
  const role = flow(decide({ who: { first: hr, otherwise: [] } }));
  const covers = [{ person: person('dora'), by: person('kay'), from: date('2026-01-01'), to: date('2026-12-31') }];

  test('is asked when it is handed over, set aside to somebody, and appointed', () => {
    const course = new ClockedRun(role);
    expect(course.holders).toEqual(['dora']);
    expect(course.refused({ kind: 'hand over', to: { person: 'kay' }, note: 'x' }, 'dora')).toContain(
      'it is for anyone with the role HR partner',
    );
    const aside = { kind: 'set aside', until: '2026-02-10', to: { person: 'kay' } };
    expect(course.refused(aside, 'dora')).toContain('may not have this step');
    expect(course.refused({ kind: 'appoint', step: 'decide', to: 'kay' }, 'dora')).toContain('may not have this step');
    const wide = new ClockedRun(flow(decide({ who: { first: hr, otherwise: [] }, handTo: 'anybody' })));
    expect(wide.refused({ kind: 'hand over', to: { person: 'kay' }, note: 'x' }, 'dora')).toBe('taken');
  });

  test('a manager’s step may go up their line, and to nobody beside it', () => {
    const course = new ClockedRun(flow(decide()));
    expect(course.refused({ kind: 'hand over', to: { person: 'dora' }, note: 'x' }, 'tom')).toBe('taken');
    expect(course.refused({ kind: 'hand over', to: { person: 'per' }, note: 'x' }, 'tom')).toContain('may not have');
  });

  test('a cover from outside of a group does not get what only the group may have', () => {
    const index = withDirectory({ covers });
    const course = new ClockedRun(role, { index });
    expect(course.holders).toEqual(['dora']);
    const [held] = course.state.tasks;
    const around = { index, now: instant('2026-02-02T10:00:00Z') };
    expect(isHeldBy(role, held, person('kay'), around, course.state)).toBe(false);
    // Where a person is meant and no group, the cover has it.
    const manager = new ClockedRun(flow(decide({ who: who({ kind: 'manager', levels: 2 }) })), { index });
    expect(manager.holders).toEqual(['kay']);
  });

  test('where the rule finds nobody at all, HR may name anybody', () => {
    const empty = flow(decide({ who: who({ kind: 'role', role: 'Nurse' }) }));
    const course = new ClockedRun(empty);
    expect(course.state.stuckAt).toHaveLength(1);
    expect(course.refused({ kind: 'appoint', step: 'decide', to: 'kay' }, 'dora')).toBe('taken');
  });

  test('the asker may have what is not a decision about their own wish, when the designer says so', () => {
    const own = (more: object) => flow(decide({ who: who({ kind: 'asker' }), ...more }));
    expect(new ClockedRun(own({})).holders).not.toContain('ina');
    const course = new ClockedRun(own({ askerMay: true }));
    expect(course.holders).toEqual(['ina']);
    const found = findings(own({ askerMay: true })).filter(f => f.id.startsWith('asker may'));
    expect(found).toMatchObject([{ level: 'warns' }]);
  });

  test('both settings are written as sentences, and read back', () => {
    const definition = flow(decide({ askerMay: true, handTo: 'anybody' }), task({ handTo: 'anybody' }));
    const lines = procedure(definition).map(readAloud).join('\n');
    expect(lines).toContain('The asker may have it.');
    expect(lines.match(/It may be handed to anybody\./g)).toHaveLength(2);
    const read = readProcedure(writeProcedure(definition), definition);
    expect(read).toEqual({ ok: true, steps: definition.steps });
  });
});

describe('nothing is said to be done that is not', () => {
  const account = {
    verb: 'Provision',
    id: 'account',
    when: null,
    connection: 'Directory',
    action: 'create account',
    values: [{ name: 'name', formula: 'Remark' }],
  };
  const tell = { verb: 'Tell', id: 'tell', when: null, to: [who({ kind: 'manager', levels: 1 })], message: 'yes' };

  test('an account is asked for, the messages that depend on it stay, and the asker hears how it stands', () => {
    const course = new ClockedRun(flow(account, tell), {}, 'ina', 'ina', { ...given, remark: 'ina.okell' });
    expect(course.state.status).toBe('closed');
    expect(course.said).toContain('asked for: Directory: create account, name ina.okell');
    expect(course.said.filter(text => text.startsWith('keeps “Approved” until'))).toHaveLength(2);
    expect(course.mails.some(m => m.subject.startsWith('Approved:'))).toBe(false);
    expect(course.mails.at(-1)).toMatchObject({ to: 'ina' });
    expect(course.mails.at(-1)?.body).toContain('not delivered yet');
  });

  test('what is told to a manager is not told to the asker who stands in for them', () => {
    const covered = withDirectory({
      covers: [{ person: person('tom'), by: person('ina'), from: date('2026-02-01'), to: date('2026-03-01') }],
    });
    const course = new ClockedRun(flow(tell), { index: covered });
    expect(course.mails.map(m => m.to)).toContain('tom');
    // Somebody else who stands in does get it.
    const other = withDirectory({
      covers: [{ person: person('tom'), by: person('dora'), from: date('2026-02-01'), to: date('2026-03-01') }],
    });
    const to = new ClockedRun(flow(tell), { index: other }).mails.map(m => m.to);
    expect([to.includes('dora'), to.includes('tom')]).toEqual([true, false]);
  });

  test('what comes before it, or beside it in another lane, is told', () => {
    const before = new ClockedRun(flow(tell, account), {}, 'ina', 'ina', { ...given, remark: 'x' });
    expect(before.mails.map(m => m.to)).toContain('tom');
    const lanes = {
      verb: 'Split',
      id: 'split',
      when: null,
      needs: 'all',
      lanes: [
        { id: 'a', name: 'A', steps: [account] },
        { id: 'b', name: 'B', steps: [tell] },
      ],
    };
    const beside = new ClockedRun(flow(lanes), {}, 'ina', 'ina', { ...given, remark: 'x' });
    expect(beside.mails.map(m => m.to)).toContain('tom');
  });

  test('the sheet warns at its line; a property that no record has stops publishing', () => {
    const record = (property: string) => ({
      verb: 'Record',
      id: 'record',
      when: null,
      effect: { kind: 'person', property, formula: 'Remark' },
    });
    const ids = (connections: string[], ...steps: unknown[]) =>
      findings(flow(...steps), { connections }).map(f => [f.id.split(':')[0], f.level]);
    expect(ids([], account)).toContainEqual(['undelivered', 'warns']);
    expect(ids(['Directory'], account)).not.toContainEqual(['undelivered', 'warns']);
    expect(ids([], record('place'))).not.toContainEqual(['undelivered', 'warns']);
    const wrong = findings(flow(record('plaace'))).find(f => f.id.startsWith('property'));
    expect(wrong).toMatchObject({ level: 'stops', fix: { value: 'place' } });
  });

  test('a person in a row of a list is written by name', () => {
    const add = {
      verb: 'Record',
      id: 'add',
      when: null,
      effect: { kind: 'add row', list: 'posts', values: [{ name: 'Lead', formula: 'Lead' }] },
    };
    const course = new ClockedRun(flow(add));
    expect(course.effects).toContainEqual(expect.objectContaining({ kind: 'add row', values: { Lead: 'Tom Lund' } }));
    expect(course.said).toContain('added a row to posts: Lead Tom Lund');
  });
});

describe('found before publishing', () => {
  const of = (definition: Definition, more: object = {}) =>
    findings(definition, { people: { index: contextFor(null).index, days: [date('2026-02-02')] }, ...more });
  const kinds = (definition: Definition) => of(definition).map(f => `${f.level} ${f.id.split(':')[0]}`);

  test('“at least 2” where only one person is found, for each who would ask', () => {
    const two = decide({ who: { first: hr, otherwise: [] }, count: { atLeast: 2 } });
    const found = of(flow(two)).find(f => f.id.startsWith('people'));
    expect(found?.level).toBe('stops');
    expect(found?.people?.map(p => p.why).join(' ')).toContain(
      'At least 2 must answer, and only one is found: Dora Quill',
    );
  });

  test('a circle through a wait in which nobody has a say', () => {
    const wait = { verb: 'Hold', id: 'wait', when: null, until: { kind: 'time', amount: { workingDays: 1 } } };
    const again = {
      verb: 'Choose',
      id: 'again',
      when: null,
      rows: [{ id: 'r', condition: 'Urgent', go: { to: 'step', step: 'wait' } }],
      otherwise: { to: 'next' },
    };
    expect(kinds(flow(wait, again)).some(kind => kind.includes('circle') || kind.includes('loop'))).toBe(true);
  });

  test('a division by what may be 0, and a condition with a value that nothing has', () => {
    const figure = (formula: string): Definition => ({
      ...flow(decide()),
      figures: [{ id: 'x', name: 'Share', formula, unit: 'number' }],
    });
    expect(kinds(figure('100 / Amount'))).toContain('stops may divide');
    expect(kinds(figure('if Amount = 0 then 0 else 100 / Amount'))).not.toContain('stops may divide');
    const place = (name: string) => flow(decide({ when: `Asker place = "${name}"` }));
    const wrong = of(place('Ovay Staton')).find(f => f.id.startsWith('no such value'));
    expect(wrong).toMatchObject({ level: 'stops', fix: { value: 'Asker place = "Ovay Station"' } });
    expect(kinds(place('Ovay Station'))).not.toContain('stops no such value');
    expect(kinds(flow(decide({ when: 'Asker post > 1' })))).toContain('stops formula');
  });

  test('a step that goes to a person who may not be given', () => {
    const lead = (required: boolean, more: object = {}): Definition => {
      const definition = flow(decide({ who: { first: { kind: 'person in', field: 'lead' }, otherwise: [] }, ...more }));
      const fields = definition.form.fields.map(f => (f.id === 'lead' ? { ...f, required } : f));
      return { ...definition, form: { ...definition.form, fields } };
    };
    expect(kinds(lead(false))).toContain('stops may be empty');
    expect(kinds(lead(true))).not.toContain('stops may be empty');
    const other = lead(false, { who: { first: { kind: 'person in', field: 'lead' }, otherwise: [hr] } });
    expect(kinds(other)).not.toContain('stops may be empty');
  });
});

describe('what is told of a decision', () => {
  test('whoever is declined reads why, in a message that asks for it and in one that does not', () => {
    const declined = (body: string) => {
      const definition: Definition = {
        ...annualLeave,
        messages: annualLeave.messages.map(m => (m.id === 'no' ? { ...m, body } : m)),
      };
      const course = new ClockedRun(definition, {}, 'ina', 'ina', {
        kind: 'sick',
        dates: halves('2026-02-09', '2026-02-13'),
      });
      course.give({ kind: 'answer', outcome: 'decline', note: 'Two are away already.' }, 'tom');
      return course.mails.at(-1)?.body ?? '';
    };
    expect(declined('It was declined: {reason}')).toBe('It was declined: Two are away already.');
    expect(declined('It was declined.')).toBe('It was declined.\n\n“Two are away already.”');
  });

  test('a change after approval says so to whoever decides it again', () => {
    const answers = { kind: 'sick', dates: halves('2026-02-09', '2026-02-13') };
    const course = new ClockedRun(annualLeave, {}, 'ina', 'ina', answers);
    course.give({ kind: 'answer', outcome: 'approve', note: null }, 'tom');
    const later = { ...answers, dates: halves('2026-02-09', '2026-02-12') };
    course.give({ kind: 'change after approval', answers: later, note: null }, 'ina');
    const again = course.mails.findLast(m => m.to === 'tom' && m.subject.startsWith('For you to decide again'));
    expect(again?.body).toContain('This was approved, and is to be changed');
  });

  test('an outcome that needs a field is not offered by mail, where nothing can be filled in', () => {
    const definition = {
      ...flow(decide({ outcomes: [good, { ...bad, needs: ['remark'] }] })),
      access: { decide: { remark: 'editable' as const } },
    };
    const run = new Run(definition);
    const [, step] = definition.steps;
    if (step.verb !== 'Decide') throw new Error('decides');
    expect(openOutcomes(step, run.state)).toHaveLength(2);
    expect(mailedOutcomes(definition, step, run.state).map(o => o.id)).toEqual(['yes']);
    const mail = run.wanted.find(e => e.kind === 'mail' && e.to === 'tom');
    expect(mail?.kind === 'mail' && mail.body).toContain('write “Approve” as the first line');
    expect(refusal(run, { kind: 'answer', task: run.state.tasks[0].id, outcome: 'no' }, 'tom')).toBe('bad answers');
  });
});
