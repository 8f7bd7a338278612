/** A word for everybody who sees the request; whoever is named with it is told by mail. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import TextField from '@mui/material/TextField';
import type { RequestView } from '@north-pebble/contract';
import type { FieldOf, GivenFile } from '@north-pebble/core/form';
import type { PersonId } from '@north-pebble/core/people';
import { mostCommentFiles } from '@north-pebble/core/workflow';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { problemOf } from '../../api/client.ts';
import { peopleQuery } from '../../api/queries.ts';
import { FilesInput, useFilesComing } from '../../parts/form/FilesInput.tsx';
import { FailureNote } from '../../parts/Notes.tsx';
import { useUnsent } from '../../parts/request/unsent.ts';
import { useCommand } from '../../parts/request/Work.tsx';

const filesField: FieldOf<'files'> = {
  kind: 'files',
  id: 'files',
  label: 'Files with it',
  required: true,
  most: mostCommentFiles,
};

/** What is typed after the last `@`, when it may still become a name. */
const naming = (text: string): string | null => /(?:^|\s)@([\p{L}' -]{1,40})$/u.exec(text)?.[1] ?? null;

export function Comment({ request }: { request: RequestView }) {
  const [text, setText, textSent] = useUnsent(request, 'comment', '');
  const [files, setFiles, filesSent] = useUnsent<GivenFile[]>(request, 'files of the comment', []);
  const filesComing = useFilesComing();
  const [named, setNamed] = useState<{ id: PersonId; name: string }[]>([]);
  const send = useCommand(request.id);
  const asked = naming(text);
  const found = useQuery({ ...peopleQuery(asked ?? ''), enabled: asked !== null });
  const mentions = named.filter(p => text.includes(`@${p.name}`)).map(p => p.id);
  return (
    <Box
      component="form"
      aria-label="Comment"
      sx={{ mt: 2 }}
      onSubmit={event => {
        event.preventDefault();
        if (!text.trim()) return;
        const given = files.length > 0 ? { files } : {};
        const onSuccess = () => {
          textSent();
          filesSent();
        };
        send.mutate({ kind: 'comment', text, mentions, ...given }, { onSuccess });
      }}
    >
      <TextField
        fullWidth
        multiline
        label="Comment"
        placeholder="Type @ and a name to tell somebody"
        value={text}
        onChange={event => setText(event.target.value)}
      />
      {asked !== null && (
        <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mt: 0.75 }}>
          {(found.data?.people ?? []).slice(0, 5).map(person => (
            <Chip
              key={person.id}
              label={person.name}
              onClick={() => {
                setNamed([...named, person]);
                setText(`${text.slice(0, text.length - asked.length)}${person.name} `);
              }}
            />
          ))}
        </Box>
      )}
      {(text.trim() || files.length > 0) && (
        <Box sx={{ mt: 1 }}>
          <FilesInput
            field={filesField}
            value={files}
            answers={{}}
            onChange={value => setFiles(value as GivenFile[])}
            fault={problemOf(send.error)?.faults?.find(f => f.field === 'files')?.message}
            closed={false}
            highlighted={false}
            house={request}
          />
        </Box>
      )}
      {send.error && <FailureNote fault={send.error} />}
      <Button type="submit" size="small" disabled={!text.trim() || send.isPending || filesComing} sx={{ mt: 0.75 }}>
        {mentions.length > 0 ? `Comment and tell ${mentions.length}` : 'Comment'}
      </Button>
    </Box>
  );
}
