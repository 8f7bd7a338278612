/** The mark of a part: filled where it is done, a strong ring where one is, a pale ring where it is to come. */
import Box from '@mui/material/Box';

export function PartMark({ state }: { state: 'done' | 'now' | 'to come' }) {
  return (
    <Box
      aria-hidden
      sx={{
        width: 26,
        height: 24,
        flex: 'none',
        borderRadius: '46% 54% 58% 42% / 55% 48% 52% 45%',
        ...(state === 'done'
          ? { bgcolor: 'text.primary' }
          : state === 'now'
            ? { border: '3px solid', borderColor: 'primary.main' }
            : { border: '2px solid', borderColor: 'text.secondary', opacity: 0.55 }),
      }}
    />
  );
}
