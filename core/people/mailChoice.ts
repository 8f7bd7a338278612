/** How somebody wants their mails: at once, together once a day, or not; and in which hours none. */
import { z } from 'zod';
import {
  civilDateAt,
  type Instant,
  localAt,
  minutesOf,
  TimeOfDay,
  toDay,
  toInstant,
  wallClock,
} from '../time/index.ts';

export const MailChoice = z
  .object({
    /** Mails about what comes to somebody in person. */
    own: z.enum(['each', 'daily']),
    /** Mails about what comes to a role that they hold with others. */
    role: z.enum(['each', 'daily', 'off']),
    /** When the daily mail is sent, on the person’s own clock. */
    dailyAt: TimeOfDay,
    /** No mails between these times; over midnight when it ends before it begins. */
    quiet: z.object({ from: TimeOfDay, to: TimeOfDay }).nullable(),
  })
  .refine(choice => choice.quiet?.from !== choice.quiet?.to || choice.quiet === null, {
    path: ['quiet', 'to'],
    message: 'The quiet hours end when they begin.',
  });
export type MailChoice = z.infer<typeof MailChoice>;

export const usualMailChoice: MailChoice = { own: 'each', role: 'each', dailyAt: '07:30', quiet: null };

export type Sending = { how: 'now' } | { how: 'later' | 'daily'; at: Instant } | { how: 'not' };

/** The next time that a clock on the wall shows so many minutes after midnight. */
function next(minutes: number, now: Instant, zone: string): Instant {
  const today = toDay(civilDateAt(now, zone));
  const at = [0, 1, 2].map(days => wallClock(today + days, minutes, zone)).find(ms => ms > Date.parse(now));
  return toInstant(at ?? wallClock(today + 3, minutes, zone));
}

/** The end of the quiet hours that somebody is in; nothing when they are in none. */
function quietUntil({ quiet }: MailChoice, now: Instant, zone: string): Instant | null {
  if (!quiet) return null;
  const [from, to] = [minutesOf(quiet.from), minutesOf(quiet.to)];
  const { minutes } = localAt(now, zone);
  const isQuiet = from < to ? from <= minutes && minutes < to : minutes >= from || minutes < to;
  return isQuiet ? next(to, now, zone) : null;
}

/**
 * When a mail goes out.
 * @param forRole whether it is about what came to a role
 * @param zone of the person
 */
export function sendingOf(choice: MailChoice, forRole: boolean, now: Instant, zone: string): Sending {
  const wanted = forRole ? choice.role : choice.own;
  if (wanted === 'off') return { how: 'not' };
  if (wanted === 'daily') return { how: 'daily', at: next(minutesOf(choice.dailyAt), now, zone) };
  const until = quietUntil(choice, now, zone);
  return until ? { how: 'later', at: until } : { how: 'now' };
}

/** One mail out of many: what each is about, with its first line. */
export function dailyMail(letters: readonly { subject: string; body: string }[]): { subject: string; body: string } {
  const n = letters.length;
  const items = letters.map(({ subject, body }) => `• ${subject}\n  ${body.split('\n')[0]}`);
  return {
    subject: n === 1 ? letters[0].subject : `${n} things since your last mail`,
    body: `${items.join('\n\n')}\n\nEverything that waits for you stands on your desk.`,
  };
}
