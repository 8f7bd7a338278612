/** "Why?": opens the steps that led to a worked-out number, name or date. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Popover from '@mui/material/Popover';
import Typography from '@mui/material/Typography';
import { type ReactNode, useState } from 'react';

/** @param words what is said instead of “Why?”, where it opens something else about it */
export function Why({ about, words, children }: { about: string; words?: string; children: ReactNode }) {
  const title = words ? `${words}: ${about}` : `Why ${about}?`;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Link
        component="button"
        type="button"
        aria-label={title}
        aria-haspopup="dialog"
        onClick={event => setAnchor(event.currentTarget)}
        sx={{ fontSize: 12.5, ml: 0.75, verticalAlign: 'baseline' }}
      >
        {words ?? 'Why?'}
      </Link>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{
          paper: {
            role: 'dialog',
            'aria-label': words ? title : `Why ${about}`,
            sx: { borderRadius: '12px', maxWidth: 460, maxHeight: 420 },
          },
        }}
      >
        <Box sx={{ px: 2.25, py: 1.75 }}>
          <Typography variant="h3" component="h3" sx={{ mb: 0.75 }}>
            {title}
          </Typography>
          {children}
        </Box>
      </Popover>
    </>
  );
}

/** Rows of a reason: what, a note, and an amount that lines up. */
export function ReasonRows({ rows }: { rows: { key: string; what: string; note: string; amount: string }[] }) {
  return (
    <Box component="table" sx={{ borderCollapse: 'collapse', fontSize: 13, '& td': { py: 0.4, verticalAlign: 'top' } }}>
      <tbody>
        {rows.map(row => (
          <tr key={row.key}>
            <Box component="td" sx={{ pr: 2, whiteSpace: 'nowrap' }}>
              {row.what}
            </Box>
            <Box component="td" sx={{ pr: 2, color: 'text.secondary' }}>
              {row.note}
            </Box>
            <Box component="td" sx={{ textAlign: 'right', whiteSpace: 'nowrap', fontWeight: 600 }}>
              {row.amount}
            </Box>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
