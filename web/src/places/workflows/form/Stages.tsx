/** Who fills in which section when, and who reads it: worked out from the steps, so that it is never meant otherwise. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { type Definition, filledWords, stages } from '@north-pebble/core/workflow';
import { useDeferredValue } from 'react';

export function Stages({ definition }: { definition: Definition }) {
  const all = stages(useDeferredValue(definition));
  if (all.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="Who fills in and reads what"
      sx={{ borderTop: '1px solid', borderColor: 'divider', p: 2 }}
    >
      <Typography variant="overline" component="h2" color="textSecondary">
        Who fills in and reads what
      </Typography>
      {all.map(one => (
        <Box key={one.section?.id ?? ''} sx={{ py: 1, borderBottom: '1px solid', borderColor: 'divider' }}>
          <Typography variant="h3" sx={{ fontSize: 14 }}>
            {one.section?.title ?? 'Above the sections'}
          </Typography>
          <Typography variant="body2">{filledWords(one)}</Typography>
          {one.read.map(({ words, fields }) => (
            <Typography key={words} variant="body2" color="textSecondary">
              {fields.length > 0 && `${fields.join(', ')}: `}
              {fields.length > 0 ? words.charAt(0).toLowerCase() + words.slice(1) : words}
            </Typography>
          ))}
        </Box>
      ))}
    </Box>
  );
}
