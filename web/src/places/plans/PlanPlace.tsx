/** The plan of one request, counted back from its date: drawn, as a table, and what there is to say about it. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import type { PlanView, RequestView } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink, useParams, useSearchParams } from 'react-router';
import { requestQuery } from '../../api/queries.ts';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { PlanDrawing } from '../../parts/plan/PlanDrawing.tsx';
import { PlanNotes } from '../../parts/plan/PlanNotes.tsx';
import { PlanTable } from '../../parts/plan/PlanTable.tsx';
import { planStanding } from '../../parts/plan/planWords.ts';
import { MoveDate } from './MoveDate.tsx';

function Plan({ request, plan }: { request: RequestView; plan: PlanView }) {
  const [search, setSearch] = useSearchParams();
  const asTable = search.get('as') === 'table';
  const moving = search.has('move') && request.may.moveDate;
  const set = (key: string, value: string | null) => {
    const next = new URLSearchParams(search);
    if (value === null) next.delete(key);
    else next.set(key, value);
    setSearch(next, { replace: true });
  };
  const date = dateWords(plan.date, Number(plan.today.slice(0, 4)));
  return (
    <Page
      wide
      title={request.title}
      sub={
        <>
          <Link component={RouterLink} to={`/requests/${request.id}`}>
            {request.id}
          </Link>{' '}
          · the plan back from {plan.label}, {date}, at {plan.placeName} · {planStanding(plan)}
        </>
      }
      actions={
        <>
          <Button onClick={() => set('as', asTable ? null : 'table')}>{asTable ? 'As a drawing' : 'As a table'}</Button>
          {request.may.moveDate && !moving && <Button onClick={() => set('move', '')}>Move the date</Button>}
          <Button component={RouterLink} to="/requests/plans">
            All plans
          </Button>
        </>
      }
    >
      {moving && <MoveDate request={request} first={search.get('move') ?? ''} onDone={() => set('move', null)} />}
      <Box
        sx={{
          display: 'grid',
          gap: 3,
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 310px' },
          alignItems: 'start',
        }}
      >
        {asTable ? <PlanTable plan={plan} /> : <PlanDrawing plan={plan} />}
        <Box component="aside" aria-label="About the plan">
          <PlanNotes plan={plan} />
        </Box>
      </Box>
    </Page>
  );
}

export function PlanPlace() {
  const { id = '' } = useParams();
  const request = useQuery({ ...requestQuery(id), refetchInterval: 15_000 });
  if (request.data?.plan) return <Plan key={id} request={request.data} plan={request.data.plan} />;
  return (
    <Page title={`The plan of ${id}`}>
      <Loaded query={request}>
        {({ planMissing }) => (
          <Empty title="There is no plan">
            {planMissing ? `It cannot be counted back: ${planMissing}. ` : 'This request counts back from no date. '}
            <Link component={RouterLink} to={`/requests/${id}`}>
              Back to the request
            </Link>
          </Empty>
        )}
      </Loaded>
    </Page>
  );
}
