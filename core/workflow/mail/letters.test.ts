import { describe, expect, test } from '@jest/globals';
import { annualLeave, bookOf, contextFor, entry, halves, index, instant, person } from '../../testing/house.ts';
import { told, wholeTrail } from '../../testing/run.ts';
import {
  type Definition,
  dueFor,
  factsInMail,
  fill,
  handle,
  insertedNames,
  insertionNames,
  insertions,
  newRequest,
  titleOf,
} from '../index.ts';
import { leaveInMail } from './leaveInMail.ts';

const context = contextFor('ina');
const week = halves('2026-02-09', '2026-02-13');

function asked() {
  const answers = { kind: 'annual', dates: week, remark: 'Rowing with <friends>' };
  const result = handle(annualLeave, newRequest('R-1'), { kind: 'submit', answers }, context);
  if (!result.ok) throw new Error(result.refusal.message);
  return result;
}

describe('messages', () => {
  test('insert fields and figures in words', () => {
    const words = insertions(annualLeave, asked().state, context);
    expect(words).toMatchObject({
      asker: 'Ina Okell',
      request: 'R-1',
      workflow: 'Annual leave',
      Kind: 'Annual leave',
      Dates: 'Mon 9 to Fri 13 February',
      Days: '4½ days',
      'Balance after': '26½ days',
      'Others away': '0',
      Remark: 'Rowing with <friends>',
    });
    expect(Object.keys(words).sort()).toEqual([...insertionNames(annualLeave)].sort());
  });

  test('leave what is not known as it is written, and never insert twice', () => {
    expect(insertedNames('Hello { asker }, {Days} and {Moon}')).toEqual(['asker', 'Days', 'Moon']);
    expect(fill('Hello { asker }, {Moon}', { asker: '{Days}', Days: '3' })).toBe('Hello {Days}, {Moon}');
  });

  test('a title says what it is about', () => {
    expect(titleOf(annualLeave, asked().state, context)).toBe('Annual leave, Mon 9 to Fri 13 February');
    const bare = { ...annualLeave, form: { fields: [] } };
    expect(titleOf(bare, asked().state, context)).toBe('Annual leave');
  });
});

describe('the mail to whoever decides', () => {
  const remark = annualLeave.form.fields[2];
  const bodyWith = (change: Partial<Definition>, kind = 'annual') => {
    const definition = { ...annualLeave, ...change };
    const answers = { kind, dates: week, remark: 'Rowing' };
    const result = handle(definition, newRequest('R-1'), { kind: 'submit', answers }, context);
    if (!result.ok) throw new Error(result.refusal.message);
    const mail = result.effects.find(e => e.kind === 'mail' && e.to === 'tom');
    return { state: result.state, body: mail?.kind === 'mail' ? mail.body : '', definition };
  };

  test('has the answers and the figures to decide by, a line each', () => {
    expect(bodyWith({}).body.split('\n')).toEqual([
      'Ina Okell asks: Annual leave, Mon 9 to Fri 13 February. It is due Wed 4 Feb 17:00.',
      '',
      'Kind: Annual leave',
      'Dates: Mon 9 to Fri 13 February',
      'Remark: Rowing',
      'Days: 4½ days',
      'Balance after: 26½ days',
      'Others away: 0',
      'Annual leave balance on Fri 13 February: 31 days before, 26½ days after',
      '',
      expect.stringMatching(/^You can answer by replying to this mail/),
    ]);
    expect(bodyWith({}, 'sick').body).not.toContain('Balance after');
  });

  test('names who else of the team is away, and says the balance to those alone who may read it', () => {
    const { state } = bodyWith({});
    const entries = [
      entry({ request: 'R-4', person: person('per'), span: halves('2026-02-12', '2026-02-16') }),
      entry({ request: 'R-5', person: person('kay'), span: halves('2026-02-16', '2026-02-16') }),
    ];
    const lines = (reader: string, book = bookOf(entries)) =>
      leaveInMail(annualLeave, state, contextFor(null, { book }), 'manager', person(reader));
    expect(lines('tom')).toEqual([
      'Annual leave balance on Fri 13 February: 31 days before, 26½ days after',
      'Also away: Per Lauder',
    ]);
    // What was told before is told again only as long as nothing that it hangs on has changed.
    const own = entry({ request: 'R-6', person: person('ina'), span: halves('2026-01-12', '2026-01-13') });
    expect(lines('tom', bookOf(entries.slice(1)))).toEqual([
      'Annual leave balance on Fri 13 February: 31 days before, 26½ days after',
    ]);
    expect(lines('tom', bookOf([...entries, own]))).toEqual([
      'Annual leave balance on Fri 13 February: 29 days before, 24½ days after',
      'Also away: Per Lauder',
    ]);
    expect(lines('tom')).toHaveLength(2);
    // Whoever is asked besides, and is not above them, is told who is away and no balance.
    expect(lines('rin')).toEqual(['Also away: Per Lauder']);
    const hidden = { ...annualLeave, access: { manager: { dates: 'hidden' as const } } };
    expect(leaveInMail(hidden, state, contextFor(null, { book: bookOf(entries) }), 'manager', person('tom'))).toEqual(
      [],
    );
  });

  test('tells nothing that its reader does not see, and nothing that is not written in mails', () => {
    const hidden = { access: { manager: { remark: 'hidden' as const, dates: 'hidden' as const } } };
    expect(bodyWith(hidden).body).not.toMatch(/Rowing|Days:|Balance after:/);
    const fields = [...annualLeave.form.fields.slice(0, 2), { ...remark, readers: ['HR partner'] } as typeof remark];
    expect(bodyWith({ form: { fields } }).body).toContain('Remark: given, to be read on your desk');
  });

  test('says what an answer was before it was changed', () => {
    const { state, definition } = bodyWith({});
    const changes = [{ field: 'dates', before: halves('2026-02-09', '2026-02-16'), after: week }];
    expect(factsInMail(definition, { ...state, changes }, context, 'manager')).toContain(
      'Dates: Mon 9 to Fri 13 February (was Mon 9 to Mon 16 February)',
    );
  });
});

describe('due times', () => {
  test('count in the holder’s working time and say so', () => {
    const due = dueFor(context, person('tom'), { workingDays: 2 });
    expect(due).toMatchObject({ at: '2026-02-04T17:00:00Z' });
    expect('reason' in due && told(due.reason)).toBe(
      '2 working days in Tom Lund’s working time, counted from Mon 2 Feb 2026 10:00 (Europe/Lisbon)',
    );
    expect(dueFor(context, person('nobody'), { workingDays: 1 })).toEqual({ never: { code: 'holder not on file' } });
  });
});

describe('the trail', () => {
  test('says who did what, and answers why', () => {
    const { events } = asked();
    const lines = wholeTrail(annualLeave, events, { index, book: context.book });
    expect(lines.map(l => `${l.who} ${l.text}`)).toEqual([
      'Ina Okell asked for annual leave',
      'North Pebble reserved annual leave, Mon 9 to Fri 13 February',
      'North Pebble took “otherwise” at step 2',
      'North Pebble assigned step 3 to Tom Lund',
    ]);
    expect(lines[3].why.join(' ')).toContain('Tide observer reports to Observatory lead');
    expect(lines[3].why.join(' ')).toContain('due: 2 working days');
    expect(lines.every(l => l.at === instant('2026-02-02T10:00:00Z'))).toBe(true);
  });
});
