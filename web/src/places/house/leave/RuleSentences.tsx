/** Rules as sentences: one under the other, each opened and changed in its place. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { RuleSentence } from '@north-pebble/core/leave';
import { type ReactNode, useState } from 'react';

type Props<About extends string> = {
  label: string;
  sentences: readonly RuleSentence<About>[];
  /** What stands in the place of an opened sentence; nothing where it is not to be changed. */
  fields: ((about: About) => ReactNode) | null;
  /** Sentences that are others than those that hold. */
  isOther: (text: string) => boolean;
  faultOf: (about: About) => string | undefined;
};

const line = { py: 0.6, borderBottom: '1px solid', borderColor: 'divider' } as const;

export function RuleSentences<About extends string>({ label, sentences, fields, isOther, faultOf }: Props<About>) {
  const [open, setOpen] = useState<About | null>(null);
  return (
    <Box component="ul" aria-label={label} sx={{ listStyle: 'none', p: 0, m: 0, maxWidth: 760 }}>
      {sentences.map(({ about, text }) => {
        const fault = faultOf(about);
        if (!fields)
          return (
            <Box component="li" key={about} sx={line}>
              {text}
            </Box>
          );
        return (
          <Box component="li" key={about} sx={line}>
            {open === about ? (
              <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'start', py: 1 }}>
                {fields(about)}
                <Button onClick={() => setOpen(null)} sx={{ mt: 0.5 }}>
                  Done
                </Button>
              </Box>
            ) : (
              <Box
                component="button"
                type="button"
                aria-expanded="false"
                onClick={() => setOpen(about)}
                sx={{
                  font: 'inherit',
                  color: isOther(text) ? 'secondary.main' : 'text.primary',
                  fontWeight: isOther(text) ? 600 : 'inherit',
                  background: 'none',
                  border: 0,
                  p: 0,
                  textAlign: 'left',
                  cursor: 'pointer',
                  textDecoration: 'underline dotted',
                  textDecorationColor: 'var(--mui-palette-text-secondary, currentColor)',
                  textUnderlineOffset: '4px',
                }}
              >
                {text}
              </Box>
            )}
            {fault && (
              <Box role="alert" sx={{ color: 'error.main', fontSize: 13.5 }}>
                {fault}
              </Box>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
