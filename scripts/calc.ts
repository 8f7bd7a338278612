/**
 * The calculation door: one JSON input a line on stdin, one JSON output a line on stdout, in order, through the core alone.
 * Usage: npm run -s calc -- leave-days|balance|changes|afford|deadline|countback|formula < in.jsonl > out.jsonl
 *        npm run -s calc -- sentences HOUSE.json < in.jsonl > out.jsonl
 */
import { readFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import type { z } from 'zod';
import { CountbackInput, countedBack } from '../core/countback/index.ts';
import { FormulaInput, worked } from '../core/formula/index.ts';
import {
  AffordInput,
  afford,
  BalanceInput,
  balance,
  ChangesInput,
  changes,
  LeaveDaysInput,
  leaveDays,
} from '../core/leave/index.ts';
import { DeadlineInput, deadline } from '../core/time/index.ts';
import { SentencesHouse, SentencesInput, sentencesOf } from '../core/workflow/index.ts';

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
  changes: door(ChangesInput, changes),
  afford: door(AffordInput, afford),
  deadline: door(DeadlineInput, deadline),
  countback: door(CountbackInput, countedBack),
  formula: door(FormulaInput, worked),
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

function refuse(why: string): never {
  process.stderr.write(`calc: ${why}\n`);
  process.exit(2);
}

/** Sentences are read in a house, that a file tells. */
function sentences(path: string | undefined): Door {
  if (!path) return refuse('sentences are read in a house: say the path of its file');
  let house: unknown;
  try {
    house = JSON.parse(readFileSync(path, 'utf8'));
  } catch (fault) {
    return refuse(`the house ${path} cannot be read: ${fault instanceof Error ? fault.message : String(fault)}`);
  }
  const read = SentencesHouse.safeParse(house);
  if (!read.success) {
    const [issue] = read.error.issues;
    return refuse(`the house ${path} is malformed: ${issue.path.join('.')} ${issue.message}`);
  }
  return door(SentencesInput, sentencesOf(read.data));
}

const [wanted = '', house] = process.argv.slice(2);
const work = wanted === 'sentences' ? sentences(house) : doors[wanted];
if (!work) refuse(`say one of ${[...Object.keys(doors), 'sentences HOUSE'].join(', ')}`);
for await (const line of createInterface({ input: process.stdin, crlfDelay: Number.POSITIVE_INFINITY })) {
  if (line.trim() !== '') process.stdout.write(`${JSON.stringify(answer(work as Door, line))}\n`);
}
