/** Asks before something is replaced or thrown away; Escape and a click beside it leave everything as it is. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { type ReactNode, useId } from 'react';

export function Sure({
  title,
  verb,
  children,
  onYes,
  onNo,
}: {
  title: string;
  /** What the button does, as it says. */
  verb: string;
  children: ReactNode;
  onYes: () => void;
  onNo: () => void;
}) {
  const id = useId();
  return (
    <Dialog open onClose={onNo} aria-labelledby={id}>
      <DialogTitle id={id}>{title}</DialogTitle>
      <DialogContent>{children}</DialogContent>
      <DialogActions>
        <Button onClick={onNo}>Leave it</Button>
        <Button variant="contained" color="primary" onClick={onYes}>
          {verb}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
