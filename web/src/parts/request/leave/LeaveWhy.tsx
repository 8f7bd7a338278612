/** The reasons behind days of leave and balances. */

import Typography from '@mui/material/Typography';
import type { BalanceAhead, DayReason, StatementLine } from '@north-pebble/core/leave';
import {
  amountOfUnit,
  amountWords,
  type CivilDate,
  dateWords,
  rangeWords,
  shortDate,
  yearOf,
} from '@north-pebble/core/time';
import { useYear } from '../../frame/session.ts';
import { ReasonRows, Why } from '../../Why.tsx';

export function DaysWhy({ days, total }: { days: DayReason[]; total: string }) {
  const year = useYear();
  return (
    <Why about={total}>
      <ReasonRows
        rows={days.map(day => ({
          key: day.date,
          what: shortDate(day.date as CivilDate, year),
          note: day.reason,
          amount: day.days === 0 ? '0' : amountWords(day.days),
        }))}
      />
    </Why>
  );
}

export const lineWords: Record<StatementLine['kind'], string> = {
  accrued: 'Earned',
  carried: 'Carried over',
  lapsed: 'Lapsed',
  adjustment: 'Adjusted',
  taken: 'Taken',
  restated: 'Restated',
  'brought along': 'Brought along',
  opening: 'Opening',
};

const signed = (amount: number): string =>
  amount === 0 ? '' : amount > 0 ? `+${amountWords(amount)}` : amountWords(amount);

export function BalanceWhy({ ahead }: { ahead: BalanceAhead }) {
  const year = useYear();
  const lastYear = yearOf(ahead.lines.at(-1)?.date ?? '');
  const lines = ahead.lines.filter(line => yearOf(line.date) >= lastYear - 1).slice(-14);
  const [first] = lines;
  const before = first ? first.balance - first.amount : 0;
  return (
    <Why about={`${amountWords(ahead.after)} after`}>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        Every movement, with what is booked and what is asked for:
      </Typography>
      <ReasonRows
        rows={[
          ...(first
            ? [
                {
                  key: 'before',
                  what: `Before ${shortDate(first.date, year)}`,
                  note: 'balance',
                  amount: amountWords(before),
                },
              ]
            : []),
          ...lines.map((line, i) => ({
            key: `${line.date}-${i}`,
            what: line.until ? rangeWords(line.date, line.until, year) : dateWords(line.date, year),
            note: `${lineWords[line.kind].toLowerCase()}, ${line.reason}`,
            amount: `${signed(line.amount)} → ${amountWords(line.balance)}`,
          })),
        ]}
      />
    </Why>
  );
}

export function balanceWords(ahead: BalanceAhead, year: number): string {
  const held = ahead.held > 0 ? `, ${amountWords(ahead.held)} asked for` : '';
  const expiring = ahead.expiring
    .map(e => `; ${amountOfUnit(e.amount, ahead.unit)} of it to use by ${shortDate(e.on, year)}`)
    .join('');
  return `${amountOfUnit(ahead.now, ahead.unit)} now${held}, ${amountWords(ahead.after)} after${expiring}`;
}
