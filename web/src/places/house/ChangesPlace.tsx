/** What was changed of the house lately: by whom, when, why; and taking it back. */
import Box from '@mui/material/Box';
import { useQuery } from '@tanstack/react-query';
import { changesQuery } from '../../api/queries.ts';
import { ChangeRow } from '../../parts/change/ChangeRow.tsx';
import { Empty, Loaded } from '../../parts/Page.tsx';
import { HouseFrame } from './HouseFrame.tsx';

export function ChangesPlace() {
  const found = useQuery(changesQuery);
  return (
    <HouseFrame
      title="What was changed"
      sub="The newest hundred changes of people, posts, lines, roles, patterns, calendars and lists."
    >
      <Loaded query={found}>
        {({ rows }) =>
          rows.length === 0 ? (
            <Empty title="Nothing was changed yet">What is on file came with the house.</Empty>
          ) : (
            <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0, maxWidth: 820 }}>
              {rows.map(one => (
                <ChangeRow key={one.id} one={one} may />
              ))}
            </Box>
          )
        }
      </Loaded>
    </HouseFrame>
  );
}
