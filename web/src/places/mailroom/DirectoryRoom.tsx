/** The directory of the demo: accounts, groups and spaces as they are there, changed by hand, and what can go wrong. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { DirectoryRoomView, Switches, TurnSwitches } from '@north-pebble/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { call } from '../../api/client.ts';
import { directoryRoomQuery, queryClient } from '../../api/queries.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Loaded } from '../../parts/Page.tsx';

const refresh = () => queryClient.invalidateQueries({ queryKey: ['directory room'] });

const counted: readonly [keyof Switches & keyof TurnSwitches, string][] = [
  ['nextConflicts', 'answer that a name is taken (409)'],
  ['nextTooMany', 'answer that it is too much (429)'],
  ['nextBroken', 'answer that it is broken (500)'],
  ['nextLost', 'do it, and lose the answer'],
  ['nextHalfBulks', 'do half of what goes together'],
];

function SwitchBoard({ switches }: { switches: Switches }) {
  const turn = useMutation({
    mutationFn: (body: TurnSwitches) => call('PUT /mailroom/directory/switches', { body }),
    onSuccess: refresh,
  });
  return (
    <Box component="section" aria-label="Switches" sx={{ mb: 3 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        What goes wrong
      </Typography>
      <Box sx={{ display: 'grid', gap: 0.5 }}>
        <FormControlLabel
          control={<Checkbox size="small" checked={switches.down} onChange={(_, down) => turn.mutate({ down })} />}
          label="It is down: nobody answers"
        />
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={switches.slow > 0}
              onChange={(_, on) => turn.mutate({ slow: on ? 4000 : 0 })}
            />
          }
          label="It is slow: four seconds for each answer"
        />
        {counted.map(([key, words]) => (
          <Box key={key} sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
            <Button size="small" onClick={() => turn.mutate({ [key]: Number(switches[key]) + 1 })}>
              Next call
            </Button>
            <Typography variant="body2">
              {words}
              {Number(switches[key]) > 0 && <b> · {Number(switches[key])} to come</b>}
            </Typography>
          </Box>
        ))}
      </Box>
      <FailureNote fault={turn.error} />
    </Box>
  );
}

function Accounts({ view }: { view: DirectoryRoomView }) {
  const change = useMutation({
    mutationFn: ({ id, active }: { id: string; active: boolean }) =>
      call('PUT /mailroom/directory/accounts/:id', { params: { id }, body: { active } }),
    onSuccess: refresh,
  });
  return (
    <Box component="section" aria-label="Accounts">
      <Typography variant="overline" component="h2" color="textSecondary">
        {view.found} {view.found === 1 ? 'account' : 'accounts'}, those that changed last first
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {view.accounts.map(one => (
          <Box
            component="li"
            key={one.id}
            sx={{
              display: 'flex',
              gap: 1.5,
              py: 0.6,
              borderBottom: '1px solid',
              borderColor: 'divider',
              alignItems: 'baseline',
              flexWrap: 'wrap',
            }}
          >
            <Typography sx={{ fontWeight: 600, minWidth: 170 }}>{one.account}</Typography>
            <Typography variant="body2" color="textSecondary" sx={{ flex: 1, minWidth: 160 }}>
              {[one.name, ...one.groups].join(' · ')}
            </Typography>
            <Typography variant="body2" sx={{ color: one.active ? 'success.main' : 'text.secondary' }}>
              {one.active ? 'can be used' : 'is disabled'}
            </Typography>
            <Button
              size="small"
              aria-label={`${one.active ? 'Disable' : 'Enable'} ${one.account} by hand`}
              disabled={change.isPending}
              onClick={() => change.mutate({ id: one.id, active: !one.active })}
            >
              {one.active ? 'Disable' : 'Enable'}
            </Button>
          </Box>
        ))}
      </Box>
      <FailureNote fault={change.error} />
    </Box>
  );
}

export function DirectoryRoom() {
  const [words, setWords] = useState('');
  const room = useQuery(directoryRoomQuery(useDeferredValue(words)));
  return (
    <Loaded query={room}>
      {view => (
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 340px' }, gap: 4 }}>
          <Box sx={{ minWidth: 0 }}>
            <TextField
              fullWidth
              label="Filter by account or name"
              value={words}
              onChange={event => setWords(event.target.value)}
              sx={{ mb: 1.5 }}
            />
            {view.reachable ? (
              <Accounts view={view} />
            ) : (
              <Note tone="stop" title="The directory does not answer" role="alert">
                What North Pebble asks of it waits, and is asked again when it is back.
              </Note>
            )}
          </Box>
          <Box component="aside">
            {view.switches && <SwitchBoard switches={view.switches} />}
            <Typography variant="overline" component="h2" color="textSecondary">
              Groups
            </Typography>
            {view.groups.map(one => (
              <Typography key={one.id} variant="body2">
                {one.name}: {one.members} {one.members === 1 ? 'member' : 'members'}
              </Typography>
            ))}
            <Typography variant="overline" component="h2" color="textSecondary" sx={{ mt: 2, display: 'block' }}>
              Spaces
            </Typography>
            {view.spaces.slice(0, 12).map(one => (
              <Typography key={one.id} variant="body2">
                {one.name}, {one.owner}
                {one.closed && ', closed'}
              </Typography>
            ))}
          </Box>
        </Box>
      )}
    </Loaded>
  );
}
