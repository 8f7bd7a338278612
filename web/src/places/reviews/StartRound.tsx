/** A new round: which groups, who is asked, until when, and what becomes of what nobody answers. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { ReviewsView, StartReview } from '@north-pebble/contract';
import type { CivilDate } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { queryClient, reviewsQuery } from '../../api/queries.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { FailureNote } from '../../parts/Notes.tsx';

export function StartRound({ offers }: { offers: ReviewsView['offers'] }) {
  const [connection, setConnection] = useState(offers[0].connection);
  const [groups, setGroups] = useState<readonly string[]>([]);
  const [by, setBy] = useState<StartReview['by']>('owner');
  const [due, setDue] = useState('');
  const [unanswered, setUnanswered] = useState<StartReview['unanswered']>('up');
  const start = useMutation({
    mutationFn: () =>
      call('POST /reviews', { body: { connection, groups: [...groups], by, due: due as CivilDate, unanswered } }),
    onSuccess: view => {
      setGroups([]);
      queryClient.setQueryData(reviewsQuery.queryKey, view);
    },
  });
  const offered = offers.find(one => one.connection === connection)?.groups ?? [];
  return (
    <Box
      component="form"
      noValidate
      aria-label="A new round"
      onSubmit={event => {
        event.preventDefault();
        start.mutate();
      }}
      sx={{ mt: 4, maxWidth: 520, display: 'grid', gap: 1.5 }}
    >
      <Typography variant="overline" component="h2" color="textSecondary">
        A new round
      </Typography>
      {offers.length > 1 && (
        <TextField select label="Connection" value={connection} onChange={event => setConnection(event.target.value)}>
          {offers.map(one => (
            <MenuItem key={one.connection} value={one.connection}>
              {one.connection}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
        <Typography component="legend" variant="body2" color="textSecondary">
          Groups
        </Typography>
        {offered.map(group => (
          <FormControlLabel
            key={group}
            sx={{ display: 'flex' }}
            control={
              <Checkbox
                size="small"
                checked={groups.includes(group)}
                onChange={(_, on) => setGroups(on ? [...groups, group] : groups.filter(one => one !== group))}
              />
            }
            label={group}
          />
        ))}
      </Box>
      <TextField select label="Who is asked" value={by} onChange={event => setBy(event.target.value as typeof by)}>
        <MenuItem value="owner">whoever answers for the group</MenuItem>
        <MenuItem value="manager">the line manager of each</MenuItem>
      </TextField>
      <DayField label="Answered by" date={due} onDate={setDue} />
      <TextField
        select
        label="What nobody answers"
        value={unanswered}
        onChange={event => setUnanswered(event.target.value as typeof unanswered)}
      >
        <MenuItem value="up">goes to the manager of whoever was asked, for a week; then it is taken away</MenuItem>
        <MenuItem value="remove">is taken away</MenuItem>
      </TextField>
      {start.error && <FailureNote fault={start.error} />}
      <Button
        type="submit"
        variant="contained"
        color="primary"
        disabled={start.isPending || groups.length === 0 || due === ''}
        sx={{ justifySelf: 'start' }}
      >
        {start.isPending ? 'Reading who has access …' : 'Begin the round'}
      </Button>
    </Box>
  );
}
