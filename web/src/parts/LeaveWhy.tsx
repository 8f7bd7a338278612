/** The reasons behind days of leave and balances. */

import Typography from '@mui/material/Typography';
import type { DayReason, Outlook, StatementLine } from '@north-pebble/core/leave';
import { amountOfUnit, amountWords, type CivilDate, dateWords, shortDate } from '@north-pebble/core/time';
import { ReasonRows, Why } from './Why.tsx';

export function DaysWhy({ days, total }: { days: DayReason[]; total: string }) {
  return (
    <Why about={total}>
      <ReasonRows
        rows={days.map(day => ({
          key: day.date,
          what: shortDate(day.date as CivilDate),
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
};

const signed = (amount: number): string =>
  amount === 0 ? '' : amount > 0 ? `+${amountWords(amount)}` : amountWords(amount);

export function BalanceWhy({ outlook }: { outlook: Outlook }) {
  const year = outlook.lines.at(-1)?.date.slice(0, 4) ?? '';
  const lines = outlook.lines.filter(line => line.date.slice(0, 4) >= String(Number(year) - 1)).slice(-14);
  const [first] = lines;
  const before = first ? first.balance - first.amount : 0;
  return (
    <Why about={`${amountWords(outlook.after)} after`}>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        Every movement, with what is booked, held and asked for:
      </Typography>
      <ReasonRows
        rows={[
          ...(first
            ? [{ key: 'before', what: `Before ${shortDate(first.date)}`, note: 'balance', amount: amountWords(before) }]
            : []),
          ...lines.map((line, i) => ({
            key: `${line.date}-${i}`,
            what: dateWords(line.date, Number(year)),
            note: `${lineWords[line.kind].toLowerCase()}, ${line.reason}`,
            amount: `${signed(line.amount)} → ${amountWords(line.balance)}`,
          })),
        ]}
      />
    </Why>
  );
}

export function outlookWords(outlook: Outlook): string {
  const held = outlook.held > 0 ? `, ${amountWords(outlook.held)} held` : '';
  const expiring = outlook.expiring
    .map(e => `; ${amountOfUnit(e.amount, outlook.unit)} of it to use by ${shortDate(e.on)}`)
    .join('');
  return `${amountWords(outlook.now)} now${held}, ${amountWords(outlook.after)} after${expiring}`;
}
