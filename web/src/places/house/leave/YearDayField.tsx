/** A day of every year: `31 March`. */
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

const months = Array.from({ length: 12 }, (_, n) =>
  new Date(Date.UTC(2026, n, 1)).toLocaleString('en-GB', { month: 'long', timeZone: 'UTC' }),
);
const longest = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
const two = (n: number): string => String(n).padStart(2, '0');

type Props = { label: string; value: string; onChange: (value: string) => void };

export function YearDayField({ label, value, onChange }: Props) {
  const [month, day] = value.split('-').map(Number);
  const put = (m: number, d: number) => onChange(`${two(m)}-${two(Math.min(d, longest[m - 1] ?? 28))}`);
  return (
    <Box sx={{ display: 'inline-flex', gap: 1 }}>
      <TextField
        select
        label={label}
        value={day}
        onChange={event => put(month, Number(event.target.value))}
        sx={{ width: 90 }}
      >
        {Array.from({ length: longest[month - 1] ?? 31 }, (_, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: days of a month have no identity besides their place
          <MenuItem key={n} value={n + 1}>
            {n + 1}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label={`${label}, month`}
        value={month}
        onChange={event => put(Number(event.target.value), day)}
        sx={{ width: 140 }}
      >
        {months.map((name, n) => (
          <MenuItem key={name} value={n + 1}>
            {name}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}
