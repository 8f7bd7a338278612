/** What is done about papers of each kind: when the new one is asked for, when its holder is reminded, how long the old one is kept. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PapersView } from '@north-pebble/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { FailureNote } from '../../parts/Notes.tsx';

type Rules = PapersView['rules'][number];

function sentence(
  { kind, askBefore, workflow, remindBefore, keepAfter }: Rules,
  workflows: PapersView['workflows'],
): string {
  const name = workflows.find(one => one.id === workflow)?.name ?? workflow;
  const asks = workflow
    ? `the new one is asked for ${askBefore} days before it runs out, by “${name}”`
    : `it is shown ${askBefore} days before it runs out, and nobody is asked by itself`;
  const reminds =
    remindBefore.length > 0 ? `its holder is reminded ${remindBefore.join(', ')} days before` : 'nobody is reminded';
  return `${kind}: ${asks}; ${reminds}; it is thrown away ${keepAfter} days after it is not needed any more.`;
}

const numbers = (text: string): number[] => (text.match(/\d+/g) ?? []).map(Number);

function Editor({
  rules,
  workflows,
  onDone,
}: {
  rules: Rules;
  workflows: PapersView['workflows'];
  onDone: () => void;
}) {
  const [ask, setAsk] = useState(String(rules.askBefore));
  const [workflow, setWorkflow] = useState(rules.workflow ?? '');
  const [remind, setRemind] = useState(rules.remindBefore.join(', '));
  const [keep, setKeep] = useState(String(rules.keepAfter));
  const save = useMutation({
    mutationFn: () =>
      call('PUT /papers/rules', {
        body: {
          kind: rules.kind,
          askBefore: Number(ask),
          workflow: workflow || null,
          remindBefore: numbers(remind),
          keepAfter: Number(keep),
        },
      }),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: ['papers'] });
      onDone();
    },
  });
  const faults = problemOf(save.error)?.faults ?? [];
  const faultOf = (field: string) => faults.find(one => one.field.startsWith(field))?.message;
  const numeric = { htmlInput: { inputMode: 'numeric' as const } };
  return (
    <Box
      component="form"
      noValidate
      onSubmit={event => {
        event.preventDefault();
        save.mutate();
      }}
      sx={{ display: 'grid', gap: 1.5, maxWidth: 460, my: 1 }}
    >
      <Typography variant="h3" component="h3">
        {rules.kind}
      </Typography>
      <TextField
        autoFocus
        label="Asked for so many days before it runs out"
        value={ask}
        onChange={event => setAsk(event.target.value)}
        error={faultOf('askBefore') !== undefined}
        helperText={faultOf('askBefore')}
        slotProps={numeric}
      />
      <TextField
        select
        label="By the workflow"
        value={workflow}
        onChange={event => setWorkflow(event.target.value)}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        <MenuItem value="">by none: nobody is asked by itself</MenuItem>
        {workflows.map(one => (
          <MenuItem key={one.id} value={one.id}>
            {one.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="Reminded so many days before, with commas"
        value={remind}
        onChange={event => setRemind(event.target.value)}
        error={faultOf('remindBefore') !== undefined}
        helperText={faultOf('remindBefore')}
      />
      <TextField
        label="Thrown away so many days after it is not needed"
        value={keep}
        onChange={event => setKeep(event.target.value)}
        error={faultOf('keepAfter') !== undefined}
        helperText={faultOf('keepAfter')}
        slotProps={numeric}
      />
      {faults.length === 0 && <FailureNote fault={save.error} />}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" color="primary" disabled={save.isPending}>
          Keep these rules
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </Box>
    </Box>
  );
}

export function RulesOfPapers({ view }: { view: PapersView }) {
  const [open, setOpen] = useState<string | null>(null);
  if (view.rules.length === 0) return null;
  return (
    <Box component="section" aria-label="What is done about papers" sx={{ mt: 4, maxWidth: 820 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        What is done about papers
      </Typography>
      {view.rules.map(rules =>
        rules.kind === open ? (
          <Editor key={rules.kind} rules={rules} workflows={view.workflows} onDone={() => setOpen(null)} />
        ) : (
          <Box key={rules.kind} sx={{ display: 'flex', gap: 1.5, alignItems: 'start', py: 0.75 }}>
            <Typography variant="body2" sx={{ flex: 1 }}>
              {sentence(rules, view.workflows)}
            </Typography>
            <Button
              size="small"
              onClick={() => setOpen(rules.kind)}
              aria-label={`Change what is done about ${rules.kind}`}
            >
              Change
            </Button>
          </Box>
        ),
      )}
    </Box>
  );
}
