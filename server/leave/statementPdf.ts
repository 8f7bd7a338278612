/** A statement of leave as a letter on pages: every line with its balance, tagged for whoever hears it. */
import { linesThrough, type StatementLine } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import { amountOfUnit, amountWords, fullDate, rangeWords } from '@north-pebble/core/time';
import type { Block } from '@north-pebble/core/workflow';
import { type House, nameOfHouse } from '../house/index.ts';
import { type Caller, notFound, ProblemError } from '../http/index.ts';
import { BrokenPaper } from '../papers/index.ts';
import { balances } from './statements.ts';

const kinds: Record<StatementLine['kind'], string> = {
  accrued: 'Earned',
  carried: 'Carried over',
  lapsed: 'Lapsed',
  adjustment: 'Adjusted',
  taken: 'Taken',
  restated: 'Restated',
  'brought along': 'Brought along',
  opening: 'Opening',
};
const ahead: Partial<Record<StatementLine['kind'], string>> = {
  accrued: 'To be earned',
  carried: 'To be carried',
  lapsed: 'Will lapse',
};

const signed = (amount: number): string =>
  amount === 0 ? '' : amount > 0 ? `+${amountWords(amount)}` : amountWords(amount);

const paragraph = (text: string): Block => ({ kind: 'paragraph', runs: [{ text }] });

export async function statementPdf(
  house: House,
  caller: Caller,
  id: PersonId,
  typeId: string | undefined,
): Promise<Uint8Array> {
  const view = await balances(house, caller, id);
  const type = view.types.find(one => one.id === (typeId ?? view.types[0]?.id));
  if (!type) throw notFound();
  const { statement, ahead: later, name } = type;
  const { unit, plan } = statement;
  const lines = linesThrough(statement, later, view.today);
  const row = (line: StatementLine): string[] => {
    const isAhead = line.date > view.today;
    const what = line.kind === 'taken' ? (line.held ? 'Asked for' : isAhead ? 'Booked' : 'Taken') : undefined;
    return [
      line.until && line.until !== line.date ? rangeWords(line.date, line.until, Number.NaN) : fullDate(line.date),
      what ?? (isAhead ? ahead[line.kind] : undefined) ?? kinds[line.kind],
      line.reason,
      line.unit && line.amount !== 0 ? `${signed(line.amount)} ${line.unit}` : signed(line.amount),
      line.unit ? amountOfUnit(line.balance, line.unit) : amountWords(line.balance),
    ];
  };
  try {
    return await house.papers.letter({
      title: `${name} of ${view.name}`,
      blocks: [
        paragraph(
          `Plan: ${plan}. ${amountOfUnit(statement.balance, unit)} on ${fullDate(view.today)}; ${amountOfUnit(later.balance, later.unit)} at the end of ${view.today.slice(0, 4)} with everything booked and asked for.`,
        ),
        ...statement.expiring.map(({ amount, on }) =>
          paragraph(`${amountOfUnit(amount, unit)} carried over are to be used by ${fullDate(on)}.`),
        ),
        {
          kind: 'table',
          head: ['Date', 'What', 'Why', 'Amount', 'Balance'],
          rows: lines.map(row),
          numeric: [false, false, false, true, true],
        },
      ],
      foot: `${await nameOfHouse(house.db)}, ${fullDate(view.today)}`,
    });
  } catch (fault) {
    if (fault instanceof BrokenPaper)
      throw new ProblemError('refused', 'The statement is too long for one paper. Look at it on the page.');
    throw fault;
  }
}
