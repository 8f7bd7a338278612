/** The end of every change: what follows, why, and the button that first shows it and then makes it. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
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
  const { shown, reason, setReason, faultOf, fault, mayGo, isBusy, far, stop } = changing;
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
      {far && (
        <Box sx={{ display: 'grid', gap: 0.75, maxWidth: 420 }}>
          <Typography variant="body2" color="textSecondary">
            {`It is worked out for everybody whom it concerns: ${Math.floor((100 * far.done) / far.all)} %.`}
          </Typography>
          <LinearProgress
            variant="determinate"
            aria-label="How far what follows is worked out"
            value={(100 * far.done) / far.all}
            sx={{ height: 6, borderRadius: 3 }}
          />
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" color="primary" disabled={!mayGo || isBusy}>
          {isBusy ? 'One moment …' : shown ? verb : 'See what follows'}
        </Button>
        {far && <Button onClick={stop}>Stop</Button>}
        <Button onClick={onCancel}>Not now</Button>
      </Box>
    </>
  );
}
