/** Says why nothing comes back, in one line, and goes away when it does again; then everything is asked for anew. */
import Box from '@mui/material/Box';
import { useEffect, useState } from 'react';
import { type Away, onAway } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';

const checkEvery = 1500;

const words: Record<Away, string> = {
  offline: 'You are offline. What you typed is kept, and is sent when you are back.',
  unreachable: 'North Pebble cannot be reached. What you typed is kept; it goes on by itself when it can be again.',
  database: 'The database is away. What you typed is kept; North Pebble goes on by itself when it is back.',
};

export function AwayBanner() {
  const [away, setAway] = useState<Away | null>(navigator.onLine ? null : 'offline');
  // An answer to what was asked before the connection went does not bring it back.
  useEffect(() => onAway(now => setAway(now === null && !navigator.onLine ? 'offline' : now)), []);
  useEffect(() => {
    const goes = () => setAway('offline');
    // Whether the house answers too is seen by asking it.
    const comes = () => setAway(before => (before === 'offline' ? 'unreachable' : before));
    addEventListener('offline', goes);
    addEventListener('online', comes);
    return () => {
      removeEventListener('offline', goes);
      removeEventListener('online', comes);
    };
  }, []);
  useEffect(() => {
    if (away === null || away === 'offline') return;
    const timer = setInterval(async () => {
      const answer = await fetch('/api/health').catch(() => null);
      if (!answer?.ok) return;
      setAway(null);
      await queryClient.invalidateQueries();
    }, checkEvery);
    return () => clearInterval(timer);
  }, [away]);
  if (away === null) return null;
  return (
    <Box
      role="alert"
      sx={{ bgcolor: 'warning.main', color: 'warning.contrastText', px: 3, py: 0.75, fontSize: 13.5, fontWeight: 600 }}
    >
      {words[away]}
    </Box>
  );
}
