/** One answer as its reader sees it: in words, as files to open, or closed until it is looked at. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import {
  type Answer,
  answerWords,
  cellWords,
  type Field,
  type FieldOf,
  filesOf,
  type GivenFile,
  type Naming,
  sizeWords,
  type TableRow,
} from '@north-pebble/core/form';
import { type CivilDate, fullDate } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useRef } from 'react';
import { call, commandId } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { FailureNote } from '../Notes.tsx';

/** Files to open, a line each, with their size. */
export const FileLinks = ({ files }: { files: readonly GivenFile[] }) =>
  files.map(file => (
    <Box key={file.id}>
      <Link href={`/api/files/${file.id}`} download={file.name}>
        {file.name}
      </Link>
      <Box component="span" sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
        {' · '}
        {sizeWords(file.size)}
      </Box>
    </Box>
  ));

/** The rows of a table, one beneath another, each with what stands in it. */
const Rows = ({ field, rows }: { field: FieldOf<'table'>; rows: readonly TableRow[] }) => (
  <Box component="ol" sx={{ m: 0, pl: 2.5, '& li + li': { mt: 0.5 } }}>
    {rows.map((row, n) => (
      // biome-ignore lint/suspicious/noArrayIndexKey: rows have no identity besides their place
      <li key={n}>
        {field.columns
          .map(column => cellWords(column, row[column.id]))
          .filter(words => words !== '')
          .join(' · ')}
      </li>
    ))}
  </Box>
);

export function AnswerWords({ field, answer, naming }: { field: Field; answer: Answer | undefined; naming: Naming }) {
  if (field.kind === 'table' && Array.isArray(answer) && answer.length > 0)
    return <Rows field={field} rows={answer as readonly TableRow[]} />;
  if (field.kind !== 'files' && field.kind !== 'document') return <>{answerWords(field, answer, naming)}</>;
  const files = filesOf(answer);
  const { expires } = (answer ?? {}) as { expires?: CivilDate | null };
  if (files.length === 0) return <>{answerWords(field, answer, naming)}</>;
  return (
    <>
      <FileLinks files={files} />
      {expires && <Box sx={{ color: 'text.secondary', fontSize: 13 }}>valid until {fullDate(expires)}</Box>}
    </>
  );
}

/** An answer that was given and does not stand open: shown on demand to named readers, never to others. */
export function ClosedAnswer({
  request,
  field,
  sight,
  naming,
}: {
  request: RequestView;
  field: Field;
  sight: 'guarded' | 'withheld';
  naming: Naming;
}) {
  const id = useRef(commandId());
  const look = useMutation({
    mutationFn: () =>
      call('POST /requests/:id/looks', { params: { id: request.id }, body: { id: id.current, field: field.id } }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['request', request.id] }),
  });
  if (look.data) return <AnswerWords field={field} answer={look.data.answer} naming={naming} />;
  if (sight === 'withheld') {
    return (
      <Typography variant="body2" color="textSecondary">
        Given. {field.readers ? `Read by ${field.readers.join(' and ')} only.` : 'Read by those who decide on it.'}
      </Typography>
    );
  }
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, flexWrap: 'wrap' }}>
        <Button
          size="small"
          variant="outlined"
          aria-label={`Show ${field.label}`}
          disabled={look.isPending}
          onClick={() => look.mutate()}
        >
          Show
        </Button>
        <Typography variant="body2" color="textSecondary">
          Your look is recorded.
        </Typography>
      </Box>
      {look.error && <FailureNote fault={look.error} />}
    </>
  );
}
