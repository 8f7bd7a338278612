/** Calendars of holidays, the places where they hold, and departments. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { MeasuresView } from '@north-pebble/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { measuresQuery } from '../../../api/queries.ts';
import { Empty, Loaded } from '../../../parts/Page.tsx';
import { Beside, HouseFrame, Names } from '../HouseFrame.tsx';
import { CalendarEditor } from './CalendarEditor.tsx';
import { DepartmentChange, PlaceChange } from './PlaceChange.tsx';

function Places({ view }: { view: MeasuresView }) {
  const [open, setOpen] = useState<string | null>(null);
  const calendarName = (id: string) => view.calendars.find(one => one.id === id)?.name ?? id;
  const postName = (id: string | null) => view.posts.find(one => one.id === id)?.name ?? 'nobody';
  const row = (key: string, name: string, note: string) => (
    <Box component="li" key={key} sx={{ py: 0.5, fontSize: 14.5, borderBottom: '1px solid', borderColor: 'divider' }}>
      <Button
        size="small"
        onClick={() => setOpen(open === key ? null : key)}
        aria-expanded={open === key}
        sx={{ fontWeight: 600 }}
      >
        {name}
      </Button>
      <Typography component="span" variant="body2" color="textSecondary">
        {note}
      </Typography>
      {open === key &&
        (key.startsWith('place') ? (
          <PlaceChange
            place={view.places.find(one => `place ${one.id}` === key) ?? null}
            view={view}
            onDone={() => setOpen(null)}
          />
        ) : (
          <DepartmentChange
            department={view.departments.find(one => `department ${one.id}` === key) ?? null}
            view={view}
            onDone={() => setOpen(null)}
          />
        ))}
    </Box>
  );
  const many = (n: number) => (n === 1 ? 'one person' : `${n} people`);
  return (
    <Box sx={{ display: 'grid', gap: 4, gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' }, mt: 5 }}>
      <Box component="section" aria-label="Places">
        <Typography variant="h2">Places</Typography>
        <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
          {view.places.map(one =>
            row(
              `place ${one.id}`,
              one.name,
              `${one.zone.replaceAll('_', ' ')}, ${calendarName(one.calendar)}, headed by ${postName(one.head)}, ${many(one.people)}`,
            ),
          )}
        </Box>
        {open === 'place new' ? (
          <PlaceChange place={null} view={view} onDone={() => setOpen(null)} />
        ) : (
          <Button onClick={() => setOpen('place new')}>A new place</Button>
        )}
      </Box>
      <Box component="section" aria-label="Departments">
        <Typography variant="h2">Departments</Typography>
        <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
          {view.departments.map(one =>
            row(`department ${one.id}`, one.name, `headed by ${postName(one.head)}, ${many(one.people)}`),
          )}
        </Box>
        {open === 'department new' ? (
          <DepartmentChange department={null} view={view} onDone={() => setOpen(null)} />
        ) : (
          <Button onClick={() => setOpen('department new')}>A new department</Button>
        )}
      </Box>
    </Box>
  );
}

export function CalendarsPlace() {
  const found = useQuery(measuresQuery);
  const [search, setSearch] = useSearchParams();
  const choose = (id: string) => setSearch(id ? { calendar: id } : {}, { replace: true });
  return (
    <HouseFrame
      title="Calendars and places"
      sub="Days off for everybody who works at a place. A calendar may build on another and add its own days."
      actions={
        <Button variant="contained" color="primary" onClick={() => choose('new')}>
          A new calendar
        </Button>
      }
    >
      <Loaded query={found}>
        {view => {
          const id = search.get('calendar') ?? view.calendars[0]?.id ?? 'new';
          const chosen = view.calendars.find(one => one.id === id) ?? null;
          return (
            <>
              <Beside
                list={
                  <Names
                    label="Calendars"
                    chosen={chosen?.id ?? null}
                    onChoose={choose}
                    rows={view.calendars.map(one => ({
                      id: one.id,
                      name: one.name,
                      note: one.places.length > 0 ? `holds at ${one.places.join(', ')}` : 'holds nowhere yet',
                    }))}
                  />
                }
              >
                {chosen || id === 'new' ? (
                  <CalendarEditor
                    key={chosen ? `${chosen.id} ${JSON.stringify(chosen)}` : 'new'}
                    calendar={chosen}
                    view={view}
                    onDone={choose}
                  />
                ) : (
                  <Empty title="There is no such calendar">Choose one of those beside.</Empty>
                )}
              </Beside>
              <Places view={view} />
            </>
          );
        }}
      </Loaded>
    </HouseFrame>
  );
}
