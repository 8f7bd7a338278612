/** Files of a workflow: saved as JSON or as BPMN 2.0, read back from either with every fault at its place. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { type Definition, type DefinitionFault, pathText, readDefinition } from '@north-pebble/core/workflow';
import { useRef, useState } from 'react';
import { fetched } from '../../../api/fetched.ts';
import { Note } from '../../../parts/Notes.tsx';

const largest = 5_000_000;

const fileName = (definition: Definition): string => definition.name.toLowerCase().replace(/[^a-z0-9]+/g, '-');

function download(name: string, text: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}

export function SaveFile({ definition }: { definition: Definition }) {
  return (
    <>
      <Button
        size="small"
        onClick={() =>
          download(`${fileName(definition)}.workflow.json`, JSON.stringify(definition, null, 2), 'application/json')
        }
      >
        Save as file
      </Button>
      <Button
        size="small"
        onClick={async () => {
          // Read only when it is needed: few save as BPMN, and everybody loads the sheet.
          const { writeBpmn } = await fetched(() => import('@north-pebble/core/formats'));
          download(`${fileName(definition)}.bpmn`, await writeBpmn(definition), 'application/xml');
        }}
      >
        Save as BPMN
      </Button>
    </>
  );
}

type Told = { title: string; lines: string[]; tone: 'stop' | 'waiting' };

const faultLines = (faults: readonly DefinitionFault[]): string[] =>
  faults.map(f => `${pathText(f.path)}: ${f.message}`);

/** The definition in a file, or everything that is wrong with it; what was left out is told too. */
export async function readFile(
  file: Pick<File, 'name' | 'size' | 'text'>,
): Promise<{ definition: Definition | null; told: Told | null }> {
  const wrong = (...lines: string[]) => ({
    definition: null,
    told: { title: `${file.name} was not read; the draft is as it was`, lines, tone: 'stop' as const },
  });
  if (file.size > largest) return wrong(`It is ${Math.round(file.size / 1e6)} MB; a workflow is at most 5 MB.`);
  const text = await file.text();
  if (/^\s*</.test(text)) {
    const { readBpmn } = await fetched(() => import('@north-pebble/core/formats'));
    const read = await readBpmn(text);
    const unread = read.unread.map(
      u => `${u.type}${u.name ? ` “${u.name}”` : ''}${u.element ? ` (${u.element})` : ''}: ${u.why}`,
    );
    if (!read.ok) return wrong(read.message, ...faultLines(read.faults), ...unread);
    const told =
      unread.length > 0
        ? { title: `${file.name} was read, but not all of it`, lines: unread, tone: 'waiting' as const }
        : null;
    return { definition: read.definition, told };
  }
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return wrong('It is neither JSON nor BPMN, so it is no workflow of North Pebble.');
  }
  const found = readDefinition(document);
  return found.ok ? { definition: found.definition, told: null } : wrong(...faultLines(found.faults));
}

export function OpenFile({
  onRead,
  label = 'Open a file',
}: {
  onRead: (definition: Definition) => void;
  label?: string;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [told, setTold] = useState<Told | null>(null);
  const read = async (file: File) => {
    const { definition, told: said } = await readFile(file);
    setTold(said);
    if (definition) onRead(definition);
  };
  return (
    <>
      <Button size="small" onClick={() => input.current?.click()}>
        {label}
      </Button>
      <input
        ref={input}
        hidden
        type="file"
        accept="application/json,.json,.bpmn,.xml,application/xml"
        aria-label="Workflow file"
        onChange={event => {
          const [file] = event.target.files ?? [];
          if (file) void read(file);
          event.target.value = '';
        }}
      />
      {told && (
        <Box sx={{ flexBasis: '100%' }}>
          <Note tone={told.tone} title={told.title} role="alert">
            {told.lines.slice(0, 6).map(line => (
              <div key={line}>{line}</div>
            ))}
            {told.lines.length > 6 && <div>And {told.lines.length - 6} more.</div>}
          </Note>
        </Box>
      )}
    </>
  );
}
