/** One person as they are on file: today, through time, who reports to them, and every change with who, when and why. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { may, type PersonPageView } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { personQuery, recordChoicesQuery } from '../../api/queries.ts';
import { ChangeRow } from '../../parts/change/ChangeRow.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { Loaded, Page } from '../../parts/Page.tsx';
import { Why } from '../../parts/Why.tsx';
import { Circumstances } from './Circumstances.tsx';
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
  const { self } = useHere();
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
      {view.reads.includes('manager') && (
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
      )}
      {view.dottedTo && (
        <Fact name="Also answers to">
          <Link component={RouterLink} to={to(view.dottedTo.id)}>
            {view.dottedTo.name}
          </Link>
        </Fact>
      )}
      {view.roles.length > 0 && <Fact name="Roles">{view.roles.join(', ')}</Fact>}
      {(view.joined || view.left) && (
        <Fact name="Here">
          {[
            view.joined && `${view.standing === 'comes' ? 'comes on' : 'since'} ${dateWords(view.joined, year)}`,
            view.left && `${view.standing === 'left' ? 'left on' : 'until'} ${dateWords(view.left, year)}`,
          ]
            .filter(Boolean)
            .join(', ')}
        </Fact>
      )}
      {view.mail && <Fact name="Mail">{view.mail}</Fact>}
      {view.number && <Fact name="Personnel number">{view.number}</Fact>}
      {view.sees.balance && (
        <Fact name="More">
          <Link component={RouterLink} to={`/balances?person=${view.id}`}>
            Balances
          </Link>
          {may(self, 'read every record') && (
            <>
              {', '}
              <Link component={RouterLink} to={`/requests?whose=all&words=${encodeURIComponent(view.name)}`}>
                Requests
              </Link>
            </>
          )}
          {may(self, 'help requests on') && (
            <>
              {', '}
              <Link component={RouterLink} to={`/papers?words=${encodeURIComponent(view.name)}`}>
                Papers
              </Link>
            </>
          )}
          {view.mayChange && (
            <>
              {', '}
              <Link component={RouterLink} to={`/people/${view.id}/hand-over`}>
                What they hold
              </Link>
            </>
          )}
        </Fact>
      )}
    </Box>
  );
}

function Person({ view }: { view: PersonPageView }) {
  const [isOpen, setIsOpen] = useState(false);
  const choices = useQuery({ ...recordChoicesQuery, enabled: isOpen });
  return (
    <Box
      sx={{
        display: 'grid',
        gap: 4,
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1.5fr) minmax(0, 1fr)' },
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        {view.lines && view.joined ? (
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
        {view.mayChange && (
          <Box sx={{ mt: 2 }}>
            {isOpen ? (
              <Loaded query={choices}>
                {all => (
                  <RecordChange
                    person={view.id}
                    post={view.now?.post ?? null}
                    choices={all}
                    onDone={() => setIsOpen(false)}
                  />
                )}
              </Loaded>
            ) : (
              <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
                <Button variant="contained" color="primary" onClick={() => setIsOpen(true)}>
                  Change the record
                </Button>
                <Button component={RouterLink} to={`/people/${view.id}/hand-over`}>
                  Hand over
                </Button>
                <Button component={RouterLink} to={`/people/decides?person=${view.id}`}>
                  Who decides for them
                </Button>
              </Box>
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
                  <ChangeRow key={one.id} one={one} may={view.mayChange} />
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
        <Circumstances view={view} mayChange={view.mayChange} />
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
