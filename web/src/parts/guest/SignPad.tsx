/** A field to sign in with a finger, a pen or a mouse. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useEffect, useRef } from 'react';
import SignaturePad from 'signature_pad';

export type Strokes = [number, number][][];

const box = { width: 300, height: 110 };

/** @param onDrawn strokes in thousandths of the field, from its upper left corner */
export default function SignPad({ onDrawn }: { onDrawn: (strokes: Strokes) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<SignaturePad | null>(null);
  const drawn = useRef(onDrawn);
  drawn.current = onDrawn;
  useEffect(() => {
    if (!canvas.current) return;
    const colour = getComputedStyle(canvas.current).color;
    const made = new SignaturePad(canvas.current, { penColor: colour, minWidth: 1, maxWidth: 1.8 });
    made.addEventListener('endStroke', () =>
      drawn.current(
        made
          .toData()
          .slice(0, 100)
          .map(({ points }) =>
            points
              .slice(0, 1000)
              .map(({ x, y }) => [Math.round((x / box.width) * 1000), Math.round((y / box.height) * 1000)]),
          ),
      ),
    );
    pad.current = made;
    return () => made.off();
  }, []);
  return (
    <Box>
      <Box
        component="canvas"
        ref={canvas}
        width={box.width}
        height={box.height}
        role="img"
        aria-label="Field to sign in; your name alone is enough too"
        sx={{
          ...box,
          display: 'block',
          border: '1px dashed',
          borderColor: 'text.secondary',
          borderRadius: '10px',
          touchAction: 'none',
          color: 'text.primary',
          bgcolor: 'background.paper',
        }}
      />
      <Button
        size="small"
        sx={{ mt: 0.5 }}
        onClick={() => {
          pad.current?.clear();
          onDrawn([]);
        }}
      >
        Wipe it
      </Button>
    </Box>
  );
}
