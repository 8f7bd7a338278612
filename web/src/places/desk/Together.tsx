/** Several items of the same step answered in one go. Each is a command of its own: what is refused stays, with its reason. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { DeskItem, Sent } from '@north-pebble/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call, commandId, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';

type Outcome = NonNullable<DeskItem['together']>['outcomes'][number];
const toneColour = { good: 'success', rework: 'secondary', bad: 'error' } as const;

type Refusal = { item: DeskItem; words: string };

async function answerAll(items: readonly DeskItem[], outcome: Outcome, note: string): Promise<Refusal[]> {
  const refused: Refusal[] = [];
  for (const item of items) {
    if (!item.together) continue;
    const { seen, task } = item.together;
    const command = { kind: 'answer', seen, task, outcome: outcome.id, note: note.trim() || null };
    try {
      await call<Sent>(`/requests/${item.request}/commands`, { method: 'POST', body: { id: commandId(), command } });
    } catch (fault) {
      refused.push({ item, words: problemOf(fault)?.detail ?? 'It could not be sent.' });
    }
  }
  return refused;
}

export function Together({
  chosen,
  alike,
  onChoose,
  onAnswered,
}: {
  chosen: readonly DeskItem[];
  /** All that could be chosen with them. */
  alike: readonly DeskItem[];
  onChoose: (requests: readonly string[]) => void;
  onAnswered: (requests: readonly string[]) => void;
}) {
  const [note, setNote] = useState('');
  const [missing, setMissing] = useState(false);
  const [refused, setRefused] = useState<Refusal[]>([]);
  const send = useMutation({
    mutationFn: (outcome: Outcome) => answerAll(chosen, outcome, note),
    onSuccess: async left => {
      const stay = left.map(({ item }) => item.request);
      onAnswered(chosen.flatMap(item => (stay.includes(item.request) ? [] : [item.request])));
      setRefused(left);
      setNote('');
      onChoose(stay);
      await queryClient.invalidateQueries();
    },
  });
  const outcomes = chosen[0]?.together?.outcomes ?? [];
  return (
    <Box component="section" aria-label="Several at once">
      <Typography variant="h2">{chosen.length} at once</Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1.5 }}>
        {chosen[0]?.workflowName}, the same step of each. Every one is answered for itself.
      </Typography>
      {refused.map(({ item, words }) => (
        <Typography key={item.request} variant="body2" color="error" role="alert">
          {item.askerName}: {words}
        </Typography>
      ))}
      <Box component="ul" sx={{ pl: 2.5, my: 1 }}>
        {chosen.map(item => (
          <li key={item.request}>
            {item.askerName}, {item.what}
          </li>
        ))}
      </Box>
      {alike.length > chosen.length && (
        <Button size="small" onClick={() => onChoose(alike.map(item => item.request))}>
          All {alike.length} like these
        </Button>
      )}
      <TextField
        fullWidth
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
        sx={{ mt: 1.5 }}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        {outcomes.map(outcome => (
          <Button
            key={outcome.id}
            color={toneColour[outcome.tone]}
            variant={outcome.tone === 'good' ? 'contained' : 'outlined'}
            disabled={send.isPending}
            onClick={() => (outcome.note === 'must' && !note.trim() ? setMissing(true) : send.mutate(outcome))}
            sx={{ flex: 1 }}
          >
            {outcome.label} {chosen.length}
          </Button>
        ))}
      </Box>
      <Button size="small" onClick={() => onChoose([])} sx={{ mt: 1 }}>
        Choose none
      </Button>
    </Box>
  );
}
