/** Work patterns: who works when, drawn for a cycle of any length, and eight weeks of it to look at. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { MeasuresView } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { measuresQuery } from '../../../api/queries.ts';
import { useYear } from '../../../parts/frame/session.ts';
import { Empty, Loaded } from '../../../parts/Page.tsx';
import { Beside, HouseFrame, Names } from '../HouseFrame.tsx';
import { PatternEditor } from './PatternEditor.tsx';

type Pattern = MeasuresView['patterns'][number];

function Who({ pattern }: { pattern: Pattern }) {
  const year = useYear();
  if (pattern.count === 0)
    return (
      <Typography variant="body2" color="textSecondary" sx={{ mt: 3 }}>
        Nobody has it today.
      </Typography>
    );
  return (
    <Box component="section" aria-label="Who has it" sx={{ mt: 3 }}>
      <Typography variant="h3" component="h3">
        Who has it
      </Typography>
      <Typography variant="body2" component="div">
        {pattern.people.map(({ person, from }, n) => (
          <span key={person.id}>
            {n > 0 && ', '}
            <Link component={RouterLink} to={`/people/${person.id}`}>
              {person.name}
            </Link>{' '}
            since {dateWords(from, year)}
          </span>
        ))}
        {pattern.count > pattern.people.length && ` and ${pattern.count - pattern.people.length} more`}
      </Typography>
    </Box>
  );
}

export function PatternsPlace() {
  const found = useQuery(measuresQuery);
  const [search, setSearch] = useSearchParams();
  const choose = (id: string) => setSearch(id ? { pattern: id } : {}, { replace: true });
  return (
    <HouseFrame
      title="Work patterns"
      sub="A cycle of days that begins anew when it is over. Leave, limits and deadlines are counted by it."
      actions={
        <Button variant="contained" color="primary" onClick={() => choose('new')}>
          A new pattern
        </Button>
      }
    >
      <Loaded query={found}>
        {view => {
          const id = search.get('pattern') ?? view.patterns[0]?.id ?? 'new';
          const chosen = view.patterns.find(one => one.id === id) ?? null;
          return (
            <Beside
              list={
                <Names
                  label="Work patterns"
                  chosen={chosen?.id ?? null}
                  onChoose={choose}
                  rows={view.patterns.map(one => ({
                    id: one.id,
                    name: one.name,
                    note: `${one.cycle.length} days, ${one.count === 1 ? 'one person' : `${one.count} people`}`,
                  }))}
                />
              }
            >
              {chosen || id === 'new' ? (
                <>
                  <PatternEditor
                    key={chosen ? `${chosen.id} ${JSON.stringify(chosen.cycle)}` : 'new'}
                    pattern={chosen}
                    view={view}
                    onDone={choose}
                  />
                  {chosen && <Who pattern={chosen} />}
                </>
              ) : (
                <Empty title="There is no such pattern">Choose one of those beside.</Empty>
              )}
            </Beside>
          );
        }}
      </Loaded>
    </HouseFrame>
  );
}
