/** The limit of a step: until when, reminders before it, and what happens when it passes. */

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { isDated } from '@north-pebble/core/form';
import type { PeopleRule } from '@north-pebble/core/people';
import { type AtLimit, type Limit, setAt, stepById } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { RuleFields } from './PeopleEditor.tsx';
import { AmountFields, Buttons, type Props } from './shared.tsx';

const usual: Limit = { within: { workingDays: 2 }, remind: null, atLimit: 'wait' };
const hr: PeopleRule = { first: { kind: 'role', role: 'HR partner' }, otherwise: [] };

const kindOf = (atLimit: AtLimit): 'wait' | 'pass up' | 'passTo' | 'tell' | 'take' =>
  typeof atLimit === 'string' ? atLimit : 'passTo' in atLimit ? 'passTo' : 'tell' in atLimit ? 'tell' : 'take';

export function LimitEditor({ edit, definition, index, onDone }: Props<'limit'>) {
  const [limit, setLimit] = useState<Limit | null>(edit.limit);
  const step = stepById(definition, edit.step);
  const outcomes = step?.verb === 'Decide' ? step.outcomes : [];
  const dates = definition.form.fields.filter(isDated);
  const counted =
    !limit || !('workingDaysBefore' in limit.within || 'byPlan' in limit.within)
      ? 'working'
      : 'byPlan' in limit.within
        ? 'plan'
        : 'before';
  const hasPlan = definition.countsBack !== undefined;
  const within = {
    working: { workingDays: 2 },
    before: { workingDaysBefore: 1, field: dates[0]?.id ?? '' },
    plan: { byPlan: true as const },
  };
  const change = (next: Partial<Limit>) => limit && setLimit({ ...limit, ...next });
  const chooseAt = (kind: ReturnType<typeof kindOf>) => {
    if (kind === 'wait' || kind === 'pass up') change({ atLimit: kind });
    else if (kind === 'passTo') change({ atLimit: { passTo: hr } });
    else if (kind === 'tell') change({ atLimit: { tell: hr } });
    else change({ atLimit: { take: outcomes[0]?.id ?? '' } });
  };
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        onDone(setAt(definition, edit.path, limit));
      }}
    >
      <FormControlLabel
        control={
          <Checkbox checked={limit !== null} onChange={(_, on) => setLimit(on ? (edit.limit ?? usual) : null)} />
        }
        label="There is a limit"
      />
      {limit && (
        <Box sx={{ display: 'grid', gap: 1.25 }}>
          {dates.length > 0 && (
            <TextField
              select
              size="small"
              label="Counted"
              value={counted}
              onChange={event => change({ within: within[event.target.value as keyof typeof within] })}
            >
              <MenuItem value="working">in working time from the start of the step</MenuItem>
              <MenuItem value="before">back from a date of the form</MenuItem>
              {(hasPlan || counted === 'plan') && <MenuItem value="plan">by its last day in the plan</MenuItem>}
            </TextField>
          )}
          {'workingDaysBefore' in limit.within ? (
            <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', gap: 1 }}>
              <TextField
                label="Working days"
                value={limit.within.workingDaysBefore}
                onChange={event => {
                  const n = Number(event.target.value.replace(/\D/g, ''));
                  if ('workingDaysBefore' in limit.within)
                    change({ within: { ...limit.within, workingDaysBefore: Math.min(400, n) } });
                }}
                slotProps={{ htmlInput: { inputMode: 'numeric' } }}
              />
              <TextField
                select
                label="before"
                value={limit.within.field}
                onChange={event => {
                  if ('workingDaysBefore' in limit.within)
                    change({ within: { ...limit.within, field: event.target.value } });
                }}
              >
                {dates.map(f => (
                  <MenuItem key={f.id} value={f.id}>
                    {f.label}
                  </MenuItem>
                ))}
              </TextField>
            </Box>
          ) : 'byPlan' in limit.within ? null : (
            <AmountFields label="Within" amount={limit.within} onChange={within => change({ within })} />
          )}
          <TextField
            select
            fullWidth
            label="Unanswered at the limit"
            value={kindOf(limit.atLimit)}
            onChange={event => chooseAt(event.target.value as ReturnType<typeof kindOf>)}
          >
            <MenuItem value="wait">it stays and is shown as late</MenuItem>
            <MenuItem value="pass up">pass to the manager above</MenuItem>
            <MenuItem value="passTo">pass to somebody else</MenuItem>
            <MenuItem value="tell">it stays, and somebody is told</MenuItem>
            {outcomes.length > 0 && <MenuItem value="take">an outcome is taken</MenuItem>}
          </TextField>
          {typeof limit.atLimit === 'object' && 'take' in limit.atLimit && (
            <TextField
              select
              label="Outcome"
              value={limit.atLimit.take}
              onChange={event => change({ atLimit: { take: event.target.value } })}
            >
              {outcomes.map(o => (
                <MenuItem key={o.id} value={o.id}>
                  {o.label}
                </MenuItem>
              ))}
            </TextField>
          )}
          {typeof limit.atLimit === 'object' && 'passTo' in limit.atLimit && (
            <RuleFields
              rule={limit.atLimit.passTo}
              onChange={passTo => change({ atLimit: { passTo } })}
              definition={definition}
              index={index}
              label="Pass to"
            />
          )}
          {typeof limit.atLimit === 'object' && 'tell' in limit.atLimit && (
            <RuleFields
              rule={limit.atLimit.tell}
              onChange={tell => change({ atLimit: { tell } })}
              definition={definition}
              index={index}
              label="Tell"
            />
          )}
          <FormControlLabel
            control={
              <Checkbox
                checked={limit.remind !== null}
                onChange={(_, on) => change({ remind: on ? { after: { workingDays: 1 }, atMost: 3 } : null })}
              />
            }
            label="Send reminders"
          />
          {limit.remind && (
            <>
              <AmountFields
                label="First after"
                amount={limit.remind.after}
                onChange={after => limit.remind && change({ remind: { ...limit.remind, after } })}
              />
              <AmountFields
                label="Then every"
                amount={limit.remind.every ?? limit.remind.after}
                onChange={every => limit.remind && change({ remind: { ...limit.remind, every } })}
              />
              <TextField
                label="At most"
                value={limit.remind.atMost}
                onChange={event => {
                  const n = Number(event.target.value.replace(/\D/g, ''));
                  if (limit.remind) change({ remind: { ...limit.remind, atMost: Math.min(20, Math.max(1, n)) } });
                }}
                slotProps={{ htmlInput: { inputMode: 'numeric' }, input: { endAdornment: 'reminders' } }}
              />
            </>
          )}
        </Box>
      )}
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}
