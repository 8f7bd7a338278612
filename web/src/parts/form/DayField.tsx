/** Days and times of day, typed or picked; what is typed halfway stays in the field and does not leave it. */
import { AdapterDayjs } from '@mui/x-date-pickers/AdapterDayjs';
import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import { TimeField as TimeParts } from '@mui/x-date-pickers/TimeField';
import dayjs, { type Dayjs } from 'dayjs';
import 'dayjs/locale/en-gb';
import { memo, useCallback, useLayoutEffect, useReducer, useRef, useState } from 'react';

const dayFormat = 'YYYY-MM-DD';
const wholeDay = /^\d{2}\/\d{2}\/[1-9]\d{3}$/;
const readDay = (text: string): Dayjs => dayjs(text);
const dayWords = (value: Dayjs): string => (value.year() > 1900 ? value.format(dayFormat) : '');
/** On any day: only the clock counts. */
const readTime = (text: string): Dayjs => dayjs(`2000-01-01T${text}`);
const timeWords = (value: Dayjs): string => value.format('HH:mm');

/**
 * What stands in a field whose parts are typed one after another, for a text that is whole or empty.
 * What comes from elsewhere is shown at once, before anything more is typed: later, it would take the place of what has
 * been typed meanwhile.
 * @returns what is shown, and how it changes, the same function each time
 */
function useParts(
  text: string,
  onText: (text: string) => void,
  read: (text: string) => Dayjs,
  write: (v: Dayjs) => string,
) {
  const [shown, setShown] = useState(text ? read(text) : null);
  /** What the field last said itself. */
  const [said, setSaid] = useState(text);
  if (text !== said) {
    setSaid(text);
    setShown(text ? read(text) : null);
  }
  const tell = useRef(onText);
  tell.current = onText;
  const change = useCallback(
    (value: Dayjs | null) => {
      const next = value?.isValid() ? write(value) : '';
      setShown(value);
      setSaid(next);
      tell.current(next);
    },
    [write],
  );
  return [shown, change] as const;
}

/**
 * Draws again at once what was drawn because of something from outside. Between a drawing and its after-effects the field
 * of the component library forgets which part is being typed, and a key that comes then empties the others; what is drawn
 * from within a drawing has its after-effects before the next key.
 */
function useDrawnThrough(): void {
  const [, draw] = useReducer((n: number) => n + 1, 0);
  const isSecond = useRef(false);
  useLayoutEffect(() => {
    isSecond.current = !isSecond.current;
    if (isSecond.current) draw();
  });
}

type Shared = { label: string; disabled?: boolean; fault?: boolean; help?: string | undefined };

export function DayField({
  label,
  date,
  onDate,
  disabled = false,
  fault = false,
  help,
  start,
  autoFocus = false,
}: Shared & {
  /** `YYYY-MM-DD`, or nothing. */
  date: string;
  onDate: (date: string) => void;
  /** Where the calendar opens when there is no day yet. */
  start?: string;
  autoFocus?: boolean;
}) {
  const [shown, change] = useParts(date, onDate, readDay, dayWords);
  return <DayParts {...{ label, shown, change, disabled, fault, help, start, autoFocus }} />;
}

type Parts = Shared & { shown: Dayjs | null; change: (value: Dayjs | null) => void };

/** Drawn only when something of its own changes, not with everything around it. */
const DayParts = memo(function DayParts(props: Parts & { start: string | undefined; autoFocus: boolean }) {
  const { label, shown, change, disabled, fault, help, start, autoFocus } = props;
  useDrawnThrough();
  const field = useRef<HTMLDivElement>(null);
  const [noDay, setNoDay] = useState<string | null>(null);
  // A day that is typed to its end and is none, as 29/02 of most years: said in words, not only with a red edge.
  const look = useCallback(() => {
    const typed = shown && !shown.isValid() ? field.current?.querySelector('input')?.value : undefined;
    setNoDay(typed && wholeDay.test(typed) ? `There is no ${typed}.` : null);
  }, [shown]);
  // The year grows while it is typed without anything new being told: so every key is looked at, too.
  useLayoutEffect(look, [look]);
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs} adapterLocale="en-gb">
      <DatePicker
        label={label}
        value={shown}
        disabled={disabled ?? false}
        autoFocus={autoFocus}
        {...(start ? { referenceDate: dayjs(start) } : {})}
        onChange={change}
        slotProps={{
          textField: {
            ref: field,
            onKeyUp: look,
            onBlur: look,
            size: 'small',
            error: (fault ?? false) || noDay !== null,
            fullWidth: true,
            helperText: noDay ?? help,
          },
        }}
      />
    </LocalizationProvider>
  );
});

export function TimeField({
  label,
  time,
  onTime,
  disabled = false,
  fault = false,
  help,
}: Shared & {
  /** `HH:MM` of twenty-four hours, or nothing. */
  time: string;
  onTime: (time: string) => void;
}) {
  const [shown, change] = useParts(time, onTime, readTime, timeWords);
  return <HourParts {...{ label, shown, change, disabled, fault, help }} />;
}

const HourParts = memo(function HourParts({ label, shown, change, disabled, fault, help }: Parts) {
  useDrawnThrough();
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs} adapterLocale="en-gb">
      <TimeParts
        label={label}
        value={shown}
        disabled={disabled ?? false}
        ampm={false}
        onChange={change}
        slotProps={{ textField: { size: 'small', error: fault ?? false, fullWidth: true, helperText: help } }}
      />
    </LocalizationProvider>
  );
});
