/** The desk: what waits for me on the left, the selected one with its facts and its outcomes on the right. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Link from '@mui/material/Link';
import Snackbar from '@mui/material/Snackbar';
import Typography from '@mui/material/Typography';
import type { DeskItem, DeskView } from '@north-pebble/contract';
import { civilDateAt, dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { deskQuery } from '../../api/queries.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { PersonPebble } from '../../parts/Pebble.tsx';
import { Detail } from './Detail.tsx';
import { type Decision, usePendingDecision } from './pending.ts';
import { dueShort, type Group, groupOf, groups } from './urgency.ts';

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

const taskWords = (item: DeskItem): string =>
  item.kind === 'rework'
    ? 'change and send again'
    : item.kind === 'stuck'
      ? 'stuck'
      : item.again
        ? 'decide, again'
        : 'decide';

function Row({
  item,
  desk,
  group,
  selected,
  onOpen,
}: {
  item: DeskItem;
  desk: DeskView;
  group: Group;
  selected: boolean;
  onOpen: () => void;
}) {
  const late = group === 'Past the limit';
  return (
    <ButtonBase
      onClick={onOpen}
      aria-current={selected ? 'true' : undefined}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '30px 1fr auto', sm: '30px 1fr 118px 110px' },
        gap: 1.25,
        alignItems: 'center',
        width: '100%',
        textAlign: 'left',
        px: 1.5,
        py: 1.1,
        borderRadius: '11px',
        border: '1px solid',
        borderColor: selected ? 'divider' : 'transparent',
        bgcolor: selected ? 'background.paper' : 'transparent',
        '&:hover': { bgcolor: 'background.paper' },
      }}
    >
      <PersonPebble name={item.askerName} />
      <Box sx={{ minWidth: 0 }}>
        <Typography noWrap>
          <b>{item.kind === 'rework' ? 'Your' : item.askerName}</b>
          {item.kind === 'rework' ? ` ${item.what}` : item.kind === 'stuck' ? `: ${item.what}` : ` wants ${item.what}`}
        </Typography>
        <Typography variant="body2" color="textSecondary" noWrap>
          {[item.coverFor && `you stand in for ${item.coverFor}`, ...item.facts].filter(Boolean).join(' · ')}
        </Typography>
      </Box>
      <Typography
        variant="body2"
        color={item.kind === 'rework' || item.again ? 'secondary' : 'textSecondary'}
        sx={{ display: { xs: 'none', sm: 'block' } }}
      >
        {taskWords(item)}
      </Typography>
      <Typography
        variant="body2"
        sx={{ textAlign: 'right', color: late ? 'error.main' : 'text.secondary', fontWeight: late ? 650 : 400 }}
      >
        {dueShort(item.due, desk.now, desk.zone)}
      </Typography>
    </ButtonBase>
  );
}

function Done({ desk }: { desk: DeskView }) {
  if (desk.done.length === 0) return null;
  let last = '';
  return (
    <Box component="section" sx={{ mt: 4 }} aria-label="What you did this week">
      <Typography variant="overline" component="h2" color="textSecondary">
        What you did this week
      </Typography>
      {desk.done.map(line => {
        const day = dateWords(civilDateAt(line.at, desk.zone));
        const heading = day === last ? '' : day;
        last = day;
        return (
          <Box
            key={`${line.request}-${line.at}`}
            sx={{ display: 'grid', gridTemplateColumns: '130px 1fr', fontSize: 13.5, py: 0.35 }}
          >
            <Box sx={{ color: 'text.secondary' }}>{heading}</Box>
            <Link component={RouterLink} to={`/requests/${line.request}`} color="textPrimary" sx={{ fontWeight: 400 }}>
              {line.text}
            </Link>
          </Box>
        );
      })}
    </Box>
  );
}

function DeskRows({
  desk,
  items,
  selected,
  open,
}: {
  desk: DeskView;
  items: DeskItem[];
  selected: DeskItem | undefined;
  open: (id: string) => void;
}) {
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
          <Row
            key={`${item.kind}-${item.request}`}
            item={item}
            desk={desk}
            group={group}
            selected={item === selected}
            onOpen={() => open(item.request)}
          />
        ))}
      </Box>
    );
  });
}

type Failed = { decision: Decision; fault: unknown };

function Desk({ desk }: { desk: DeskView }) {
  const [search, setSearch] = useSearchParams();
  const [failed, setFailed] = useState<Failed | null>(null);
  const { pending, decide, undo, flush } = usePendingDecision((decision, fault) => setFailed({ decision, fault }));
  const items = desk.items.filter(item => item.request !== pending?.request);
  const asked = search.get('item');
  const selected = items.find(item => item.request === asked) ?? items[0];
  const open = (id: string) => {
    setSearch({ item: id }, { replace: true });
    // On a narrow screen the request stands below the list.
    if (window.innerWidth < 900) setTimeout(() => document.getElementById('selected-request')?.scrollIntoView(), 50);
  };

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA)$/.test(event.target.tagName)) return;
      if (event.key !== 'j' && event.key !== 'k') return;
      const at = selected ? items.indexOf(selected) : -1;
      const next = items[at + (event.key === 'j' ? 1 : -1)];
      if (next) setSearch({ item: next.request }, { replace: true });
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [items, selected, setSearch]);

  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 452px' },
        minHeight: 'calc(100vh - 49px)',
      }}
    >
      <Page title={deskTitle(items.length)} wide>
        {failed && (
          <Box sx={{ maxWidth: 640 }}>
            <FailureNote fault={failed.fault} />
            <Typography variant="body2" sx={{ mb: 2 }}>
              Your answer was “{failed.decision.words}”
              {failed.decision.note ? `, with the note “${failed.decision.note}”` : ''}.{' '}
              <Link component={RouterLink} to={`/requests/${failed.decision.request}`}>
                See {failed.decision.request} as it is now
              </Link>
            </Typography>
          </Box>
        )}
        {items.length === 0 && (
          <Empty title="Nothing waits for you">
            Requests that need your answer, and your own that were sent back, stand here.{' '}
            <Link component={RouterLink} to="/requests">
              Ask for something
            </Link>
          </Empty>
        )}
        <DeskRows desk={desk} items={items} selected={selected} open={open} />
        <Done desk={desk} />
      </Page>
      {selected && (
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
          <Detail
            key={selected.request}
            id={selected.request}
            initialNote={failed?.decision.request === selected.request ? failed.decision.note : ''}
            onDecide={decision => {
              setFailed(null);
              decide(decision);
            }}
          />
        </Box>
      )}
      <Snackbar
        open={pending !== null}
        message={pending?.words}
        action={
          <>
            <Button variant="text" size="small" onClick={undo} sx={{ color: 'inherit' }}>
              Undo
            </Button>
            <Button variant="text" size="small" onClick={() => flush()} sx={{ color: 'inherit' }}>
              Send now
            </Button>
          </>
        }
      />
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
