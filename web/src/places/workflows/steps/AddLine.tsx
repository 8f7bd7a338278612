/** A new line in words: says what it understood, offers what could stand next, and never guesses in silence. */
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import MenuList from '@mui/material/MenuList';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { type Definition, type NamedLists, readWords, type Step } from '@north-pebble/core/workflow';
import { useDeferredValue, useMemo, useState } from 'react';

export function AddLine({
  definition,
  index,
  lists,
  onAdd,
  onCancel,
}: {
  definition: Definition;
  index: DirectoryIndex | undefined;
  lists: NamedLists;
  onAdd: (steps: Step[]) => void;
  onCancel: () => void;
}) {
  const [words, setWords] = useState('');
  const [chosen, setChosen] = useState(-1);
  // Understood a moment after the letter shows; Enter takes only what has been read to the end.
  const read = useDeferredValue(words);
  const reading = useMemo(() => readWords(read, definition, index, { lists }), [read, definition, index, lists]);
  const offered = reading.ok ? [] : reading.completions;
  const add = () => {
    const now = read === words ? reading : readWords(words, definition, index, { lists });
    if (now.ok) onAdd(now.steps);
    else if (offered[chosen]) setWords(offered[chosen]);
  };
  return (
    <Box
      sx={{
        px: { xs: 1, sm: 1.5 },
        py: 1,
        bgcolor: 'color-mix(in srgb, var(--mui-palette-primary-main) 6%, transparent)',
      }}
    >
      <TextField
        autoFocus
        fullWidth
        size="small"
        label="What happens next, in words"
        placeholder="line manager decides within 2 working days, send back for dates"
        value={words}
        onChange={event => {
          setWords(event.target.value);
          setChosen(-1);
        }}
        onKeyDown={event => {
          event.stopPropagation();
          if (event.key === 'Escape') onCancel();
          else if (event.key === 'Enter') {
            event.preventDefault();
            add();
          } else if (event.key === 'Tab' && offered.length > 0 && !event.shiftKey && words.trim() !== '') {
            event.preventDefault();
            setWords(offered[Math.max(0, chosen)]);
          } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            const n = offered.length;
            if (n > 0) setChosen(c => (event.key === 'ArrowDown' ? (c + 1) % n : (c + n - 1) % n));
          }
        }}
        error={!reading.ok && words.trim() !== '' && offered.length === 0}
        helperText={
          reading.ok
            ? 'Enter takes it as it stands below.'
            : words.trim() === ''
              ? 'Enter takes the line, Escape leaves it.'
              : reading.message
        }
        slotProps={{ htmlInput: { 'aria-describedby': 'understood', autoComplete: 'off' } }}
      />
      <Box id="understood" aria-live="polite">
        {!reading.ok && read.trim() !== '' && (
          <Typography variant="body2" sx={{ mb: 0.5, overflowWrap: 'anywhere' }}>
            {read.slice(0, reading.at)}
            <Box
              component="mark"
              sx={{
                color: 'inherit',
                bgcolor: 'transparent',
                textDecoration: 'underline wavy',
                textDecorationColor: 'var(--mui-palette-error-main)',
                textUnderlineOffset: '4px',
              }}
            >
              {read.slice(reading.at).trim() || ' …'}
            </Box>
          </Typography>
        )}
        {reading.ok &&
          reading.understood.map(sentence => (
            <Typography key={sentence} variant="body2" sx={{ mb: 0.5 }}>
              {sentence}
            </Typography>
          ))}
        {reading.ok &&
          reading.unsure.map(unsure => (
            <Typography key={unsure} variant="body2" color="warning">
              {unsure}
            </Typography>
          ))}
      </Box>
      {offered.length > 0 && (
        <MenuList dense aria-label="What could stand here">
          {offered.map((words_, i) => (
            <MenuItem
              key={words_}
              selected={i === chosen}
              tabIndex={-1}
              onMouseDown={event => event.preventDefault()}
              onClick={() => setWords(words_)}
            >
              {words_}
            </MenuItem>
          ))}
        </MenuList>
      )}
    </Box>
  );
}
