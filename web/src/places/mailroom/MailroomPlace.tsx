/** The Mailroom: every mail that the stand-in for mail has received, newest first. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { MailroomView, MailView } from '@north-pebble/contract';
import { sizeWords } from '@north-pebble/core/form';
import { momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { mailroomQuery, queryClient } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { DirectoryRoom } from './DirectoryRoom.tsx';

/** Writes back as the recipient, by a mail of its own. */
function Answer({ mail }: { mail: MailView }) {
  const [text, setText] = useState('');
  const send = useMutation({
    mutationFn: () => call('POST /mailroom/answers', { body: { id: mail.id, text } }),
    onSuccess: async () => {
      setText('');
      await queryClient.invalidateQueries();
    },
  });
  return (
    <Box
      component="form"
      aria-label="Answer as the recipient"
      sx={{ mt: 3, pt: 2, borderTop: '1px solid', borderColor: 'divider' }}
      onSubmit={event => {
        event.preventDefault();
        if (text.trim()) send.mutate();
      }}
    >
      <TextField
        fullWidth
        multiline
        minRows={3}
        label={`Answer as ${mail.to.replace(/<.*>/, '').replaceAll('"', '').trim()}`}
        value={text}
        onChange={event => setText(event.target.value)}
      />
      {send.error && <FailureNote fault={send.error} />}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mt: 1 }}>
        <Button type="submit" variant="contained" color="primary" disabled={!text.trim() || send.isPending}>
          Send the answer
        </Button>
        {send.isSuccess && (
          <Typography role="status" variant="body2" color="textSecondary">
            Sent. What comes of it arrives here, or on the request.
          </Typography>
        )}
      </Box>
    </Box>
  );
}

/** What came with a mail: files to open, and the invitation as a calendar reads it. */
function Attached({ files, calendar }: { files: NonNullable<MailView['attached']>; calendar: string | undefined }) {
  return (
    <Box component="section" aria-label="Attached" sx={{ mt: 2 }}>
      {files.map(file => (
        <Typography key={file.kept} variant="body2">
          <Link href={`/api/mailroom/attached/${file.kept}`} download={file.name}>
            {file.name}
          </Link>
          , {sizeWords(file.size)}
        </Typography>
      ))}
      {calendar && (
        <Box component="details" sx={{ mt: 1, fontSize: 13 }}>
          <summary>The invitation as a calendar reads it</summary>
          <Box component="pre" sx={{ m: 0, mt: 1, whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>
            {calendar}
          </Box>
        </Box>
      )}
    </Box>
  );
}

function Mails({ room }: { room: MailroomView }) {
  const { self } = useHere();
  const year = useYear();
  const [search, setSearch] = useSearchParams();
  const filter = search.get('to') ?? '';
  const mails = room.mails.filter(mail => `${mail.to} ${mail.subject}`.toLowerCase().includes(filter.toLowerCase()));
  const open = mails.find(mail => mail.id === search.get('mail')) ?? mails[0];
  return (
    <>
      {!room.reachable && (
        <Note tone="stop" title="The stand-in for mail does not answer" role="alert">
          Mails wait in the outbox and go out when it is back.
        </Note>
      )}
      {room.waiting.length > 0 && (
        <Note tone="waiting" title={`${room.waiting.length} waiting to go out`}>
          {room.waiting
            .slice(0, 3)
            .map(mail => mail.subject)
            .join(' · ')}
        </Note>
      )}
      {room.mails.length === 0 ? (
        <Empty title="No mail yet">
          What North Pebble sends in the demo arrives here: to managers who are asked, and to askers about how it ended.
        </Empty>
      ) : (
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '420px minmax(0, 1fr)' }, gap: 4 }}>
          <Box>
            <TextField
              fullWidth
              label="Filter by recipient or subject"
              value={filter}
              onChange={event => setSearch(event.target.value ? { to: event.target.value } : {}, { replace: true })}
              sx={{ mb: 1.5 }}
            />
            {mails.map(mail => (
              <ButtonBase
                key={mail.id}
                onClick={() => setSearch({ ...(filter ? { to: filter } : {}), mail: mail.id }, { replace: true })}
                aria-current={mail === open ? 'true' : undefined}
                sx={{
                  display: 'block',
                  width: '100%',
                  textAlign: 'left',
                  px: 1.5,
                  py: 1,
                  borderRadius: '11px',
                  border: '1px solid',
                  borderColor: mail === open ? 'divider' : 'transparent',
                  bgcolor: mail === open ? 'background.paper' : 'transparent',
                }}
              >
                <Typography noWrap sx={{ fontWeight: 600 }}>
                  {mail.subject}
                </Typography>
                <Typography variant="body2" color="textSecondary" noWrap>
                  {momentWords(mail.at.replace('.000Z', 'Z'), self.zone, year)} · {mail.to}
                </Typography>
              </ButtonBase>
            ))}
            {mails.length === 0 && <Typography color="textSecondary">No mail matches “{filter}”.</Typography>}
          </Box>
          {open && (
            <Box
              component="article"
              aria-label="The mail"
              sx={{
                bgcolor: 'background.paper',
                border: '1px solid',
                borderColor: 'divider',
                borderRadius: '14px',
                p: 3,
                alignSelf: 'start',
              }}
            >
              <Typography variant="h2">{open.subject}</Typography>
              <Typography variant="body2" color="textSecondary" sx={{ mb: 2 }}>
                From {open.from} · To {open.to}
              </Typography>
              <Typography sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>{open.text}</Typography>
              {open.attached && <Attached files={open.attached} calendar={open.calendar} />}
              {open.replyTo && <Answer key={open.id} mail={open} />}
            </Box>
          )}
        </Box>
      )}
    </>
  );
}

export function MailroomPlace() {
  const room = useQuery(mailroomQuery);
  const [search, setSearch] = useSearchParams();
  const isDirectory = search.get('show') === 'directory';
  return (
    <Page
      title="Mailroom"
      sub={
        isDirectory
          ? 'Nothing leaves the demo: this is the directory as those who look after it would see it.'
          : 'Nothing leaves the demo: these are the mails as their readers would get them.'
      }
      wide
      actions={
        <Button onClick={() => setSearch(isDirectory ? {} : { show: 'directory' })}>
          {isDirectory ? 'The mails' : 'The directory'}
        </Button>
      }
    >
      {isDirectory ? <DirectoryRoom /> : <Loaded query={room}>{data => <Mails room={data} />}</Loaded>}
    </Page>
  );
}
