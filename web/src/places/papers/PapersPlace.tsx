/** The register of papers: what runs out when, whose it is, and what is done about each kind. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PaperRow, PapersView } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { papersQuery, queryClient } from '../../api/queries.ts';
import { FilterField } from '../../parts/form/FilterField.tsx';
import { useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { Why } from '../../parts/Why.tsx';
import { Holder } from './Holder.tsx';
import { Looks } from './Looks.tsx';
import { Months } from './Months.tsx';
import { RulesOfPapers } from './RulesOfPapers.tsx';

const stateWords: Record<PaperRow['state'], string> = {
  good: '',
  'runs out': 'runs out soon',
  'ran out': 'ran out',
  replaced: 'replaced',
  'thrown away': 'thrown away',
};
const stateColour: Record<PaperRow['state'], string> = {
  good: 'text.secondary',
  'runs out': 'warning.main',
  'ran out': 'error.main',
  replaced: 'text.secondary',
  'thrown away': 'text.secondary',
};

function NumberOf({ row }: { row: PaperRow }) {
  const [shown, setShown] = useState<string | null>(null);
  const show = useMutation({
    mutationFn: () => call('POST /papers/:id/number', { params: { id: row.id } }),
    onSuccess: ({ number }) => {
      setShown(number ?? 'none');
      return queryClient.invalidateQueries({ queryKey: ['papers'] });
    },
  });
  if (row.number === null) return <span>–</span>;
  return (
    <>
      {shown ?? row.number}{' '}
      {shown === null && (
        <Link
          component="button"
          type="button"
          disabled={show.isPending}
          onClick={() => show.mutate()}
          aria-label={`Show the number of ${row.holder}’s ${row.kind}`}
          sx={{ fontSize: 12.5 }}
        >
          Show
        </Link>
      )}
      <FailureNote fault={show.error} />
    </>
  );
}

function RowOf({ row }: { row: PaperRow }) {
  const year = useYear();
  const isGone = row.state === 'thrown away';
  return (
    <Box
      component="tr"
      sx={{ '& td': { borderTop: '1px solid', borderColor: 'divider', py: 1, pr: 2, verticalAlign: 'top' } }}
    >
      <td>
        <Typography component="span" sx={{ fontWeight: 600 }}>
          {row.holder}
        </Typography>
      </td>
      <td>{row.kind}</td>
      <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
        <NumberOf row={row} />
      </Box>
      <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
        {row.expires ? dateWords(row.expires, year) : 'never'}
        <Typography variant="body2" component="div" sx={{ color: stateColour[row.state] }}>
          {row.state === 'replaced' && row.replacedOn
            ? `replaced on ${dateWords(row.replacedOn, year)}`
            : isGone && row.forgottenOn
              ? `thrown away on ${dateWords(row.forgottenOn, year)}`
              : stateWords[row.state]}
        </Typography>
      </Box>
      <td>
        {row.renewal ? (
          <Link component={RouterLink} to={`/requests/${row.renewal}`}>
            {row.renewal}
          </Link>
        ) : (
          '–'
        )}
      </td>
      <td>
        {!isGone && (
          <Link href={`/api/papers/${row.id}/file`} download aria-label={`Open ${row.holder}’s ${row.kind}`}>
            Open
          </Link>
        )}
        <Why about={`${row.holder}, ${row.kind}`} words="About it">
          <Typography variant="body2">
            Kept on {dateWords(row.keptOn, year)}, given with{' '}
            <Link component={RouterLink} to={`/requests/${row.request}`}>
              {row.request}
            </Link>
            .{row.issued && ` Issued on ${dateWords(row.issued, year)}.`}
          </Typography>
          {!isGone && (
            <Typography variant="body2">
              {row.forgetOn
                ? `Everything of it is thrown away on ${dateWords(row.forgetOn, year)}, and that it was there is kept.`
                : 'It is kept for as long as its holder is here.'}
            </Typography>
          )}
          <Looks paper={row.id} count={row.looks} />
          {!row.isMine && <Holder row={row} />}
        </Why>
      </td>
    </Box>
  );
}

function Papers({
  view,
  ask,
  onAsk,
}: {
  view: PapersView;
  ask: URLSearchParams;
  onAsk: (key: string, value: string) => void;
}) {
  const month = ask.get('month') ?? '';
  return (
    <>
      <Months months={view.months} chosen={month} onChoose={one => onAsk('month', one === month ? '' : one)} />
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', my: 2 }}>
        <FilterField label="Holder or kind" value={ask.get('words') ?? ''} onFilter={words => onAsk('words', words)} />
        <TextField
          select
          label="Kind"
          value={view.kinds.includes(ask.get('kind') ?? '') ? ask.get('kind') : ''}
          onChange={event => onAsk('kind', event.target.value)}
          sx={{ minWidth: 180 }}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">every kind</MenuItem>
          {view.kinds.map(kind => (
            <MenuItem key={kind} value={kind}>
              {kind}
            </MenuItem>
          ))}
        </TextField>
        <Button
          aria-pressed={ask.get('which') === 'all'}
          onClick={() => onAsk('which', ask.get('which') === 'all' ? '' : 'all')}
        >
          {ask.get('which') === 'all' ? 'Only what is needed now' : 'Also what was replaced'}
        </Button>
      </Box>
      {view.rows.length === 0 ? (
        <Empty title="No paper is here">
          {month || ask.get('words') || ask.get('kind')
            ? 'Nothing that you may see is like that.'
            : 'Papers come here when a workflow keeps them.'}
        </Empty>
      ) : (
        <Box sx={{ overflowX: 'auto' }}>
          <Box component="table" sx={{ borderCollapse: 'collapse', width: '100%', fontSize: 14 }}>
            <thead>
              <Box
                component="tr"
                sx={{
                  '& th': {
                    textAlign: 'left',
                    fontWeight: 600,
                    fontSize: 13,
                    color: 'text.secondary',
                    pr: 2,
                    pb: 0.75,
                  },
                }}
              >
                <th scope="col">Holder</th>
                <th scope="col">Kind</th>
                <th scope="col">Number</th>
                <th scope="col">Valid until</th>
                <th scope="col">New one asked for</th>
                <th scope="col">The paper</th>
              </Box>
            </thead>
            <tbody>
              {view.rows.map(row => (
                <RowOf key={row.id} row={row} />
              ))}
            </tbody>
          </Box>
        </Box>
      )}
      {view.more > 0 && (
        <Typography color="textSecondary" sx={{ mt: 1 }}>
          {view.more} more are not shown; choose a month or a kind.
        </Typography>
      )}
      {view.mayRule && <RulesOfPapers view={view} />}
    </>
  );
}

export function PapersPlace() {
  const [ask, setAsk] = useSearchParams();
  const onAsk = (key: string, value: string) => {
    const next = new URLSearchParams(ask);
    if (value === '') next.delete(key);
    else next.set(key, value);
    setAsk(next, { replace: true });
  };
  const papers = useQuery(papersQuery(ask.toString()));
  return (
    <Page
      title="Papers"
      sub="What people gave to show who they are and what they may, and until when it is valid. Looks of others than their holder are kept."
    >
      <Loaded query={papers}>{view => <Papers view={view} ask={ask} onAsk={onAsk} />}</Loaded>
    </Page>
  );
}
