import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { instant } from '../testing/house.ts';
import { dailyMail, MailChoice, sendingOf, usualMailChoice } from './index.ts';

const lisbon = 'Europe/Lisbon';
const choose = (change: Partial<MailChoice>) => ({ ...usualMailChoice, ...change });
const at = (choice: MailChoice, now: string, forRole = false, zone = lisbon) =>
  sendingOf(choice, forRole, instant(now), zone);

describe('when a mail goes out', () => {
  test('at once when nothing is chosen', () => {
    expect(at(usualMailChoice, '2026-02-02T03:00:00Z')).toEqual({ how: 'now' });
    expect(at(usualMailChoice, '2026-02-02T03:00:00Z', true)).toEqual({ how: 'now' });
  });

  test('mails to a role may be off, or come daily, while one’s own go on', () => {
    const off = choose({ role: 'off' });
    expect(at(off, '2026-02-02T10:00:00Z', true)).toEqual({ how: 'not' });
    expect(at(off, '2026-02-02T10:00:00Z')).toEqual({ how: 'now' });
    expect(at(choose({ role: 'daily' }), '2026-02-02T10:00:00Z', true)).toEqual({
      how: 'daily',
      at: '2026-02-03T07:30:00Z',
    });
  });

  test('daily ones at the time on the person’s own clock, summer time counted', () => {
    const daily = choose({ own: 'daily' });
    expect(at(daily, '2026-02-02T07:29:00Z')).toEqual({ how: 'daily', at: '2026-02-02T07:30:00Z' });
    expect(at(daily, '2026-02-02T07:30:00Z')).toEqual({ how: 'daily', at: '2026-02-03T07:30:00Z' });
    expect(at(daily, '2026-03-28T12:00:00Z')).toEqual({ how: 'daily', at: '2026-03-29T06:30:00Z' });
    expect(at(daily, '2026-02-02T07:29:00Z', false, 'Europe/Oslo')).toEqual({
      how: 'daily',
      at: '2026-02-03T06:30:00Z',
    });
  });

  test.each([
    ['2026-02-02T21:59:00Z', { how: 'now' }],
    ['2026-02-02T22:00:00Z', { how: 'later', at: '2026-02-03T06:00:00Z' }],
    ['2026-02-03T05:59:00Z', { how: 'later', at: '2026-02-03T06:00:00Z' }],
    ['2026-02-03T06:00:00Z', { how: 'now' }],
  ])('quiet over midnight, at %s', (now, sending) => {
    expect(at(choose({ quiet: { from: '22:00', to: '06:00' } }), now)).toEqual(sending);
  });

  test('never in quiet hours, and never before it was written', () => {
    const minutes = fc.integer({ min: 0, max: 1439 });
    const clock = (n: number) => `${String(Math.floor(n / 60)).padStart(2, '0')}:${String(n % 60).padStart(2, '0')}`;
    fc.assert(
      fc.property(minutes, minutes, fc.integer({ min: 0, max: 2_000_000 }), (from, to, ahead) => {
        fc.pre(from !== to);
        const choice = choose({ quiet: { from: clock(from), to: clock(to) } });
        const now = new Date(Date.parse('2026-02-02T00:00:00Z') + ahead * 60_000).toISOString().replace('.000', '');
        const sending = at(choice, now);
        if (sending.how === 'later') {
          expect(sending.at > now).toBe(true);
          expect(at(choice, sending.at)).toEqual({ how: 'now' });
        } else expect(sending).toEqual({ how: 'now' });
      }),
    );
  });

  test('quiet hours that are none are refused', () => {
    const read = MailChoice.safeParse(choose({ quiet: { from: '08:00', to: '08:00' } }));
    expect(read.error?.issues[0]).toMatchObject({ path: ['quiet', 'to'] });
    expect(MailChoice.safeParse(choose({ dailyAt: '25:00' })).success).toBe(false);
  });
});

test('a daily mail says what each is about, and of one what it would have said', () => {
  const one = { subject: 'For you to decide: Ina', body: 'Ina asks.\n\nYou can answer.' };
  expect(dailyMail([one]).subject).toBe('For you to decide: Ina');
  const two = dailyMail([one, { subject: 'Reminder: Per', body: 'This still waits.' }]);
  expect(two.subject).toBe('2 things since your last mail');
  expect(two.body).toBe(
    '• For you to decide: Ina\n  Ina asks.\n\n• Reminder: Per\n  This still waits.\n\nEverything that waits for you stands on your desk.',
  );
});
