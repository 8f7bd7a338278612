/**
 * Booked leave that a later change of facts counted anew. A statement shows what was booked as it was booked, and beneath it
 * each difference with its cause; together they are what counting from nothing gives.
 */
import type { Instant } from '../../time/index.ts';
import type { LeaveEntry } from '../book.ts';
import type { StatementLine } from './balance.ts';

export type Restatement = {
  readonly request: string;
  readonly type: string;
  readonly span: LeaveEntry['span'];
  readonly before: number;
  readonly after: number;
  readonly unit: 'days' | 'hours';
  /** The change of facts, when it was made, and why. */
  readonly change: number;
  readonly at: Instant;
  readonly cause: string;
};

const exact = (amount: number): number => Math.round(amount * 1e6) / 1e6;

/** Those that are about bookings as they stand: one that was changed since is counted anew as a whole. */
export const standing = (all: readonly Restatement[], entries: readonly LeaveEntry[]): Restatement[] =>
  all.filter(one =>
    entries.some(
      entry =>
        entry.request === one.request &&
        entry.state === 'booked' &&
        entry.type === one.type &&
        JSON.stringify([entry.span.from, entry.span.to]) === JSON.stringify([one.span.from, one.span.to]),
    ),
  );

/**
 * @param lines of a statement, as counted now
 * @param restated differences in the unit of the statement, oldest first
 * @returns the lines with bookings as they were booked and each difference after them; the balance at the end is the same
 */
export function withRestated(lines: readonly StatementLine[], restated: readonly Restatement[]): StatementLine[] {
  const of = new Map<string, Restatement[]>();
  for (const one of restated) of.set(one.request, [...(of.get(one.request) ?? []), one]);
  const found: StatementLine[] = [];
  // Where a booking has several lines, the largest of them tells the difference.
  const largest = new Map<string, StatementLine>();
  for (const line of lines) {
    if (line.kind !== 'taken' || line.request === undefined || line.held) continue;
    const known = largest.get(line.request);
    if (!known || Math.abs(line.amount) > Math.abs(known.amount)) largest.set(line.request, line);
  }
  for (const line of lines) {
    const own = line.request !== undefined && largest.get(line.request) === line ? (of.get(line.request) ?? []) : [];
    if (own.length === 0) {
      found.push(line);
      continue;
    }
    const difference = own.reduce((sum, one) => sum + one.after - one.before, 0);
    let balance = exact(line.balance + difference);
    found.push({ ...line, amount: exact(line.amount + difference), balance });
    for (const { before, after, cause, change } of own) {
      balance = exact(balance - (after - before));
      found.push({
        date: line.until ?? line.date,
        kind: 'restated',
        amount: exact(before - after),
        balance,
        reason: cause,
        request: line.request as string,
        change,
      });
    }
  }
  return found;
}
