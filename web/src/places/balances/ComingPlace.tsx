/** Joiners and leavers before any date is set: what the first leave years give, and what is left on a last day. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type LeavingView, may } from '@north-pebble/contract';
import { amountOfUnit, type CivilDate, fullDate, isCivilDate } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { joiningQuery, leaveRulesQuery, leavingQuery } from '../../api/queries.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { useHere } from '../../parts/frame/session.ts';
import { Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';

function Part({ title, words, children }: { title: string; words: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mb: 4, maxWidth: 760 }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 2 }}>
        {words}
      </Typography>
      {children}
    </Box>
  );
}

/** Amounts in lines that are read from the left to the right. */
function Lines({ label, lines }: { label: string; lines: readonly { key: string; what: string; amount: string }[] }) {
  return (
    <Box component="ul" aria-label={label} sx={{ listStyle: 'none', p: 0, m: 0, mt: 1.5 }}>
      {lines.map(({ key, what, amount }) => (
        <Box
          component="li"
          key={key}
          sx={{ display: 'flex', gap: 2, py: 0.75, borderBottom: '1px solid', borderColor: 'divider', maxWidth: 560 }}
        >
          <Box component="span" sx={{ flex: 1 }}>
            {what}
          </Box>
          <Box component="span" sx={{ fontWeight: 650, fontVariantNumeric: 'tabular-nums' }}>
            {amount}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function AtLeaving({ view }: { view: LeavingView }) {
  return (
    <>
      <Typography sx={{ mt: 2, fontWeight: 650 }}>
        {view.name}, last day {fullDate(view.on)}
      </Typography>
      {view.types.length === 0 && <Typography>{view.name} has no balance of any leave.</Typography>}
      {view.types.map(({ id, name, unit, plan, entitled, balance }) => (
        <Box key={id} sx={{ mt: 1.5 }}>
          <Typography variant="h3">
            {name}, {plan}
          </Typography>
          <Lines
            label={`${name} on the last day`}
            lines={[
              { key: 'given', what: 'Given in the last leave year, up to then', amount: amountOfUnit(entitled, unit) },
              {
                key: 'balance',
                what:
                  balance < 0
                    ? 'Taken beyond what there was, to be settled with pay'
                    : 'Not taken, to be settled with pay',
                amount: amountOfUnit(balance, unit),
              },
            ]}
          />
        </Box>
      ))}
      {view.after.length > 0 && (
        <Box sx={{ mt: 2 }}>
          <Note tone="waiting" title="Leave that goes on after the last day">
            It is not counted above. Change or void it where it is no more.
            <Box component="ul" sx={{ pl: 2.5, my: 0.5 }}>
              {view.after.map(({ request, label }) => (
                <li key={request}>
                  <Link component={RouterLink} to={`/requests/${request}`}>
                    {label}
                  </Link>
                </li>
              ))}
            </Box>
          </Note>
        </Box>
      )}
      <Button component={RouterLink} to={`/balances?person=${view.person}`} size="small" sx={{ mt: 1 }}>
        The statement of {view.name}
      </Button>
    </>
  );
}

function Leaving() {
  const [search, setSearch] = useSearchParams();
  const person = search.get('person');
  const on = search.get('on') ?? '';
  const isAsked = person !== null && isCivilDate(on);
  const found = useQuery({ ...leavingQuery(person ?? '', on), enabled: isAsked, placeholderData: keepPreviousData });
  const put = (key: string, value: string | null) =>
    setSearch(
      before => {
        const next = new URLSearchParams(before);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  return (
    <Part
      title="Somebody leaves"
      words="What there would be on a last day, with everything booked until then. Nothing is changed by asking."
    >
      <Box
        sx={{ display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: 'minmax(0, 1fr) 220px' }, maxWidth: 560 }}
      >
        <PersonField label="Who" onChange={to => put('person', to && 'person' in to ? to.person : null)} />
        <DayField label="Last day" date={on} onDate={date => put('on', date)} />
      </Box>
      {isAsked && <Loaded query={found}>{view => <AtLeaving view={view} />}</Loaded>}
    </Part>
  );
}

const shares = [1, 0.9, 0.8, 0.7, 0.6, 0.5, 0.4, 0.3, 0.2] as const;

function Joining() {
  const rules = useQuery(leaveRulesQuery);
  const [plan, setPlan] = useState('');
  const [joined, setJoined] = useState('');
  const [share, setShare] = useState('1');
  const chosen = plan || (rules.data?.plans[0]?.id ?? '');
  const isAsked = chosen !== '' && isCivilDate(joined);
  const found = useQuery({
    ...joiningQuery(chosen, joined, share),
    enabled: isAsked,
    placeholderData: keepPreviousData,
  });
  return (
    <Part title="Somebody joins" words="What a plan gives in the first leave year and in the one after it.">
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <TextField
          select
          label="Leave plan"
          value={chosen}
          onChange={event => setPlan(event.target.value)}
          sx={{ minWidth: 180 }}
        >
          {(rules.data?.plans ?? []).map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <Box sx={{ width: 220 }}>
          <DayField label="First day" date={joined} onDate={setJoined} />
        </Box>
        <TextField
          select
          label="Share of full time"
          value={share}
          onChange={event => setShare(event.target.value)}
          sx={{ minWidth: 150 }}
        >
          {shares.map(one => (
            <MenuItem key={one} value={String(one)}>
              {one === 1 ? 'full time' : `${one * 100} %`}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {isAsked && (
        <Loaded query={found}>
          {({ unit, years }) => (
            <Lines
              label="What the plan gives"
              lines={years.map(({ until, amount }, n) => ({
                key: until,
                what: `${n === 0 ? 'First leave year' : 'The one after it'}, until ${fullDate(until as CivilDate)}`,
                amount: amountOfUnit(amount, unit),
              }))}
            />
          )}
        </Loaded>
      )}
    </Part>
  );
}

export function ComingPlace() {
  const { self } = useHere();
  return (
    <Page
      wide
      title="Coming and leaving"
      sub="Leave before any date is on file: it comes to the same once it is."
      actions={
        <Button component={RouterLink} to="/balances/everyone">
          Everybody’s balances
        </Button>
      }
    >
      <Leaving />
      {may(self, 'keep records') && <Joining />}
    </Page>
  );
}
