/** Facts: a name on the left, what holds on the right, hairlines between. */
import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

export function Facts({ children }: { children: ReactNode }) {
  return (
    <Box component="dl" sx={{ m: 0 }}>
      {children}
    </Box>
  );
}

export function Fact({ label, children, was }: { label: string; children: ReactNode; was?: string | undefined }) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '112px 1fr',
        py: 0.9,
        borderBottom: '1px solid',
        borderColor: 'divider',
        fontSize: 14,
      }}
    >
      <Box component="dt" sx={{ color: 'text.secondary' }}>
        {label}
      </Box>
      <Box component="dd" sx={{ m: 0, minWidth: 0, overflowWrap: 'anywhere' }}>
        {children}
        {was !== undefined && (
          <Box sx={{ color: 'secondary.main', fontSize: 13 }}>
            was <s>{was}</s>
          </Box>
        )}
      </Box>
    </Box>
  );
}
