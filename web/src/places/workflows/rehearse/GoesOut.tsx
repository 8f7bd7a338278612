/** What a rehearsal would bring about: what is written in the house, letters to look at, mails with what goes along. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { type DirectoryIndex, type PersonId, personName } from '@north-pebble/core/people';
import type { Outgoing, Rehearsal } from '@north-pebble/core/proof';
import { dateWords, fullMoment } from '@north-pebble/core/time';
import type { Attached, Block, CalendarTime, FilledLetter, Run } from '@north-pebble/core/workflow';
import { useMutation } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { callForFile } from '../../../api/client.ts';
import { FailureNote } from '../../../parts/Notes.tsx';
import { MailPreview } from '../messages/MessagesEditor.tsx';
import { effectWords } from './rehearsalWords.ts';

const Runs = ({ runs }: { runs: readonly Run[] }) =>
  runs.map((run, n) => {
    const Part = run.bold ? 'strong' : run.italic ? 'em' : Fragment;
    // biome-ignore lint/suspicious/noArrayIndexKey: the runs of a letter that is made stay in their order
    return <Part key={n}>{run.text}</Part>;
  });

function BlockLook({ block }: { block: Block }) {
  switch (block.kind) {
    case 'heading':
      return (
        <Typography variant="h3" sx={{ fontSize: 14.5, mt: 1 }}>
          <Runs runs={block.runs} />
        </Typography>
      );
    case 'paragraph':
    case 'quote':
      return (
        <Typography variant="body2" sx={{ my: 0.75, pl: block.kind === 'quote' ? 2 : 0, overflowWrap: 'anywhere' }}>
          <Runs runs={block.runs} />
        </Typography>
      );
    case 'list':
      return (
        <Box component={block.ordered ? 'ol' : 'ul'} sx={{ my: 0.5, pl: 2.5, fontSize: 14 }}>
          {block.items.map((item, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the items of a letter that is made stay in their order
            <li key={n}>
              <Runs runs={item} />
            </li>
          ))}
        </Box>
      );
    case 'table':
      return (
        <Box sx={{ overflowX: 'auto' }}>
          <Box
            component="table"
            sx={{ fontSize: 13, borderCollapse: 'collapse', '& th, & td': { p: 0.5, textAlign: 'left' } }}
          >
            <thead>
              <tr>
                {block.head.map(cell => (
                  <th key={cell}>{cell}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {block.rows.map((row, n) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: the rows of a letter that is made stay in their order
                <tr key={n}>
                  {row.map((cell, m) => (
                    <td key={block.head[m]}>{cell}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </Box>
        </Box>
      );
  }
}

/** A letter as it would be kept; as a PDF it is set by the server, as it would be then. */
function LetterLook({ name, letter }: { name: string; letter: FilledLetter }) {
  const [open, setOpen] = useState(false);
  const pdf = useMutation({
    mutationFn: () => callForFile('POST /letters/look', { body: letter }),
    onSuccess: file => {
      const address = URL.createObjectURL(file);
      window.open(address, '_blank', 'noopener');
      setTimeout(() => URL.revokeObjectURL(address), 60_000);
    },
  });
  return (
    <Box sx={{ border: '1px solid', borderColor: 'divider', borderRadius: '10px', p: 1.5, my: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography sx={{ fontWeight: 650, flex: 1 }}>Letter: {name}</Typography>
        <Button size="small" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Close it' : 'Look at it'}
        </Button>
        <Button size="small" disabled={pdf.isPending} onClick={() => pdf.mutate()}>
          As a PDF
        </Button>
      </Box>
      <FailureNote fault={pdf.error} />
      {open && (
        <Box sx={{ mt: 1 }}>
          <Typography variant="h2" sx={{ fontSize: 17 }}>
            {letter.title}
          </Typography>
          {letter.blocks.map((block, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the blocks of a letter that is made stay in their order
            <BlockLook key={n} block={block} />
          ))}
          <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
            {letter.foot}
          </Typography>
        </Box>
      )}
    </Box>
  );
}

const timeWords = (time: CalendarTime, year: number): string =>
  'time' in time
    ? `${dateWords(time.date, year)}, ${time.time} (${time.zone.replaceAll('_', ' ')})`
    : dateWords(time.date, year);

function attachedWords({ files = [], invitation }: Attached, year: number): string[] {
  const dates = invitation && [timeWords(invitation.start, year), timeWords(invitation.end, year)];
  return [
    ...files.map(file => `With the file ${file.name}.`),
    ...(invitation && dates
      ? [
          `${invitation.method === 'CANCEL' ? 'Takes the invitation back' : 'With an invitation'}: “${invitation.title}”, ${dates[0] === dates[1] ? dates[0] : `${dates[0]} to ${dates[1]}`}.`,
        ]
      : []),
  ];
}

type Mail = Extract<Outgoing, { kind: 'mail' | 'mail out' }>;
const isMail = (one: Outgoing): one is Mail => one.kind === 'mail' || one.kind === 'mail out';
const mostMails = 6;

export function GoesOut({
  rehearsal,
  index,
  zone,
}: {
  rehearsal: Rehearsal;
  index: DirectoryIndex | undefined;
  zone: string;
}) {
  const { state, outgoing } = rehearsal;
  const mails = outgoing.filter(isMail);
  const others = [...new Set(outgoing.flatMap(one => effectWords(one, rehearsal) ?? []))];
  const letters = outgoing.flatMap(one => (one.kind === 'make letter' ? [one] : []));
  const year = Number(rehearsal.now.slice(0, 4));
  const person = (id: string) => (index ? personName(index, id as PersonId) : id);
  return (
    <>
      {(state.leave || others.length > 0 || letters.length > 0) && (
        <Box sx={{ mb: 1.5 }}>
          <Typography variant="overline" component="h2" color="textSecondary">
            What would be written
          </Typography>
          {state.leave && (
            <Typography variant="body2">
              Ledger: {state.leave.type} {state.leave.state}, {state.leave.span.from.date} to {state.leave.span.to.date}
              {state.leave.planner && state.leave.state === 'booked' ? ', also on the planner' : ''}
            </Typography>
          )}
          {others.map(words => (
            <Typography key={words} variant="body2">
              {words}
            </Typography>
          ))}
          {letters.map(({ key, name, letter }) => (
            <LetterLook key={key} name={name} letter={letter} />
          ))}
        </Box>
      )}
      <Typography variant="overline" component="h2" color="textSecondary">
        Mails that would go out {mails.length}
      </Typography>
      <Box sx={{ display: 'grid', gap: 1, mb: 2 }}>
        {mails
          .slice(-mostMails)
          .reverse()
          .map(mail => (
            <Box key={mail.key}>
              <MailPreview
                subject={mail.subject}
                body={mail.body}
                {...(mail.html ? { html: mail.html } : {})}
                to={`${mail.kind === 'mail' ? person(mail.to) : mail.address}, ${fullMoment(mail.at, zone)}`}
              />
              {(mail.attach ? attachedWords(mail.attach, year) : []).map(words => (
                <Typography key={words} variant="body2" color="textSecondary" sx={{ pl: 1.5, pt: 0.5 }}>
                  {words}
                </Typography>
              ))}
            </Box>
          ))}
      </Box>
    </>
  );
}
