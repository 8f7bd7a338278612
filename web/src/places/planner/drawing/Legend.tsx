/** What the patterns of the drawing stand for, in words. */
import Box from '@mui/material/Box';

const tint = (colour: string, share: number) =>
  `color-mix(in srgb, var(--mui-palette-${colour}-main) ${share}%, transparent)`;

function Item({ swatch, words }: { swatch: object; words: string }) {
  return (
    <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: 0.75 }}>
      <Box component="span" sx={{ width: 22, height: 12, borderRadius: '4px', flexShrink: 0, ...swatch }} />
      {words}
    </Box>
  );
}

export function Legend() {
  const stripes = `repeating-linear-gradient(135deg, ${tint('secondary', 80)} 0 1px, transparent 1px 4px)`;
  const items = (
    <Box
      sx={{ display: 'flex', gap: 2.5, rowGap: 0.5, flexWrap: 'wrap', fontSize: 13, color: 'text.secondary', mb: 1 }}
    >
      <Item swatch={{ bgcolor: 'primary.main' }} words="booked" />
      <Item
        swatch={{ border: '1px dashed', borderColor: 'primary.main', bgcolor: tint('primary', 18) }}
        words="asked for"
      />
      <Item
        swatch={{ border: '1px solid', borderColor: 'secondary.main', background: stripes }}
        words="away, takes from no balance"
      />
      <Item
        swatch={{ border: '1px solid', borderColor: 'success.main', bgcolor: tint('success', 22) }}
        words="at work elsewhere"
      />
      <Item
        swatch={{ bgcolor: 'color-mix(in srgb, var(--mui-palette-text-primary) 9%, transparent)' }}
        words="not a working day"
      />
      <Item swatch={{ bgcolor: tint('warning', 24) }} words="holiday" />
    </Box>
  );
  return (
    <>
      <Box sx={{ display: { xs: 'none', sm: 'block' } }}>{items}</Box>
      {/* On a telephone the days come first. */}
      <Box component="details" sx={{ display: { xs: 'block', sm: 'none' }, fontSize: 13, mb: 1 }}>
        <summary>What the colours mean</summary>
        {items}
      </Box>
    </>
  );
}
