/** A paper: read here, and then said to be read, signed in the page, or signed by hand and given back. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { GuestView } from '@north-pebble/contract';
import type { FieldOf, GivenFile, SignedPaper } from '@north-pebble/core/form';
import { useMutation, useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { fetched } from '../../api/fetched.ts';
import { FailureNote } from '../Notes.tsx';
import type { Strokes } from './SignPad.tsx';
import { Taking } from './Taking.tsx';

const SignPad = lazy(() => fetched(() => import('./SignPad.tsx')));

type Props = {
  field: FieldOf<'paper'>;
  value: SignedPaper | null;
  token: string | null;
  name: string;
  onSigned: (view: GuestView) => void;
  onGiven: (value: SignedPaper | null) => void;
  /** Whether it is the one that is being read now. */
  open: boolean;
  onOpen: (open: boolean) => void;
};

const whenWords = ({ at }: SignedPaper): string => `${at.slice(0, 10)}, ${at.slice(11, 16)} UTC`;

function Done({ field, value, token }: Pick<Props, 'field' | 'token'> & { value: SignedPaper }) {
  return (
    <>
      <Typography variant="body2">
        {value.how === 'read'
          ? `You have read it: ${whenWords(value)}.`
          : value.how === 'by hand'
            ? 'Signed by hand and given back.'
            : `Signed as ${value.name}: ${whenWords(value)}.`}
      </Typography>
      {value.file && token && (
        <Link href={`/api/guest/${token}/files/${value.file.id}`} download>
          Keep a copy of “{field.label}”
        </Link>
      )}
    </>
  );
}

export default function PaperField({ field, value, token, name, onSigned, onGiven, open, onOpen }: Props) {
  const [written, setWritten] = useState(name);
  const [strokes, setStrokes] = useState<Strokes>([]);
  const paper = useQuery({
    queryKey: ['paper', token, field.id],
    queryFn: () => call('GET /guest/:token/papers/:field', { params: { token: token ?? '', field: field.id } }),
    enabled: open && token !== null,
    retry: false,
    staleTime: 0,
  });
  const sign = useMutation({
    mutationFn: () =>
      call('POST /guest/:token/papers/:field', {
        params: { token: token ?? '', field: field.id },
        body:
          field.signed === 'read'
            ? { digest: paper.data?.digest ?? '', name: null, strokes: null }
            : { digest: paper.data?.digest ?? '', name: written, strokes: strokes.length > 0 ? strokes : null },
      }),
    onSuccess: view => {
      onOpen(false);
      onSigned(view);
    },
  });
  if (value) {
    return (
      <Box>
        <Done field={field} value={value} token={token} />
        {token && value.how === 'by hand' && (
          <Button size="small" onClick={() => onGiven(null)}>
            Give another one
          </Button>
        )}
      </Box>
    );
  }
  if (!open) {
    return (
      <Button disabled={token === null} onClick={() => onOpen(true)} aria-label={`Read “${field.label}”`}>
        {field.signed === 'read' ? 'Read it' : 'Read and sign it'}
      </Button>
    );
  }
  const byHand = (file: GivenFile) => {
    onOpen(false);
    onGiven({
      how: 'by hand',
      name: null,
      at: new Date().toISOString().slice(0, 19).concat('Z') as never,
      digest: null,
      file,
    });
  };
  const wrongName = problemOf(sign.error)?.faults?.find(one => one.field === 'name')?.message;
  const nameFault = wrongName ?? (written.trim().length < 2 ? 'Write your name.' : undefined);
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <FailureNote fault={paper.error} />
      {paper.isPending && <Typography color="textSecondary">It is being made ready …</Typography>}
      {paper.data && (
        <>
          {paper.data.text !== null && (
            <Box
              tabIndex={0}
              role="region"
              aria-label={field.label}
              sx={{
                maxHeight: 300,
                overflowY: 'auto',
                whiteSpace: 'pre-wrap',
                p: 1.5,
                border: '1px solid',
                borderColor: 'divider',
                borderRadius: '10px',
                bgcolor: 'background.default',
              }}
            >
              {paper.data.text}
            </Box>
          )}
          <Link href={`/api/guest/${token}/files/${paper.data.file}`} download>
            The same as a PDF
          </Link>
          {(field.signed === 'here' || field.signed === 'either') && (
            <>
              <TextField
                label="Your name, as you sign"
                value={written}
                onChange={event => setWritten(event.target.value)}
                error={nameFault !== undefined}
                helperText={nameFault ?? 'Your name and the time are written into the paper.'}
                slotProps={{ htmlInput: { autoComplete: 'name', maxLength: 120 } }}
              />
              <Typography variant="body2" color="textSecondary">
                If you like, sign by hand here too:
              </Typography>
              <Suspense fallback={<Box sx={{ height: 148 }} />}>
                <SignPad onDrawn={setStrokes} />
              </Suspense>
            </>
          )}
          <FailureNote fault={wrongName ? null : sign.error} />
          {field.signed !== 'by hand' && (
            <Button
              variant="contained"
              color="primary"
              disabled={sign.isPending || (field.signed !== 'read' && nameFault !== undefined)}
              onClick={() => sign.mutate()}
              sx={{ minHeight: 52, borderRadius: '13px', fontSize: 16.5 }}
            >
              {field.signed === 'read' ? 'I have read it' : `Sign “${field.label}”`}
            </Button>
          )}
          {(field.signed === 'by hand' || field.signed === 'either') && token && (
            <Taking
              token={token}
              label={
                field.signed === 'either'
                  ? 'Or print it, sign it, and give it back'
                  : 'Print it, sign it, and give it back'
              }
              accept="application/pdf,image/*"
              onTaken={byHand}
            />
          )}
          <Button size="small" onClick={() => onOpen(false)} sx={{ justifySelf: 'start' }}>
            Later
          </Button>
        </>
      )}
    </Box>
  );
}
