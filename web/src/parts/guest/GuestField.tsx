/** One field as a guest fills it in: plain boxes with the telephone’s own keyboards, calendars and lists. */
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Typography from '@mui/material/Typography';
import type { GuestFieldView, GuestView } from '@north-pebble/contract';
import type { Field, FieldOf, FileKind, GivenFile, SignedPaper } from '@north-pebble/core/form';
import { lazy, type ReactNode, Suspense, useId } from 'react';
import { fetched } from '../../api/fetched.ts';
import { LineBox } from './LineBox.tsx';

// Papers are few, and what reading and signing them takes is much.
const PaperField = lazy(() => fetched(() => import('./PaperField.tsx')));
const Taking = lazy(async () => ({ default: (await fetched(() => import('./Taking.tsx'))).Taking }));
const GivenFileLine = lazy(async () => ({ default: (await fetched(() => import('./Taking.tsx'))).GivenFileLine }));

export type GuestFieldProps<F extends Field = Field> = {
  field: F;
  needed: boolean;
  readBy: string;
  value: unknown;
  fault: string | undefined;
  token: string | null;
  view: GuestView;
  onType: (value: unknown) => void;
  onSigned: (view: GuestView) => void;
  /** The paper that is being read now, by its field. */
  reading: string | null;
  onReading: (field: string | null) => void;
  /** What a line of text is, for the keyboard and for what the browser knows already. */
  line?: 'name' | 'email';
};

const accepts: Record<FileKind, string> = {
  PDF: 'application/pdf',
  picture: 'image/*',
  'text document': '.docx,.odt,.rtf',
  table: '.xlsx,.ods,.csv',
  'plain text': 'text/plain',
};
const acceptOf = (takes: readonly FileKind[] | undefined): string =>
  (takes ?? (Object.keys(accepts) as FileKind[])).map(kind => accepts[kind]).join(',');

/** What stands below a field: what is wrong, or help, why it is asked, and who reads it. */
function Below({ field, fault, readBy }: Pick<GuestFieldProps, 'field' | 'fault' | 'readBy'>) {
  if (field.kind === 'fixed text') return null;
  return (
    <>
      {fault && (
        <Typography variant="body2" role="alert" sx={{ color: 'error.main' }}>
          {fault}
        </Typography>
      )}
      {(field.help || field.why) && (
        <Typography variant="body2" color="textSecondary">
          {field.help}
          {field.help && field.why && ' '}
          {field.why && `Why? ${field.why}`}
          {field.why && readBy && ` Read by ${readBy} only.`}
        </Typography>
      )}
    </>
  );
}

const labelOf = ({ label }: Field, needed: boolean): string => (needed ? label : `${label} (may stay empty)`);

/** A field of several parts under one name. */
function Group({ props, children }: { props: GuestFieldProps; children: ReactNode }) {
  const { field, needed } = props;
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, minWidth: 0, display: 'grid', gap: 1.75 }}>
      <Typography component="legend" variant="body2" sx={{ p: 0, mb: 0.75, fontWeight: 600 }}>
        {labelOf(field, needed)}
      </Typography>
      <Suspense fallback={null}>{children}</Suspense>
      <Below {...props} />
    </Box>
  );
}

type BoxKind = 'text' | 'long text' | 'date' | 'time' | 'whole number' | 'decimal' | 'money' | 'scale';
const numbers: readonly string[] = ['whole number', 'decimal', 'money', 'scale'];

function BoxField(props: GuestFieldProps<FieldOf<BoxKind>>) {
  const { field, needed, value, fault, onType, token } = props;
  const isNumber = numbers.includes(field.kind);
  const type =
    field.kind === 'date' ? 'date' : field.kind === 'time' ? 'time' : props.line === 'email' ? 'email' : 'text';
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      <LineBox
        type={type}
        label={labelOf(field, needed)}
        {...(field.kind === 'long text' ? { rows: 2 } : {})}
        value={(value ?? '') as string | number}
        disabled={token === null}
        wrong={fault !== undefined}
        onType={words => {
          if (words === '') return onType(null);
          onType(
            isNumber && Number.isFinite(Number(words.replace(',', '.'))) ? Number(words.replace(',', '.')) : words,
          );
        }}
        box={{
          ...(isNumber ? { inputMode: 'decimal' } : {}),
          ...(props.line ? { autoComplete: props.line } : {}),
          ...(field.kind === 'date' ? { min: '1900-01-01', max: '2199-12-31' } : {}),
        }}
      />
      <Below {...props} />
    </Box>
  );
}

function OneOf(props: GuestFieldProps & { options: readonly { id: string; title: string }[] }) {
  const { field, needed, value, fault, onType, options, token } = props;
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      <LineBox
        label={labelOf(field, needed)}
        value={typeof value === 'string' ? value : ''}
        disabled={token === null}
        wrong={fault !== undefined}
        options={options}
        onType={chosen => onType(chosen || null)}
      />
      <Below {...props} />
    </Box>
  );
}

function YesNo(props: GuestFieldProps) {
  const id = useId();
  const { value, onType, token } = props;
  return (
    <Group props={props}>
      <RadioGroup
        row
        aria-labelledby={id}
        aria-label={props.field.label}
        value={value === true ? 'yes' : value === false ? 'no' : ''}
        onChange={(_, chosen) => onType(chosen === 'yes')}
      >
        <FormControlLabel value="yes" control={<Radio />} label="yes" disabled={token === null} />
        <FormControlLabel value="no" control={<Radio />} label="no" disabled={token === null} />
      </RadioGroup>
    </Group>
  );
}

function Several(props: GuestFieldProps<FieldOf<'several choices'>>) {
  const { field, value, onType, token } = props;
  const chosen = Array.isArray(value) ? (value as string[]) : [];
  return (
    <Group props={props}>
      {field.options.map(option => (
        <FormControlLabel
          key={option}
          disabled={token === null}
          control={
            <Checkbox
              checked={chosen.includes(option)}
              onChange={(_, on) => onType(field.options.filter(o => (o === option ? on : chosen.includes(o))))}
            />
          }
          label={option}
        />
      ))}
    </Group>
  );
}

function Consent(props: GuestFieldProps<FieldOf<'consent'>>) {
  const { field, value, onType, token } = props;
  const given = (value ?? null) as { version?: string; at?: string } | null;
  return (
    <Group props={props}>
      <FormControlLabel
        disabled={token === null}
        sx={{ alignItems: 'start', '& .MuiCheckbox-root': { mt: -1 } }}
        control={
          <Checkbox
            checked={given?.version === field.version}
            onChange={(_, on) =>
              onType(on ? { version: field.version, at: `${new Date().toISOString().slice(0, 19)}Z` } : null)
            }
          />
        }
        label={field.text}
      />
      <Typography variant="body2" color="textSecondary">
        Version {field.version}.
      </Typography>
    </Group>
  );
}

type DocumentValue = { file?: GivenFile; expires?: string | null; number?: string; issued?: string };

function Document(props: GuestFieldProps<FieldOf<'document'>>) {
  const { field, value, onType, token } = props;
  const given = (typeof value === 'object' && value !== null ? value : {}) as DocumentValue;
  const put = (part: Partial<DocumentValue>) => {
    const next = { expires: null, ...given, ...part };
    onType(next.file || next.number || next.issued || next.expires ? next : null);
  };
  const part = (label: string, key: 'number' | 'issued' | 'expires') => (
    <LineBox
      label={label}
      type={key === 'number' ? 'text' : 'date'}
      value={given[key] ?? ''}
      disabled={token === null}
      onType={words => put({ [key]: words || (key === 'expires' ? null : undefined) })}
      box={key === 'number' ? { maxLength: 60, autoComplete: 'off' } : { min: '1900-01-01', max: '2199-12-31' }}
    />
  );
  return (
    <Group props={props}>
      {given.file && (
        <GivenFileLine file={given.file} token={token} {...(token ? { onAway: () => put({ file: undefined }) } : {})} />
      )}
      {!given.file && token && (
        <Taking
          token={token}
          label="Take a photograph, or choose a file"
          accept={acceptOf(field.takes)}
          {...(field.largest ? { largest: field.largest } : {})}
          onTaken={file => put({ file })}
        />
      )}
      {field.numbered && part('Number', 'number')}
      {field.issued && part('Issued on', 'issued')}
      {field.expires && part('Valid until', 'expires')}
    </Group>
  );
}

function Files(props: GuestFieldProps<FieldOf<'files'>>) {
  const { field, value, onType, token } = props;
  const files = Array.isArray(value) ? (value as GivenFile[]) : [];
  return (
    <Group props={props}>
      {files.map(file => (
        <GivenFileLine
          key={file.id}
          file={file}
          token={token}
          {...(token ? { onAway: () => onType(files.filter(one => one.id !== file.id)) } : {})}
        />
      ))}
      {token && files.length < (field.most ?? 20) && (
        <Taking
          token={token}
          label={files.length > 0 ? 'Another one' : 'Take a photograph, or choose a file'}
          accept={acceptOf(field.takes)}
          {...(field.largest ? { largest: field.largest } : {})}
          onTaken={file => onType([...files, file])}
        />
      )}
    </Group>
  );
}

function Range(props: GuestFieldProps) {
  const { value, onType, token } = props;
  const given = (typeof value === 'object' && value !== null ? value : {}) as { from?: string; to?: string };
  const part = (label: string, key: 'from' | 'to') => (
    <LineBox
      type="date"
      label={label}
      value={given[key] ?? ''}
      disabled={token === null}
      onType={day => onType({ ...given, [key]: day })}
    />
  );
  return (
    <Group props={props}>
      {part('From', 'from')}
      {part('To', 'to')}
    </Group>
  );
}

export function GuestField(props: GuestFieldProps) {
  const { field, view, token, value, onType, onSigned, reading, onReading } = props;
  switch (field.kind) {
    case 'text':
    case 'long text':
    case 'date':
    case 'time':
    case 'whole number':
    case 'decimal':
    case 'money':
    case 'scale':
      return <BoxField {...(props as GuestFieldProps<FieldOf<BoxKind>>)} />;
    case 'yes/no':
      return <YesNo {...props} />;
    case 'choice': {
      const words = field.options === 'leave types' ? [] : field.options;
      return <OneOf {...props} options={words.map(title => ({ id: title, title }))} />;
    }
    case 'pick':
      return <OneOf {...props} options={view.lists.find(list => list.id === field.list)?.rows ?? []} />;
    case 'several choices':
      return <Several {...props} field={field} />;
    case 'consent':
      return <Consent {...props} field={field} />;
    case 'document':
      return <Document {...props} field={field} />;
    case 'files':
      return <Files {...props} field={field} />;
    case 'date range':
      return <Range {...props} />;
    case 'paper':
      return (
        <Group props={props}>
          <PaperField
            field={field}
            value={(value ?? null) as SignedPaper | null}
            token={token}
            name={view.name}
            onSigned={onSigned}
            onGiven={onType}
            open={reading === field.id}
            onOpen={isOpen => onReading(isOpen ? field.id : null)}
          />
        </Group>
      );
    case 'fixed text':
      return (
        <Typography color="textSecondary" sx={{ whiteSpace: 'pre-wrap' }}>
          {field.text}
        </Typography>
      );
    // A designer is told that no guest is asked these.
    case 'person':
    case 'leave span':
    case 'table':
      return null;
  }
}

export const isGiven = (value: unknown): boolean =>
  value !== null && value !== undefined && value !== '' && !(Array.isArray(value) && value.length === 0);

/** What is needed and not there, by label. */
export const missingOf = (fields: readonly GuestFieldView[], typed: Readonly<Record<string, unknown>>): string[] =>
  fields
    .filter(({ field, needed }) => needed && field.kind !== 'fixed text' && !isGiven(typed[field.id]))
    .map(({ field }) => field.label);
