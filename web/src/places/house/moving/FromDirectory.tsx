/** People told by a directory that the organisation has already: its address and token, so that nobody types them. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { call } from '../../../api/client.ts';
import { incomingQuery, queryClient } from '../../../api/queries.ts';
import { FailureNote } from '../../../parts/Notes.tsx';

export function FromDirectory() {
  const found = useQuery(incomingQuery);
  const again = () => queryClient.invalidateQueries({ queryKey: incomingQuery.queryKey });
  const give = useMutation({ mutationFn: () => call('POST /incoming-directory'), onSuccess: again });
  const stop = useMutation({
    mutationFn: () => call('DELETE /incoming-directory'),
    onSuccess: () => {
      give.reset();
      return again();
    },
  });
  const isOn = found.data?.isOn ?? false;
  return (
    <Box component="section" aria-label="From a directory" sx={{ mt: 5, maxWidth: 720 }}>
      <Typography variant="h2">From a directory</Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1.5 }}>
        A directory that speaks SCIM 2.0 can tell who comes, what they are called, where they work, and who is switched
        off. Its changes stand beside those made by hand.
      </Typography>
      {give.data && (
        <Box sx={{ display: 'grid', gap: 1.5, mb: 1.5 }}>
          <TextField label="Address" value={give.data.address} slotProps={{ htmlInput: { readOnly: true } }} />
          <TextField
            label="Token"
            value={give.data.token}
            helperText="It is shown this once. Put it into the directory now."
            slotProps={{ htmlInput: { readOnly: true } }}
          />
        </Box>
      )}
      <FailureNote fault={found.error ?? give.error ?? stop.error} />
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography>{isOn ? 'A directory may tell of people.' : 'No directory tells of people.'}</Typography>
        <Button size="small" disabled={give.isPending} onClick={() => give.mutate()}>
          {isOn ? 'A new token, in place of the old one' : 'Give it a token'}
        </Button>
        {isOn && (
          <Button size="small" disabled={stop.isPending} onClick={() => stop.mutate()}>
            Take the token back
          </Button>
        )}
      </Box>
    </Box>
  );
}
