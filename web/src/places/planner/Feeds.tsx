/** Calendars for other programs, on secret addresses: made, renewed and taken away. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { FeedMade, PlannerView } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { feedsQuery, queryClient, setsQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';

function Address({ made }: { made: FeedMade }) {
  const [copied, setCopied] = useState(false);
  return (
    <Box sx={{ borderLeft: '3px solid', borderColor: 'primary.main', pl: 1.5, py: 0.5 }}>
      <Typography variant="body2">
        This is the address. It is shown this once: whoever has it reads the calendar, so keep it to yourself.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <TextField
          label="Address of the calendar"
          value={made.address}
          fullWidth
          slotProps={{ htmlInput: { readOnly: true } }}
          onFocus={event => event.target.select()}
        />
        <Button
          onClick={() => {
            void navigator.clipboard?.writeText(made.address).then(() => setCopied(true));
          }}
        >
          {copied ? 'Copied' : 'Copy'}
        </Button>
      </Box>
    </Box>
  );
}

export function Feeds({ groups }: { groups: PlannerView['groups'] }) {
  const { self } = useHere();
  const year = useYear();
  const [open, setOpen] = useState(false);
  const [of, setOf] = useState('self');
  const [made, setMade] = useState<FeedMade | null>(null);
  const feeds = useQuery({ ...feedsQuery, enabled: open });
  const sets = useQuery({ ...setsQuery, enabled: open });
  const done = (address: FeedMade | null) => {
    setMade(address);
    void queryClient.invalidateQueries({ queryKey: ['feeds'] });
  };
  const [kind, group] = of.split('=') as [string, string | undefined];
  const make = useMutation({
    mutationFn: () => call('POST /feeds', { body: { of: kind as 'self', group: group ?? null } }),
    onSuccess: done,
  });
  const renew = useMutation({
    mutationFn: (id: number) => call('POST /feeds/:id/renew', { params: { id } }),
    onSuccess: done,
  });
  const drop = useMutation({
    mutationFn: (id: number) => call('DELETE /feeds/:id', { params: { id } }),
    onSuccess: () => done(null),
  });
  const close = () => {
    setOpen(false);
    setMade(null);
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>As a calendar</Button>
      <Dialog open={open} onClose={close} fullWidth maxWidth="sm">
        <DialogTitle>Calendars for other programs</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <Typography variant="body2">
            A calendar program reads the address again and again, and shows who is away as you may see it here.
          </Typography>
          {made && <Address made={made} />}
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
            <TextField
              select
              label="Of"
              value={of}
              onChange={event => setOf(event.target.value)}
              sx={{ minWidth: 220 }}
            >
              <MenuItem value="self">me alone</MenuItem>
              <MenuItem value="team">my teams</MenuItem>
              {(sets.data ?? [])
                .filter(set => set.place === 'planner')
                .map(set => (
                  <MenuItem key={`set=${set.id}`} value={`set=${set.id}`}>
                    {set.name}, a set
                  </MenuItem>
                ))}
              {groups.map(one => (
                <MenuItem key={`${one.kind}=${one.id}`} value={`${one.kind}=${one.id}`}>
                  {one.kind === 'place' || one.kind === 'department' ? `${one.name}, ${one.kind}` : one.name}
                </MenuItem>
              ))}
            </TextField>
            <Button variant="contained" color="primary" disabled={make.isPending} onClick={() => make.mutate()}>
              Make a calendar
            </Button>
          </Box>
          <FailureNote fault={make.error ?? renew.error ?? drop.error} />
          <Box component="ul" aria-label="Your calendars" sx={{ listStyle: 'none', p: 0, m: 0 }}>
            {(feeds.data ?? []).map(feed => (
              <Box
                component="li"
                key={feed.id}
                sx={{
                  display: 'flex',
                  gap: 1,
                  alignItems: 'center',
                  py: 0.75,
                  borderBottom: '1px solid',
                  borderColor: 'divider',
                }}
              >
                <Box sx={{ flex: 1 }}>
                  {feed.name}
                  <Typography variant="body2" color="textSecondary">
                    {feed.readAt
                      ? `last read ${momentWords(feed.readAt, self.zone, year)}`
                      : `made ${momentWords(feed.madeAt, self.zone, year)}, not read yet`}
                  </Typography>
                </Box>
                <Button
                  size="small"
                  aria-label={`Another address for ${feed.name}`}
                  onClick={() => renew.mutate(feed.id)}
                >
                  Another address
                </Button>
                <Button
                  size="small"
                  color="error"
                  aria-label={`Take ${feed.name} away`}
                  onClick={() => drop.mutate(feed.id)}
                >
                  Take it away
                </Button>
              </Box>
            ))}
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={close}>Done</Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
