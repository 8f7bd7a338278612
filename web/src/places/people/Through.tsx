/** What held from when to when: a line for each kind of fact, drawn along time, and said for whoever hears it. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { PersonPageView, Stretch } from '@north-pebble/contract';
import { addDays, type CivilDate, fullDate, toDay } from '@north-pebble/core/time';
import { scaleLinear } from 'd3-scale';

type Lines = NonNullable<PersonPageView['lines']>;
type Props = { lines: Lines; joined: CivilDate; left: CivilDate | null; today: CivilDate };

const later = (a: CivilDate, b: CivilDate): CivilDate => (a > b ? a : b);
const sooner = (a: CivilDate, b: CivilDate): CivilDate => (a < b ? a : b);

/** From two years back, or the first day, to a year after what is planned last. */
export function window({ lines, joined, left, today }: Props): { first: CivilDate; last: CivilDate } {
  const planned = lines.flatMap(line => line.stretches.map(stretch => stretch.from)).reduce(later, today);
  const first = later(joined, sooner(addDays(today, -730), addDays(today, -365)));
  const last = addDays(later(planned, today), 300);
  return { first: sooner(first, today), last: left && left < last ? addDays(left, 30) : last };
}

const said = ({ from, to, words }: Stretch): string =>
  `${words} from ${fullDate(from)}${to ? ` to ${fullDate(to)}` : ''}`;

export function Through(props: Props) {
  const { lines, today } = props;
  const { first, last } = window(props);
  const at = scaleLinear([toDay(first), toDay(last)], [0, 100]).clamp(true);
  const years = Array.from(
    { length: Number(last.slice(0, 4)) - Number(first.slice(0, 4)) + 1 },
    (_, n) => `${Number(first.slice(0, 4)) + n}-01-01` as CivilDate,
  ).filter(day => day > first && day < last);
  const place = (day: CivilDate): string => `${at(toDay(day))}%`;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '96px 1fr', sm: '130px 1fr' }, position: 'relative' }}>
      {lines
        .filter(line => line.stretches.length > 0)
        .map(line => (
          <Box key={line.of} sx={{ display: 'contents' }}>
            <Typography variant="body2" color="textSecondary" sx={{ py: 1 }}>
              {line.of}
            </Typography>
            <Box
              component="ol"
              aria-label={line.of}
              sx={{
                listStyle: 'none',
                m: 0,
                p: 0,
                position: 'relative',
                minHeight: 38,
                borderBottom: '1px solid',
                borderColor: 'divider',
              }}
            >
              {line.stretches
                .filter(stretch => stretch.to === null || stretch.to >= first)
                .map(stretch => {
                  const isNow = stretch.from <= today && (stretch.to === null || stretch.to >= today);
                  const isAhead = stretch.from > today;
                  const [a, b] = [at(toDay(stretch.from)), at(toDay(stretch.to ? addDays(stretch.to, 1) : last))];
                  return (
                    <Box
                      component="li"
                      key={stretch.from}
                      title={said(stretch)}
                      sx={{
                        position: 'absolute',
                        top: 7,
                        left: `calc(${a}% + 1px)`,
                        width: `calc(${Math.max(0, b - a)}% - 2px)`,
                        height: 24,
                        borderRadius: '8px',
                        px: 1,
                        fontSize: 13,
                        lineHeight: '22px',
                        overflow: 'hidden',
                        whiteSpace: 'nowrap',
                        textOverflow: 'ellipsis',
                        border: '1.5px solid',
                        borderStyle: isAhead ? 'dashed' : 'solid',
                        borderColor: isNow || isAhead ? 'primary.main' : 'divider',
                        bgcolor: isNow ? 'action.selected' : 'transparent',
                        color: isNow || isAhead ? 'text.primary' : 'text.secondary',
                      }}
                    >
                      <Box component="span" aria-hidden>
                        {stretch.words}
                      </Box>
                      <Box
                        component="span"
                        sx={{ position: 'absolute', width: 1, height: 1, overflow: 'hidden', clipPath: 'inset(50%)' }}
                      >
                        {said(stretch)}
                        {isNow ? ', as it is now' : isAhead ? ', planned' : ''}
                      </Box>
                    </Box>
                  );
                })}
            </Box>
          </Box>
        ))}
      <span />
      <Box aria-hidden sx={{ position: 'relative', height: 24 }}>
        {years.map(day => (
          <Typography
            key={day}
            variant="body2"
            color="textSecondary"
            sx={{
              position: 'absolute',
              left: place(day),
              fontSize: 12,
              borderLeft: '1px solid',
              borderColor: 'divider',
              pl: 0.5,
            }}
          >
            {day.slice(0, 4)}
          </Typography>
        ))}
        <Typography
          variant="body2"
          sx={{
            position: 'absolute',
            left: place(today),
            fontSize: 12,
            top: 14,
            color: 'primary.main',
            fontWeight: 600,
            borderLeft: '2px solid',
            pl: 0.5,
          }}
        >
          today
        </Typography>
      </Box>
    </Box>
  );
}
