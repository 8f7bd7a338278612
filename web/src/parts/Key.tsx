/** A key of the keyboard, as a small mark beside what it does. */
import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

export function Key({ children }: { children: ReactNode }) {
  return (
    <Box
      component="kbd"
      aria-hidden
      sx={{
        font: 'inherit',
        fontSize: 11,
        lineHeight: 1.5,
        border: '1px solid currentColor',
        borderBottomWidth: 2,
        borderRadius: '4px',
        px: 0.5,
        opacity: 0.75,
      }}
    >
      {children}
    </Box>
  );
}
