/** A workflow as a file: taken out as JSON, and read back into the draft with every fault named. */

import Button from '@mui/material/Button';
import type { DefinitionFault } from '@north-pebble/core/workflow';
import { type Definition, pathText, readDefinition } from '@north-pebble/core/workflow';
import { useRef, useState } from 'react';
import { Note } from '../../parts/Notes.tsx';

const largest = 2_000_000;

export function SaveFile({ definition }: { definition: Definition }) {
  const save = () => {
    const url = URL.createObjectURL(new Blob([JSON.stringify(definition, null, 2)], { type: 'application/json' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = `${definition.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.workflow.json`;
    link.click();
    URL.revokeObjectURL(url);
  };
  return <Button onClick={save}>Save as file</Button>;
}

type Faults = { file: string; faults: DefinitionFault[] };

export function OpenFile({ onRead }: { onRead: (definition: Definition) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [wrong, setWrong] = useState<Faults | null>(null);
  const read = async (file: File) => {
    const say = (message: string) => setWrong({ file: file.name, faults: [{ path: [], message }] });
    if (file.size > largest) return say(`is ${Math.round(file.size / 1e6)} MB; a workflow is at most 2 MB.`);
    let document: unknown;
    try {
      document = JSON.parse(await file.text());
    } catch {
      return say('is not JSON, so it is no workflow of North Pebble.');
    }
    const found = readDefinition(document);
    if (!found.ok) return setWrong({ file: file.name, faults: found.faults });
    setWrong(null);
    onRead(found.definition);
  };
  return (
    <>
      <Button onClick={() => input.current?.click()}>Open a file</Button>
      <input
        ref={input}
        hidden
        type="file"
        accept="application/json,.json"
        aria-label="Workflow file"
        onChange={event => {
          const [file] = event.target.files ?? [];
          if (file) void read(file);
          event.target.value = '';
        }}
      />
      {wrong && (
        <div style={{ flexBasis: '100%' }}>
          <Note tone="stop" title={`${wrong.file} was not read; the draft is as it was`} role="alert">
            {wrong.faults.slice(0, 4).map(fault => (
              <div key={`${fault.path.join('.')}${fault.message}`}>
                {pathText(fault.path)}: {fault.message}
              </div>
            ))}
            {wrong.faults.length > 4 && <div>And {wrong.faults.length - 4} more.</div>}
          </Note>
        </div>
      )}
    </>
  );
}
