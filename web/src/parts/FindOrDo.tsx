/** Find or do: one line from which every place, workflow and own request is a few letters away (`/` or Ctrl+K). */
import Button from '@mui/material/Button';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Key } from './Key.tsx';

const FindOrDoDialog = lazy(async () => ({ default: (await import('./FindOrDoDialog.tsx')).FindOrDoDialog }));

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

export function FindOrDo() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const wanted =
        (event.key === '/' && !isTyping(event.target)) || (event.key === 'k' && (event.ctrlKey || event.metaKey));
      if (!wanted) return;
      event.preventDefault();
      setOpen(true);
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
          <FindOrDoDialog onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
