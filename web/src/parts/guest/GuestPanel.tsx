/** Where the guests of a request are, for whoever looks after them: part by part, their questions, their link, what comes next. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { GuestStandingView, RequestView } from '@north-pebble/contract';
import { fullDate, momentWords } from '@north-pebble/core/time';
import type { Command, Step } from '@north-pebble/core/workflow';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { call, commandId } from '../../api/client.ts';
import { guestPreviewQuery, guestsQuery, queryClient } from '../../api/queries.ts';
import { useHere, useYear } from '../frame/session.ts';
import { FailureNote, Note } from '../Notes.tsx';
import { Sure } from '../Sure.tsx';
import { Why } from '../Why.tsx';
import { GuestPage } from './GuestPage.tsx';
import { PartMark } from './PartMark.tsx';

type OfGuest = Extract<Command, { kind: 'give back section' | 'answer guest' | 'renew link' | 'end link' }>;
type Without<C> = C extends unknown ? Omit<C, 'seen' | 'step'> : never;

function useGuestCommand(request: RequestView, step: string) {
  return useMutation({
    mutationFn: (command: Without<OfGuest>) =>
      call('POST /requests/:id/commands', {
        params: { id: request.id },
        body: { id: commandId(), command: { seen: request.version, step, ...command } as OfGuest },
      }),
    onSuccess: () => queryClient.invalidateQueries(),
  });
}

/** Words with a button, opened by another button. */
function Words(props: {
  open: string;
  about?: string;
  label: string;
  verb: string;
  busy: boolean;
  onSend: (text: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  if (text === null)
    return (
      <Button
        size="small"
        onClick={() => setText('')}
        {...(props.about ? { 'aria-label': `${props.open}: ${props.about}` } : {})}
      >
        {props.open}
      </Button>
    );
  return (
    <Box
      component="form"
      noValidate
      onSubmit={event => {
        event.preventDefault();
        props.onSend(text);
        setText(null);
      }}
      sx={{ display: 'grid', gap: 1, my: 1 }}
    >
      <TextField
        autoFocus
        multiline
        label={props.label}
        value={text}
        onChange={event => setText(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" color="primary" size="small" disabled={props.busy || !text.trim()}>
          {props.verb}
        </Button>
        <Button size="small" onClick={() => setText(null)}>
          Leave it
        </Button>
      </Box>
    </Box>
  );
}

function Preview({
  request,
  step,
  name,
  onClose,
}: {
  request: string;
  step: string;
  name: string;
  onClose: () => void;
}) {
  const view = useQuery(guestPreviewQuery(request, step));
  return (
    <Dialog open onClose={onClose} maxWidth={false} slotProps={{ paper: { 'aria-label': `The page of ${name}` } }}>
      <DialogContent sx={{ width: 430, maxWidth: '94vw' }}>
        <FailureNote fault={view.error} />
        {view.data && (
          <GuestPage view={view.data} token={null} onView={() => {}} onReload={() => Promise.resolve(view.data)} />
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

const states = { open: 'not handed in', in: 'handed in', back: 'given back' } as const;

type Section = GuestStandingView['sections'][number];
function Part({ section, mayAct, children }: { section: Section; mayAct: boolean; children: ReactNode }) {
  const { self } = useHere();
  const year = useYear();
  return (
    <Box
      component="li"
      sx={{ display: 'flex', gap: 1.25, py: 0.75, borderBottom: '1px solid', borderColor: 'divider' }}
    >
      <Box sx={{ pt: 0.25 }}>
        <PartMark
          state={section.state === 'in' ? 'done' : section.begun || section.state === 'back' ? 'now' : 'to come'}
        />
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography component="span" sx={{ fontWeight: 600 }}>
          {section.title}
        </Typography>{' '}
        <Typography component="span" variant="body2" color="textSecondary">
          {section.state === 'open' && section.begun ? 'begun' : states[section.state]}
          {section.at && section.state !== 'open' && `, ${momentWords(section.at, self.zone, year)}`}
        </Typography>
        {section.note && <Typography variant="body2">“{section.note}”</Typography>}
      </Box>
      {mayAct && section.state === 'in' && <Box sx={{ alignSelf: 'start' }}>{children}</Box>}
    </Box>
  );
}

function linkWords({ link }: GuestStandingView): string {
  if (link.ended) return 'The personal link opens nothing any more.';
  const day = fullDate(link.until.slice(0, 10) as never);
  return link.over ? `The personal link was good until ${day}; it is over.` : `The personal link is good until ${day}.`;
}

function Guest({ guest, request }: { guest: GuestStandingView; request: RequestView }) {
  const { self } = useHere();
  const year = useYear();
  const send = useGuestCommand(request, guest.step);
  const [looks, setLooks] = useState(false);
  const [ends, setEnds] = useState(false);
  const done = guest.sections.filter(one => one.state === 'in').length;
  const { reminder } = guest;
  return (
    <Box component="section" aria-label={`Guest: ${guest.name}`} sx={{ mt: 3 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        {guest.sections.length === 0
          ? `${guest.name} has a page of their own`
          : `${guest.name} fills in: ${done} of ${guest.sections.length} parts`}
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {guest.sections.map(section => (
          <Part key={section.id} section={section} mayAct={guest.mayAct}>
            <Words
              open="Give it back"
              about={section.title}
              label="What is to be changed"
              verb="Give it back"
              busy={send.isPending}
              onSend={note => send.mutate({ kind: 'give back section', section: section.id, note })}
            />
          </Part>
        ))}
      </Box>
      {guest.words.map(word => (
        <Box
          key={`${word.at}${word.text}`}
          sx={{ borderLeft: '3px solid', borderColor: word.mine ? 'divider' : 'primary.main', pl: 1.5, my: 1 }}
        >
          <Typography variant="body2" color="textSecondary">
            {word.who}, {momentWords(word.at, self.zone, year)}
          </Typography>
          <Typography sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>{word.text}</Typography>
        </Box>
      ))}
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
        {linkWords(guest)} {guest.address}
        {guest.devices === 0
          ? '. Not opened yet.'
          : `. Opened on ${guest.devices === 1 ? 'one device' : `${guest.devices} devices`}.`}
      </Typography>
      {guest.devices > 1 && (
        <Note tone="waiting" title={`Opened on ${guest.devices} devices`}>
          Each after the first one gave a code that went to {guest.address}. If that was not {guest.name}, end the link.
        </Note>
      )}
      {reminder?.at && (
        <Typography variant="body2" color="textSecondary">
          Reminded {momentWords(reminder.at, self.zone, year)}, unless all is in before.
          <Why about="the reminder" words="What it says">
            <Typography variant="body2" sx={{ fontWeight: 600 }}>
              {reminder.subject}
            </Typography>
            <Typography variant="body2" sx={{ whiteSpace: 'pre-wrap' }}>
              {reminder.body}
            </Typography>
          </Why>
        </Typography>
      )}
      <FailureNote fault={send.error} />
      {guest.mayAct && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}>
          <Words
            open="Write to them"
            label={`To ${guest.name}, on their page and by mail`}
            verb="Send"
            busy={send.isPending}
            onSend={text => send.mutate({ kind: 'answer guest', text })}
          />
          <Button size="small" onClick={() => setLooks(true)}>
            See their page
          </Button>
          <Button size="small" disabled={send.isPending} onClick={() => send.mutate({ kind: 'renew link' })}>
            Send a new link
          </Button>
          {!guest.link.ended && (
            <Button size="small" onClick={() => setEnds(true)}>
              End the link
            </Button>
          )}
        </Box>
      )}
      {looks && <Preview request={request.id} step={guest.step} name={guest.name} onClose={() => setLooks(false)} />}
      {ends && (
        <Sure
          title="End the personal link?"
          verb="End it"
          onNo={() => setEnds(false)}
          onYes={() => {
            setEnds(false);
            send.mutate({ kind: 'end link', note: null });
          }}
        >
          It opens nothing from now on. What was handed in stays; a new link can be sent.
        </Sure>
      )}
    </Box>
  );
}

/** Whether a guest is asked for anything at one of these steps, or in a lane of theirs. */
const asksGuests = (steps: readonly Step[]): boolean =>
  steps.some(
    step =>
      (step.verb === 'Do' && step.guest !== undefined) ||
      (step.verb === 'Split' && step.lanes.some(lane => asksGuests(lane.steps))),
  );

export function GuestPanel({ request }: { request: RequestView }) {
  const hasGuests = asksGuests(request.definition.steps);
  const guests = useQuery({ ...guestsQuery(request.id, request.version), enabled: hasGuests });
  return guests.data?.map(guest => <Guest key={guest.step} guest={guest} request={request} />) ?? null;
}
