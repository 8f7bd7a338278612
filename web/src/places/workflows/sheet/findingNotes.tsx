/** Findings, kept checks and colleagues' notes as notes of the margin. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import type { DirectoryIndex, PersonId } from '@north-pebble/core/people';
import { inWords } from '@north-pebble/core/proof';
import { fullDate, fullMoment } from '@north-pebble/core/time';
import { type Definition, type Finding, setAt, stepById, structure } from '@north-pebble/core/workflow';
import { dequal } from 'dequal';
import { memo, useState } from 'react';
import { Note } from '../../../parts/Notes.tsx';
import type { MarginNote } from './Margin.tsx';
import type { Found } from './useFindings.ts';

function People({ people }: { people: NonNullable<Finding['people']> }) {
  const [open, setOpen] = useState(false);
  const several = new Set(people.map(p => p.day)).size > 1;
  return (
    <>
      <Link component="button" type="button" onClick={() => setOpen(!open)} aria-expanded={open}>
        {open ? 'Hide people' : 'Show people'}
      </Link>
      {open && (
        <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.25, maxHeight: 200, overflowY: 'auto' }}>
          {people.map(p => (
            <li key={`${p.person}-${p.day}`}>
              {p.name}
              {several && `, ${fullDate(p.day)}`}: {p.why}
            </li>
          ))}
        </Box>
      )}
    </>
  );
}

type Go = (place: { step?: string; section?: string; field?: string }) => void;
/** Changes the definition as it is at that moment. */
type EditSheet = (next: (now: Definition) => Definition) => void;

/** Where a finding that is about no step can be mended. */
function sectionOf(finding: Finding, definition: Definition): { section: string; field?: string } {
  const [first, , at] = finding.path;
  if (first === 'form' || first === 'access') {
    const field =
      first === 'form' && typeof at === 'number'
        ? definition.form.fields[at]?.id
        : typeof finding.path[2] === 'string'
          ? finding.path[2]
          : undefined;
    return { section: 'Form', ...(field ? { field } : {}) };
  }
  if (first === 'figures') return { section: 'Figures' };
  if (first === 'phrases' || first === 'opening') return { section: 'About' };
  return first === 'messages' || first === 'closings' ? { section: 'Messages' } : { section: 'Steps' };
}

type FindingProps = {
  finding: Finding;
  /** The number of its line, or the section where it can be mended. */
  at: { step: string; number: string } | { section: string; field?: string };
  readOnly: boolean;
  onGo: Go;
  onEdit: EditSheet;
};

/** Drawn again only when what it says has changed: there may be many, and every letter brings them anew. */
const FindingNote = memo(function FindingNote({ finding, at, readOnly, onGo, onEdit }: FindingProps) {
  const { fix } = finding;
  return (
    <Note tone={finding.level === 'stops' ? 'stop' : 'waiting'} title={finding.title}>
      {finding.detail}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1.5 }}>
        {finding.level === 'stops' && <span>Stops publishing.</span>}
        <Link
          component="button"
          type="button"
          onClick={() => onGo('step' in at ? { step: at.step, section: 'Steps' } : at)}
        >
          {'step' in at ? `Step ${at.number}` : at.section}
        </Link>
        {fix && !readOnly && (
          <Link component="button" type="button" onClick={() => onEdit(now => setAt(now, fix.path, fix.value))}>
            {fix.label}
          </Link>
        )}
      </Box>
      {finding.people && <People people={finding.people} />}
    </Note>
  );
}, dequal);

type Parts = {
  found: Found | null;
  definition: Definition;
  index: DirectoryIndex | undefined;
  zone: string;
  readOnly: boolean;
  onGo: Go;
  onEdit: EditSheet;
};

export function marginNotes({ found, definition, index, zone, readOnly, onGo, onEdit }: Parts): MarginNote[] {
  if (found === null) return [{ id: 'reading', step: null, node: <Note tone="now" title="Reading the workflow …" /> }];
  const placed = new Map(structure(definition).all.map((p, i) => [p.step.id, { order: i, number: p.number }]));
  const notes: MarginNote[] = found.findings.map(finding => ({
    id: finding.id,
    step: finding.step,
    node: (
      <FindingNote
        finding={finding}
        at={
          finding.step
            ? { step: finding.step, number: placed.get(finding.step)?.number ?? '' }
            : sectionOf(finding, definition)
        }
        readOnly={readOnly}
        onGo={onGo}
        onEdit={onEdit}
      />
    ),
  }));
  for (const check of found.checks) {
    if (check.ok) continue;
    const name = (id: string) => index?.person(id as PersonId)?.name ?? id;
    const [first] = check.differences;
    const at = /^([a-z][a-z0-9-]*): /.exec(first?.found ?? first?.expected ?? '')?.[1];
    notes.push({
      id: `check:${check.id}`,
      step: at && stepById(definition, at) ? at : null,
      node: (
        <Note tone="stop" title={`The check “${check.name}” has another result`}>
          {check.differences.slice(0, 3).map(d => (
            <div key={d.line}>
              expected {d.expected ? `“${inWords(definition, d.expected, name)}”` : 'the end'}, found{' '}
              {d.found ? `“${inWords(definition, d.found, name)}”` : 'the end'}
            </div>
          ))}
          <Box sx={{ display: 'flex', gap: 1.5 }}>
            <span>Stops publishing.</span>
            {!readOnly && (
              <Link
                component="button"
                type="button"
                onClick={() =>
                  onEdit(now =>
                    setAt(
                      now,
                      ['checks'],
                      now.checks?.filter(c => c.id !== check.id),
                    ),
                  )
                }
              >
                Drop the check
              </Link>
            )}
          </Box>
        </Note>
      ),
    });
  }
  for (const note of definition.notes ?? []) {
    const who = index?.person(note.by as PersonId)?.name ?? note.by;
    notes.push({
      id: `note:${note.id}`,
      step: note.on.what === 'step' ? note.on.id : null,
      node: (
        <Note tone="rework" title={`${who}, ${fullMoment(note.at, zone)}`}>
          {note.text}
          {!readOnly && (
            <div>
              <Link
                component="button"
                type="button"
                onClick={() =>
                  onEdit(now =>
                    setAt(
                      now,
                      ['notes'],
                      now.notes?.filter(n => n.id !== note.id),
                    ),
                  )
                }
              >
                Settled, remove it
              </Link>
            </div>
          )}
        </Note>
      ),
    });
  }
  if (found.findings.length === 0 && found.checks.every(c => c.ok)) {
    const kept = found.checks.length;
    notes.unshift({
      id: 'nothing',
      step: null,
      node: (
        <Note tone="good" title="Nothing found" role="status">
          {readOnly
            ? 'Every name is known and every step leads on. Who would get stuck is tried for designers.'
            : `Every name is known, every step leads on, everybody in the directory finds a decider${kept > 0 ? `, and ${kept === 1 ? 'the kept check comes' : `all ${kept} kept checks come`} out as expected` : ''}.`}
        </Note>
      ),
    });
  }
  const rank = (note: MarginNote) => (note.step === null ? -1 : (placed.get(note.step)?.order ?? 1000));
  return notes
    .map((note, i) => ({ note, i }))
    .sort((a, b) => rank(a.note) - rank(b.note) || a.i - b.i)
    .map(({ note }) => note);
}
