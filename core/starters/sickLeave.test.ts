/** Sickness without a last day, from telling it to being back: what is booked, asked for, reminded of, and when it ends. */
import { describe, expect, test } from '@jest/globals';
import { type DirectoryIndex, indexDirectory } from '../people/index.ts';
import { annual, bookOf, contextFor, date, directory, entry, halves, index, instant, sick } from '../testing/house.ts';
import {
  type Command,
  type Effect,
  handle,
  newRequest,
  type RequestEvent,
  type RequestState,
  readWords,
} from '../workflow/index.ts';
import { sickLeave } from './leave.ts';

const { definition } = sickLeave;
const open = { ...halves('2026-02-02', '2026-02-02'), open: true as const };
const rules = {
  ...sick,
  counting: 'calendar' as const,
  openEnd: true,
  daysBack: 14,
  insideLeave: 'gives back' as const,
  limits: [{ rule: 'evidence' as const, after: 3 }],
};

/** The request on its way, with everything that happened; at 10:00 of a day. */
class Illness {
  state: RequestState = newRequest('R-1');
  events: RequestEvent[] = [];
  effects: Effect[] = [];
  readonly types: readonly (typeof sick)[];
  readonly index: DirectoryIndex;
  constructor(dates: object, types: readonly (typeof sick)[] = [annual, rules], known = index) {
    this.types = types;
    this.index = known;
    const answers = { kind: 'sick', dates, reason: 'Influenza.' };
    this.on('2026-02-02', { kind: 'submit', answers });
  }
  context(day: string, actor: string | null) {
    const book = bookOf([], { today: date(day), types: [...this.types], index: this.index });
    return contextFor(actor, { now: instant(`${day}T10:00:00Z`), book });
  }
  on(day: string, command: object, actor: string | null = 'ina'): this {
    const given = { seen: this.state.version, ...command } as Command;
    const result = handle(definition, this.state, given, this.context(day, actor));
    if (!result.ok) throw new Error(JSON.stringify(result.refusal));
    this.state = result.state;
    this.events.push(...result.events);
    this.effects.push(...result.effects);
    return this;
  }
  timer(day: string, step: string): this {
    return this.on(day, { kind: 'timer', what: 'hold', task: step }, null);
  }
  tellsEnd(day: string, dates: object): this {
    return this.on(day, { kind: 'hand in', step: 'until-back', answers: { dates } });
  }
  get waits(): string[] {
    return this.state.holds.map(hold => hold.step);
  }
  mailsTo(person: string): string[] {
    return this.effects.flatMap(one => (one.kind === 'mail' && one.to === person ? [one.subject] : []));
  }
}
const note = { file: { id: 'f', name: 'note.pdf', type: 'application/pdf', size: 9 }, expires: null };

describe('sickness without a last day', () => {
  test('is booked at once, waits for the last day and for the third one, and ends when somebody is back before', () => {
    const ill = new Illness(open);
    expect(ill.state.leave).toMatchObject({ state: 'booked', span: open });
    expect(ill.waits).toEqual(['until-back', 'some-days']);
    ill.tellsEnd('2026-02-03', halves('2026-02-02', '2026-02-03'));
    expect(ill.state.leave).toMatchObject({ state: 'booked', span: halves('2026-02-02', '2026-02-03') });
    expect(ill.waits).toEqual(['some-days']);
    ill.timer('2026-02-06', 'some-days');
    expect(ill.waits).toEqual([]);
    expect(ill.state).toMatchObject({ status: 'closed', closing: 'done' });
  });

  test('that goes on asks for the paper on the third day, again and again, and HR checks what is handed in', () => {
    const ill = new Illness(open).timer('2026-02-06', 'some-days');
    expect(ill.waits).toEqual(['until-back', 'paper']);
    const before = ill.mailsTo('ina').length;
    expect(ill.state.holds.find(hold => hold.step === 'paper')?.remindAt).toBeDefined();
    // A clock that comes too early reminds nobody.
    ill.timer('2026-02-05', 'paper');
    expect(ill.mailsTo('ina')).toHaveLength(before);
    ill.timer('2026-02-11', 'paper');
    expect(ill.mailsTo('ina').at(-1)).toContain('Reminder: Doctor’s note');
    for (const day of ['16', '20', '25', '28']) ill.timer(`2026-02-${day}`, 'paper');
    expect(ill.mailsTo('ina').filter(subject => subject.startsWith('Reminder'))).toHaveLength(5);
    // Five times are enough.
    ill.timer('2026-03-20', 'paper');
    expect(ill.mailsTo('ina').filter(subject => subject.startsWith('Reminder'))).toHaveLength(5);
    ill.on('2026-03-20', { kind: 'hand in', step: 'paper', answers: { note } });
    expect(ill.state.tasks.map(task => task.step)).toEqual(['check']);
    ill.timer('2026-03-23', 'until-back');
    expect(ill.mailsTo('ina').at(-1)).toMatch(/^Until when\?/);
    ill.tellsEnd('2026-03-24', halves('2026-02-02', '2026-03-24'));
    expect(ill.waits).toEqual([]);
    expect(ill.state.status).toBe('open');
  });

  test('of which HR or an administrator learns the end goes on without the one who is ill', () => {
    const ill = new Illness(open);
    ill.on('2026-02-04', { kind: 'change leave', span: halves('2026-02-02', '2026-02-03'), reason: 'Rang.' }, 'dora');
    expect(ill.waits).toEqual(['some-days']);
    expect(ill.state.leave?.span).toEqual(halves('2026-02-02', '2026-02-03'));
  });

  test('is handed in with a last day alone, and with one that overlaps nothing', () => {
    const ill = new Illness(open);
    const tell = (dates: object, more: object = {}) => {
      const given = { kind: 'hand in', seen: ill.state.version, step: 'until-back', answers: { dates } } as Command;
      const context = ill.context('2026-02-04', 'ina');
      const result = handle(definition, ill.state, given, { ...context, ...more });
      return result.ok ? 'taken' : result.refusal.faults?.map(fault => fault.message);
    };
    expect(tell(open)).toEqual(['Say the last day.']);
    expect(tell(halves('2026-02-04', '2026-02-02'))).not.toBe('taken');
    const other = bookOf([entry({ request: 'R-9', type: 'sick', span: halves('2026-02-03', '2026-02-04') })], {
      today: date('2026-02-04'),
      types: [annual, rules],
    });
    expect(tell(halves('2026-02-02', '2026-02-04'), { book: other })).toEqual([
      expect.stringContaining('These dates overlap your sick leave'),
    ]);
    expect(tell(halves('2026-02-02', '2026-02-04'))).toBe('taken');
  });

  test('is refused where its kind does not have it, and before it has begun', () => {
    const refused = (dates: object, types: readonly (typeof sick)[]) => {
      try {
        return new Illness(dates, types).state.status;
      } catch (fault) {
        return String(fault);
      }
    };
    expect(refused(open, [annual, sick])).toContain('Sick leave is asked for with its last day.');
    const later = { ...halves('2026-02-09', '2026-02-09'), open: true };
    expect(refused(later, [annual, rules])).toContain('begins today or has begun');
    // What takes from a balance has a last day, whatever its type says.
    expect(refused(open, [annual, { ...rules, takesFrom: 'plan' }])).toContain('is asked for with its last day');
  });
});

test('sickness of known length goes on at once: a short one ends, a long one waits for its paper', () => {
  expect(new Illness(halves('2026-02-02', '2026-02-03')).state.status).toBe('closed');
  const long = new Illness(halves('2026-02-02', '2026-02-06'));
  expect(long.waits).toEqual(['paper']);
  long.on('2026-02-06', { kind: 'hand in', step: 'paper', answers: { note } });
  expect(long.state.tasks.map(task => task.step)).toEqual(['check']);
});

test('whoever brings a note from the first day is asked for it after a single day', () => {
  const holds = { is: 'paper at once' as const, type: 'sick', from: date('2026-01-01'), to: null };
  const people = directory.people.map(one =>
    one.id === 'ina' ? { ...one, circumstances: [{ id: 'paper', holds }] } : one,
  );
  const named = indexDirectory({ ...directory, people });
  const day = halves('2026-02-02', '2026-02-02');
  expect(new Illness(day).state.status).toBe('closed');
  const ill = new Illness(day, [annual, rules], named);
  expect(ill.waits).toEqual(['paper']);
  expect(ill.mailsTo('ina').at(-1)).toContain('Doctor’s note');
  // Without an end it is asked for on the first day, too.
  expect(new Illness(open, [annual, rules], named).waits).toEqual(['until-back', 'paper']);
});

test('where the house asks for no note, none is waited for', () => {
  const free = { ...rules, limits: [] };
  expect(new Illness(halves('2026-02-02', '2026-02-13'), [annual, free]).state.status).toBe('closed');
  expect(new Illness(open, [annual, free]).waits).toEqual(['until-back']);
});

test('what it waits for is typed as it is shown, and in other plain words', () => {
  const typed = (words: string) => {
    const read = readWords(words, definition, index, { lists: [] });
    return read.ok ? read.steps.map(step => (step.verb === 'Hold' ? [step.when, step.until] : step.verb)) : read;
  };
  const known = { kind: 'last day', field: 'dates' };
  expect(
    typed(
      'When Dates.end = null, wait until the last day of Dates is known, with a reminder every 5 working days, at most 20 of them.',
    ),
  ).toEqual([['Dates.end = null', { ...known, remind: { every: { workingDays: 5 }, atMost: 20 } }]]);
  expect(typed('If the last day of the dates is not known yet, wait until the end of Dates is known')).toEqual([
    ['Dates.end = null', known],
  ]);
  expect(typed('When Dates.end = null and Needs note, wait until Paper day')).toEqual([
    ['Dates.end = null and Needs note = true', { kind: 'date', formula: 'Paper day' }],
  ]);
  expect(typed('Wait until the doctor’s note is in, with a reminder every 2 days, at most 5 times')).toEqual([
    [null, { kind: 'document', field: 'note', remind: { every: { workingDays: 2 }, atMost: 5 } }],
  ]);
});
