/** The end of every change: what follows, why, and the button that first shows it and then makes it. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { FailureNote } from '../Notes.tsx';
import { Follows } from './Follows.tsx';
import type { Changing } from './useChange.ts';

type Props = {
  changing: Changing;
  /** What the button does once what follows is shown. */
  verb: string;
  onCancel: () => void;
};

export function ChangeEnd({ changing, verb, onCancel }: Props) {
  const { shown, reason, setReason, faultOf, fault, mayGo, isBusy } = changing;
  return (
    <>
      {shown && (
        <>
          <Follows preview={shown} />
          <TextField
            label="Why"
            value={reason}
            onChange={event => setReason(event.target.value)}
            error={faultOf('reason') !== undefined}
            helperText={faultOf('reason') ?? 'It is kept with the change, for whoever asks later.'}
            multiline
          />
        </>
      )}
      <FailureNote fault={fault} />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" color="primary" disabled={!mayGo || isBusy}>
          {isBusy ? 'One moment …' : shown ? verb : 'See what follows'}
        </Button>
        <Button onClick={onCancel}>Not now</Button>
      </Box>
    </>
  );
}
