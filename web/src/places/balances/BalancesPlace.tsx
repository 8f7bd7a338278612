/** Balances: a statement with a running balance, what lapses, and the way to the end of the year. */

import Box from '@mui/material/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import Typography from '@mui/material/Typography';
import type { BalanceView } from '@north-pebble/contract';
import type { StatementLine } from '@north-pebble/core/leave';
import { amountOfUnit, amountWords, dateWords, shortDate } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { balanceQuery } from '../../api/queries.ts';
import { lineWords } from '../../parts/LeaveWhy.tsx';
import { Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { ScrollStrip } from '../../parts/ScrollStrip.tsx';
import { BalanceChart } from './BalanceChart.tsx';

type OneType = BalanceView['types'][number];

const lineColour: Record<StatementLine['kind'], string> = {
  accrued: 'success.main',
  carried: 'text.secondary',
  lapsed: 'error.main',
  adjustment: 'secondary.main',
  taken: 'text.primary',
};

function Lines({ lines, year }: { lines: StatementLine[]; year: number }) {
  return (
    <Box
      component="table"
      sx={{
        borderCollapse: 'collapse',
        width: '100%',
        fontSize: 14,
        '& td, & th': { py: 0.8, borderBottom: '1px solid', borderColor: 'divider', textAlign: 'left', pr: 2 },
        '& .n': { textAlign: 'right', whiteSpace: 'nowrap', pr: 0, pl: 2 },
      }}
    >
      <thead>
        <Box component="tr" sx={{ color: 'text.secondary', '& th': { fontWeight: 500, fontSize: 13 } }}>
          <th scope="col">Date</th>
          <th scope="col">What</th>
          <th scope="col">Why</th>
          <th scope="col" className="n">
            Amount
          </th>
          <th scope="col" className="n">
            Balance
          </th>
        </Box>
      </thead>
      <tbody>
        {lines.map((line, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a statement is worked out whole each time
          <tr key={i}>
            <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
              {dateWords(line.date, year)}
            </Box>
            <Box component="td" sx={{ color: lineColour[line.kind], fontWeight: 600 }}>
              {lineWords[line.kind]}
            </Box>
            <Box component="td" sx={{ color: 'text.secondary' }}>
              {line.reason}
            </Box>
            <td className="n">
              {line.amount === 0 ? '' : line.amount > 0 ? `+${amountWords(line.amount)}` : amountWords(line.amount)}
            </td>
            <Box component="td" className="n" sx={{ fontWeight: 650 }}>
              {amountWords(line.balance)}
            </Box>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

function Statement({ type, today }: { type: OneType; today: string }) {
  const year = Number(today.slice(0, 4));
  const { statement, ahead } = type;
  const lines = statement.lines.filter(line => Number(line.date.slice(0, 4)) >= year - 1).toReversed();
  return (
    <Box
      sx={{
        display: 'grid',
        gap: { xs: 3, md: 5 },
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 320px' },
        alignItems: 'start',
      }}
    >
      <Box>
        <BalanceChart statement={statement} ahead={ahead} today={today} />
        <Box sx={{ mt: 2 }}>
          <ScrollStrip label="Statement">
            <Lines lines={lines} year={year} />
          </ScrollStrip>
        </Box>
      </Box>
      <Box component="aside" aria-label="In short">
        <Note tone="now" title={`${amountOfUnit(statement.balance, statement.unit)} today`}>
          {type.held > 0
            ? `${amountOfUnit(type.held, statement.unit)} of it held by requests that are open.`
            : 'Nothing is held by open requests.'}
        </Note>
        {statement.expiring.map(e => (
          <Note
            key={e.on}
            tone="waiting"
            title={`${amountOfUnit(e.amount, statement.unit)} to use by ${shortDate(e.on)}`}
          >
            Carried over from last year; what is left of it lapses at the end of that day.
          </Note>
        ))}
        <Note tone="now" title={`${amountOfUnit(ahead.balance, statement.unit)} at the end of ${year}`}>
          with everything booked and asked for until then.
        </Note>
        <Typography variant="body2" color="textSecondary">
          Plan: {statement.plan}. Worked out anew from employment, bookings and adjustments each time.
        </Typography>
      </Box>
    </Box>
  );
}

export function BalancesPlace() {
  const [search, setSearch] = useSearchParams();
  const balance = useQuery(balanceQuery(search.get('person') ?? 'me'));
  return (
    <Page title={balance.data ? `Balances of ${balance.data.name}` : 'Balances'}>
      <Loaded query={balance}>
        {view => {
          const chosen = view.types.find(t => t.id === search.get('type')) ?? view.types[0];
          if (!chosen) return <Empty title="No balance here">This person’s plan earns no leave.</Empty>;
          return (
            <>
              <Tabs
                value={chosen.id}
                onChange={(_, type: string) =>
                  setSearch(before => ({ ...Object.fromEntries(before), type }), { replace: true })
                }
                sx={{ mb: 2, minHeight: 36 }}
              >
                {view.types.map(type => (
                  <Tab key={type.id} value={type.id} label={type.name} sx={{ textTransform: 'none', minHeight: 36 }} />
                ))}
              </Tabs>
              <Statement key={chosen.id} type={chosen} today={view.today} />
            </>
          );
        }}
      </Loaded>
    </Page>
  );
}
