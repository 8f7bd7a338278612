/** Publishing: says exactly what will happen, and wants a word about the change. */

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { SheetView } from '@north-pebble/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../../api/client.ts';
import { FailureNote } from '../../../parts/Notes.tsx';

type Props = { sheet: SheetView; revision: number; onClose: () => void; onPublished: (version: number) => void };

export function PublishDialog({ sheet, revision, onClose, onPublished }: Props) {
  const [comment, setComment] = useState('');
  const publish = useMutation({
    mutationFn: () =>
      call('POST /workflows/:id/publish', { params: { id: sheet.id }, body: { revision, comment: comment.trim() } }),
    onSuccess: ({ version }) => onPublished(version),
  });
  const next = (sheet.live?.version ?? 0) + 1;
  const open = sheet.versions.reduce((sum, v) => sum + v.open, 0);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Publish version {next}?</DialogTitle>
      <DialogContent>
        <Typography variant="body2" sx={{ mb: 2 }}>
          New requests begin on version {next}.
          {open > 0 &&
            ` ${open} open ${open === 1 ? 'request stays' : 'requests stay'} on the version ${open === 1 ? 'it' : 'they'} began with.`}
        </Typography>
        {publish.error && <FailureNote fault={publish.error} />}
        <TextField
          autoFocus
          fullWidth
          label="What changes, in a few words"
          value={comment}
          onChange={event => setComment(event.target.value)}
          onKeyDown={event => {
            if (event.key === 'Enter' && comment.trim()) publish.mutate();
          }}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Not yet</Button>
        <Button
          variant="contained"
          color="primary"
          disabled={publish.isPending || comment.trim() === ''}
          onClick={() => publish.mutate()}
        >
          Publish version {next}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
