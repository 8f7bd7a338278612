/** What stands at chosen days of somebody: each absence with the way to it, answers to what waits, and asking for the days. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Popover from '@mui/material/Popover';
import Typography from '@mui/material/Typography';
import type { PlannerBar, PlannerView } from '@north-pebble/contract';
import { addDays, rangeWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { askableQuery, requestQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { Loaded } from '../../parts/Page.tsx';
import { Outcomes } from '../../parts/request/deciding/Outcomes.tsx';
import type { Decision } from '../../parts/request/deciding/pending.ts';
import { useUnsent } from '../../parts/request/unsent.ts';
import type { Chosen } from './drawing/Drawing.tsx';

type OnDecide = (decision: Omit<Decision, 'id'>) => void;

/** The outcomes of a request that waits for the reader, as on the desk. */
function Deciding({ id, onDecide }: { id: string; onDecide: OnDecide }) {
  const request = useQuery(requestQuery(id));
  return (
    <Loaded query={request}>
      {view =>
        view.may.answer ? (
          <Answering request={view} onDecide={onDecide} />
        ) : (
          <Typography variant="body2">It does not wait for you any more.</Typography>
        )
      }
    </Loaded>
  );
}

function Answering({ request, onDecide }: { request: Parameters<typeof Outcomes>[0]['request']; onDecide: OnDecide }) {
  const [note, setNote, noteSent] = useUnsent(request, `note of ${request.may.answer}`, '');
  return (
    <Outcomes
      request={request}
      note={note}
      setNote={setNote}
      onDecide={decision =>
        onDecide({
          ...decision,
          onSent: () => {
            decision.onSent();
            noteSent();
          },
        })
      }
    />
  );
}

function Absence({ bar, onDecide }: { bar: PlannerBar; onDecide: OnDecide }) {
  return (
    <Box component="li" sx={{ py: 0.5 }}>
      {bar.request ? (
        <Link component={RouterLink} to={`/requests/${bar.request}`}>
          {bar.label}
        </Link>
      ) : (
        bar.label
      )}
      {bar.waits && bar.request && <Deciding id={bar.request} onDecide={onDecide} />}
    </Box>
  );
}

/** The workflows by which one asks for leave, each with these days in it. */
function Asking({ from, to }: { from: string; to: string }) {
  const askable = useQuery(askableQuery);
  const own = (askable.data ?? []).filter(row => row.leaveField !== null);
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}>
      {own.map(row => (
        <Button key={row.id} component={RouterLink} to={`/ask/${row.id}?from=${from}&to=${to}`} size="small">
          Ask for {row.name.toLowerCase()}
        </Button>
      ))}
    </Box>
  );
}

type Props = { chosen: Chosen; view: PlannerView; seesBalance: boolean; onClose: () => void; onDecide: OnDecide };

export function Beside({ chosen: { row, first, last, element }, view, seesBalance, onClose, onDecide }: Props) {
  const { self } = useHere();
  const year = useYear();
  const [from, to] = [addDays(view.from, first), addDays(view.from, last)];
  const bars = row.bars.filter(bar => bar.first <= last * 2 + 1 && bar.last >= first * 2);
  const isOwn = row.id === self.id;
  return (
    <Popover
      open
      anchorEl={element}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      slotProps={{ paper: { sx: { p: 2, maxWidth: 440, minWidth: 280 }, 'aria-label': row.name, role: 'dialog' } }}
    >
      <Typography variant="h3" component="h2">
        {row.name}
      </Typography>
      <Typography variant="body2" color="textSecondary">
        {rangeWords(from, to, year)}
      </Typography>
      {bars.length > 0 ? (
        <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0, mt: 0.5 }}>
          {bars.map(bar => (
            <Absence
              key={`${bar.first} ${bar.label}`}
              bar={bar}
              onDecide={decision => {
                onDecide(decision);
                onClose();
              }}
            />
          ))}
        </Box>
      ) : (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          {isOwn ? 'Nothing is booked or asked for here.' : 'Not away.'}
        </Typography>
      )}
      {isOwn && to >= view.today && <Asking from={from} to={to} />}
      {!isOwn && seesBalance && (
        <Button component={RouterLink} to={`/balances?person=${row.id}`} size="small" sx={{ mt: 1 }}>
          The balances of {row.name}
        </Button>
      )}
    </Popover>
  );
}
