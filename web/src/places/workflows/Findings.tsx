/** Findings in the margin: what, where, who is concerned, and a mend with one click where there is one. */

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import type { PersonId } from '@north-pebble/core/people';
import { type Definition, type Finding, setAt, stepNumber } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { Note } from '../../parts/Notes.tsx';

function People({ people }: { people: { person: PersonId; name: string; why: string }[] }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Link component="button" type="button" onClick={() => setOpen(!open)} aria-expanded={open}>
        {open ? 'Hide people' : 'Show people'}
      </Link>
      {open && (
        <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.25, maxHeight: 200, overflowY: 'auto' }}>
          {people.map(p => (
            <li key={p.person}>
              {p.name}: {p.why}
            </li>
          ))}
        </Box>
      )}
    </>
  );
}

export function Findings({
  findings,
  definition,
  readOnly,
  onSelect,
  onChange,
}: {
  findings: Finding[] | null;
  definition: Definition;
  readOnly: boolean;
  onSelect: (step: string) => void;
  onChange: (definition: Definition) => void;
}) {
  if (findings === null) return <Note tone="now" title="Reading the workflow …" />;
  if (findings.length === 0) {
    return (
      <Note tone="good" title="Nothing found" role="status">
        {readOnly
          ? 'Every name is known and every step leads on. Who would get stuck is tried for designers.'
          : 'Every name is known, every step leads on, and everybody in the directory finds a decider.'}
      </Note>
    );
  }
  const sorted = [...findings].sort((a, b) => Number(b.level === 'stops') - Number(a.level === 'stops'));
  return sorted.map(finding => {
    const { step, mend } = finding;
    return (
      <Note key={finding.id} tone={finding.level === 'stops' ? 'stop' : 'waiting'} title={finding.title}>
        {finding.detail}
        <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1.5 }}>
          {finding.level === 'stops' && <span>Stops publishing.</span>}
          {step && (
            <Link component="button" type="button" onClick={() => onSelect(step)}>
              Step {stepNumber(definition, step)}
            </Link>
          )}
          {mend && !readOnly && (
            <Link component="button" type="button" onClick={() => onChange(setAt(definition, mend.path, mend.value))}>
              {mend.label}
            </Link>
          )}
        </Box>
        {finding.people && <People people={finding.people} />}
      </Note>
    );
  });
}
