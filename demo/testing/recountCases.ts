/**
 * The balances of those to whom something happened besides, worked out anew day after day from what is said here of them and of the
 * leave that stands in the database: nothing of the core's balances, courses or schedules is in it.
 */
import { statementOf } from '@north-pebble/core/leave';
import type { Person } from '@north-pebble/core/people';
import { type CivilDate, halfIndex, toDay } from '@north-pebble/core/time';
import type { Database } from '@north-pebble/server/database';
import { adjustmentsOf, loadDirectory, loadEntriesOf, rulesFor } from '@north-pebble/server/house';
import { timeOf } from '../../core/leave/book.ts';
import { caseNames, leaveCases } from '../cases.ts';
import type { History } from '../index.ts';

const day = (text: string): number => Date.parse(`${text}T00:00:00Z`) / 86_400_000;
const text = (at: number): string => new Date(at * 86_400_000).toISOString().slice(0, 10);
const halfUp = (amount: number): number => Math.ceil(amount * 2 - 1e-9) / 2;

type Account = { own: number; carry: number };
/** What comes on a day before anything is taken, and what lapses at its end. */
type Turn = (account: Account, on: string) => void;

/** 26 days a calendar year by months, five carried to 31 March: as the Standard plan says. */
const standardTurn =
  (joined: string, left: string | null): Turn =>
  (account, on) => {
    if (on.endsWith('-01-01') && on > joined && (left === null || on <= left)) {
      const rest = account.own + account.carry;
      account.carry = Math.max(0, Math.min(5, rest));
      account.own = Math.min(0, rest);
    }
    if (!on.endsWith('-01-01') && on !== joined) return;
    const year = Number(on.slice(0, 4));
    let earned = 0;
    for (let month = 0; month < 12; month++) {
      const begins = day(`${year}-${String(month + 1).padStart(2, '0')}-01`);
      const next = month === 11 ? day(`${year + 1}-01-01`) : day(`${year}-${String(month + 2).padStart(2, '0')}-01`);
      for (let at = begins; at < next; at++)
        if (at >= day(on) && (left === null || at <= day(left))) earned += 26 / 12 / (next - begins);
    }
    account.own += halfUp(earned);
  };

const lapseStandard = (account: Account, on: string, left: string | null) => {
  if (on.endsWith('-03-31') && (left === null || on < left)) account.carry = 0;
};

/** The last day of the plan before, of those whose plan changes to another year or unit. */
const breaks: Readonly<Record<string, string>> = { 'year changes': '2026-03-31', 'days to hours': '2026-02-28' };

/** 260 hours a year, a twelfth on the last day of each month from March on, in a running total to the nearest half. */
function hoursGiven(on: string): number {
  const [year, month] = [Number(on.slice(0, 4)), Number(on.slice(5, 7))];
  const isLast = text(day(on) + 1).endsWith('-01');
  if (!isLast) return 0;
  const total = (months: number) => Math.floor(((260 / 12) * months + 1e-9) * 2 + 0.5) / 2;
  const months = year === 2026 ? month - 2 : month;
  return total(months) - total(months - 1);
}

/** @returns every balance that is not as it is worked out here, and how many were compared */
export async function recountCases(db: Database, history: History): Promise<{ wrong: string[]; compared: number }> {
  const index = await loadDirectory(db);
  const rules = await rulesFor(db, index);
  const leave = history.requests.flatMap(({ asker, state }) =>
    state.leave ? [{ person: state.subject ?? asker, span: state.leave.span }] : [],
  );
  const { who } = leaveCases(history.directory, leave);
  const today = '2026-02-02' as CivilDate;
  const wrong: string[] = [];
  let compared = 0;
  for (const name of caseNames) {
    const person = index.person(who[name]) as Person;
    const entries = await loadEntriesOf(db, [person.id], today);
    const adjustments = await adjustmentsOf(db, [person.id]);
    const book = { index, ...rules, entries, adjustments, today };
    const annual = rules.types.find(one => one.id === 'annual');
    if (!annual) throw new Error('there is no annual leave');
    const time = timeOf(book, person);
    // What is taken on each day: halves that are worked and lie in booked annual leave, unless the person is ill.
    const taken = new Map<string, number>();
    const covers = (type: string, at: number, half: 'am' | 'pm') =>
      entries.some(({ type: own, state, span }) => {
        if (own !== type || state !== 'booked' || 'time' in span.from || 'time' in span.to) return false;
        const place = halfIndex(at, half);
        const [first, last] = [toDay(span.from.date), toDay(span.to.date)];
        return halfIndex(first, span.from.half) <= place && place <= halfIndex(last, span.to.half);
      });
    const until = day('2027-06-30');
    for (let at = day(person.joined); at <= until; at++)
      for (const half of ['am', 'pm'] as const) {
        const isGone = person.left !== null && at > day(person.left);
        const part = time.parts(at)[half];
        if (isGone || !part || !covers('annual', at, half) || covers('sick', at, half)) continue;
        const isInHours = name === 'days to hours' && text(at) >= '2026-03-01';
        const out = isInHours ? (part.end - part.start) / 60 : 0.5;
        taken.set(text(at), (taken.get(text(at)) ?? 0) + out);
      }
    const account: Account = { own: 0, carry: 0 };
    const turn = standardTurn(person.joined, breaks[name] ?? person.left);
    for (let at = day(person.joined); at <= until; at++) {
      const on = text(at);
      if (name === 'opening' && on === '2026-01-01') Object.assign(account, { own: 26, carry: 3 });
      else if (name === 'year changes' && on >= '2026-04-01') {
        // What is left goes along; whole years of 26 begin on 1 April, and nothing lapses of which no letter told.
        if (on.endsWith('-04-01')) {
          if (on !== '2026-04-01') Object.assign(account, { carry: account.own + account.carry, own: 0 });
          account.own += 26;
        }
      } else if (name === 'days to hours' && on >= '2026-03-01') {
        if (on === '2026-03-01') Object.assign(account, { own: account.own * 7.5, carry: account.carry * 7.5 });
        if (on.endsWith('-01-01')) Object.assign(account, { carry: Math.min(96, account.own + account.carry), own: 0 });
        account.own += hoursGiven(on);
      } else turn(account, on);
      const out = taken.get(on) ?? 0;
      const fromCarry = Math.min(account.carry, out);
      account.carry -= fromCarry;
      account.own -= out - fromCarry;
      if (at >= day('2026-01-01') && at % 9 === 0) {
        const said = statementOf(book, person.id, annual, on as CivilDate)?.balance;
        compared++;
        if (said === undefined || Math.abs(said - account.own - account.carry) > 1e-6)
          wrong.push(`${name} (${person.id}) on ${on}: ${said}, not ${account.own + account.carry}`);
      }
      if ((name !== 'year changes' && name !== 'days to hours') || on <= '2026-03-31')
        lapseStandard(account, on, person.left);
    }
  }
  return { wrong, compared };
}
