/** The date is moved: what becomes of each task is shown before it is sent. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { DateMoveView, RequestView } from '@north-pebble/contract';
import { type CivilDate, fullDate, isCivilDate } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { problemOf } from '../../api/client.ts';
import { tryDateQuery } from '../../api/queries.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { PlanHead, planCell } from '../../parts/plan/PlanTable.tsx';
import { shortDay, spareWords } from '../../parts/plan/planWords.ts';
import { useUnsent } from '../../parts/request/unsent.ts';
import { useCommand } from '../../parts/request/Work.tsx';
import { ScrollStrip } from '../../parts/ScrollStrip.tsx';

function Changes({ move, today }: { move: DateMoveView; today: CivilDate }) {
  const day = (date: CivilDate) => shortDay(date, today);
  return (
    <ScrollStrip label="What changes">
      <Box
        component="table"
        aria-label="What changes"
        sx={{ borderCollapse: 'collapse', fontSize: 13.5, width: '100%', minWidth: 520 }}
      >
        <PlanHead names={['What', 'Finished by', 'Then']} />
        <tbody>
          {move.lines.map(line => (
            <tr key={line.step}>
              <Box component="th" scope="row" sx={{ ...planCell, fontWeight: 400 }}>
                {line.number} {line.what}
              </Box>
              <Box component="td" sx={{ ...planCell, whiteSpace: 'nowrap', color: 'secondary.main' }}>
                {line.before && <s>{day(line.before.latestFinish)}</s>} → {line.after && day(line.after.latestFinish)}
              </Box>
              <Box
                component="td"
                sx={{ ...planCell, whiteSpace: 'nowrap', color: line.stateAfter === 'late' ? 'error.main' : undefined }}
              >
                {line.after ? spareWords(line.after.slack) : line.stateAfter}
              </Box>
            </tr>
          ))}
        </tbody>
      </Box>
    </ScrollStrip>
  );
}

export function MoveDate({
  request,
  first = '',
  onDone,
}: {
  request: RequestView;
  first?: string;
  onDone: () => void;
}) {
  const [date, setDate] = useState(first);
  const [reason, setReason, reasonSent] = useUnsent(request, 'why the date moves', '');
  const isDate = isCivilDate(date);
  const preview = useQuery({ ...tryDateQuery(request.id, date), enabled: isDate, placeholderData: keepPreviousData });
  const send = useCommand(request.id);
  const problem = problemOf(send.error);
  const move = isDate ? preview.data : undefined;
  const fault =
    move?.fault ?? problemOf(preview.error)?.title ?? problem?.faults?.find(f => f.field === 'date')?.message;
  const late = move?.lines.filter(line => line.stateAfter === 'late' && line.stateBefore !== 'late') ?? [];
  return (
    <Box
      component="section"
      aria-label="Move the date"
      sx={{
        bgcolor: 'background.paper',
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: '14px',
        p: 2.5,
        mb: 3,
        maxWidth: 760,
      }}
    >
      <Typography variant="h3" component="h2" sx={{ mb: 1.5 }}>
        Move {request.plan?.label ?? 'the date'}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'start', mb: 1.5 }}>
        <DayField
          label="To"
          date={date}
          onDate={day => {
            setDate(day);
            send.reset();
          }}
        />
        <TextField
          label="Why"
          value={reason}
          onChange={event => setReason(event.target.value)}
          helperText="Stands in the mail and on the trail."
          sx={{ flex: 1, minWidth: 220 }}
        />
      </Box>
      {isDate && fault && <Note tone="stop" title={fault} role="alert" />}
      {move && !move.fault && (
        <>
          {move.notes.map(note => (
            <Note key={note} tone="waiting" title={note} />
          ))}
          {late.length > 0 && (
            <Note
              tone="stop"
              title={late.length === 1 ? 'One more task would be late' : `${late.length} more tasks would be late`}
            >
              {late.map(line => `${line.number} ${line.what}`).join(', ')}
            </Note>
          )}
          <Changes move={move} today={request.plan?.today ?? move.after} />
          {move.follows.length > 0 && (
            <Box component="ul" aria-label="What else follows" sx={{ my: 1.5, pl: 2.5, fontSize: 13.5 }}>
              {move.follows.map(one => (
                <li key={one}>{one}</li>
              ))}
            </Box>
          )}
          <Typography variant="body2" color="textSecondary" sx={{ mt: 1.5 }}>
            {move.told.length > 0 ? `Told once each: ${move.told.join(', ')}. ` : 'Nobody else is to be told. '}
            What is done stays done; waits, limits, and what is taken back outside follow the new date.
          </Typography>
        </>
      )}
      {problem && !problem.faults?.some(f => f.field === 'date') && <FailureNote fault={send.error} />}
      <Box sx={{ display: 'flex', gap: 1, mt: 2 }}>
        <Button
          variant="contained"
          color="primary"
          disabled={!move || Boolean(move.fault) || reason.trim() === '' || send.isPending || preview.isPlaceholderData}
          onClick={() =>
            send.mutate(
              { kind: 'move date', seen: request.version, date: date as CivilDate, reason },
              {
                onSuccess: () => {
                  reasonSent();
                  onDone();
                },
              },
            )
          }
        >
          {move && !move.fault ? `Move it to ${fullDate(move.after)}` : 'Move it'}
        </Button>
        <Button onClick={onDone}>Leave it as it is</Button>
      </Box>
    </Box>
  );
}
