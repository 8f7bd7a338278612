/** The page of a guest: one column, one part open, one button. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import type { GuestSectionView, GuestView } from '@north-pebble/contract';
import { momentThere } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { FailureNote, Note } from '../Notes.tsx';
import { Asks, Withdrawing } from './OwnRequest.tsx';
import { ownZone } from './ownZone.ts';
import { PartMark } from './PartMark.tsx';
import { Questions } from './Questions.tsx';
import { SectionCard } from './SectionCard.tsx';

type Props = {
  view: GuestView;
  /** Nothing where somebody else looks at the page. */
  token: string | null;
  onView: (view: GuestView) => void;
  onReload: () => Promise<GuestView | undefined>;
};

const consentsOf = (section: GuestSectionView) =>
  section.fields.filter(({ field }) => field.kind === 'consent' && section.answers[field.id]);

function Consents({ section, token, onView }: { section: GuestSectionView } & Pick<Props, 'token' | 'onView'>) {
  const back = useMutation({
    mutationFn: (field: string) =>
      call('POST /guest/:token/consents/:field/back', { params: { token: token ?? '', field } }),
    onSuccess: onView,
  });
  return (
    <>
      {consentsOf(section).map(({ field }) => (
        <Button
          key={field.id}
          size="small"
          disabled={back.isPending}
          onClick={() => back.mutate(field.id)}
          sx={{ mt: 0.5 }}
        >
          Take back: {field.label}
        </Button>
      ))}
      <FailureNote fault={back.error} />
    </>
  );
}

function PartLine(props: { section: GuestSectionView; onOpen: () => void } & Pick<Props, 'token' | 'onView'>) {
  const { section, onOpen, token, onView } = props;
  const done = section.state === 'in';
  const missing = section.fields.filter(({ needed }) => needed).map(({ field }) => field.label);
  return (
    <Box sx={{ display: 'flex', gap: 1.5, py: 1.25, borderBottom: '1px solid', borderColor: 'divider' }}>
      <Box sx={{ pt: 0.5 }}>
        <PartMark state={done ? 'done' : 'to come'} />
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography variant="h3" component="h2" sx={{ fontSize: 15.5 }}>
          {section.title}
        </Typography>
        <Typography variant="body2" color="textSecondary" sx={{ overflowWrap: 'anywhere' }}>
          {done
            ? 'Handed in'
            : section.state === 'back'
              ? 'Given back to you'
              : section.typed
                ? 'Begun'
                : missing.join(', ')}
        </Typography>
        {done && token !== null && <Consents section={section} token={token} onView={onView} />}
      </Box>
      <Button
        size="small"
        onClick={onOpen}
        aria-label={`${done ? 'Change' : 'Open'} ${section.title}`}
        sx={{ alignSelf: 'start' }}
      >
        {done ? 'Change' : 'Open'}
      </Button>
    </Box>
  );
}

const firstOpen = (view: GuestView): string | null =>
  (view.sections.find(one => one.state === 'back') ?? view.sections.find(one => one.state === 'open'))?.id ?? null;

export function GuestPage({ view, token, onView, onReload }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  const isThere = view.sections.some(one => one.id === chosen);
  const open = isThere ? chosen : firstOpen(view);
  const done = view.sections.filter(one => one.state === 'in').length;
  const year = Number(view.now.slice(0, 4));
  const first = view.name.split(/\s+/)[0];
  return (
    <>
      <Typography variant="body2" color="textSecondary">
        {view.house}
      </Typography>
      <Typography variant="h1" sx={{ fontSize: 24, mt: 0.5, overflowWrap: 'anywhere' }}>
        Welcome, {first}
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5 }}>
        {view.date && `${view.date}. `}
        {view.state !== 'all in' &&
          view.due &&
          `All parts are needed by ${momentThere(view.due, view.zone, ownZone(), year)}.`}
      </Typography>
      {view.own && (
        <Typography variant="body2" color="textSecondary">
          {view.about}, {view.own.number}
        </Typography>
      )}
      {view.sections.length > 0 && (
        <>
          <LinearProgress
            variant="determinate"
            aria-label="Parts handed in"
            value={(100 * done) / view.sections.length}
            sx={{ height: 6, borderRadius: 3, mt: 1.5, mb: 0.75 }}
          />
          <Typography variant="body2" color="textSecondary" role="status">
            {done} of {view.sections.length} parts done · everything you type is kept
          </Typography>
        </>
      )}
      {view.own && <Asks view={view} own={view.own} token={token} onView={onView} />}
      {view.own && view.sections.length === 0 && view.own.asks.length === 0 && (
        <Box sx={{ mt: 2 }}>
          <Note tone="good" title="Nothing is asked of you now" role="status">
            It is with us. We write to your mail address when there is something for you to do, or when it is decided.
          </Note>
        </Box>
      )}
      {view.state === 'all in' && view.sections.length > 0 && (
        <Box sx={{ mt: 2 }}>
          <Note tone="good" title={`Everything is in. Thank you, ${first}.`}>
            {view.contact} looks through it. You may still change a part until that is done.
          </Note>
        </Box>
      )}
      <Box sx={{ mt: 1.5 }}>
        {view.sections.map(section =>
          section.id === open ? (
            <SectionCard
              key={section.id}
              section={section}
              view={view}
              token={token}
              onView={onView}
              onReload={onReload}
              onHandedIn={next => {
                setChosen(null);
                onView(next);
                window.scrollTo({ top: 0 });
              }}
            />
          ) : (
            <PartLine
              key={section.id}
              section={section}
              token={token}
              onView={onView}
              onOpen={() => setChosen(section.id)}
            />
          ),
        )}
      </Box>
      <Questions view={view} token={token} onView={onView} />
      {view.own && <Withdrawing view={view} own={view.own} token={token} onView={onView} />}
    </>
  );
}
