/** Groups that go with a post, a place or a department: a line each, of what the house and the directory have. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type GroupRule, groupsGoBy } from '@north-pebble/core/access';
import { useQuery } from '@tanstack/react-query';
import { directoryQuery } from '../../api/queries.ts';
import { NamedThere } from '../../parts/NamedThere.tsx';

const words = { everybody: 'Everybody', post: 'Post', place: 'Place', department: 'Department' } as const;

type Props = {
  label: string;
  help: string | null;
  /** The connection whose groups are offered; nothing before it is set up. */
  connection: string | null;
  rules: readonly GroupRule[];
  /** By the path within the rules, as in `3.group`. */
  faultOf: (path: string) => string | undefined;
  onChange: (rules: readonly GroupRule[]) => void;
};

export function GroupRulesField({ label, help, connection, rules, faultOf, onChange }: Props) {
  const directory = useQuery(directoryQuery);
  const values = {
    post: directory.data?.directory.posts.map(one => one.title) ?? [],
    place: directory.data?.directory.places.map(one => one.name) ?? [],
    department: directory.data?.directory.departments.map(one => one.name) ?? [],
  };
  const put = (at: number, change: Partial<GroupRule>) =>
    onChange(rules.map((rule, n) => (n === at ? { ...rule, ...change } : rule)));
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, display: 'grid', gap: 1.5 }}>
      <Typography component="legend" variant="subtitle2" sx={{ p: 0, mb: 0.5 }}>
        {label}
      </Typography>
      {help && (
        <Typography variant="body2" color="text.secondary">
          {help}
        </Typography>
      )}
      {rules.map((rule, n) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no name of their own, and are only added at the end
          key={n}
          role="group"
          aria-label={`Line ${n + 1}`}
          sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr 32px', sm: '150px 1fr 1fr 32px' }, gap: 1 }}
        >
          <TextField
            select
            label="Goes with"
            value={rule.by}
            onChange={event => put(n, { by: event.target.value as GroupRule['by'], value: '' })}
          >
            {groupsGoBy.map(by => (
              <MenuItem key={by} value={by}>
                {words[by]}
              </MenuItem>
            ))}
          </TextField>
          {rule.by === 'everybody' ? (
            <span />
          ) : (
            <Autocomplete
              options={[...new Set(values[rule.by])].sort()}
              value={rule.value || null}
              loading={directory.isPending}
              onChange={(_, value) => put(n, { value: value ?? '' })}
              renderInput={props => {
                const fault = faultOf(`${n}.value`);
                return (
                  <TextField {...props} label={`Which ${rule.by}`} error={fault !== undefined} helperText={fault} />
                );
              }}
            />
          )}
          {connection === null ? (
            <TextField
              label="Group"
              value={rule.group}
              onChange={event => put(n, { group: event.target.value })}
              error={faultOf(`${n}.group`) !== undefined}
              helperText={faultOf(`${n}.group`)}
            />
          ) : (
            <NamedThere
              label="Group"
              connection={connection}
              what="groups"
              value={rule.group}
              onChange={group => put(n, { group })}
              fault={faultOf(`${n}.group`)}
            />
          )}
          <IconButton
            size="small"
            aria-label={`Take line ${n + 1} out`}
            onClick={() => onChange(rules.filter((_, other) => other !== n))}
            sx={{ alignSelf: 'start', mt: 0.5 }}
          >
            <CloseOutlined fontSize="inherit" />
          </IconButton>
        </Box>
      ))}
      <Box>
        <Button
          size="small"
          startIcon={<AddOutlined />}
          onClick={() => onChange([...rules, { by: 'post', value: '', group: '' }])}
        >
          Add a group
        </Button>
      </Box>
    </Box>
  );
}
