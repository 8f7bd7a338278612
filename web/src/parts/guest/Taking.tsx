/** Giving a file: a photograph taken with the telephone, or one that is there. What is wrong with it is said below. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { GivenFile } from '@north-pebble/core/form';
import { useRef, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';

const kilobytes = (bytes: number): string =>
  bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;

export function GivenFileLine({ file, token, onAway }: { file: GivenFile; token: string | null; onAway?: () => void }) {
  return (
    <Box
      sx={{
        display: 'flex',
        gap: 1,
        alignItems: 'center',
        minHeight: 46,
        px: 1.5,
        py: 0.5,
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: '10px',
      }}
    >
      <Typography sx={{ flex: 1, overflowWrap: 'anywhere' }}>
        {token ? (
          <Link href={`/api/guest/${token}/files/${file.id}`} download>
            {file.name}
          </Link>
        ) : (
          file.name
        )}{' '}
        <Typography component="span" variant="body2" color="textSecondary">
          {kilobytes(file.size)}
        </Typography>
      </Typography>
      {onAway && (
        <Button size="small" onClick={onAway} aria-label={`Take ${file.name} away`}>
          Take away
        </Button>
      )}
    </Box>
  );
}

type Props = { token: string; label: string; accept: string; largest?: number; onTaken: (file: GivenFile) => void };

export function Taking({ token, label, accept, largest = 10, onTaken }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [coming, setComing] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  async function take(file: File) {
    setFault(null);
    if (file.size > largest * 1_000_000) {
      setFault(`“${file.name}” has ${kilobytes(file.size)}; up to ${largest} MB are taken.`);
      return;
    }
    setComing(file.name);
    try {
      onTaken(await call('POST /guest/:token/files', { params: { token }, query: { name: file.name }, body: file }));
    } catch (problem) {
      setFault(problemOf(problem)?.detail ?? `“${file.name}” did not come in.`);
    }
    setComing(null);
  }
  return (
    <Box>
      {coming === null ? (
        <Button
          fullWidth
          onClick={() => input.current?.click()}
          sx={{ minHeight: 46, borderStyle: 'dashed', justifyContent: 'start', textAlign: 'left' }}
        >
          {label}
        </Button>
      ) : (
        <Box role="status">
          <Typography variant="body2">Taking in {coming} …</Typography>
          <LinearProgress aria-label={`Taking in ${coming}`} />
        </Box>
      )}
      <input
        ref={input}
        hidden
        type="file"
        accept={accept}
        aria-label={label}
        onChange={event => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) void take(file);
        }}
      />
      {fault && (
        <Typography variant="body2" role="alert" sx={{ color: 'error.main', mt: 0.5 }}>
          {fault}
        </Typography>
      )}
    </Box>
  );
}
