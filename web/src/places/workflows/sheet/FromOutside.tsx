/** Whether somebody outside may ask, what they fill in, who keeps it, and for how long. */
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { type Definition, mostMonthsKept, type Outside } from '@north-pebble/core/workflow';

type Props = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  readOnly: boolean;
  onOutside: (outside: Outside | undefined) => void;
};

/** A beginning that is as right as the form lets it be: the first section, and its lines of text for name and address. */
export function startOf({ form }: Definition, role: string): Outside {
  const section = form.sections?.[0]?.id ?? 'you';
  const lines = form.fields.filter(field => field.kind === 'text');
  const mail = lines.find(field => /mail/i.test(field.label)) ?? lines[1] ?? lines[0];
  const name = lines.find(field => field !== mail) ?? lines[0];
  return {
    name: name?.id ?? 'name',
    mail: mail?.id ?? 'mail',
    sections: [section],
    keptBy: { first: { kind: 'role', role }, otherwise: [] },
  };
}

export function FromOutside({ definition, index, readOnly, onOutside }: Props) {
  const outside = definition.opening?.outside;
  const roles = [...new Set(index?.directory.roles.map(r => r.role) ?? [])].toSorted();
  const sections = definition.form.sections ?? [];
  const lines = definition.form.fields.filter(field => field.kind === 'text');
  const put = (next: Partial<Outside>) => {
    if (!outside) return;
    const merged = { ...outside, ...next };
    onOutside(Object.fromEntries(Object.entries(merged).filter(([, value]) => value !== undefined)) as Outside);
  };
  const line = (label: string, key: 'name' | 'mail') => (
    <TextField
      select
      label={label}
      value={lines.some(field => field.id === outside?.[key]) ? outside?.[key] : ''}
      disabled={readOnly}
      onChange={event => put({ [key]: event.target.value })}
    >
      {lines.map(field => (
        <MenuItem key={field.id} value={field.id}>
          {field.label}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <>
      <FormControlLabel
        control={
          <Checkbox
            checked={outside !== undefined}
            disabled={readOnly}
            onChange={(_, on) =>
              onOutside(
                on ? startOf(definition, roles.includes('HR partner') ? 'HR partner' : (roles[0] ?? '')) : undefined,
              )
            }
          />
        }
        label="Also at a public address, by somebody without an account"
      />
      {outside && (
        <Box sx={{ display: 'grid', gap: 1.5, pl: 2, borderLeft: '3px solid', borderColor: 'divider' }}>
          <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
            <Typography component="legend" variant="body2" color="textSecondary">
              They fill in there
            </Typography>
            {sections.length === 0 && (
              <Typography variant="body2">The form has no sections yet. Make one under Form.</Typography>
            )}
            {sections.map(section => (
              <FormControlLabel
                key={section.id}
                control={
                  <Checkbox
                    checked={outside.sections.includes(section.id)}
                    disabled={readOnly}
                    onChange={(_, on) => {
                      const next = sections
                        .map(one => one.id)
                        .filter(id => (id === section.id ? on : outside.sections.includes(id)));
                      if (next.length > 0) put({ sections: next });
                    }}
                  />
                }
                label={section.title}
              />
            ))}
          </Box>
          <TextField
            label="Above the form stands"
            multiline
            minRows={2}
            value={outside.words ?? ''}
            placeholder={definition.purpose}
            disabled={readOnly}
            onChange={event => put({ words: event.target.value.slice(0, 500) || undefined })}
          />
          <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 1.5 }}>
            {line('Their name is in', 'name')}
            {line('Their mail address is in', 'mail')}
            <TextField
              select
              label="Kept in the house by"
              value={outside.keptBy.first.kind === 'role' ? outside.keptBy.first.role : ''}
              disabled={readOnly}
              helperText="In place of an asker: reads it, and is asked where nobody else has it."
              onChange={event => put({ keptBy: { first: { kind: 'role', role: event.target.value }, otherwise: [] } })}
            >
              {roles.map(role => (
                <MenuItem key={role} value={role}>
                  {role}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              label="Deleted so many months after its end"
              value={outside.keptMonths ?? ''}
              disabled={readOnly}
              helperText={
                outside.keptMonths === undefined
                  ? 'Nothing is deleted by itself.'
                  : 'All that they gave, and the trail.'
              }
              onChange={event => {
                const n = Math.min(mostMonthsKept, Number(event.target.value.replace(/\D/g, '')));
                put({ keptMonths: n > 0 ? n : undefined });
              }}
              slotProps={{ htmlInput: { inputMode: 'numeric' } }}
            />
          </Box>
        </Box>
      )}
    </>
  );
}
