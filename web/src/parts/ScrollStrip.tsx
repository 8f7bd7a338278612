/** What may be wider than the screen scrolls in a strip of its own, which the keyboard reaches too. */
import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

export function ScrollStrip({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box tabIndex={0} role="group" aria-label={label} sx={{ overflowX: 'auto' }}>
      {children}
    </Box>
  );
}
