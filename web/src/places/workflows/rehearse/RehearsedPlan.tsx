/** The plan of what is rehearsed, with its values; the date can be moved to see what that does. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { contextOf, type Rehearsal } from '@north-pebble/core/proof';
import { type CivilDate, isCivilDate } from '@north-pebble/core/time';
import { planOf, reasonWords, toldPlan } from '@north-pebble/core/workflow';
import { useMemo, useState } from 'react';
import { DayField } from '../../../parts/form/DayField.tsx';
import { Note } from '../../../parts/Notes.tsx';
import { PlanDrawing } from '../../../parts/plan/PlanDrawing.tsx';
import { PlanTable } from '../../../parts/plan/PlanTable.tsx';
import { planStanding } from '../../../parts/plan/planWords.ts';
import type { Playing } from './useRehearsal.ts';

export function RehearsedPlan({ rehearsal, playing }: { rehearsal: Rehearsal; playing: Playing }) {
  const { definition, state, facts } = rehearsal;
  const [as, setAs] = useState<'drawing' | 'table' | null>(null);
  const [date, setDate] = useState('');
  const found = useMemo(() => planOf(definition, state, contextOf(rehearsal, null)), [definition, state, rehearsal]);
  const plan = useMemo(
    () => (found?.ok ? toldPlan(definition, found.plan, state, facts.index) : null),
    [found, definition, state, facts.index],
  );
  if (!found || state.status === 'closed' || state.status === 'withdrawn') return null;
  if (!plan) {
    const why = found.ok ? '' : reasonWords(found.reason, { definition, index: facts.index });
    return <Note tone="waiting" title={`There is no plan: ${why}`} />;
  }
  const tones = { late: 'stop', tight: 'waiting', fine: 'now', ready: 'good' } as const;
  return (
    <Box component="section" aria-label="The plan back" sx={{ mb: 2 }}>
      <Note tone={tones[plan.state]} title={`The plan back: ${planStanding(plan)}`}>
        {plan.says[0]?.title}
      </Note>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1.5 }}>
        {(['drawing', 'table'] as const).map(one => (
          <Button key={one} size="small" aria-pressed={as === one} onClick={() => setAs(as === one ? null : one)}>
            {as === one ? 'Fold it' : one === 'drawing' ? 'Show the drawing' : 'Show the table'}
          </Button>
        ))}
        <Box sx={{ width: 180 }}>
          <DayField label="Move the date to" date={date} onDate={setDate} />
        </Box>
        <Button
          size="small"
          disabled={!isCivilDate(date) || date === plan.date}
          onClick={() =>
            playing.act(
              { kind: 'move date', seen: state.version, date: date as CivilDate, reason: 'Rehearsed.' },
              rehearsal.asker,
            )
          }
        >
          Move it
        </Button>
      </Box>
      {as === 'drawing' && <PlanDrawing plan={plan} />}
      {as === 'table' && (
        <>
          <PlanTable plan={plan} />
          <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
            In working days of {plan.placeName}.
          </Typography>
        </>
      )}
    </Box>
  );
}
