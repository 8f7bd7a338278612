/** A day, typed or picked from a calendar; what is typed halfway stays in the field and does not leave it. */
import { AdapterDayjs } from '@mui/x-date-pickers/AdapterDayjs';
import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import dayjs from 'dayjs';
import 'dayjs/locale/en-gb';
import { useEffect, useState } from 'react';

export function DayField({
  label,
  date,
  onDate,
  disabled = false,
  fault = false,
  help,
  start,
  autoFocus = false,
}: {
  label: string;
  /** `YYYY-MM-DD`, or nothing. */
  date: string;
  onDate: (date: string) => void;
  disabled?: boolean;
  fault?: boolean;
  help?: string | undefined;
  /** Where the calendar opens when there is no day yet. */
  start?: string;
  autoFocus?: boolean;
}) {
  const [shown, setShown] = useState(date ? dayjs(date) : null);
  useEffect(() => {
    if (date) setShown(before => (before?.isValid() && before.format('YYYY-MM-DD') === date ? before : dayjs(date)));
  }, [date]);
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs} adapterLocale="en-gb">
      <DatePicker
        label={label}
        value={shown}
        disabled={disabled}
        autoFocus={autoFocus}
        {...(start ? { referenceDate: dayjs(start) } : {})}
        onChange={value => {
          setShown(value);
          onDate(value?.isValid() && value.year() > 1900 ? value.format('YYYY-MM-DD') : '');
        }}
        slotProps={{ textField: { size: 'small', error: fault, fullWidth: true, helperText: help } }}
      />
    </LocalizationProvider>
  );
}
