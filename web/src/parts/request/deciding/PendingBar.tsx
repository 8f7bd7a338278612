/** What was answered a moment ago, with a few seconds in which it can be taken back. */
import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import type { Pending } from './pending.ts';

type Props = { pending: Pending | null; onUndo: () => void; onSend: () => void };

export function PendingBar({ pending, onUndo, onSend }: Props) {
  return (
    <Snackbar
      open={pending !== null}
      message={pending?.words}
      action={
        <>
          <Button variant="text" size="small" onClick={onUndo} sx={{ color: 'inherit' }}>
            Undo
          </Button>
          <Button variant="text" size="small" onClick={onSend} sx={{ color: 'inherit' }}>
            Send now
          </Button>
        </>
      }
    />
  );
}
