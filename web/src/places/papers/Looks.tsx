/** Who looked at a paper, and when. */
import Typography from '@mui/material/Typography';
import { momentWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../api/client.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';

const lookedAt = { file: 'the paper', number: 'its number', holder: 'said whose it is' } as const;

export function Looks({ paper, count }: { paper: number; count: number }) {
  const { self } = useHere();
  const year = useYear();
  const looks = useQuery({
    queryKey: ['papers', 'looks', paper, count],
    queryFn: () => call('GET /papers/:id/looks', { params: { id: paper } }),
  });
  if (!looks.data) return null;
  if (looks.data.length === 0) return <Typography variant="body2">Nobody else has looked at it.</Typography>;
  return (
    <>
      <Typography variant="body2" sx={{ mt: 1, fontWeight: 600 }}>
        Looked at by
      </Typography>
      {looks.data.map(look => (
        <Typography key={`${look.who}${look.at}${look.what}`} variant="body2">
          {look.who}, {momentWords(look.at, self.zone, year)}: {lookedAt[look.what]}
        </Typography>
      ))}
    </>
  );
}
