/** Deciding by mail: what else is understood as an outcome in the first line of a reply. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { allSteps, type Definition } from '@north-pebble/core/workflow';
import { dequal } from 'dequal';
import { memo } from 'react';

type Props = { definition: Definition; readOnly: boolean; onSet: (key: string, value: unknown) => void };

/** Every outcome that somebody may choose, once, in the order of the steps. */
export const outcomeLabels = (definition: Definition): string[] => [
  ...new Set(allSteps(definition).flatMap(step => (step.verb === 'Decide' ? step.outcomes.map(o => o.label) : []))),
];

const most = 10;

export const ByMail = memo(
  function ByMail({ definition, readOnly, onSet }: Props) {
    const labels = outcomeLabels(definition);
    if (labels.length === 0) return null;
    const phrases = definition.phrases ?? {};
    const set = (label: string, said: readonly string[]) => {
      const clean = [...new Set(said.map(one => one.trim().slice(0, 80)).filter(one => one && one !== label))];
      const next = Object.fromEntries(
        Object.entries({ ...phrases, [label]: clean.slice(0, most) }).filter(([, all]) => all.length > 0),
      );
      onSet('phrases', Object.keys(next).length > 0 ? next : undefined);
    };
    return (
      <>
        <Typography variant="overline" component="h2" color="textSecondary">
          Deciding by mail
        </Typography>
        <Typography variant="body2">
          A reply decides when its first line is the name of an outcome, or one of these.
        </Typography>
        <Box sx={{ display: 'grid', gap: 1.5 }}>
          {labels.map(label => (
            <Autocomplete
              key={label}
              multiple
              freeSolo
              autoSelect
              options={[] as string[]}
              value={phrases[label] ?? []}
              disabled={readOnly}
              onChange={(_, said) => set(label, said)}
              renderInput={params => (
                <TextField {...params} label={`“${label}” is also`} helperText="Type words and press Enter." />
              )}
            />
          ))}
        </Box>
      </>
    );
  },
  (a, b) =>
    a.readOnly === b.readOnly &&
    a.onSet === b.onSet &&
    dequal(a.definition.phrases, b.definition.phrases) &&
    dequal(outcomeLabels(a.definition), outcomeLabels(b.definition)),
);
