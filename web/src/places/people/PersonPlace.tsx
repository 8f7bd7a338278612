/** One person as they are on file: today, through time, who reports to them, and every change with who, when and why. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { FactChangeView, PersonPageView } from '@north-pebble/contract';
import { dateWords, momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { call } from '../../api/client.ts';
import { personQuery, queryClient } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { Why } from '../../parts/Why.tsx';
import { RecordChange } from './RecordChange.tsx';
import { Through } from './Through.tsx';

const to = (id: string): string => `/people/${id}`;

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', gap: 2, py: 0.75, borderBottom: '1px solid', borderColor: 'divider' }}>
      <Typography component="dt" variant="body2" color="textSecondary" sx={{ width: 130, flexShrink: 0 }}>
        {name}
      </Typography>
      <Typography component="dd" variant="body2" sx={{ m: 0, minWidth: 0, overflowWrap: 'anywhere' }}>
        {children}
      </Typography>
    </Box>
  );
}

function Facts({ view }: { view: PersonPageView }) {
  const year = useYear();
  return (
    <Box component="dl" sx={{ m: 0 }}>
      <Fact name="Post">
        {view.posts.length === 0
          ? 'none on file'
          : view.posts.map(post => (post.main ? post.title : `${post.title} (beside it)`)).join(', ')}
      </Fact>
      <Fact name="Place">{view.place}</Fact>
      <Fact name="Department">{view.department}</Fact>
      <Fact name="Line manager">
        {view.manager ? (
          <Link component={RouterLink} to={to(view.manager.id)}>
            {view.manager.name}
          </Link>
        ) : (
          'nobody'
        )}{' '}
        <Why about={`the line manager of ${view.name}`}>
          {view.managerWhy.map(why => (
            <Typography key={why} variant="body2">
              {why}
            </Typography>
          ))}
        </Why>
      </Fact>
      {view.dottedTo && (
        <Fact name="Also answers to">
          <Link component={RouterLink} to={to(view.dottedTo.id)}>
            {view.dottedTo.name}
          </Link>
        </Fact>
      )}
      {view.roles.length > 0 && <Fact name="Roles">{view.roles.join(', ')}</Fact>}
      <Fact name="Here">
        {view.standing === 'comes' ? 'comes on' : 'since'} {dateWords(view.joined, year)}
        {view.left && `, ${view.standing === 'left' ? 'left on' : 'until'} ${dateWords(view.left, year)}`}
      </Fact>
      <Fact name="Mail">{view.mail}</Fact>
      {view.sees.balance && (
        <Fact name="More">
          <Link component={RouterLink} to={`/balances?person=${view.id}`}>
            Balances
          </Link>
        </Fact>
      )}
    </Box>
  );
}

function Change({ one, may }: { one: FactChangeView; may: boolean }) {
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
        {one.who ?? 'A request'}, {momentWords(one.at, self.zone, year)}: {one.reason}
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

function Person({ view }: { view: PersonPageView }) {
  const [isOpen, setIsOpen] = useState(false);
  return (
    <Box
      sx={{
        display: 'grid',
        gap: 4,
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1.5fr) minmax(0, 1fr)' },
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        {view.lines ? (
          <>
            <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
              What held when
            </Typography>
            <Through lines={view.lines} joined={view.joined} left={view.left} today={view.today} />
          </>
        ) : (
          <Typography variant="body2" color="textSecondary">
            What held when is seen by them, by the line above and by those in HR who look after them.
          </Typography>
        )}
        {view.choices && (
          <Box sx={{ mt: 2 }}>
            {isOpen ? (
              <RecordChange person={view.id} choices={view.choices} onDone={() => setIsOpen(false)} />
            ) : (
              <Button variant="contained" color="primary" onClick={() => setIsOpen(true)}>
                Change the record
              </Button>
            )}
          </Box>
        )}
        {view.changes && (
          <Box component="section" aria-label="Changes" sx={{ mt: 4 }}>
            <Typography variant="h3" component="h2">
              Changes
            </Typography>
            {view.changes.length === 0 ? (
              <Typography variant="body2" color="textSecondary">
                Nothing was changed since they are on file here.
              </Typography>
            ) : (
              <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0 }}>
                {view.changes.map(one => (
                  <Change key={one.id} one={one} may={view.choices !== null} />
                ))}
              </Box>
            )}
          </Box>
        )}
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
          Today
        </Typography>
        <Facts view={view} />
        {view.reports.length > 0 && (
          <>
            <Typography variant="h3" component="h2" sx={{ mt: 3, mb: 0.5 }}>
              Who reports to them
            </Typography>
            <Typography variant="body2" component="div">
              {view.reports.map((one, n) => (
                <span key={one.id}>
                  {n > 0 && ', '}
                  <Link component={RouterLink} to={to(one.id)}>
                    {one.name}
                  </Link>
                </span>
              ))}
            </Typography>
          </>
        )}
      </Box>
    </Box>
  );
}

export function PersonPlace() {
  const { person = '' } = useParams();
  const found = useQuery(personQuery(person));
  const view = found.data;
  return (
    <Page
      wide
      title={view?.name ?? 'A person'}
      sub={view && [view.posts[0]?.title, view.place].filter(Boolean).join(', ')}
      actions={
        <Button component={RouterLink} to="/people">
          People
        </Button>
      }
    >
      <Loaded query={found}>{one => <Person key={one.id} view={one} />}</Loaded>
    </Page>
  );
}
