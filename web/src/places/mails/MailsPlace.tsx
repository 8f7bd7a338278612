/** How one wants one's mails: at once, together once a day, or not; and in which hours none. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControl from '@mui/material/FormControl';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormLabel from '@mui/material/FormLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { MailChoiceView } from '@north-pebble/contract';
import type { MailChoice } from '@north-pebble/core/people';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { mailChoiceQuery, queryClient } from '../../api/queries.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';

const words = {
  each: 'Each at once',
  daily: 'Together, once a day',
  off: 'None: you see them on your desk',
} as const;

function How<T extends keyof typeof words>({
  label,
  help,
  options,
  value,
  onChange,
}: {
  label: string;
  help: string;
  options: readonly T[];
  value: T;
  onChange: (value: T) => void;
}) {
  return (
    <FormControl>
      <FormLabel sx={{ fontWeight: 650, color: 'text.primary' }}>{label}</FormLabel>
      <Typography variant="body2" color="textSecondary">
        {help}
      </Typography>
      <RadioGroup aria-label={label} value={value} onChange={(_, next) => onChange(next as T)}>
        {options.map(option => (
          <FormControlLabel key={option} value={option} control={<Radio size="small" />} label={words[option]} />
        ))}
      </RadioGroup>
    </FormControl>
  );
}

/** `7`, `730` and `7.30` as `07:00` and `07:30`; what is no time stays as it was typed. */
function asTime(text: string): string {
  const found = /^(\d{1,2}?)[:.h ]?(\d{2})?$/.exec(text.trim());
  const [hours, minutes] = [Number(found?.[1]), Number(found?.[2] ?? 0)];
  if (!found || hours > 23 || minutes > 59) return text;
  return `${String(hours).padStart(2, '0')}:${String(minutes).padStart(2, '0')}`;
}

function Time({
  label,
  value,
  onChange,
  fault,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  fault?: string | undefined;
}) {
  return (
    <TextField
      size="small"
      required
      label={label}
      placeholder="07:30"
      value={value}
      error={fault !== undefined}
      helperText={fault}
      onChange={event => onChange(event.target.value)}
      onBlur={() => onChange(asTime(value))}
      slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: 'numeric', maxLength: 5 } }}
      sx={{ width: 150 }}
    />
  );
}

function Choice({ view }: { view: MailChoiceView }) {
  const [choice, setChoice] = useState<MailChoice>(view.choice);
  const save = useMutation({
    mutationFn: () => call('PUT /mail-choice', { body: choice }),
    onSuccess: saved => queryClient.setQueryData(mailChoiceQuery.queryKey, saved),
  });
  const change = (part: Partial<MailChoice>) => {
    setChoice({ ...choice, ...part });
    save.reset();
  };
  const problem = problemOf(save.error);
  const { quiet } = choice;
  const isDaily = choice.own === 'daily' || choice.role === 'daily';
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate();
  };
  return (
    <Box component="form" aria-label="Your mails" onSubmit={submit} sx={{ display: 'grid', gap: 3, maxWidth: 560 }}>
      <How
        label="What comes to you"
        help="Decisions and tasks of your own, and news of what you asked for."
        options={['each', 'daily']}
        value={choice.own}
        onChange={own => change({ own })}
      />
      <How
        label="What comes to a role of yours"
        help={
          view.roles.length > 0
            ? `Whoever holds it gets these too: ${view.roles.join(', ')}.`
            : 'You hold no role now; this counts as soon as you do.'
        }
        options={['each', 'daily', 'off']}
        value={choice.role}
        onChange={role => change({ role })}
      />
      {isDaily && (
        <Time
          label="The daily mail at"
          value={choice.dailyAt}
          fault={problem?.faults?.find(f => f.field === 'dailyAt')?.message}
          onChange={dailyAt => change({ dailyAt })}
        />
      )}
      <Box>
        <FormControlLabel
          control={
            <Checkbox
              checked={quiet !== null}
              onChange={(_, on) => change({ quiet: on ? { from: '19:00', to: '07:00' } : null })}
            />
          }
          label="Quiet hours: mails wait until they are over"
        />
        {quiet && (
          <Box sx={{ display: 'flex', gap: 1.5, mt: 1 }}>
            <Time
              label="From"
              value={quiet.from}
              fault={problem?.faults?.find(f => f.field === 'quiet.from')?.message}
              onChange={from => change({ quiet: { ...quiet, from } })}
            />
            <Time
              label="To"
              value={quiet.to}
              fault={problem?.faults?.find(f => f.field === 'quiet.to')?.message}
              onChange={to => change({ quiet: { ...quiet, to } })}
            />
          </Box>
        )}
      </Box>
      {problem && !problem.faults?.length && <FailureNote fault={save.error} />}
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        <Button type="submit" variant="contained" color="primary" disabled={save.isPending}>
          Save
        </Button>
        <Typography variant="body2" color="textSecondary" role="status">
          {save.isSuccess ? 'Saved. It counts from the next mail on.' : `Times are those of ${view.zone}.`}
        </Typography>
      </Box>
      {choice.own === 'daily' && (
        <Note tone="waiting" title="Limits go on counting">
          What comes at noon and is due in the evening is told of in the next daily mail only. It stands on your desk at
          once.
        </Note>
      )}
    </Box>
  );
}

export function MailsPlace() {
  const choice = useQuery(mailChoiceQuery);
  return (
    <Page title="Your mails" sub="How North Pebble writes to you. Your desk always shows everything at once.">
      <Loaded query={choice}>{view => <Choice view={view} />}</Loaded>
    </Page>
  );
}
