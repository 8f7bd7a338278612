/** Find or do: one line from which every place, workflow and own request is a few letters away (`/` or Ctrl+K). */
import Button from '@mui/material/Button';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { fetched } from '../../api/fetched.ts';
import { Key } from '../Key.tsx';
import { isTyping } from '../typing.ts';

const FindOrDoDialog = lazy(async () => ({
  default: (await fetched(() => import('./FindOrDoDialog.tsx'))).FindOrDoDialog,
}));

export function FindOrDo() {
  const [open, setOpen] = useState(false);
  // What is typed while the dialog is on its way, and null when it is not.
  const ahead = useRef<string | null>(null);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const wanted =
        (event.key === '/' && !isTyping(event.target)) || (event.key === 'k' && (event.ctrlKey || event.metaKey));
      if (wanted) {
        event.preventDefault();
        ahead.current ??= '';
        setOpen(true);
      } else if (ahead.current !== null && event.key.length === 1) {
        ahead.current += event.key;
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <>
      <Button
        onClick={() => setOpen(true)}
        aria-label="Find or do"
        sx={{
          width: { xs: 'auto', lg: 170 },
          minWidth: 40,
          justifyContent: 'space-between',
          color: 'text.secondary',
          fontWeight: 400,
          py: 0.4,
          gap: 1,
        }}
      >
        <span>Find or do</span>
        <Key>/</Key>
      </Button>
      {open && (
        <Suspense>
          <FindOrDoDialog
            takeAhead={() => {
              const typed = ahead.current ?? '';
              ahead.current = null;
              return typed;
            }}
            onClose={() => setOpen(false)}
          />
        </Suspense>
      )}
    </>
  );
}
