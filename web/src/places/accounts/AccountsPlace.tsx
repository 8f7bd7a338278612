/** Accounts: who can sign in, what they may do, and inviting others. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type AccountRow, type ColleagueField, colleagueFields, type Invite, type Right } from '@north-pebble/contract';
import { fullMoment } from '@north-pebble/core/time';
import type { ToWhom } from '@north-pebble/core/workflow';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import {
  accountsQuery,
  colleaguesQuery,
  exportsQuery,
  missingAccountsQuery,
  queryClient,
  requiredFactorQuery,
} from '../../api/queries.ts';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { useHere } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { PersonPebble } from '../../parts/Pebble.tsx';

const rightWords: Record<Right, string> = {
  designer: 'designs workflows and helps requests on',
  administrator: 'looks after accounts and connections',
  auditor: 'reads everything, changes nothing',
};
const allRights = Object.keys(rightWords) as Right[];
type RightBoxesProps = {
  chosen: readonly Right[];
  /** What is said of each; its name when left out. */
  words?: Record<Right, string>;
  disabled?: boolean;
  /** Whether they stand one below the other. */
  below?: boolean;
  onChange: (rights: Right[]) => void;
};

function RightBoxes({ chosen, words, disabled = false, below = false, onChange }: RightBoxesProps) {
  return allRights.map(right => (
    <FormControlLabel
      key={right}
      sx={below ? { display: 'flex' } : undefined}
      control={
        <Checkbox
          size="small"
          checked={chosen.includes(right)}
          disabled={disabled}
          onChange={(_, on) => onChange(on ? [...chosen, right] : chosen.filter(one => one !== right))}
        />
      }
      label={words?.[right] ?? right}
    />
  ));
}

/** Which rights are there only for those who sign in with a second factor. */
function Required() {
  const required = useQuery(requiredFactorQuery);
  const change = useMutation({
    mutationFn: (rights: Right[]) => call('PUT /factor/required', { body: { rights } }),
    onSuccess: now => queryClient.setQueryData(requiredFactorQuery.queryKey, now),
  });
  if (!required.data) return null;
  const { rights } = required.data;
  return (
    <Box role="group" aria-label="Second factor needed" sx={{ mb: 3 }}>
      <Typography variant="body2" color="textSecondary">
        A second factor is needed of whoever
      </Typography>
      <RightBoxes
        chosen={rights}
        words={rightWords}
        disabled={change.isPending}
        onChange={next => change.mutate(next)}
      />
      <FailureNote fault={change.error} />
    </Box>
  );
}

const colleagueWords: Record<ColleagueField, string> = {
  manager: 'line manager and reporting structure',
  mail: 'mail address',
  joined: 'first day',
  left: 'last day',
};

/** What everybody reads of everybody; HR, the line above and oneself read more. */
function Colleagues() {
  const read = useQuery(colleaguesQuery);
  const change = useMutation({
    mutationFn: (fields: ColleagueField[]) => call('PUT /colleagues', { body: { fields } }),
    onSuccess: now => queryClient.setQueryData(colleaguesQuery.queryKey, now),
  });
  if (!read.data) return null;
  const fields = [...read.data.fields];
  return (
    <Box role="group" aria-label="What colleagues read" sx={{ mb: 3 }}>
      <Typography variant="body2" color="textSecondary">
        Besides name, post, place and department, colleagues read of one another
      </Typography>
      {colleagueFields.map(field => (
        <FormControlLabel
          key={field}
          control={
            <Checkbox
              size="small"
              checked={fields.includes(field)}
              disabled={change.isPending}
              onChange={(_, on) => change.mutate(on ? [...fields, field] : fields.filter(one => one !== field))}
            />
          }
          label={colleagueWords[field]}
        />
      ))}
      <FailureNote fault={change.error} />
    </Box>
  );
}

/** What was taken along as a file, by whom and when. */
function Exports() {
  const zone = useHere().self.zone;
  const exports = useQuery(exportsQuery);
  if (!exports.data) return null;
  return (
    <Box component="section" aria-labelledby="exports" sx={{ mt: 4 }}>
      <Typography id="exports" variant="h3" component="h2" sx={{ mb: 1 }}>
        Exports
      </Typography>
      {exports.data.length === 0 ? (
        <Typography color="textSecondary">Nothing has been exported. Every export is listed here.</Typography>
      ) : (
        <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
          {exports.data.map(({ id, who, as, what, at }) => (
            <Typography key={id} component="li" variant="body2" sx={{ py: 0.5, overflowWrap: 'anywhere' }}>
              {fullMoment(at, zone)}: {who}
              {as && ` as ${as}`}, {what}
            </Typography>
          ))}
        </Box>
      )}
    </Box>
  );
}

const keep = (rows: AccountRow[]) => queryClient.setQueryData(accountsQuery.queryKey, rows);

function InviteForm({ onDone }: { onDone: () => void }) {
  const [typed, setTyped] = useState({ name: '', mail: '', post: '' });
  const [manager, setManager] = useState<ToWhom | null>(null);
  const [rights, setRights] = useState<Right[]>([]);
  const invite = useMutation({
    mutationFn: () => {
      const body: Invite = { ...typed, manager: manager && 'person' in manager ? manager.person : '', rights };
      return call('POST /accounts', { body });
    },
    onSuccess: rows => {
      keep(rows);
      onDone();
    },
  });
  const faults = problemOf(invite.error)?.faults ?? [];
  const fault = (name: string) => faults.find(one => one.field === name)?.message;
  const field = (name: keyof typeof typed, label: string, help = '') => (
    <TextField
      label={label}
      value={typed[name]}
      onChange={event => setTyped({ ...typed, [name]: event.target.value })}
      error={fault(name) !== undefined}
      helperText={fault(name) ?? help}
    />
  );
  const send = (event: FormEvent) => {
    event.preventDefault();
    invite.mutate();
  };
  return (
    <Box
      component="form"
      noValidate
      aria-label="Invite somebody"
      onSubmit={send}
      sx={{ display: 'grid', gap: 2, maxWidth: 520, mb: 4 }}
    >
      {field('name', 'Name')}
      {field('mail', 'Mail address', 'The invitation goes there; it lasts two weeks.')}
      {field('post', 'What they do', 'As Payroll clerk or Ferry captain.')}
      <Box>
        <PersonField label="Who leads them" onChange={setManager} />
        {fault('manager') && (
          <Typography role="alert" variant="body2" color="error">
            {fault('manager')}
          </Typography>
        )}
      </Box>
      <Box role="group" aria-label="What they may do besides asking">
        <Typography variant="body2" color="textSecondary">
          What they may do besides asking and deciding what comes to them
        </Typography>
        <RightBoxes chosen={rights} words={rightWords} onChange={setRights} below />
      </Box>
      {faults.length === 0 && <FailureNote fault={invite.error} />}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" color="primary" disabled={invite.isPending}>
          Send the invitation
        </Button>
        <Button onClick={onDone}>Not now</Button>
      </Box>
    </Box>
  );
}

function Account({ row }: { row: AccountRow }) {
  const { self } = useHere();
  const change = useMutation({
    mutationFn: (body: object) => call('PUT /accounts/:person', { params: { person: row.person }, body }),
    onSuccess: keep,
  });
  const again = useMutation({
    mutationFn: () => call('POST /accounts/:person/invitation', { params: { person: row.person } }),
    onSuccess: keep,
  });
  const state = row.closed
    ? 'switched off'
    : row.isOpen
      ? ''
      : again.isSuccess
        ? 'invited again'
        : 'invited, no password yet';
  return (
    <Box
      component="li"
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '36px 1fr', md: '36px minmax(0, 1.4fr) minmax(0, 2fr) auto' },
        gap: 1.25,
        alignItems: 'center',
        py: 1,
        borderBottom: '1px solid',
        borderColor: 'divider',
      }}
    >
      <PersonPebble name={row.name} />
      <Box sx={{ minWidth: 0 }}>
        <Typography sx={{ fontWeight: 650 }}>{row.name}</Typography>
        <Typography variant="body2" color="textSecondary">
          {row.mail}
          {[state, row.hasFactor ? 'second factor' : ''].map(words => words && ` · ${words}`)}
        </Typography>
      </Box>
      <Box sx={{ gridColumn: { xs: '2', md: 'auto' } }}>
        <RightBoxes
          chosen={row.rights}
          disabled={change.isPending || row.closed}
          onChange={rights => change.mutate({ rights })}
        />
        <FailureNote fault={change.error ?? again.error} />
      </Box>
      <Box sx={{ gridColumn: { xs: '2', md: 'auto' }, display: 'flex', gap: 1 }}>
        {!row.isOpen && !row.closed && (
          <Button size="small" onClick={() => again.mutate()} disabled={again.isPending}>
            Invite again
          </Button>
        )}
        {row.hasFactor && row.person !== self.id && (
          <Button size="small" onClick={() => change.mutate({ factor: false })} disabled={change.isPending}>
            Take the second factor away
          </Button>
        )}
        {row.person !== self.id && (
          <Button size="small" onClick={() => change.mutate({ closed: !row.closed })} disabled={change.isPending}>
            {row.closed ? 'Switch on' : 'Switch off'}
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** Those who came with files, or by a request: on file, and not invited yet. */
function Missing() {
  const found = useQuery(missingAccountsQuery);
  const invite = useMutation({
    mutationFn: () => call('POST /accounts/missing'),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['accounts'] }),
  });
  const n = found.data?.people ?? 0;
  if (n === 0 && !invite.error) return null;
  return (
    <Note tone="now" title={n === 1 ? 'One person on file has no account' : `${n} people on file have no account`}>
      Each is sent an invitation to choose a password; it lasts two weeks.{' '}
      <Button size="small" disabled={invite.isPending} onClick={() => invite.mutate()}>
        {invite.isPending
          ? 'One moment …'
          : n === 1
            ? 'Invite them'
            : n > 300
              ? 'Invite the first 300'
              : 'Invite them all'}
      </Button>
      <FailureNote fault={invite.error} />
    </Note>
  );
}

export function AccountsPlace() {
  const accounts = useQuery(accountsQuery);
  const [invites, setInvites] = useState(false);
  const [words, setWords] = useState('');
  const wanted = words.trim().toLowerCase();
  return (
    <Page
      title="Accounts"
      sub="Who can sign in, and what they may do."
      actions={
        invites ? undefined : (
          <Button variant="outlined" onClick={() => setInvites(true)}>
            Invite somebody
          </Button>
        )
      }
    >
      <Required />
      <Colleagues />
      <Missing />
      {invites && <InviteForm onDone={() => setInvites(false)} />}
      <Loaded query={accounts}>
        {rows => {
          const shown = rows.filter(row => `${row.name} ${row.mail}`.toLowerCase().includes(wanted));
          return (
            <>
              {rows.length > 8 && (
                <TextField
                  size="small"
                  label="Find a name or address"
                  value={words}
                  onChange={event => setWords(event.target.value)}
                  sx={{ mb: 1.5, width: 300 }}
                />
              )}
              <Box component="ul" aria-label="Accounts" sx={{ listStyle: 'none', p: 0, m: 0 }}>
                {shown.slice(0, 100).map(row => (
                  <Account key={row.person} row={row} />
                ))}
              </Box>
              {shown.length > 100 && (
                <Typography color="textSecondary" sx={{ mt: 1 }}>
                  {shown.length - 100} more: find them by name.
                </Typography>
              )}
            </>
          );
        }}
      </Loaded>
      <Exports />
    </Page>
  );
}
