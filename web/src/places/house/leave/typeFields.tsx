/** What is changed of a leave type, sentence by sentence. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import type { LeaveTypeRules, Limit, Strength, TypeAbout } from '@north-pebble/core/leave';
import type { CivilDate } from '@north-pebble/core/time';
import { type ReactNode, useState } from 'react';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { DayField } from '../../../parts/form/DayField.tsx';
import { NumberField } from './NumberField.tsx';
import { YearDayField } from './YearDayField.tsx';

const strengths: readonly { id: Strength; name: string }[] = [
  { id: 'stops', name: 'it cannot be asked for' },
  { id: 'asks why', name: 'it takes a reason' },
  { id: 'warns', name: 'it is said and no more' },
];

/** Limits that can be added, in words, and how each begins. */
export const newLimits: readonly { readonly words: string; readonly limit: Limit }[] = [
  { words: 'How long before it is asked for', limit: { rule: 'notice', over: 0, days: 7, how: 'asks why' } },
  { words: 'The most in a year', limit: { rule: 'most a year', days: 10, how: 'stops' } },
  { words: 'The most for an event', limit: { rule: 'most an event', days: 2, how: 'stops' } },
  {
    words: 'The most in a year for each child',
    limit: { rule: 'most a year for each child', days: 10, under: 12, how: 'stops' },
  },
  { words: 'Bridge days', limit: { rule: 'bridge days', days: 2, how: 'asks why' } },
  {
    words: 'Whose turn it is',
    limit: { rule: 'turn', name: 'the turn of the year', from: '12-21', to: '01-02', how: 'warns' },
  },
  { words: 'The most in the whole employment', limit: { rule: 'most ever', days: 10, how: 'stops' } },
  { words: 'The longest run', limit: { rule: 'longest run', days: 21, how: 'asks why' } },
  { words: 'How long after joining', limit: { rule: 'waiting', months: 3, how: 'stops' } },
  {
    words: 'When it is not taken',
    limit: { rule: 'closed', name: 'the season', from: '07-01', to: '07-31', how: 'asks why' },
  },
  { words: 'How many stay here', limit: { rule: 'presence', how: 'stops' } },
  { words: 'When a paper is due', limit: { rule: 'evidence', after: 3 } },
];

function ClosedDays({
  limit,
  onChange,
}: {
  limit: Extract<Limit, { rule: 'closed' }>;
  onChange: (limit: Limit) => void;
}) {
  const isYearly = limit.from.length <= 5;
  const year = new Date().getUTCFullYear();
  const put = (more: Partial<typeof limit>) => onChange({ ...limit, ...more } as Limit);
  return (
    <>
      <TextField
        label="What it is called"
        value={limit.name}
        onChange={event => put({ name: event.target.value })}
        sx={{ width: 190 }}
        autoComplete="off"
      />
      <ChoiceField
        label="When"
        value={isYearly ? 'yearly' : 'once'}
        options={[
          { id: 'yearly', name: 'each year' },
          { id: 'once', name: 'once' },
        ]}
        onChange={id =>
          put(
            id === 'yearly'
              ? { from: limit.from.slice(-5), to: limit.to.slice(-5) }
              : { from: `${year}-${limit.from}` as CivilDate, to: `${year}-${limit.to}` as CivilDate },
          )
        }
      />
      {isYearly ? (
        <>
          <YearDayField label="First day" value={limit.from} onChange={from => put({ from })} />
          <YearDayField label="Last day" value={limit.to} onChange={to => put({ to })} />
        </>
      ) : (
        <>
          <DayField
            label="First day"
            date={limit.from as CivilDate}
            onDate={from => from && put({ from: from as CivilDate })}
          />
          <DayField label="Last day" date={limit.to as CivilDate} onDate={to => to && put({ to: to as CivilDate })} />
        </>
      )}
    </>
  );
}

function LimitFields({ limit, onChange }: { limit: Limit; onChange: (limit: Limit) => void }) {
  const number = (label: string, name: string, value: number, least = 1) => (
    <NumberField
      label={label}
      value={value}
      onNumber={typed => typed !== null && typed >= least && onChange({ ...limit, [name]: typed } as Limit)}
    />
  );
  const own = (): ReactNode => {
    switch (limit.rule) {
      case 'notice':
        return (
          <>
            {number('For more than, in days', 'over', limit.over, 0)}
            {number('Days before', 'days', limit.days)}
          </>
        );
      case 'most a year':
      case 'most an event':
      case 'most ever':
      case 'longest run':
        return number('Days', 'days', limit.days, 0.5);
      case 'most a year for each child':
        return (
          <>
            {number('Days for each child', 'days', limit.days, 0.5)}
            {number('Under the age of', 'under', limit.under)}
          </>
        );
      case 'bridge days':
        return number('Days', 'days', limit.days, 0);
      case 'turn':
        return (
          <>
            <TextField
              label="What it is called"
              value={limit.name}
              onChange={event => onChange({ ...limit, name: event.target.value })}
              sx={{ width: 190 }}
              autoComplete="off"
            />
            <YearDayField label="First day" value={limit.from} onChange={from => onChange({ ...limit, from })} />
            <YearDayField label="Last day" value={limit.to} onChange={to => onChange({ ...limit, to })} />
          </>
        );
      case 'waiting':
        return number('Months after joining', 'months', limit.months);
      case 'closed':
        return <ClosedDays limit={limit} onChange={onChange} />;
      case 'presence':
        return null;
      case 'evidence':
        return number('For more than, in days', 'after', limit.after, 0);
    }
  };
  return (
    <>
      {own()}
      {limit.rule !== 'evidence' && (
        <ChoiceField
          label="Otherwise"
          value={limit.how}
          options={strengths}
          onChange={id => onChange({ ...limit, how: id as Strength } as Limit)}
        />
      )}
    </>
  );
}

/** Days of an absence, typed with commas between them; what is no day is left as it was typed and not taken. */
function DaysField({ days, onDays }: { days: readonly number[]; onDays: (days: number[]) => void }) {
  const [text, setText] = useState(days.join(', '));
  const parts = text
    .split(/[,\s]+/)
    .filter(Boolean)
    .map(Number);
  const isGood = parts.length <= 10 && parts.every(day => Number.isInteger(day) && day >= 1 && day <= 3660);
  return (
    <TextField
      label="Days of an absence"
      value={text}
      onChange={event => {
        setText(event.target.value);
        const typed = event.target.value
          .split(/[,\s]+/)
          .filter(Boolean)
          .map(Number);
        if (typed.length <= 10 && typed.every(day => Number.isInteger(day) && day >= 1 && day <= 3660)) onDays(typed);
      }}
      error={!isGood}
      helperText={
        isGood ? 'With commas between, as 28, 42. Empty if HR is not told.' : 'At most ten whole numbers, as 28, 42.'
      }
      autoComplete="off"
      sx={{ width: 300 }}
    />
  );
}

type Codes = Pick<LeaveTypeRules, 'payCode' | 'payLater'>;

/** What pay knows it by, and by what else once an absence lasts longer. */
function PayCodes({ rules, onChange }: { rules: Codes; onChange: (codes: Codes) => void }) {
  const { payCode, payLater = [] } = rules;
  const put = (n: number, more: Partial<(typeof payLater)[number]>) =>
    onChange({ ...rules, payLater: payLater.map((one, i) => (i === n ? { ...one, ...more } : one)) });
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <TextField
        label="Pay code"
        value={payCode ?? ''}
        onChange={event => onChange({ ...rules, payCode: event.target.value.trim() ? event.target.value : undefined })}
        autoComplete="off"
      />
      {payLater.map((one, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: codes have no identity besides their place
        <Box key={n} sx={{ display: 'flex', gap: 1, alignItems: 'start', flexWrap: 'wrap' }}>
          <NumberField
            label="After days of one absence"
            value={one.after}
            onNumber={typed => typed !== null && typed >= 1 && put(n, { after: Math.round(typed) })}
            width={200}
          />
          <TextField
            label="Pay code from then on"
            value={one.code}
            onChange={event => put(n, { code: event.target.value })}
            autoComplete="off"
            sx={{ width: 170 }}
          />
          <Button
            color="error"
            onClick={() => onChange({ ...rules, payLater: payLater.filter((_, i) => i !== n) })}
            sx={{ mt: 0.5 }}
          >
            Remove
          </Button>
        </Box>
      ))}
      <Box>
        <Button
          onClick={() => onChange({ ...rules, payLater: [...payLater, { after: 42, code: payCode ?? '1' }] })}
          disabled={payLater.length >= 5}
        >
          Another code for long absence
        </Button>
      </Box>
    </Box>
  );
}

type Props = {
  rules: LeaveTypeRules;
  types: readonly { readonly id: string; readonly name: string }[];
  onChange: (rules: LeaveTypeRules) => void;
};

/** The fields of one sentence of a leave type. */
export function typeFields({ rules, types, onChange }: Props, about: TypeAbout): ReactNode {
  const put = (more: Partial<LeaveTypeRules>) => onChange({ ...rules, ...more });
  /** Takes a part away where nothing is said of it. */
  const drop = (name: keyof LeaveTypeRules) => {
    const { [name]: _, ...rest } = rules;
    onChange(rest as LeaveTypeRules);
  };
  const perhaps = (
    name:
      | 'longest'
      | 'daysBack'
      | 'daysAhead'
      | 'earnsUntil'
      | 'earnedMonths'
      | 'earnedMost'
      | 'spellMonths'
      | 'tellsReturn',
    label: string,
    help: string,
  ) => (
    <NumberField
      label={label}
      value={rules[name] ?? null}
      help={help}
      onNumber={typed => (typed === null ? drop(name) : put({ [name]: typed }))}
      width={260}
    />
  );
  switch (about) {
    case 'counting':
      return (
        <ChoiceField
          label="Counted by"
          value={rules.counting}
          options={[
            { id: 'scheduled', name: 'scheduled days' },
            { id: 'weekday', name: 'Monday to Friday' },
            { id: 'calendar', name: 'days of the calendar' },
          ]}
          onChange={id => put({ counting: id as LeaveTypeRules['counting'] })}
        />
      );
    case 'takesFrom':
      return (
        <>
          <ChoiceField
            label="Takes from"
            value={rules.takesFrom}
            options={[
              { id: 'plan', name: 'the leave plan' },
              { id: 'earned', name: 'time earned' },
              { id: 'other', name: 'another type’s balance' },
              { id: 'nothing', name: 'no balance' },
            ]}
            onChange={id => put({ takesFrom: id as LeaveTypeRules['takesFrom'] })}
          />
          {rules.takesFrom === 'other' && (
            <ChoiceField
              label="Whose balance"
              value={rules.balanceOf ?? ''}
              options={types.filter(one => one.id !== rules.id)}
              onChange={balanceOf => put({ balanceOf })}
            />
          )}
        </>
      );
    case 'overdraft':
      return (
        <NumberField
          label="Below zero, at most"
          value={rules.overdraft}
          onNumber={typed => put({ overdraft: Math.max(0, typed ?? 0) })}
        />
      );
    case 'portion':
      return (
        <>
          <ChoiceField
            label="Asked for"
            value={rules.times ? 'times' : 'halves'}
            options={[
              { id: 'halves', name: 'by whole and half days' },
              { id: 'times', name: 'also with times' },
            ]}
            onChange={id => (id === 'times' ? put({ times: true }) : drop('times'))}
          />
          {rules.times && (
            <ChoiceField
              label="Smallest portion of a day"
              value={String(rules.portion ?? 0.5)}
              options={[1, 0.5, 0.25, 0.125].map(one => ({ id: String(one), name: String(one) }))}
              onChange={id => put({ portion: Number(id) as NonNullable<LeaveTypeRules['portion']> })}
            />
          )}
        </>
      );
    case 'openEnd':
      return (
        <ChoiceField
          label="Its last day"
          value={rules.openEnd ? 'later' : 'asked'}
          options={[
            { id: 'asked', name: 'is said when it is asked for' },
            { id: 'later', name: 'may be told later' },
          ]}
          onChange={id => (id === 'later' ? put({ openEnd: true }) : drop('openEnd'))}
        />
      );
    case 'longest':
      return perhaps('longest', 'At most so many days at once', 'Nothing for two years.');
    case 'daysBack':
      return (
        <>
          {perhaps('daysBack', 'Days back', 'Nothing where it is not asked for afterwards.')}
          <TextField
            label="Whom to turn to for more"
            value={rules.turnTo ?? ''}
            onChange={event => (event.target.value ? put({ turnTo: event.target.value }) : drop('turnTo'))}
            autoComplete="off"
          />
        </>
      );
    case 'daysAhead':
      return perhaps('daysAhead', 'Days ahead', '0 where it is told once it begins; nothing where it does not matter.');
    case 'insideLeave':
      return (
        <ChoiceField
          label="Inside booked leave"
          value={rules.insideLeave ?? 'refused'}
          options={[
            { id: 'refused', name: 'is not asked for' },
            { id: 'gives back', name: 'gives the days back' },
          ]}
          onChange={id => (id === 'refused' ? drop('insideLeave') : put({ insideLeave: 'gives back' }))}
        />
      );
    case 'earnsUntil':
      return perhaps('earnsUntil', 'Leave is earned for so many days of it', 'Nothing where it is earned throughout.');
    case 'kindReadBy':
      return (
        <ChoiceField
          label="Which kind it is, is read by"
          value={rules.kindReadBy ?? 'line'}
          options={[
            { id: 'line', name: 'the line above and HR' },
            { id: 'HR', name: 'HR alone' },
          ]}
          onChange={id => (id === 'line' ? drop('kindReadBy') : put({ kindReadBy: 'HR' }))}
        />
      );
    case 'earned':
      return (
        <>
          {perhaps('earnedMonths', 'Lapses after so many months', 'Empty if it does not lapse.')}
          {perhaps('earnedMost', 'Hours on the balance, at most', 'Empty for any number.')}
        </>
      );
    case 'spells':
      return perhaps('spellMonths', 'One cause counts on within months', 'Empty if each absence counts by itself.');
    case 'tellsHr':
      return (
        <DaysField
          days={rules.tellsHr ?? []}
          onDays={days => (days.length === 0 ? drop('tellsHr') : put({ tellsHr: days }))}
        />
      );
    case 'tellsReturn':
      return perhaps('tellsReturn', 'Days before the return', 'Empty if nobody is told.');
    case 'payCode':
      return (
        <PayCodes
          rules={rules}
          onChange={({ payCode, payLater }) => {
            const { payCode: _c, payLater: _l, ...rest } = rules;
            onChange({
              ...rest,
              ...(payCode ? { payCode } : {}),
              ...(payLater && payLater.length > 0 ? { payLater } : {}),
            });
          }}
        />
      );
    default: {
      const n = Number(about.slice('limits.'.length));
      const limits = rules.limits ?? [];
      const limit = limits[n];
      if (!limit) return null;
      return (
        <>
          <LimitFields
            limit={limit}
            onChange={changed => put({ limits: limits.map((one, i) => (i === n ? changed : one)) })}
          />
          <Button color="error" onClick={() => put({ limits: limits.filter((_, i) => i !== n) })} sx={{ mt: 0.5 }}>
            Take it away
          </Button>
        </>
      );
    }
  }
}
