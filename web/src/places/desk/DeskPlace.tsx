/** The desk: what waits for me on the left, the selected one with its facts and its outcomes on the right. */

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Skeleton from '@mui/material/Skeleton';
import Typography from '@mui/material/Typography';
import { type DeskItem, type DeskView, may } from '@north-pebble/contract';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useCallback, useEffect, useRef, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { fetched } from '../../api/fetched.ts';
import { deskQuery } from '../../api/queries.ts';
import { useHere } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { PendingBar } from '../../parts/request/deciding/PendingBar.tsx';
import { type Decision, usePendingDecisions } from '../../parts/request/deciding/pending.ts';
import { Finished } from '../../parts/request/finished.ts';
import { isTyping } from '../../parts/typing.ts';
import { AccessWaits } from './AccessWaits.tsx';
import { Batch } from './Batch.tsx';
import { DeskRow } from './DeskRow.tsx';
import { Done } from './Done.tsx';
import { Filters } from './Filters.tsx';
import { filterIn, fits } from './filter.ts';
import { HouseToday } from './HouseToday.tsx';
import { useSelection } from './selection.ts';
import { groupOf, groups } from './urgency.ts';
import { Yours } from './Yours.tsx';

const numberWords = [
  'Nothing waits',
  'One thing waits',
  'Two things wait',
  'Three things wait',
  'Four things wait',
  'Five things wait',
  'Six things wait',
  'Seven things wait',
  'Eight things wait',
  'Nine things wait',
];
const deskTitle = (n: number): string => `${numberWords[n] ?? `${n} things wait`} for you`;

function DeskRows({
  desk,
  items,
  selected,
  open,
  chosen,
  choose,
}: {
  desk: DeskView;
  items: DeskItem[];
  selected: DeskItem | undefined;
  open: (id: string) => void;
  chosen: readonly string[];
  choose: (requests: readonly string[]) => void;
}) {
  // Whoever has chosen one can add others of the same step only.
  const step = items.find(item => chosen.includes(item.request))?.batch?.step;
  return groups.map(group => {
    const rows = items.filter(item => groupOf(item, desk.now, desk.zone) === group);
    if (rows.length === 0) return null;
    return (
      <Box component="section" key={group} aria-label={group}>
        <Typography
          variant="overline"
          component="h2"
          sx={{ display: 'block', mt: 2, mb: 0.5, color: group === 'Past the limit' ? 'error.main' : 'text.secondary' }}
        >
          {group}
        </Typography>
        {rows.map(item => (
          <DeskRow
            key={`${item.kind}-${item.request}`}
            item={item}
            desk={desk}
            group={group}
            selected={item === selected && chosen.length < 2}
            chosen={chosen.includes(item.request)}
            onChoose={
              item.batch && (step === undefined || step === item.batch.step)
                ? on => choose(on ? [...chosen, item.request] : chosen.filter(request => request !== item.request))
                : null
            }
            onOpen={() => open(item.request)}
          />
        ))}
      </Box>
    );
  });
}

const withItem = (search: URLSearchParams, item: string): URLSearchParams => {
  const next = new URLSearchParams(search);
  next.set('item', item);
  return next;
};

// The list can be used before what opens from it has come; it is fetched at once behind it.
const detail = () => fetched(() => import('./Detail.tsx'));
const Detail = lazy(async () => ({ default: (await detail()).Detail }));

/** Says when what it stands beside has come. */
function Shown({ onShown }: { onShown: () => void }) {
  useEffect(onShown, [onShown]);
  return null;
}

/** Below this width the request stands under the list. */
const narrow = 900;

type Failed = { decision: Decision; fault: unknown };

function Desk({ desk }: { desk: DeskView }) {
  const { self } = useHere();
  const keepsHouse = may(self, 'help requests on');
  const [search, setSearch] = useSearchParams();
  const [failed, setFailed] = useState<readonly Failed[]>([]);
  const [marked, choose] = useState<readonly string[]>([]);
  const [noteForAll, setNoteForAll] = useState('');
  const { pending, decide, undo, flush } = usePendingDecisions((decision, fault) =>
    setFailed(before => [...before, { decision, fault }]),
  );
  const answered = pending?.decisions.map(decision => decision.request) ?? [];
  const waiting = desk.items.filter(item => !answered.includes(item.request));
  const filter = filterIn(search);
  const items = waiting.filter(item => fits(item, filter));
  const chosen = items.filter(item => item.batch && marked.includes(item.request));
  const alike = items.filter(item => item.batch && item.batch.step === chosen[0]?.batch?.step);
  const asked = search.get('item');
  const selection = useSelection(
    waiting.map(item => item.request),
    asked,
    items.map(item => item.request),
  );
  const { finish, show } = selection;
  const selected = items.find(item => item.request === selection.open);
  const open = (id: string) => {
    show(id);
    setSearch(before => withItem(before, id), { replace: true });
    // On a narrow screen the request stands below the list.
    if (window.innerWidth < narrow) setTimeout(() => document.getElementById('selected-request')?.scrollIntoView(), 50);
  };

  // A link from a mail, opened on a narrow screen, leads to the request and not to the list above it.
  const linked = useRef(asked);
  const onShown = useCallback(() => {
    if (!linked.current || window.innerWidth >= narrow) return;
    linked.current = null;
    setTimeout(() => document.getElementById('selected-request')?.scrollIntoView(), 50);
  }, []);

  const takeBack = () => {
    for (const request of [...answered].reverse()) show(request);
    undo();
  };
  const takeBackNow = useRef(takeBack);
  takeBackNow.current = takeBack;
  useEffect(() => {
    if (!pending) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'z' || !(event.ctrlKey || event.metaKey) || isTyping(event.target)) return;
      event.preventDefault();
      takeBackNow.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [pending]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target)) return;
      if (event.key !== 'j' && event.key !== 'k') return;
      const at = selected ? items.indexOf(selected) : -1;
      const next = items[at + (event.key === 'j' ? 1 : -1)];
      if (!next) return;
      show(next.request);
      setSearch(before => withItem(before, next.request), { replace: true });
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [items, selected, setSearch, show]);

  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 452px' },
        minHeight: 'calc(100vh - 49px)',
      }}
    >
      <Page title={deskTitle(waiting.filter(item => !item.aside).length)} wide>
        <Filters items={waiting} />
        {failed.map(({ decision, fault }) => (
          <Box key={decision.id} sx={{ maxWidth: 640 }}>
            <FailureNote fault={fault} />
            <Typography variant="body2" sx={{ mb: 2 }}>
              This was not carried out. {decision.words}
              {decision.note ? `, with the note “${decision.note}”` : ''}.{' '}
              <Link component={RouterLink} to={`/requests/${decision.request}`}>
                See {decision.request} as it is now
              </Link>
            </Typography>
          </Box>
        ))}
        {items.length === 0 && waiting.length > 0 && (
          <Typography color="textSecondary">Nothing that waits fits these filters.</Typography>
        )}
        {waiting.length === 0 && (
          <Typography color="textSecondary" sx={{ maxWidth: 560 }}>
            Requests that need your answer, and your own that were sent back, stand here.
          </Typography>
        )}
        <DeskRows
          desk={desk}
          items={items}
          selected={selected}
          open={open}
          chosen={chosen.map(item => item.request)}
          choose={choose}
        />
        <AccessWaits />
        {keepsHouse && <HouseToday />}
        <Yours />
        <Done desk={desk} />
      </Page>
      {selection.open && (
        <Box
          component="aside"
          id="selected-request"
          aria-label="The selected request"
          sx={{
            bgcolor: 'background.paper',
            borderLeft: '1px solid',
            borderColor: 'divider',
            px: { xs: 2, sm: 3.25 },
            py: 2.5,
          }}
        >
          {chosen.length > 1 ? (
            <Batch
              chosen={chosen}
              alike={alike}
              note={noteForAll}
              onNote={setNoteForAll}
              onChoose={choose}
              onDecide={(decisions, words) => {
                setFailed([]);
                finish(decisions.map(decision => decision.request));
                const sent = decisions.map(decision => ({
                  ...decision,
                  onSent: () => {
                    decision.onSent();
                    choose(before => before.filter(request => request !== decision.request));
                  },
                }));
                decide(sent, words);
              }}
            />
          ) : (
            <Finished value={request => finish([request])}>
              <Suspense fallback={<Skeleton variant="rounded" height={320} />}>
                <Shown onShown={onShown} />
                <Detail
                  key={selection.open}
                  id={selection.open}
                  gone={selection.gone}
                  onGoOn={() => finish(selection.open ? [selection.open] : [])}
                  onDecide={decision => {
                    setFailed([]);
                    finish([decision.request]);
                    decide([decision]);
                  }}
                />
              </Suspense>
            </Finished>
          )}
        </Box>
      )}
      <PendingBar pending={pending} onUndo={takeBack} onSend={() => flush()} />
    </Box>
  );
}

export function DeskPlace() {
  const desk = useQuery(deskQuery);
  return (
    <Box>
      {desk.data ? (
        <Desk desk={desk.data} />
      ) : (
        <Page title="Desk">
          <Loaded query={desk}>{() => null}</Loaded>
        </Page>
      )}
    </Box>
  );
}
