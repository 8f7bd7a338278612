/** Files or one document as an answer: taken in while the form is filled in, each fault said at once. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import {
  type FieldOf,
  fileFault,
  filesOf,
  type GivenFile,
  largestFile,
  sizeWords,
  takesWords,
  usualLargest,
} from '@north-pebble/core/form';
import { createContext, useContext, useRef, useState, useSyncExternalStore } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { DayField } from './DayField.tsx';
import { FieldGroup } from './FieldGroup.tsx';
import type { FieldProps } from './fieldFrame.ts';

/** Takes a file in and says what it is. */
export type Filing = (file: File) => Promise<GivenFile>;

const toTheHouse: Filing = file => call('POST /files', { query: { name: file.name.slice(0, 200) }, body: file });

/** In a rehearsal nothing is kept: a file counts by its name. */
export const byNameOnly: Filing = async file => ({
  id: crypto.randomUUID(),
  name: file.name.slice(0, 200),
  size: Math.max(1, file.size),
  type: file.type || 'text/plain',
});

export const FilingContext = createContext<Filing>(toTheHouse);

let comingIn = 0;
const watching = new Set<() => void>();
function count(change: 1 | -1): void {
  comingIn += change;
  for (const tell of watching) tell();
}

/** Whether a file is still on its way: what is sent now would go without it. */
export const useFilesComing = (): boolean =>
  useSyncExternalStore(
    tell => {
      watching.add(tell);
      return () => watching.delete(tell);
    },
    () => comingIn > 0,
  );

type FileField = FieldOf<'files'> | FieldOf<'document'>;
type Document = { file?: GivenFile; expires?: string | null; number?: string; issued?: string };

const documentOf = (value: unknown): Document =>
  typeof value === 'object' && value !== null ? (value as Document) : {};
/** The number of a document and the day it was issued, where they are asked for. */
function DocumentParts({ field, value, closed, onChange }: FieldProps<FieldOf<'document'>>) {
  const given = documentOf(value);
  return (
    <>
      {field.numbered && (
        <TextField
          label="Number"
          value={given.number ?? ''}
          disabled={closed}
          onChange={event => onChange({ ...given, number: event.target.value || undefined })}
          slotProps={{ htmlInput: { maxLength: 60, autoComplete: 'off' } }}
          sx={{ mt: 1, maxWidth: 240 }}
        />
      )}
      {field.issued && (
        <Box sx={{ mt: 1, maxWidth: 240 }}>
          <DayField
            label="Issued on"
            date={given.issued ?? ''}
            disabled={closed}
            onDate={day => onChange({ ...given, issued: day || undefined })}
          />
        </Box>
      )}
    </>
  );
}

export function FilesInput(props: FieldProps<FileField>) {
  const { field, value, onChange, fault, closed } = props;
  const filing = useContext(FilingContext);
  const input = useRef<HTMLInputElement>(null);
  const [coming, setComing] = useState<string[]>([]);
  const [refused, setRefused] = useState<string[]>([]);
  // Other fields may be typed in while a file is on its way.
  const now = useRef({ value, onChange });
  now.current = { value, onChange };
  const most = field.kind === 'files' ? (field.most ?? 20) : 1;
  const files = filesOf(value);
  const give = (next: GivenFile[]) => {
    const one = next[0] ? { expires: null, ...documentOf(now.current.value), file: next[0] } : null;
    now.current.value = field.kind === 'files' ? next : one;
    now.current.onChange(now.current.value);
  };

  async function takeIn(chosen: File[]) {
    setRefused([]);
    const room = most - filesOf(now.current.value).length;
    if (chosen.length > room) setRefused([`At most ${most} ${most === 1 ? 'file' : 'files'} here.`]);
    for (const file of chosen.slice(0, room)) {
      const limit = Math.min(field.largest ?? usualLargest, largestFile);
      if (file.size > limit * 1_000_000) {
        setRefused(all => [...all, `“${file.name}” has ${sizeWords(file.size)}; up to ${limit} MB are taken.`]);
        continue;
      }
      setComing(all => [...all, file.name]);
      count(1);
      try {
        const taken = await filing(file);
        const wrong = fileFault(field, taken);
        if (wrong) setRefused(all => [...all, wrong]);
        else give([...filesOf(now.current.value), taken]);
      } catch (problem) {
        setRefused(all => [...all, problemOf(problem)?.detail ?? `“${file.name}” did not come in.`]);
      }
      count(-1);
      setComing(all => all.filter(name => name !== file.name));
    }
  }

  const said = fault ?? (refused.length > 0 ? refused.join(' ') : undefined);
  return (
    <FieldGroup
      {...props}
      fault={said}
      help={closed ? ' ' : (field.help ?? `${takesWords(field)}.`)}
      onDrop={event => {
        event.preventDefault();
        if (!closed) void takeIn([...event.dataTransfer.files]);
      }}
    >
      {files.map(file => (
        <Box key={file.id} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
            {file.name}, {sizeWords(file.size)}
          </Typography>
          {!closed && (
            <IconButton
              size="small"
              aria-label={`Remove ${file.name}`}
              onClick={() => give(files.filter(f => f.id !== file.id))}
            >
              <CloseOutlined fontSize="inherit" />
            </IconButton>
          )}
        </Box>
      ))}
      {coming.map(name => (
        <Box key={name} role="status" sx={{ py: 0.5, maxWidth: 320 }}>
          <Typography variant="body2">Taking in {name} …</Typography>
          <LinearProgress aria-label={`Taking in ${name}`} />
        </Box>
      ))}
      {!closed && files.length + coming.length < most && (
        <Button startIcon={<AddOutlined />} onClick={() => input.current?.click()} sx={{ alignSelf: 'start' }}>
          {field.kind === 'document' ? 'Add the document' : 'Add a file'}
        </Button>
      )}
      <input
        ref={input}
        hidden
        type="file"
        multiple={field.kind === 'files'}
        aria-label={field.label}
        onChange={event => {
          const chosen = [...(event.target.files ?? [])];
          event.target.value = '';
          void takeIn(chosen);
        }}
      />
      {field.kind === 'document' && files.length > 0 && <DocumentParts {...props} field={field} />}
      {field.kind === 'document' && field.expires && files.length > 0 && (
        <Box sx={{ mt: 1, maxWidth: 240 }}>
          <DayField
            label="Valid until"
            date={documentOf(value).expires ?? ''}
            disabled={closed}
            onDate={day => onChange({ ...documentOf(value), expires: day || null })}
          />
        </Box>
      )}
    </FieldGroup>
  );
}
