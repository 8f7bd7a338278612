/** Several items of the same step answered in one go. Each is a command of its own: what is refused comes back with its reason. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { DeskItem } from '@north-pebble/contract';
import { useState } from 'react';
import { answeredWords, type Decision } from '../../parts/request/deciding/pending.ts';

const mostNames = 3;

function namesOf(items: readonly DeskItem[]): string {
  const names = items.slice(0, mostNames).map(item => item.askerName);
  const more = items.length - names.length;
  return more > 0 ? `${names.join(', ')} and ${more} more` : names.join(', ');
}

type Outcome = NonNullable<DeskItem['batch']>['outcomes'][number];
const toneColour = { good: 'success', rework: 'secondary', bad: 'error' } as const;

export function Batch({
  chosen,
  alike,
  note,
  onNote,
  onChoose,
  onDecide,
}: {
  chosen: readonly DeskItem[];
  /** All that could be chosen with them. */
  alike: readonly DeskItem[];
  note: string;
  onNote: (note: string) => void;
  onChoose: (requests: readonly string[]) => void;
  onDecide: (decisions: readonly Omit<Decision, 'id'>[], words: string) => void;
}) {
  const [missing, setMissing] = useState(false);
  const answer = ({ id, label, note: needs }: Outcome) => {
    if (needs === 'must' && !note.trim()) return setMissing(true);
    const decisions = chosen.flatMap(item => {
      if (!item.batch) return [];
      const { seen, task } = item.batch;
      const command = { kind: 'answer' as const, seen, task, outcome: id, note: note.trim() || null };
      const words = answeredWords(label, `${item.askerName}, ${item.what}`);
      return [{ request: item.request, words, note, command, onSent: () => onNote('') }];
    });
    onDecide(decisions, answeredWords(label, `${decisions.length} requests, ${namesOf(chosen)}`));
  };
  const outcomes = chosen[0]?.batch?.outcomes ?? [];
  return (
    <Box component="section" aria-label="Several at once">
      <Typography variant="h2">{chosen.length} at once</Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1.5 }}>
        {chosen[0]?.workflowName}, the same step of each. Every one is answered for itself.
      </Typography>
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
          onNote(event.target.value);
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
            onClick={() => answer(outcome)}
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
