/** Who stands in for whom, from when to when, and for which workflows. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import type { CoverRow, CoversView } from '@north-pebble/contract';
import { type CivilDate, civilDateAt, rangeWords } from '@north-pebble/core/time';
import type { ToWhom } from '@north-pebble/core/workflow';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useSearchParams } from 'react-router';
import { call, problemOf } from '../../api/client.ts';
import { coversQuery, queryClient } from '../../api/queries.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';

const personOf = (to: ToWhom | null) => (to && 'person' in to ? to.person : null);

function Row({ row, mine, onEnd }: { row: CoverRow; mine: boolean; onEnd?: () => void }) {
  const year = useYear();
  return (
    <Box
      component="li"
      sx={{
        display: 'flex',
        alignItems: 'baseline',
        gap: 2,
        py: 0.9,
        borderBottom: '1px solid',
        borderColor: 'divider',
      }}
    >
      <Box sx={{ flex: 1 }}>
        <b>{mine ? row.byName : `For ${row.personName}`}</b>, {rangeWords(row.from, row.to, year)}
        <Typography variant="body2" color="textSecondary">
          {row.workflows ? row.workflows.join(', ') : 'in every workflow'}
          {row.setByName && ` · set by ${row.setByName}`}
        </Typography>
      </Box>
      {onEnd && (
        <Button size="small" onClick={onEnd}>
          End it
        </Button>
      )}
    </Box>
  );
}

function CoverForm({ covers, from, to }: { covers: CoversView; from: string; to: string }) {
  const { self, now } = useHere();
  const [by, setBy] = useState<ToWhom | null>(null);
  const [first, setFirst] = useState(from);
  const [last, setLast] = useState(to);
  const [only, setOnly] = useState<string[] | null>(null);
  const send = useMutation({
    mutationFn: () =>
      call('PUT /covers', {
        body: { person: covers.person, by: personOf(by) ?? '', from: first, to: last, workflows: only },
      }),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  const problem = problemOf(send.error);
  const faultOf = (field: string) => problem?.faults?.find(f => f.field === field)?.message;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate();
  };
  return (
    <Box component="form" aria-label="New cover" onSubmit={submit} sx={{ display: 'grid', gap: 1.5, maxWidth: 560 }}>
      <PersonField label="Who stands in" fault={faultOf('by')} onChange={setBy} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        {(
          [
            ['First day', first, setFirst, 'from'],
            ['Last day', last, setLast, 'to'],
          ] as const
        ).map(([label, value, set, field]) => (
          <DayField
            key={label}
            label={label}
            date={value}
            onDate={set}
            start={civilDateAt(now, self.zone)}
            fault={faultOf(field) !== undefined}
            help={faultOf(field)}
          />
        ))}
      </Box>
      <FormControlLabel
        control={<Checkbox checked={only === null} onChange={(_, all) => setOnly(all ? null : [])} />}
        label="In every workflow"
      />
      {only && (
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
          <Typography component="legend" variant="body2" color="textSecondary">
            Only in these
          </Typography>
          {covers.workflows.map(workflow => (
            <FormControlLabel
              key={workflow.id}
              control={
                <Checkbox
                  size="small"
                  checked={only.includes(workflow.id)}
                  onChange={(_, on) => setOnly(on ? [...only, workflow.id] : only.filter(id => id !== workflow.id))}
                />
              }
              label={workflow.name}
            />
          ))}
        </Box>
      )}
      {problem && !problem.faults?.some(f => ['by', 'from', 'to'].includes(f.field)) && (
        <FailureNote fault={send.error} />
      )}
      <Box>
        <Button
          type="submit"
          variant="contained"
          color="primary"
          disabled={!personOf(by) || !first || !last || send.isPending}
        >
          Set it
        </Button>
      </Box>
    </Box>
  );
}

function Covers({ view, own }: { view: CoversView; own: boolean }) {
  const year = useYear();
  const [suggested, setSuggested] = useState<{ from: CivilDate; to: CivilDate } | null>(null);
  const end = useMutation({
    mutationFn: (row: CoverRow) =>
      call('DELETE /covers/:person/:from', { params: { person: row.person, from: row.from } }),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  const whom = own ? 'you' : view.personName;
  return (
    <Box sx={{ display: 'grid', gap: 5, gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 320px' } }}>
      <Box>
        <Typography variant="overline" component="h2" color="textSecondary">
          In for {whom}
        </Typography>
        {view.mine.length === 0 && (
          <Typography color="textSecondary">
            Nobody stands in for {whom}. What comes while {own ? 'you are' : 'they are'} away waits, or goes up the
            line, as each workflow says.
          </Typography>
        )}
        <Box component="ul" aria-label={`In for ${whom}`} sx={{ listStyle: 'none', p: 0, mt: 0, mb: 3 }}>
          {view.mine.map(row => (
            <Row key={row.from} row={row} mine onEnd={() => end.mutate(row)} />
          ))}
        </Box>
        {end.error && <FailureNote fault={end.error} />}
        <Typography variant="h3" component="h2" sx={{ mb: 1.5 }}>
          Somebody is to stand in
        </Typography>
        <CoverForm
          key={`${view.person}-${suggested?.from}-${view.mine.length}`}
          covers={view}
          from={suggested?.from ?? ''}
          to={suggested?.to ?? ''}
        />
      </Box>
      <Box component="aside" aria-label="Margin">
        {view.suggested.map(away => (
          <Note key={away.from} tone="waiting" title={`Away ${rangeWords(away.from, away.to, year)}`}>
            Nobody stands in then.{' '}
            <Button size="small" onClick={() => setSuggested(away)}>
              Take these days
            </Button>
          </Note>
        ))}
        {view.others.length > 0 && (
          <>
            <Typography variant="overline" component="h2" color="textSecondary">
              {own ? 'You stand in' : `${view.personName} stands in`}
            </Typography>
            <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
              {view.others.map(row => (
                <Row key={`${row.person}-${row.from}`} row={row} mine={false} />
              ))}
            </Box>
          </>
        )}
      </Box>
    </Box>
  );
}

export function CoverPlace() {
  const { self } = useHere();
  const [search, setSearch] = useSearchParams();
  const person = search.get('person') ?? self.id;
  const covers = useQuery(coversQuery(person));
  const own = person === self.id;
  return (
    <Page
      title={own ? 'Who stands in for you' : `Who stands in for ${covers.data?.personName ?? '…'}`}
      sub="They see and answer what waits, and the trail says for whom."
    >
      {covers.data?.forOthers && (
        <Box sx={{ maxWidth: 320, mb: 3 }}>
          <PersonField
            label="For somebody else, who is ill"
            onChange={to => {
              const chosen = personOf(to);
              setSearch(chosen && chosen !== self.id ? { person: chosen } : {}, { replace: true });
            }}
          />
        </Box>
      )}
      <Loaded query={covers}>{view => <Covers key={view.person} view={view} own={own} />}</Loaded>
    </Page>
  );
}
