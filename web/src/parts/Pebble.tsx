/** Pebbles: slightly uneven round shapes that stand for people, steps and marks. State is shape and word, never colour alone. */
import Box from '@mui/material/Box';
import { display } from '../theme/theme.ts';

const uneven = '47% 53% 55% 45% / 52% 46% 54% 48%';

const initials = (name: string): string => {
  const words = name.split(/\s+/).filter(Boolean);
  return ((words[0]?.[0] ?? '') + (words.length > 1 ? (words.at(-1)?.[0] ?? '') : '')).toUpperCase();
};

export function PersonPebble({ name, strong = false, size = 28 }: { name: string; strong?: boolean; size?: number }) {
  return (
    <Box
      aria-hidden
      sx={{
        width: size,
        height: size - 1,
        flex: 'none',
        borderRadius: uneven,
        display: 'grid',
        placeItems: 'center',
        font: `600 ${size * 0.41}px ${display}`,
        bgcolor: strong ? 'primary.main' : 'color-mix(in srgb, var(--mui-palette-text-primary) 10%, transparent)',
        color: strong ? 'primary.contrastText' : 'text.primary',
      }}
    >
      {initials(name)}
    </Box>
  );
}

export function StepPebble({ number, tone }: { number: string; tone: 'quiet' | 'person' }) {
  return (
    <Box
      sx={{
        minWidth: 28,
        width: 'fit-content',
        px: number.length > 2 ? 0.75 : 0,
        height: 26,
        flex: 'none',
        borderRadius: '46% 54% 58% 42% / 55% 48% 52% 45%',
        display: 'grid',
        placeItems: 'center',
        font: `640 13px ${display}`,
        bgcolor:
          tone === 'person' ? 'primary.main' : 'color-mix(in srgb, var(--mui-palette-text-primary) 11%, transparent)',
        color: tone === 'person' ? 'primary.contrastText' : 'text.primary',
      }}
    >
      {number}
    </Box>
  );
}
