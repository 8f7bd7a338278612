/** A new line in words: says what it understood, offers what could stand next, and never guesses in silence. */
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { type Definition, type NamedLists, readWords, type Step } from '@north-pebble/core/workflow';
import { memo, startTransition, useCallback, useMemo, useRef, useState } from 'react';

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
  // The field keeps its own letters, so that each shows at once; what they say is read a moment later.
  const field = useRef<HTMLInputElement>(null);
  const [read, setRead] = useState('');
  const [chosen, setChosen] = useState(-1);
  const reading = useMemo(() => readWords(read, definition, index, { lists }), [read, definition, index, lists]);
  const offered = reading.ok ? [] : reading.completions;
  const written = () => field.current?.value ?? '';
  const follow = useCallback((words: string) => {
    startTransition(() => {
      setRead(words);
      setChosen(-1);
    });
  }, []);
  const take = useCallback(
    (words: string) => {
      if (field.current) field.current.value = words;
      follow(words);
    },
    [follow],
  );
  const add = () => {
    const words = written();
    // Enter takes only what has been read to the end.
    const now = read === words ? reading : readWords(words, definition, index, { lists });
    if (now.ok) onAdd(now.steps);
    else if (offered[chosen]) take(offered[chosen]);
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
        inputRef={field}
        onChange={event => follow(event.target.value)}
        onKeyDown={event => {
          event.stopPropagation();
          if (event.key === 'Escape') onCancel();
          else if (event.key === 'Enter') {
            event.preventDefault();
            add();
          } else if (event.key === 'Tab' && offered.length > 0 && !event.shiftKey && written().trim() !== '') {
            event.preventDefault();
            take(offered[Math.max(0, chosen)]);
          } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            const n = offered.length;
            if (n > 0) setChosen(c => (event.key === 'ArrowDown' ? (c + 1) % n : (c + n - 1) % n));
          }
        }}
        error={!reading.ok && read.trim() !== '' && offered.length === 0}
        helperText={
          reading.ok
            ? 'Enter takes it as it stands below.'
            : read.trim() === ''
              ? 'Enter takes the line, Escape leaves it.'
              : reading.message
        }
        slotProps={{ htmlInput: { 'aria-describedby': 'understood', autoComplete: 'off' } }}
      />
      <Understood read={read} reading={reading} chosen={chosen} onTake={take} />
    </Box>
  );
}

type Understanding = ReturnType<typeof readWords>;

/** What was understood, and what could stand next. Drawn when it changes, not with every letter. */
const Understood = memo(function Understood({
  read,
  reading,
  chosen,
  onTake,
}: {
  read: string;
  reading: Understanding;
  chosen: number;
  onTake: (words: string) => void;
}) {
  const offered = reading.ok ? [] : reading.completions;
  return (
    <>
      <Box id="understood" aria-live="polite">
        {!reading.ok && read.trim() !== '' && (
          <Typography variant="body2" sx={{ mb: 0.5, overflowWrap: 'anywhere' }}>
            {read.slice(0, reading.at)}
            <Box component="mark" sx={leftOver}>
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
        <Box component="div" role="menu" aria-label="What could stand here" sx={offers}>
          {offered.map((words, i) => (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the field above takes the arrow keys and Tab for them
            <div
              key={words}
              role="menuitem"
              className={i === chosen ? 'chosen' : undefined}
              tabIndex={-1}
              onMouseDown={event => event.preventDefault()}
              onClick={() => onTake(words)}
            >
              {words}
            </div>
          ))}
        </Box>
      )}
    </>
  );
});

const leftOver = {
  color: 'inherit',
  bgcolor: 'transparent',
  textDecoration: 'underline wavy',
  textDecorationColor: 'var(--mui-palette-error-main)',
  textUnderlineOffset: '4px',
};

/** Plain list items under one rule: a component each would be most of the work of a letter. */
const offers = {
  m: 0,
  p: 0,
  py: 0.5,
  '& > div': { px: 2, py: 0.5, cursor: 'pointer', borderRadius: 1, typography: 'body2' },
  '& > div:hover': { bgcolor: 'action.hover' },
  '& > div.chosen': { bgcolor: 'action.selected' },
};
