/** Says that the house cannot be reached, and goes away when it can be again; then everything is asked for anew. */
import Box from '@mui/material/Box';
import { useEffect, useState } from 'react';
import { onAway } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';

const checkEvery = 1500;

export function AwayBanner() {
  const [away, setAway] = useState(false);
  useEffect(() => onAway(setAway), []);
  useEffect(() => {
    if (!away) return;
    const timer = setInterval(async () => {
      const answer = await fetch('/api/health').catch(() => null);
      if (!answer?.ok) return;
      setAway(false);
      await queryClient.invalidateQueries();
    }, checkEvery);
    return () => clearInterval(timer);
  }, [away]);
  if (!away) return null;
  return (
    <Box
      role="alert"
      sx={{ bgcolor: 'warning.main', color: 'warning.contrastText', px: 3, py: 0.75, fontSize: 13.5, fontWeight: 600 }}
    >
      The database is away. What you typed is kept; North Pebble goes on by itself when it is back.
    </Box>
  );
}
