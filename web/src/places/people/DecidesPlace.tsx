/** Who decides for somebody: any person against any workflow, step by step, with reasons, on any day. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { DecidesView } from '@north-pebble/contract';
import { fullDate } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { decidesChoicesQuery, decidesQuery, personQuery } from '../../api/queries.ts';
import { ChoiceField } from '../../parts/change/ChoiceField.tsx';
import { DayField } from '../../parts/form/DayField.tsx';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { FailureNote } from '../../parts/Notes.tsx';
import { Page } from '../../parts/Page.tsx';

function Step({ step }: { step: DecidesView['steps'][number] }) {
  return (
    <Box component="li" sx={{ py: 1.5, borderBottom: '1px solid', borderColor: 'divider' }}>
      <Typography variant="h3" component="h2">
        {step.number} {step.name}
      </Typography>
      <Typography variant="body2" color="textSecondary">
        {step.says}
      </Typography>
      {step.people.length > 0 && (
        <Typography sx={{ fontWeight: 600 }}>
          {step.people.map(one => (one.coverFor ? `${one.name}, for ${one.coverFor}` : one.name)).join(', ')}
        </Typography>
      )}
      {step.gap && (
        <Typography sx={{ color: step.depends ? 'text.secondary' : 'error.main' }}>
          {step.depends ? 'It depends on what the request says.' : `Nobody: ${step.gap}`}
        </Typography>
      )}
      {step.why.map(one => (
        <Typography key={one} variant="body2" color="textSecondary">
          {one}
        </Typography>
      ))}
    </Box>
  );
}

export function DecidesPlace() {
  const [search, setSearch] = useSearchParams();
  const [person, workflow, day] = ['person', 'workflow', 'day'].map(key => search.get(key) ?? '') as [
    string,
    string,
    string,
  ];
  const set = (key: string, value: string) => {
    const next = new URLSearchParams(search);
    if (value) next.set(key, value);
    else next.delete(key);
    setSearch(next, { replace: true });
  };
  const choices = useQuery(decidesChoicesQuery);
  const about = useQuery({ ...personQuery(person), enabled: person !== '' });
  const found = useQuery({ ...decidesQuery(person, workflow, day), placeholderData: keepPreviousData });
  const view = person && workflow ? found.data : undefined;
  return (
    <Page
      title="Who decides for …?"
      sub="Who would have each step if somebody asked, and why: today, or on any other day."
      actions={
        <Button component={RouterLink} to="/people">
          People
        </Button>
      }
    >
      <Box
        sx={{
          display: 'grid',
          gap: 2,
          gridTemplateColumns: { xs: '1fr', sm: '1.3fr 1.3fr 1fr' },
          maxWidth: 860,
          mb: 2,
        }}
      >
        <PersonField
          label={about.data ? `Instead of ${about.data.name}` : 'Who asks'}
          onChange={to => to && 'person' in to && set('person', to.person)}
        />
        <ChoiceField
          label="What they ask for"
          value={workflow}
          options={choices.data?.workflows ?? []}
          onChange={id => set('workflow', id)}
        />
        <DayField label="On" date={day} onDate={date => set('day', date)} help="Left empty, today." />
      </Box>
      <FailureNote fault={choices.error ?? found.error} />
      {view && (
        <>
          <Typography role="status">
            {view.workflow}, asked by {view.person.name} on {fullDate(view.day)}
          </Typography>
          {view.steps.length === 0 ? (
            <Typography color="textSecondary">Nobody has to do anything in it.</Typography>
          ) : (
            <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0, maxWidth: 760 }}>
              {view.steps.map(step => (
                <Step key={step.number} step={step} />
              ))}
            </Box>
          )}
        </>
      )}
    </Page>
  );
}
