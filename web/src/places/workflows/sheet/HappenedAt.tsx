/** What a rehearsal has brought about at one step, beside its line. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { contextOf, type Rehearsal } from '@north-pebble/core/proof';
import { fullMoment } from '@north-pebble/core/time';
import { trail } from '@north-pebble/core/workflow';
import { Why } from '../../../parts/Why.tsx';

const toneColour = {
  good: 'success.main',
  rework: 'secondary.main',
  bad: 'error.main',
  late: 'warning.main',
  plain: 'text.secondary',
} as const;

/** What happened at one step, in words with the reasons, and the mails that it would have sent. */
export function HappenedAt({ step, rehearsal, zone }: { step: string; rehearsal: Rehearsal; zone: string }) {
  const context = contextOf(rehearsal, null);
  const { definition, state } = rehearsal;
  const events = rehearsal.events.filter(event => 'step' in event && event.step === step);
  const tasks = new Set(rehearsal.events.flatMap(e => (e.kind === 'given' && e.step === step ? [e.task] : [])));
  const others = rehearsal.events.filter(
    e => (e.kind === 'reminded' || e.kind === 'passed limit') && tasks.has(e.task),
  );
  const first =
    definition.steps[0].id === step
      ? rehearsal.events.filter(e => ['asked', 'held', 'reworked', 'withdrawn'].includes(e.kind))
      : [];
  const lines = trail(
    definition,
    [...first, ...events, ...others].sort((a, b) => a.at.localeCompare(b.at)),
    { ...context, sights: 'all' },
  );
  if (lines.length === 0) return null;
  const now = state.at.includes(step);
  return (
    <Box
      sx={{
        ml: 7,
        mr: 1.5,
        mb: 1,
        pl: 1.5,
        borderLeft: '3px solid',
        borderColor: now ? 'primary.main' : 'divider',
        fontSize: 13.5,
      }}
    >
      {lines.map((line, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: what happened is only ever added to
        <Box key={i} sx={{ color: toneColour[line.tone] }}>
          <Box component="span" sx={{ color: 'text.secondary', mr: 1 }}>
            {fullMoment(line.at, zone)}
          </Box>
          <b>{line.who}</b> {line.text}
          {line.note && ` “${line.note}”`}
          {line.changes.map(c => ` · ${c.label}: ${c.before} → ${c.after}`)}
          {line.why.length > 0 && (
            <Why about={line.text}>
              {line.why.map(reason => (
                <Typography key={reason} variant="body2">
                  {reason}.
                </Typography>
              ))}
            </Why>
          )}
        </Box>
      ))}
    </Box>
  );
}
