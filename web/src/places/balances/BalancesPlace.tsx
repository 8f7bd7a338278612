/** Balances: a statement with a running balance, what lapses, and the way to the end of the year. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import type { Theme } from '@mui/material/styles';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import Typography from '@mui/material/Typography';
import { type BalanceView, may } from '@north-pebble/contract';
import { linesThrough, type StatementLine } from '@north-pebble/core/leave';
import {
  amountOfUnit,
  amountWords,
  type CivilDate,
  dateWords,
  rangeWords,
  shortDate,
  yearOf,
} from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Fragment } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { balanceQuery } from '../../api/queries.ts';
import { useHere } from '../../parts/frame/session.ts';
import { Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { BookLeave, LetPass, Passes } from '../../parts/request/leave/KeepLeave.tsx';
import { lineWords } from '../../parts/request/leave/LeaveWhy.tsx';
import { ScrollStrip } from '../../parts/ScrollStrip.tsx';
import { ReasonRows, Why } from '../../parts/Why.tsx';
import { BalanceChart } from './BalanceChart.tsx';
import { Adjust } from './kept/Adjust.tsx';
import { FromElsewhere } from './kept/FromElsewhere.tsx';
import { OpeningBalance } from './kept/OpeningBalance.tsx';
import { WhatIf } from './WhatIf.tsx';

type OneType = BalanceView['types'][number];

const lineColour: Record<StatementLine['kind'], string> = {
  accrued: 'success.main',
  carried: 'text.secondary',
  lapsed: 'error.main',
  adjustment: 'secondary.main',
  taken: 'text.primary',
  restated: 'warning.main',
  'brought along': 'text.secondary',
  opening: 'text.secondary',
};

/** On a narrow screen a line of the statement stands in two rows: when and how much, then what and why. */
const onTelephone = (theme: Theme) => ({
  [theme.breakpoints.down('sm')]: {
    '& thead': { position: 'absolute', left: -9999 },
    '& tbody tr': {
      display: 'grid',
      gridTemplateColumns: 'minmax(0, 1fr) auto minmax(64px, max-content)',
      borderBottom: '1px solid',
      borderColor: 'var(--mui-palette-divider)',
      paddingBlock: '6px',
    },
    '& tbody td, & tbody th': { border: 0, paddingBlock: '1px', paddingRight: 0 },
    '& .what': { gridRow: 2, gridColumn: '1 / -1' },
    '& .why': { gridRow: 3, gridColumn: '1 / -1' },
  },
});

function Lines({ lines, year, today }: { lines: StatementLine[]; year: number; today: CivilDate }) {
  return (
    <Box
      component="table"
      sx={[
        {
          borderCollapse: 'collapse',
          width: '100%',
          fontSize: 14,
          '& td, & th': { py: 0.8, borderBottom: '1px solid', borderColor: 'divider', textAlign: 'left', pr: 2 },
          '& .n': { textAlign: 'right', whiteSpace: 'nowrap', pr: 0, pl: 2 },
        },
        onTelephone,
      ]}
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
        {lines.map((line, i) => {
          const isAhead = line.date > today;
          // The first line, from the newest on, that has come already.
          const isToday = !isAhead && i > 0 && (lines[i - 1]?.date ?? today) > today;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: a statement is worked out whole each time
            <Fragment key={i}>
              {isToday && (
                <tr>
                  <Box component="th" scope="rowgroup" colSpan={5} sx={{ color: 'primary.main', fontWeight: 650 }}>
                    Today, {dateWords(today, year)}
                  </Box>
                </tr>
              )}
              <Box component="tr" sx={isAhead ? { '& td': { borderBottomStyle: 'dashed' } } : undefined}>
                <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
                  {line.until ? rangeWords(line.date, line.until, year) : dateWords(line.date, year)}
                </Box>
                <Box
                  component="td"
                  className="what"
                  sx={{ color: lineColour[line.kind], fontWeight: 600, whiteSpace: 'nowrap' }}
                >
                  {wordsOf(line, isAhead)}
                </Box>
                <Box component="td" className="why" sx={{ color: 'text.secondary' }}>
                  <Reason line={line} />
                </Box>
                <Box component="td" className="n">
                  {signed(line.amount)}
                  {line.unit && line.amount !== 0 && ` ${line.unit}`}
                  {line.days && line.days.length > 1 && (
                    <Why about={`${signed(line.amount)}, day by day`}>
                      <ReasonRows
                        rows={line.days.map(day => ({
                          key: day.date,
                          what: dateWords(day.date, year),
                          note: '',
                          amount: signed(day.amount),
                        }))}
                      />
                    </Why>
                  )}
                </Box>
                <Box component="td" className="n" sx={{ fontWeight: 650 }}>
                  {line.unit ? amountOfUnit(line.balance, line.unit) : amountWords(line.balance)}
                </Box>
              </Box>
            </Fragment>
          );
        })}
      </tbody>
    </Box>
  );
}

const signed = (amount: number): string =>
  amount === 0 ? '' : amount > 0 ? `+${amountWords(amount)}` : amountWords(amount);

/** What is still to come is called by what it is now. */
function wordsOf(line: StatementLine, isAhead: boolean): string {
  if (line.kind === 'taken') return line.held ? 'Asked for' : isAhead ? 'Booked' : 'Taken';
  if (!isAhead) return lineWords[line.kind];
  return {
    accrued: 'To be earned',
    carried: 'To be carried',
    lapsed: 'Will lapse',
    adjustment: 'Adjusted',
    restated: 'Restated',
    'brought along': 'To be brought along',
    opening: 'Opening',
  }[line.kind];
}

/** The request that a line names leads to it. */
function Reason({ line: { reason, request } }: { line: StatementLine }) {
  const at = request ? reason.indexOf(request) : -1;
  if (!request || at < 0) return reason;
  return (
    <>
      {reason.slice(0, at)}
      <Link component={RouterLink} to={`/requests/${request}`}>
        {request}
      </Link>
      {reason.slice(at + request.length)}
    </>
  );
}

function Statement({ type, view }: { type: OneType; view: BalanceView }) {
  const { today } = view;
  const year = Number(today.slice(0, 4));
  const { statement, ahead } = type;
  // What is booked, asked for, earned and lapses until the year’s end stands above what has been.
  const lines = linesThrough(statement, ahead, today)
    .filter(line => yearOf(line.date) >= year - 1)
    .toReversed();
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
            <Lines lines={lines} year={year} today={today} />
          </ScrollStrip>
        </Box>
      </Box>
      <Box component="aside" aria-label="In short">
        <Note tone="now" title={`${amountOfUnit(statement.balance, statement.unit)} today`}>
          {type.held > 0
            ? `${amountOfUnit(type.held, statement.unit)} of it asked for in requests that are open.`
            : 'No open request asks for any of it.'}
        </Note>
        {statement.expiring.map(e => (
          <Note
            key={e.on}
            tone="waiting"
            title={`${amountOfUnit(e.amount, statement.unit)} to use by ${shortDate(e.on, year)}`}
          >
            Carried over from last year; what is left of it lapses at the end of that day.
          </Note>
        ))}
        <Note tone="now" title={`${amountOfUnit(ahead.balance, ahead.unit)} at the end of ${year}`}>
          with everything booked and asked for until then.
        </Note>
        <Typography variant="body2" color="textSecondary">
          Plan: {statement.plan}. Worked out anew from employment, bookings and adjustments each time.
        </Typography>
        <Button
          size="small"
          component="a"
          href={`/api/balances/${view.person}/statement.pdf?type=${encodeURIComponent(type.id)}`}
          download
          sx={{ mt: 1.5 }}
        >
          As a paper
        </Button>
        <WhatIf view={view} type={type.id} />
      </Box>
    </Box>
  );
}

export function BalancesPlace() {
  const [search, setSearch] = useSearchParams();
  const balance = useQuery(balanceQuery(search.get('person') ?? 'me'));
  const { self } = useHere();
  const maySeeOthers = may(self, 'read every record') || self.looksAfterSome;
  return (
    <Page
      title={balance.data ? `Balances of ${balance.data.name}` : 'Balances'}
      actions={
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <Button component={RouterLink} to="/wishes">
            Wishes
          </Button>
          {maySeeOthers && (
            <Button component={RouterLink} to="/balances/everyone">
              Everybody’s
            </Button>
          )}
          {balance.data && balance.data.bookable.length > 0 && (
            <>
              {balance.data.person !== self.id && (
                <LetPass person={balance.data.person} name={balance.data.name} types={balance.data.bookable} />
              )}
              {may(self, 'keep records') && balance.data.person !== self.id && balance.data.types.length > 0 && (
                <>
                  <OpeningBalance view={balance.data} />
                  <Adjust view={balance.data} />
                </>
              )}
              {may(self, 'keep records') && balance.data.person !== self.id && <FromElsewhere view={balance.data} />}
              <BookLeave person={balance.data.person} name={balance.data.name} types={balance.data.bookable} />
            </>
          )}
        </Box>
      }
    >
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
              <Passes
                person={view.person}
                types={view.bookable}
                may={view.bookable.length > 0 && view.person !== self.id}
              />
              <Statement key={chosen.id} type={chosen} view={view} />
            </>
          );
        }}
      </Loaded>
    </Page>
  );
}
