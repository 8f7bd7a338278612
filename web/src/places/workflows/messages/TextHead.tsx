import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';

/** The line that opens a message or a letter: its name, and which steps use it. */
export function TextHead({
  name,
  verb,
  uses,
  isOpen,
  onToggle,
}: {
  name: string;
  verb: 'sent' | 'made';
  uses: readonly string[];
  isOpen: boolean;
  onToggle: () => void;
}) {
  return (
    <Box
      component="button"
      type="button"
      aria-expanded={isOpen}
      onClick={onToggle}
      sx={{
        font: 'inherit',
        border: 0,
        background: 'none',
        color: 'inherit',
        width: '100%',
        textAlign: 'left',
        px: 2,
        py: 1,
        cursor: 'pointer',
      }}
    >
      <b>{name}</b>
      <Typography component="span" variant="body2" color="textSecondary" sx={{ ml: 1 }}>
        {`${verb} by ${uses.length > 0 ? uses.join(', ') : 'nothing yet'}`}
      </Typography>
    </Box>
  );
}
