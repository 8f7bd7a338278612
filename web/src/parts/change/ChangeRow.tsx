/** A change that was made: what it says, who made it when and why, and taking it back. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { FactChangeView } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { call } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { useHere, useYear } from '../frame/session.ts';
import { FailureNote } from '../Notes.tsx';

export function ChangeRow({ one, may }: { one: FactChangeView; may: boolean }) {
  const { self } = useHere();
  const year = useYear();
  const [asks, setAsks] = useState(false);
  const [reason, setReason] = useState('');
  const back = useMutation({
    mutationFn: () => call('POST /records/changes/:id/back', { params: { id: one.id }, body: { reason } }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['records'] }),
  });
  return (
    <Box component="li" sx={{ py: 1.25, borderBottom: '1px solid', borderColor: 'divider' }}>
      {one.takesBack !== null && (
        <Typography variant="body2" sx={{ color: 'secondary.main', fontWeight: 600 }}>
          Taken back
        </Typography>
      )}
      {one.says.map(words => (
        <Typography key={words} sx={one.takenBack ? { textDecoration: 'line-through', color: 'text.secondary' } : null}>
          {words}
        </Typography>
      ))}
      <Typography variant="body2" color="textSecondary">
        {one.who ?? (one.request ? 'A request' : 'The directory')}, {momentWords(one.at, self.zone, year)}: {one.reason}
        {one.request && (
          <>
            {' '}
            <Link component={RouterLink} to={`/requests/${one.request}`}>
              {one.request}
            </Link>
          </>
        )}
      </Typography>
      {may && one.takesBack === null && !one.takenBack && (
        <Box sx={{ mt: 0.5 }}>
          {asks ? (
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'start', flexWrap: 'wrap' }}>
              <TextField
                label="Why it is taken back"
                value={reason}
                onChange={event => setReason(event.target.value)}
              />
              <Button
                variant="contained"
                size="small"
                disabled={reason.trim() === '' || back.isPending}
                onClick={() => back.mutate()}
                sx={{ mt: 0.5 }}
              >
                Take it back
              </Button>
              <Button size="small" onClick={() => setAsks(false)} sx={{ mt: 0.5 }}>
                Leave it
              </Button>
            </Box>
          ) : (
            <Link component="button" type="button" sx={{ fontSize: 13 }} onClick={() => setAsks(true)}>
              Take it back
            </Link>
          )}
          <FailureNote fault={back.error} />
        </Box>
      )}
    </Box>
  );
}
