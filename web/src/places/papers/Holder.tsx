/** Whose papers these are, once somebody who came is on file. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { PaperRow } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { FailureNote } from '../../parts/Notes.tsx';

export function Holder({ row }: { row: PaperRow }) {
  const [isOpen, setIsOpen] = useState(false);
  const [person, setPerson] = useState<PersonId | null>(null);
  const say = useMutation({
    mutationFn: (whose: PersonId) =>
      call('PUT /papers/:id/holder', { params: { id: row.id }, body: { person: whose } }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['papers'] }),
  });
  if (row.person !== null || row.state === 'thrown away') return null;
  return (
    <Box sx={{ mt: 1 }}>
      <Typography variant="body2">
        It stands under a name: {row.holder} was not on file when it was given. The new one is asked for once it is said
        who they are.
      </Typography>
      {isOpen ? (
        <Box sx={{ display: 'grid', gap: 1, mt: 1 }}>
          <PersonField
            label={`${row.holder} on file`}
            onChange={to => setPerson(to && 'person' in to ? to.person : null)}
          />
          <Box sx={{ display: 'flex', gap: 1 }}>
            <Button
              variant="contained"
              size="small"
              disabled={person === null || say.isPending}
              onClick={() => person && say.mutate(person)}
            >
              These are their papers
            </Button>
            <Button size="small" onClick={() => setIsOpen(false)}>
              Not now
            </Button>
          </Box>
          <FailureNote fault={say.error} />
        </Box>
      ) : (
        <Button size="small" onClick={() => setIsOpen(true)}>
          They are on file now
        </Button>
      )}
    </Box>
  );
}
