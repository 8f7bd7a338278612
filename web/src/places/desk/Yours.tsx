/** What whoever asks looks for: the balance, the next leave, one's own open requests and where they are, what to ask. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { AskableRow, BalanceView, RequestRow } from '@north-pebble/contract';
import { addDays, amountOfUnit, type CivilDate, civilDateAt, dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link as RouterLink } from 'react-router';
import { askableQuery, balanceQuery, plannerRowsQuery, requestsQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';

/** How far ahead the next leave is looked for. */
const ahead = 180;
const few = 5;

const open: readonly RequestRow['status'][] = ['open', 'rework', 'stuck'];

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ minWidth: 0 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        {title}
      </Typography>
      {children}
    </Box>
  );
}

function Balances({ balance }: { balance: BalanceView | undefined }) {
  if (!balance) return <Typography color="textSecondary">…</Typography>;
  if (balance.types.length === 0)
    return (
      <Typography variant="body2" color="textSecondary">
        You have no plan with a balance.
      </Typography>
    );
  return balance.types.map(type => (
    <Typography key={type.id} sx={{ fontVariantNumeric: 'tabular-nums' }}>
      <Link component={RouterLink} to="/balances">
        {amountOfUnit(type.statement.balance, type.statement.unit)}
      </Link>{' '}
      of {type.name.toLowerCase()}
      {type.held > 0 && (
        <Typography component="span" variant="body2" color="textSecondary">
          {' '}
          · {amountOfUnit(type.held, type.statement.unit)} asked for
        </Typography>
      )}
    </Typography>
  ));
}

function NextLeave() {
  const { self, now } = useHere();
  const year = useYear();
  const today = civilDateAt(now, self.zone);
  const planner = useQuery(
    plannerRowsQuery(`from=${today}&to=${addDays(today, ahead)}`, `only=${encodeURIComponent(self.id)}`),
  );
  if (!planner.data) return <Typography color="textSecondary">…</Typography>;
  const next = planner.data.rows[0]?.bars.toSorted((a, b) => a.first - b.first)[0];
  if (!next)
    return (
      <Typography variant="body2" color="textSecondary">
        Nothing is booked in the next half year.
      </Typography>
    );
  const [from, to] = [addDays(today, next.first >> 1), addDays(today, next.last >> 1)];
  const days = (from: CivilDate, to: CivilDate) =>
    from === to ? dateWords(from, year) : `${dateWords(from, year)} to ${dateWords(to, year)}`;
  return (
    <>
      <Typography>
        <Link component={RouterLink} to="/planner">
          {days(from, to)}
        </Link>
      </Typography>
      <Typography variant="body2" color="textSecondary">
        {next.label}
      </Typography>
    </>
  );
}

function Open({ rows }: { rows: readonly RequestRow[] | undefined }) {
  const here = rows?.filter(row => open.includes(row.status)) ?? [];
  if (!rows) return <Typography color="textSecondary">…</Typography>;
  if (here.length === 0)
    return (
      <Typography variant="body2" color="textSecondary">
        None of your requests is open.
      </Typography>
    );
  return (
    <>
      {here.slice(0, few).map(row => (
        <Box key={row.id} sx={{ mb: 0.75 }}>
          <Link component={RouterLink} to={`/requests/${row.id}`}>
            {row.title}
          </Link>
          <Typography variant="body2" color="textSecondary">
            {row.standing}
          </Typography>
        </Box>
      ))}
      {here.length > few && (
        <Link component={RouterLink} to="/requests" variant="body2">
          All {here.length}
        </Link>
      )}
    </>
  );
}

function MayAsk({ rows }: { rows: readonly AskableRow[] | undefined }) {
  if (!rows) return <Typography color="textSecondary">…</Typography>;
  if (rows.length === 0) return <Typography color="textSecondary">Nothing yet: no workflow is live.</Typography>;
  const shown = rows.slice(0, few + 2);
  return (
    <>
      {shown.map(row => (
        <Typography key={row.id}>
          <Link component={RouterLink} to={`/ask/${row.id}`}>
            {row.name}
          </Link>
        </Typography>
      ))}
      {rows.length > shown.length && (
        <Typography>
          <Link component={RouterLink} to="/requests">
            All {rows.length}
          </Link>
        </Typography>
      )}
    </>
  );
}

export function Yours() {
  const { self } = useHere();
  const balance = useQuery(balanceQuery(self.id));
  const requests = useQuery(requestsQuery);
  const askable = useQuery(askableQuery);
  return (
    <Box
      component="section"
      aria-label="Yours"
      sx={{
        mt: 3,
        pt: 2,
        borderTop: '1px solid',
        borderColor: 'divider',
        display: 'grid',
        columnGap: 4,
        rowGap: 2.5,
        gridTemplateColumns: { xs: '1fr', sm: 'repeat(2, minmax(0, 1fr))' },
      }}
    >
      <Part title="Your balance">
        <Balances balance={balance.data} />
      </Part>
      <Part title="Your next leave">
        <NextLeave />
      </Part>
      <Part title="Your open requests">
        <Open rows={requests.data} />
      </Part>
      <Part title="Start a request">
        <MayAsk rows={askable.data} />
      </Part>
    </Box>
  );
}
