/** Several requests of one list answered at once: each for itself, and what was refused is said beside its name. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RequestRow } from '@north-pebble/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { Note } from '../../parts/Notes.tsx';
import { Sure } from '../../parts/Sure.tsx';

type Decide = NonNullable<RequestRow['decide']>;
type Outcome = Decide['outcomes'][number];
type Refused = { row: RequestRow; why: string };

const toneColour = { good: 'success', rework: 'secondary', bad: 'error' } as const;

/** What can be answered to all of them: nothing where they stand at different steps. */
export function outcomesOf(rows: readonly RequestRow[]): Outcome[] {
  const [first, ...others] = rows.map(row => row.decide);
  if (!first || others.some(other => other?.step !== first.step)) return [];
  return first.outcomes.filter(one => others.every(other => other?.outcomes.some(o => o.id === one.id)));
}

export function AnswerMany({ rows, onDone }: { rows: readonly RequestRow[]; onDone: () => void }) {
  const [note, setNote] = useState('');
  const [asked, setAsked] = useState<Outcome | null>(null);
  const [missing, setMissing] = useState(false);
  const [refused, setRefused] = useState<Refused[]>([]);
  const outcomes = outcomesOf(rows);
  const answer = useMutation({
    mutationFn: async (outcome: Outcome) => {
      const failed: Refused[] = [];
      for (const row of rows) {
        if (!row.decide) continue;
        const { task, seen } = row.decide;
        const command = { kind: 'answer' as const, seen, task, outcome: outcome.id, note: note.trim() || null };
        try {
          await call('POST /requests/:id/commands', {
            params: { id: row.id },
            body: { id: crypto.randomUUID(), command },
          });
        } catch (fault) {
          failed.push({ row, why: problemOf(fault)?.detail ?? 'It could not be sent.' });
        }
      }
      return failed;
    },
    onSuccess: async failed => {
      setRefused(failed);
      await Promise.all(['requests', 'desk', 'sets'].map(key => queryClient.invalidateQueries({ queryKey: [key] })));
      if (failed.length === 0) {
        setNote('');
        onDone();
      }
    },
  });
  if (rows.length === 0) return null;
  const names = rows.map(row => row.askerName);
  return (
    <Box
      component="section"
      aria-label="Answer several at once"
      sx={{
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: '12px',
        bgcolor: 'background.paper',
        p: 1.75,
        mb: 1.5,
      }}
    >
      <Typography variant="h3" component="h2">
        {rows.length} chosen
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1.25 }}>
        {names.slice(0, 4).join(', ')}
        {names.length > 4 && ` and ${names.length - 4} more`}
      </Typography>
      {outcomes.length === 0 ? (
        <Typography variant="body2">
          {rows.some(row => !row.decide)
            ? 'Not all of them wait for an answer of yours.'
            : 'They stand at different steps, or something is to be filled in at each of them.'}
        </Typography>
      ) : (
        <>
          <TextField
            fullWidth
            size="small"
            multiline
            minRows={2}
            label="Note for all of them"
            value={note}
            error={missing}
            helperText={missing ? 'This answer needs a short note.' : ' '}
            onChange={event => {
              setNote(event.target.value);
              setMissing(false);
            }}
          />
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            {outcomes.map(outcome => (
              <Button
                key={outcome.id}
                variant="outlined"
                color={toneColour[outcome.tone]}
                disabled={answer.isPending}
                onClick={() => {
                  if (outcome.note === 'must' && note.trim() === '') setMissing(true);
                  else setAsked(outcome);
                }}
              >
                {outcome.label} {rows.length}
              </Button>
            ))}
          </Box>
        </>
      )}
      {refused.length > 0 && (
        <Box sx={{ mt: 1.5 }}>
          <Note tone="stop" title={`${refused.length} of them stayed as they were`} role="alert">
            {refused.map(({ row, why }) => (
              <span key={row.id} style={{ display: 'block' }}>
                {row.askerName}: {why}
              </span>
            ))}
          </Note>
        </Box>
      )}
      <Button size="small" onClick={onDone} sx={{ mt: 1 }}>
        Choose none
      </Button>
      {asked && (
        <Sure
          title={`${asked.label}: ${rows.length === 1 ? names[0] : `${rows.length} at once`}?`}
          verb={`${asked.label} ${rows.length}`}
          onNo={() => setAsked(null)}
          onYes={() => {
            setAsked(null);
            answer.mutate(asked);
          }}
        >
          Each of them is answered for itself, and gets the letter that belongs to it. This cannot be taken back.
        </Sure>
      )}
    </Box>
  );
}
