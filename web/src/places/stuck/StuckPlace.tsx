/** Everything that cannot go on: its cause, and what helps, for one or for many at once. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { StuckRow } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import type { Command, ToWhom } from '@north-pebble/core/workflow';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { call, commandId, problemOf } from '../../api/client.ts';
import { queryClient, stuckQuery } from '../../api/queries.ts';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { Coming } from './Coming.tsx';

const causes: Record<StuckRow['cause'], string> = {
  'no holder': 'Nobody is found for a step',
  'no value': 'Something cannot be worked out',
  'days have passed': 'The days have passed',
  'holder gone': 'It is with somebody who has left',
  'past every limit': 'Past every limit',
  'timer failing': 'Something due does not happen',
  'step failing': 'A step fails',
  'mail not delivered': 'A mail does not go out',
  'not done outside': 'A system outside has not done its part',
};
const keyOf = (row: StuckRow) =>
  `${row.cause} ${row.request} ${row.task ?? row.step} ${row.outbox ?? row.timer ?? row.effect ?? ''}`;

type Help = { words: string; of: (row: StuckRow) => Promise<unknown> };

const give = (row: StuckRow, command: object) =>
  call('POST /requests/:id/commands', {
    params: { id: row.request },
    body: { id: commandId(), command: { seen: row.version, ...command } as Command },
  });

function Cause({ cause, rows }: { cause: StuckRow['cause']; rows: StuckRow[] }) {
  const { self } = useHere();
  const year = useYear();
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [to, setTo] = useState<ToWhom | null>(null);
  const [note, setNote] = useState('');
  const [refused, setRefused] = useState<Readonly<Record<string, string>>>({});
  const marked = rows.filter(row => chosen.includes(keyOf(row)));
  const help = useMutation({
    mutationFn: async ({ of }: Help) => {
      const left: Record<string, string> = {};
      for (const row of marked) {
        try {
          await of(row);
        } catch (fault) {
          left[keyOf(row)] = problemOf(fault)?.detail ?? 'It could not be sent.';
        }
      }
      return left;
    },
    onSuccess: async left => {
      setRefused(left);
      setChosen(Object.keys(left));
      await queryClient.invalidateQueries();
    },
  });
  const remedies = rows[0].remedies;
  const person = to && 'person' in to ? to.person : null;
  const effect = (how: 'again' | 'done') => (row: StuckRow) =>
    row.cause === 'step failing'
      ? call('POST /requests/:request/fault/again', { params: { request: row.request } })
      : row.timer === undefined
        ? call('POST /effects/:id', { params: { id: row.outbox ?? 0 }, body: { how } })
        : call('POST /timers/:key/again', { params: { key: row.timer } });
  const helps: Help[] = [
    ...(remedies.includes('try again')
      ? [{ words: 'Try again', of: (row: StuckRow) => give(row, { kind: 'try again' }) }]
      : []),
    ...(remedies.includes('send again')
      ? [
          {
            words: cause === 'timer failing' || cause === 'step failing' ? 'Try again now' : 'Send again',
            of: effect('again'),
          },
        ]
      : []),
    ...(remedies.includes('done by hand') && cause !== 'not done outside'
      ? [{ words: 'Done by hand', of: effect('done') }]
      : []),
  ];
  const outside = (kind: 'ask again' | 'done by hand' | 'go on without') => (row: StuckRow) =>
    give(row, { kind, key: row.effect, ...(kind === 'ask again' ? {} : { note: note.trim() }) });
  const named = remedies.includes('appoint') || remedies.includes('give to');
  const all = marked.length === rows.length;
  return (
    <Box component="section" aria-label={causes[cause]} sx={{ mb: 4 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Checkbox
          size="small"
          checked={all}
          indeterminate={marked.length > 0 && !all}
          onChange={() => setChosen(all ? [] : rows.map(keyOf))}
          slotProps={{ input: { 'aria-label': `All: ${causes[cause]}` } }}
        />
        <Typography variant="h3" component="h2">
          {causes[cause]}
        </Typography>
        <Typography color="textSecondary">{rows.length}</Typography>
      </Box>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {rows.map(row => {
          const key = keyOf(row);
          return (
            <Box
              component="li"
              key={key}
              sx={{
                display: 'grid',
                gridTemplateColumns: { xs: '38px 1fr', md: '38px minmax(0, 1.2fr) minmax(0, 1.6fr) 150px' },
                alignItems: 'center',
                columnGap: 1,
                py: 0.5,
                borderBottom: '1px solid',
                borderColor: 'divider',
                fontSize: 14,
              }}
            >
              <Checkbox
                size="small"
                checked={chosen.includes(key)}
                onChange={(_, on) => setChosen(on ? [...chosen, key] : chosen.filter(k => k !== key))}
                slotProps={{ input: { 'aria-label': `${row.request}, ${row.askerName}` } }}
              />
              <Box sx={{ minWidth: 0 }}>
                {row.cause !== 'mail not delivered' ? (
                  <Link component={RouterLink} to={`/requests/${row.request}`}>
                    {row.askerName}, {row.title}
                  </Link>
                ) : (
                  `${row.title}, to ${row.askerName}`
                )}
              </Box>
              <Box sx={{ gridColumn: { xs: '2', md: 'auto' } }}>
                {row.number && <b>Step {row.number}: </b>}
                {row.words}
                {refused[key] && (
                  <Typography role="alert" variant="body2" color="error">
                    {refused[key]}
                  </Typography>
                )}
              </Box>
              <Box sx={{ color: 'text.secondary', gridColumn: { xs: '2', md: 'auto' } }}>
                {momentWords(row.since, self.zone, year)}
              </Box>
            </Box>
          );
        })}
      </Box>
      {marked.length > 0 && (
        <Box sx={{ display: 'flex', gap: 1, mt: 1.25, alignItems: 'start', flexWrap: 'wrap' }}>
          {named && (
            <>
              <Box sx={{ width: 280 }}>
                <PersonField label="Who is to do it" onChange={setTo} />
              </Box>
              <Button
                variant="contained"
                color="primary"
                disabled={!person || help.isPending}
                onClick={() =>
                  help.mutate({
                    words: 'Assign it to them',
                    of: row => give(row, { kind: 'appoint', step: row.step, task: row.task, to: person }),
                  })
                }
              >
                Assign {marked.length} to them
              </Button>
            </>
          )}
          {cause === 'days have passed' && (
            <>
              <TextField
                size="small"
                label="Reason"
                value={note}
                onChange={event => setNote(event.target.value)}
                sx={{ minWidth: 320 }}
              />
              {(['book past', 'let end'] as const).map(kind => (
                <Button
                  key={kind}
                  disabled={help.isPending || note.trim() === ''}
                  onClick={() => help.mutate({ words: kind, of: row => give(row, { kind, reason: note.trim() }) })}
                >
                  {kind === 'book past' ? 'Book it' : 'Let it end'} ({marked.length})
                </Button>
              ))}
            </>
          )}
          {cause === 'not done outside' && (
            <>
              {remedies.includes('ask again') && (
                <Button
                  disabled={help.isPending}
                  onClick={() => help.mutate({ words: 'Ask again', of: outside('ask again') })}
                >
                  Ask again ({marked.length})
                </Button>
              )}
              <TextField
                size="small"
                label="Note: who did it, or why it is not needed"
                value={note}
                onChange={event => setNote(event.target.value)}
                sx={{ minWidth: 320 }}
              />
              {(['done by hand', 'go on without'] as const).map(kind => (
                <Button
                  key={kind}
                  disabled={help.isPending || note.trim() === ''}
                  onClick={() => help.mutate({ words: kind, of: outside(kind) })}
                >
                  {kind === 'done by hand' ? 'It is done by hand' : 'Go on without it'}
                </Button>
              ))}
            </>
          )}
          {helps.map(one => (
            <Button key={one.words} disabled={help.isPending} onClick={() => help.mutate(one)}>
              {one.words} ({marked.length})
            </Button>
          ))}
        </Box>
      )}
    </Box>
  );
}

export function StuckPlace() {
  const stuck = useQuery(stuckQuery);
  return (
    <Page title="What cannot go on" sub="Put the cause right and try again, or assign the step to somebody.">
      <Loaded query={stuck}>
        {rows =>
          rows.length === 0 ? (
            <Empty title="Everything goes on">
              Requests that nobody is found for, that cannot be worked out, or that are past every limit stand here.
            </Empty>
          ) : (
            (Object.keys(causes) as StuckRow['cause'][]).map(cause => {
              const own = rows.filter(row => row.cause === cause);
              return own.length > 0 && <Cause key={cause} cause={cause} rows={own} />;
            })
          )
        }
      </Loaded>
      <Coming />
    </Page>
  );
}
