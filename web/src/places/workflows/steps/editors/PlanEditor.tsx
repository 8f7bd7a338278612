/** The place of a step in the plan: how long it takes, by when it must be finished, and what it waits for besides. */
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { fieldById, type InPlan, planName, planTasks, setAt } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { Buttons, type Props, useAround } from './shared.tsx';

const whole = (text: string): number => Math.min(400, Number(text.replace(/\D/g, '')));

export function PlanEditor({ edit, definition, onDone }: Props<'plan'>) {
  const [takes, setTakes] = useState(String(edit.plan?.takes ?? 1));
  const [before, setBefore] = useState(String(edit.plan?.daysBefore ?? 0));
  const [after, setAfter] = useState<readonly string[]>(edit.plan?.after ?? []);
  const { took } = useAround();
  const usual = took?.[edit.step];
  const label = fieldById(definition, definition.countsBack?.field ?? '')?.label ?? 'the date';
  const tasks = planTasks(definition);
  // What comes before it in the order of lines and lanes it waits for anyway.
  const own = tasks.find(task => task.step.id === edit.step);
  const anyway = new Set(own?.after.filter(id => !edit.plan?.after?.includes(id)) ?? []);
  // What waits for it cannot be waited for: that would go in a circle.
  const followers = new Set([edit.step]);
  for (let found = true; found; ) {
    const more = tasks.filter(task => !followers.has(task.step.id) && task.after.some(id => followers.has(id)));
    for (const task of more) followers.add(task.step.id);
    found = more.length > 0;
  }
  const others = tasks.filter(
    ({ step }) =>
      !anyway.has(step.id) && (!followers.has(step.id) || (after.includes(step.id) && step.id !== edit.step)),
  );
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        const plan: InPlan = {
          takes: Math.max(1, whole(takes)),
          ...(whole(before) > 0 ? { daysBefore: whole(before) } : {}),
          ...(after.length > 0 ? { after: [...after] } : {}),
        };
        onDone(setAt(definition, edit.path, plan));
      }}
    >
      <Box sx={{ display: 'grid', gap: 1.5 }}>
        <TextField
          autoFocus
          label="Working days that it takes"
          value={takes}
          onChange={event => setTakes(event.target.value)}
          onFocus={event => event.target.select()}
          helperText={
            usual
              ? `So far ${usual.median} in the middle, ${usual.nineInTen} or less in 9 of 10 (${usual.of} times).`
              : 'There are too few yet to say how long it took so far.'
          }
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        <TextField
          label={`Finished so many working days before ${label}`}
          value={before}
          onChange={event => setBefore(event.target.value)}
          helperText="0 is the last working day before it."
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        {others.length > 0 && (
          <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, maxHeight: 220, overflowY: 'auto' }}>
            <Typography component="legend" variant="body2" color="textSecondary">
              Begins after, besides what stands before it
            </Typography>
            {others.map(({ step }) => (
              <FormControlLabel
                key={step.id}
                sx={{ display: 'flex' }}
                control={
                  <Checkbox
                    size="small"
                    checked={after.includes(step.id)}
                    disabled={!after.includes(step.id) && after.length >= 20}
                    onChange={(_, on) => setAfter(on ? [...after, step.id] : after.filter(id => id !== step.id))}
                  />
                }
                label={planName(definition, step.id)}
              />
            ))}
          </Box>
        )}
      </Box>
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}
