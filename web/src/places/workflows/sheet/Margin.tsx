/** The margin: notes stand level with the line that they are about, pushed down only as far as the note above needs. */
import Box from '@mui/material/Box';
import useMediaQuery from '@mui/material/useMediaQuery';
import { memo, type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { level } from './level.ts';

export type MarginNote = { id: string; step: string | null; node: ReactNode };

type Props = { notes: readonly MarginNote[]; levelled: boolean };

export const Margin = memo(function Margin({ notes, levelled }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [tops, setTops] = useState<readonly number[] | null>(null);
  const wide = useMediaQuery('(min-width: 1200px)');
  const on = levelled && wide;
  const key = notes.map(n => `${n.id}@${n.step}`).join('|');

  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the notes
  useLayoutEffect(() => {
    const container = box.current;
    if (!container || !on) {
      setTops(null);
      return;
    }
    const measure = () => {
      const origin = container.getBoundingClientRect().top;
      const elements = [...container.querySelectorAll<HTMLElement>('[data-note]')];
      const wanted = notes.map((note, i) => {
        const line = note.step ? document.getElementById(`step-${note.step}`) : null;
        return {
          height: elements[i]?.offsetHeight ?? 0,
          top: line ? line.getBoundingClientRect().top - origin + 8 : 0,
        };
      });
      setTops(level(wanted));
    };
    measure();
    const watch = new ResizeObserver(measure);
    for (const element of container.querySelectorAll('[data-note]')) watch.observe(element);
    const lines = document.querySelector('ol[aria-label="Steps"]');
    if (lines) watch.observe(lines);
    return () => watch.disconnect();
  }, [key, on]);

  const last = tops && notes.length > 0 ? tops[tops.length - 1] + 90 : undefined;
  return (
    <Box ref={box} sx={{ position: 'relative', minHeight: last }}>
      {notes.map((note, i) => (
        <Box
          key={note.id}
          data-note
          sx={on && tops ? { position: 'absolute', left: 0, right: 0, top: tops[i] ?? 0 } : undefined}
        >
          {note.node}
        </Box>
      ))}
    </Box>
  );
});
