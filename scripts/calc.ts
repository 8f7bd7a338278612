/**
 * The calculation door: one JSON input a line on stdin, one JSON output a line on stdout, in order, through the core alone.
 * Usage: npm run -s calc -- leave-days|balance|afford|deadline < in.jsonl > out.jsonl
 */
import { createInterface } from 'node:readline';
import type { z } from 'zod';
import { AffordInput, afford, BalanceInput, balance, LeaveDaysInput, leaveDays } from '../core/leave/index.ts';
import { DeadlineInput, deadline } from '../core/time/index.ts';

type Door = (input: unknown) => unknown;

const door =
  <T>(schema: z.ZodType<T, unknown>, work: (input: T) => unknown): Door =>
  input => {
    const read = schema.safeParse(input);
    if (read.success) return work(read.data);
    const issue = read.error.issues[0];
    return { error: `malformed: ${issue.path.join('.') || 'input'} ${issue.message}` };
  };

const doors: Record<string, Door> = {
  'leave-days': door(LeaveDaysInput, leaveDays),
  balance: door(BalanceInput, balance),
  afford: door(AffordInput, afford),
  deadline: door(DeadlineInput, deadline),
};

/** The answer to one line of text. */
function answer(work: Door, line: string): unknown {
  try {
    return work(JSON.parse(line));
  } catch (fault) {
    if (fault instanceof SyntaxError) return { error: 'malformed: not JSON' };
    throw fault;
  }
}

const work = doors[process.argv[2] ?? ''];
if (!work) {
  process.stderr.write(`calc: say one of ${Object.keys(doors).join(', ')}\n`);
  process.exit(2);
}
for await (const line of createInterface({ input: process.stdin, crlfDelay: Number.POSITIVE_INFINITY })) {
  if (line.trim() !== '') process.stdout.write(`${JSON.stringify(answer(work, line))}\n`);
}
