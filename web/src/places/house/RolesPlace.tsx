/** Who has which role and from when to when, what rights open, and North Pebble as somebody else sees it. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { may, type RolesView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { dateWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { call } from '../../api/client.ts';
import { queryClient, rolesQuery } from '../../api/queries.ts';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { ChoiceField } from '../../parts/change/ChoiceField.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Empty, Loaded } from '../../parts/Page.tsx';
import { HouseFrame } from './HouseFrame.tsx';

type Row = RolesView['rows'][number];

function Give({ view, onDone }: { view: RolesView; onDone: () => void }) {
  const [typed, setTyped] = useState({ role: '', person: '', place: '', department: '', from: '', to: '' });
  const { role, person, place, department, from, to } = typed;
  const change =
    role.trim() !== '' && person !== ''
      ? ({
          what: 'role',
          role,
          person,
          place: place || null,
          department: department || null,
          from: from || null,
          to: to || null,
          held: true,
        } as unknown as HouseChange)
      : null;
  const changing = useChange(change, onDone);
  const { faultOf } = changing;
  const put = (more: Partial<typeof typed>) => changing.put(setTyped)({ ...typed, ...more });
  const known = [...new Set(view.rows.map(one => one.role))];
  return (
    <Box
      component="form"
      aria-label="Give a role"
      onSubmit={changing.send}
      sx={{ mb: 3, maxWidth: 760, display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' } }}
    >
      <Typography variant="h3" component="h2" sx={{ gridColumn: '1 / -1' }}>
        Give a role
      </Typography>
      <TextField
        label="Role"
        value={role}
        onChange={event => put({ role: event.target.value })}
        error={faultOf('role') !== undefined}
        helperText={faultOf('role') ?? (role && !known.includes(role) ? 'A role that is new here.' : ' ')}
        slotProps={{ htmlInput: { list: 'roles-known' } }}
        autoComplete="off"
      />
      <datalist id="roles-known">
        {known.map(one => (
          <option key={one} value={one} />
        ))}
      </datalist>
      <PersonField
        label="Who"
        {...(faultOf('person') ? { fault: faultOf('person') as string } : {})}
        onChange={one => put({ person: one && 'person' in one ? one.person : '' })}
      />
      <ChoiceField
        label="For the people of a place"
        value={place}
        none="of every place"
        options={view.places}
        onChange={id => put({ place: id })}
      />
      <ChoiceField
        label="For the people of a department"
        value={department}
        none="of every department"
        options={view.departments}
        onChange={id => put({ department: id })}
      />
      <DayField
        label="From"
        date={from}
        onDate={date => put({ from: date })}
        help="Left empty, always."
        fault={faultOf('from') !== undefined}
      />
      <DayField
        label="To"
        date={to}
        onDate={date => put({ to: date })}
        help={faultOf('to') ?? 'Left empty, without an end.'}
        fault={faultOf('to') !== undefined}
      />
      <Box sx={{ gridColumn: '1 / -1', display: 'grid', gap: 2 }}>
        <ChangeEnd changing={changing} verb="Give the role" onCancel={onDone} />
      </Box>
    </Box>
  );
}

function End({ row, onDone }: { row: Row; onDone: () => void }) {
  const [to, setTo] = useState('');
  const own = {
    what: 'role',
    role: row.role,
    person: row.person.id,
    place: row.place?.id ?? null,
    department: row.department?.id ?? null,
  };
  const change = { ...own, from: row.from, to: to || null, held: to !== '' } as unknown as HouseChange;
  const changing = useChange(change, onDone);
  return (
    <Box
      component="form"
      aria-label={`End ${row.role}`}
      onSubmit={changing.send}
      sx={{ my: 1.5, maxWidth: 460, display: 'grid', gap: 2 }}
    >
      <DayField
        label="Last day"
        date={to}
        onDate={date => {
          setTo(date);
          changing.anew();
        }}
        help={changing.faultOf('to') ?? 'Left empty, it is taken away as if it had never been given.'}
        fault={changing.faultOf('to') !== undefined}
      />
      <ChangeEnd changing={changing} verb={to ? 'End it on that day' : 'Take it away'} onCancel={onDone} />
    </Box>
  );
}

function Holders({ rows, used }: { rows: readonly Row[]; used: RolesView['used'][number] | undefined }) {
  const year = useYear();
  const [ending, setEnding] = useState<string | null>(null);
  const key = (row: Row) => `${row.person.id} ${row.place?.id} ${row.department?.id}`;
  return (
    <>
      <Typography variant="body2" color="textSecondary">
        {!used || used.in.length === 0 ? 'No workflow asks it.' : `Asked in ${used.in.join(', ')}.`}
        {used && used.reads.length > 0 && ` Reads what few may read in ${used.reads.join(', ')}.`}
        {used?.opens.map(one => ` ${one}`)}
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0, mt: 0.5 }}>
        {rows.map(row => (
          <Box
            component="li"
            key={key(row)}
            sx={{ py: 0.4, fontSize: 14.5, color: row.standing === 'now' ? 'text.primary' : 'text.secondary' }}
          >
            <Link component={RouterLink} to={`/people/${row.person.id}`}>
              {row.person.name}
            </Link>
            {row.place && ` for ${row.place.name}`}
            {row.department && ` for ${row.department.name}`}
            {row.from && ` from ${dateWords(row.from, year)}`}
            {row.to && ` until ${dateWords(row.to, year)}`}
            {row.standing === 'left' && ' (does not work here any more)'}
            {row.standing === 'over' && ' (over)'}
            {row.standing === 'later' && ' (planned)'}{' '}
            <Link
              component="button"
              type="button"
              aria-label={`End ${row.role} of ${row.person.name}`}
              onClick={() => setEnding(key(row))}
              sx={{ fontSize: 13, ml: 1, fontWeight: 400 }}
            >
              End it
            </Link>
            {ending === key(row) && <End row={row} onDone={() => setEnding(null)} />}
          </Box>
        ))}
      </Box>
    </>
  );
}

function SeeAs() {
  const [person, setPerson] = useState('');
  const [reason, setReason] = useState('');
  const see = useMutation({
    mutationFn: () => call('POST /session/as', { body: { person: person as never, reason } }),
    onSuccess: () => {
      queryClient.clear();
      window.location.assign('/desk');
    },
  });
  return (
    <Box
      component="form"
      aria-label="See North Pebble as"
      onSubmit={event => {
        event.preventDefault();
        see.mutate();
      }}
      sx={{ maxWidth: 460, display: 'grid', gap: 2, mt: 1 }}
    >
      <Typography variant="body2" color="textSecondary">
        You see what they see, for half an hour at most, and can change nothing. It is kept who looked, as whom and why.
      </Typography>
      <PersonField label="As whom" onChange={one => setPerson(one && 'person' in one ? one.person : '')} />
      <TextField label="Why" value={reason} onChange={event => setReason(event.target.value)} />
      <FailureNote fault={see.error} />
      <Box>
        <Button type="submit" variant="contained" disabled={person === '' || reason.trim() === '' || see.isPending}>
          See North Pebble as they do
        </Button>
      </Box>
    </Box>
  );
}

function Rights({ view }: { view: RolesView }) {
  const { self } = useHere();
  return (
    <Box component="section" aria-label="Rights" sx={{ mt: 5 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        Rights, and what they open
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ maxWidth: 720, mb: 2 }}>
        Without any right, somebody sees and does what is theirs, what comes to them, and what those above and those in
        HR who look after people may. These lines are made from the table by which the server decides.
      </Typography>
      <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: { xs: '1fr', md: 'repeat(3, minmax(0, 1fr))' } }}>
        {view.rights.map(({ right, people, opens }) => (
          <Box key={right}>
            <Typography variant="h3" component="h3">
              {right[0]?.toUpperCase() + right.slice(1)}
            </Typography>
            <Typography variant="body2">
              {people.length === 0 ? 'nobody' : people.map(one => one.name).join(', ')}
            </Typography>
            <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.25, fontSize: 14, color: 'text.secondary' }}>
              {opens.map(one => (
                <li key={one}>{one}</li>
              ))}
            </Box>
          </Box>
        ))}
      </Box>
      {may(self, 'see as others') && (
        <Box sx={{ mt: 4 }}>
          <Typography variant="h3" component="h3">
            See North Pebble as somebody else
          </Typography>
          <SeeAs />
        </Box>
      )}
    </Box>
  );
}

export function RolesPlace() {
  const found = useQuery(rolesQuery);
  const [isOpen, setIsOpen] = useState(false);
  return (
    <HouseFrame
      title="Roles and rights"
      sub="A role says who is asked; a right says what somebody may do here."
      actions={
        !isOpen && (
          <Button variant="contained" color="primary" onClick={() => setIsOpen(true)}>
            Give a role
          </Button>
        )
      }
    >
      <Loaded query={found}>
        {view => (
          <>
            {isOpen && <Give view={view} onDone={() => setIsOpen(false)} />}
            {view.rows.length === 0 ? (
              <Empty title="Nobody has a role">
                Workflows ask roles such as HR partner or Travel desk: give the first one.
              </Empty>
            ) : (
              <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' } }}>
                {[...new Set(view.rows.map(one => one.role))].map(role => (
                  <Box component="section" aria-label={role} key={role}>
                    <Typography variant="h3" component="h2">
                      {role}
                    </Typography>
                    <Holders
                      rows={view.rows.filter(one => one.role === role)}
                      used={view.used.find(one => one.role === role)}
                    />
                  </Box>
                ))}
              </Box>
            )}
            <Rights view={view} />
          </>
        )}
      </Loaded>
    </HouseFrame>
  );
}
