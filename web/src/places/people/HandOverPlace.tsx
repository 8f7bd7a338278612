/** Everything that somebody holds and others must have, given to somebody else together. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { HandOverView } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import { dateWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { call, problemOf } from '../../api/client.ts';
import { handOverQuery, queryClient } from '../../api/queries.ts';
import { AccessWords } from '../../parts/AccessWords.tsx';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { useYear } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';

type Item = HandOverView['items'][number];
const headings: Record<Item['what'], string> = {
  task: 'On their desk',
  request: 'Requests that they own',
  role: 'Roles',
  cover: 'Standing in for others',
  list: 'Lists',
  workflow: 'Workflows',
  report: 'Who reports to them',
};
const keyOf = ({ what, id }: Pick<Item, 'what' | 'id'>): string => `${what} ${id}`;

function Things({ view }: { view: HandOverView }) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [to, setTo] = useState('');
  const [reason, setReason] = useState('');
  const wanted = view.items.filter(one => !left.has(keyOf(one)));
  const give = useMutation({
    mutationFn: () =>
      call('POST /records/:person/hand-over', {
        params: { person: view.person.id },
        body: { to: to as PersonId, items: wanted.map(({ what, id }) => ({ what, id })), reason },
      }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['records'] }),
  });
  const faultOf = (field: string) => problemOf(give.error)?.faults?.find(one => one.field === field)?.message;
  const kinds = Object.keys(headings) as Item['what'][];
  return (
    <>
      {give.data && (
        <Note
          tone={give.data.stayed.length > 0 ? 'waiting' : 'good'}
          role="status"
          title={give.data.done === 1 ? 'One thing was handed over' : `${give.data.done} things were handed over`}
        >
          {give.data.stayed.map(one => (
            <div key={keyOf(one)}>
              {one.title} stays: {one.why}
            </div>
          ))}
        </Note>
      )}
      {view.items.length === 0 ? (
        <Empty title="Nothing is left to hand over">No task, role, cover, list, workflow or report is theirs.</Empty>
      ) : (
        <Box
          component="form"
          aria-label="Hand over"
          onSubmit={event => {
            event.preventDefault();
            give.mutate();
          }}
        >
          {kinds.map(what => {
            const own = view.items.filter(one => one.what === what);
            return (
              own.length > 0 && (
                <Box component="fieldset" key={what} sx={{ border: 0, p: 0, m: 0, mb: 2 }}>
                  <Typography component="legend" variant="h3">
                    {headings[what]}
                  </Typography>
                  {own.map(one => (
                    <Box key={keyOf(one)}>
                      <FormControlLabel
                        label={one.title}
                        control={
                          <Checkbox
                            checked={!left.has(keyOf(one))}
                            onChange={event => {
                              const next = new Set(left);
                              if (event.target.checked) next.delete(keyOf(one));
                              else next.add(keyOf(one));
                              setLeft(next);
                            }}
                          />
                        }
                      />
                      <Typography component="span" variant="body2" color="textSecondary">
                        Otherwise: {one.otherwise}{' '}
                        {one.link && (
                          <Link component={RouterLink} to={one.link}>
                            Look at it
                          </Link>
                        )}
                      </Typography>
                    </Box>
                  ))}
                </Box>
              )
            );
          })}
          <Box sx={{ display: 'grid', gap: 2, maxWidth: 460 }}>
            <PersonField
              label="To whom"
              {...(faultOf('to') ? { fault: faultOf('to') as string } : {})}
              onChange={one => setTo(one && 'person' in one ? one.person : '')}
            />
            <TextField
              label="Why"
              value={reason}
              onChange={event => setReason(event.target.value)}
              helperText="It goes with each task, and is kept with the change."
            />
            <FailureNote fault={problemOf(give.error)?.faults ? null : give.error} />
            <Box>
              <Button
                type="submit"
                variant="contained"
                color="primary"
                disabled={to === '' || reason.trim() === '' || wanted.length === 0 || give.isPending}
              >
                {give.isPending
                  ? 'One moment …'
                  : wanted.length === 1
                    ? 'Hand it over'
                    : `Hand ${wanted.length} things over`}
              </Button>
            </Box>
          </Box>
        </Box>
      )}
    </>
  );
}

function Outside({ access }: Pick<HandOverView, 'access'>) {
  const year = useYear();
  return (
    <Box component="section" aria-label="Access outside" sx={{ mt: 4 }}>
      <Typography variant="h3" component="h2">
        Access outside
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        {access.length === 0
          ? 'No access that a request gave stands.'
          : 'It is not handed over: a request takes it away, or it ends on its day.'}
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {access.map(one => (
          <Typography
            component="li"
            variant="body2"
            key={`${one.connection} ${one.what} ${one.request}`}
            sx={{ py: 0.5, borderBottom: '1px solid', borderColor: 'divider', overflowWrap: 'anywhere' }}
          >
            <AccessWords one={one} year={year} />
          </Typography>
        ))}
      </Box>
    </Box>
  );
}

export function HandOverPlace() {
  const { person = '' } = useParams();
  const found = useQuery(handOverQuery(person));
  const year = useYear();
  const view = found.data;
  return (
    <Page
      title={view ? `What ${view.person.name} hands over` : 'Handing over'}
      sub={view && (view.left ? `Their last day is ${dateWords(view.left, year)}.` : 'They have no last day on file.')}
      actions={
        <Button component={RouterLink} to={`/people/${person}`}>
          Their record
        </Button>
      }
    >
      <Loaded query={found}>
        {one => (
          <>
            <Things view={one} />
            <Outside access={one.access} />
          </>
        )}
      </Loaded>
    </Page>
  );
}
