/** Notes: short messages with a coloured edge, in the margin or above what they are about. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { problemOf } from '../api/client.ts';

export type NoteTone = 'now' | 'good' | 'rework' | 'waiting' | 'stop';
const colour: Record<NoteTone, string> = {
  now: 'primary.main',
  good: 'success.main',
  rework: 'secondary.main',
  waiting: 'warning.main',
  stop: 'error.main',
};

export function Note({
  tone,
  title,
  children,
  role,
}: {
  tone: NoteTone;
  title: string;
  children?: ReactNode;
  role?: 'alert' | 'status';
}) {
  return (
    // What is said of a failure can be given the focus, so that it is read out.
    <Box
      role={role}
      tabIndex={role === 'alert' ? -1 : undefined}
      sx={{ borderLeft: '3px solid', borderColor: colour[tone], pl: 1.5, py: 0.25, mb: 1.75 }}
    >
      <Typography variant="h3" component="p" sx={{ fontSize: 13.5 }}>
        {title}
      </Typography>
      {children && (
        <Typography variant="body2" component="div" color="textSecondary">
          {children}
        </Typography>
      )}
    </Box>
  );
}

/** A failure in words: what, why, what now. */
export function FailureNote({ fault }: { fault: unknown }) {
  const problem = problemOf(fault);
  return problem ? (
    <Note tone="stop" title={problem.title} role="alert">
      {problem.detail}
    </Note>
  ) : null;
}
