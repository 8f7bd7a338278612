/** Where a request is on its way: one pebble a step. Filled is done, ringed is now, hollow is to come, struck was skipped. */

import Box from '@mui/material/Box';
import type { RequestView } from '@north-pebble/contract';

type Mark = 'done' | 'now' | 'back' | 'ahead' | 'skipped';
const markWords: Record<Mark, string> = {
  done: 'done',
  now: 'now',
  back: 'sent back',
  ahead: 'to come',
  skipped: 'skipped',
};

function marksOf(request: RequestView): Mark[] {
  const { steps } = request.definition;
  const standing = steps.flatMap((s, i) => (request.at.includes(s.id) ? [i] : []));
  const at = standing[0] ?? -1;
  const ended = request.status === 'closed' || request.status === 'withdrawn';
  return steps.map((step, i) => {
    if (standing.includes(i) && !ended) return request.status === 'rework' ? 'back' : 'now';
    if (request.visited.includes(step.id) || i === 0) return 'done';
    return ended || i < at ? 'skipped' : 'ahead';
  });
}

export function Progress({ request }: { request: RequestView }) {
  const marks = marksOf(request);
  const gap = Math.min(88, 372 / Math.max(1, marks.length - 1));
  const x = (i: number) => 14 + i * gap;
  const last = Math.max(
    0,
    marks.findLastIndex(m => m === 'done' || m === 'now' || m === 'back'),
  );
  const ink = 'var(--mui-palette-text-primary)';
  const quiet = 'color-mix(in srgb, var(--mui-palette-text-primary) 30%, var(--mui-palette-background-paper))';
  const label = marks.map((m, i) => `${i + 1} ${request.definition.steps[i].verb}: ${markWords[m]}`).join(', ');
  return (
    <Box sx={{ my: 1 }}>
      <svg
        viewBox={`0 0 ${x(marks.length - 1) + 16} 34`}
        style={{ width: x(marks.length - 1) + 16, maxWidth: '100%' }}
        role="img"
        aria-label={`Steps. ${label}`}
      >
        <path d={`M14 17H${x(marks.length - 1)}`} stroke={quiet} strokeWidth={2} />
        <path d={`M14 17H${x(last)}`} stroke={ink} strokeWidth={2} />
        {marks.map((mark, i) => {
          const now = mark === 'now' || mark === 'back';
          return (
            <g key={request.definition.steps[i].id}>
              <ellipse
                cx={x(i)}
                cy={17}
                rx={now ? 12 : 9}
                ry={now ? 11 : 8}
                fill={mark === 'done' ? ink : 'var(--mui-palette-background-paper)'}
                stroke={
                  mark === 'now'
                    ? 'var(--mui-palette-primary-main)'
                    : mark === 'back'
                      ? 'var(--mui-palette-secondary-main)'
                      : mark === 'done'
                        ? ink
                        : quiet
                }
                strokeWidth={now ? 4 : 2}
              />
              {mark === 'back' && (
                <path
                  d={`M${x(i) - 4} 17l4 -4 4 4`}
                  fill="none"
                  stroke="var(--mui-palette-secondary-main)"
                  strokeWidth={2}
                />
              )}
              {mark === 'skipped' && <path d={`M${x(i) - 6} 22l12 -10`} stroke={quiet} strokeWidth={2} />}
            </g>
          );
        })}
      </svg>
    </Box>
  );
}
