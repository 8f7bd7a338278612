/** The written procedure: a line a step, phrases changed in place, lines added, moved, copied and taken out by mouse and keys. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { idFrom } from '@north-pebble/core/form';
import type { DirectoryIndex } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import {
  copies,
  type Definition,
  type Finding,
  getAt,
  insertSteps,
  type Line,
  moveStep,
  moveTo,
  type NamedLists,
  type Phrase,
  placeAfter,
  procedure,
  removeStep,
  type Step,
  setAt,
  stepById,
  structure,
} from '@north-pebble/core/workflow';
import { dequal } from 'dequal';
import { memo, type ReactNode, useCallback, useDeferredValue, useMemo, useRef, useState } from 'react';
import { StepPebble } from '../../../parts/Pebble.tsx';
import { AddLine } from './AddLine.tsx';
import { SheetContext, useAround } from './editors/shared.tsx';
import { LineDrag, LineHandle, LineItem } from './LineDrag.tsx';
import { type LineAction, LineMenu, lineMenuStyles } from './LineMenu.tsx';
import { Phrases, phraseStyles } from './PhraseButton.tsx';
import { stepsAsText, stepsFromText } from './stepClipboard.ts';

const toneColour = {
  good: 'var(--mui-palette-success-main)',
  rework: 'var(--mui-palette-secondary-main)',
  bad: 'var(--mui-palette-error-main)',
  plain: 'var(--mui-palette-text-secondary)',
} as const;

type Shared = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  readOnly: boolean;
  onChange: (definition: Definition) => void;
};

/** What can be done with a row besides changing its phrases. */
type Row = Line['rows'][number] & { mayGo: boolean; labelPhrase: Phrase };
/** A line of the page: that of the procedure, with what is stopped in it. */
type PageLine = Omit<Line, 'rows'> & { rows: Row[]; stops: string[] };

type LineProps = {
  line: PageLine;
  readOnly: boolean;
  selected: boolean;
  onSelect: (step: string) => void;
  onAction: (step: string, action: LineAction) => void;
  onRemoveRow: (path: Line['path']) => void;
  below: ReactNode;
};

/** The lines of a definition; a line that says what it said before is the very same one, so that it is not drawn again. */
function usePageLines(
  definition: Definition,
  index: DirectoryIndex | undefined,
  findings: readonly Finding[],
  lists: NamedLists,
): PageLine[] {
  const before = useRef(new Map<string, PageLine>());
  return useMemo(() => {
    const stopped = new Set(findings.filter(f => f.level === 'stops').map(f => f.path.join('.')));
    const lines = procedure(definition, index, lists).map((line): PageLine => {
      const least = line.verb === 'Decide' || line.verb === 'Split' ? 1 : 0;
      const rows = line.rows.map((row): Row => {
        const list = typeof row.path.at(-1) === 'number' ? getAt(definition, row.path.slice(0, -1)) : null;
        return {
          ...row,
          mayGo: row.path.at(-1) === 'refused' || (Array.isArray(list) && list.length > least),
          labelPhrase: {
            text: row.label,
            ...(line.verb === 'Decide' ? { edit: outcomeEdit(definition, row.path, line.step) } : {}),
          },
        };
      });
      const phrases = [...line.sentence, ...line.after, ...rows.flatMap(row => [...row.phrases, row.labelPhrase])];
      const stops = phrases.flatMap(p => (p.edit && stopped.has(p.edit.path.join('.')) ? [p.edit.path.join('.')] : []));
      const made = { ...line, rows, stops };
      const was = before.current.get(line.step);
      return was && dequal(was, made) ? was : made;
    });
    before.current = new Map(lines.map(line => [line.step, line]));
    return lines;
  }, [definition, index, findings, lists]);
}

function RemoveRow({ row, onRemove }: { row: Row; onRemove: () => void }) {
  const at = row.path.at(-1);
  return (
    <button
      type="button"
      className="quiet remove"
      aria-label={`Remove ${row.label || `row ${typeof at === 'number' ? at + 1 : ''}`}`}
      onClick={onRemove}
    >
      ×
    </button>
  );
}

/** The look of all lines, said once for the list: a rule for each part of each line would be most of the work. */
const lineStyles = {
  listStyle: 'none',
  m: 0,
  p: 0,
  '& > li': {
    // Lines out of sight are neither laid out nor painted with every letter.
    contentVisibility: 'auto',
    containIntrinsicSize: 'auto 84px',
    borderBottom: '1px solid',
    borderColor: 'divider',
  },
  '& > li.nested': {
    borderLeft: '2px solid',
    borderLeftColor: 'color-mix(in srgb, var(--mui-palette-primary-main) 35%, transparent)',
  },
  '& .line': {
    display: 'grid',
    gridTemplateColumns: '42px 1fr 34px',
    alignItems: 'start',
    px: { xs: 1, sm: 1.5 },
    py: 1.1,
  },
  '& .line.selected': {
    background:
      'linear-gradient(90deg, color-mix(in srgb, var(--mui-palette-primary-main) 12%, transparent), transparent 70%)',
  },
  '& .line .quiet': { opacity: 0 },
  '& .line:hover .quiet, & .line:focus-within .quiet': { opacity: 1 },
  '& .line .handle': { justifySelf: 'start' },
  '& .line .handle.movable': { cursor: 'grab', touchAction: 'none' },
  '& > li.target': { boxShadow: 'inset 0 -3px 0 var(--mui-palette-primary-main)' },
  '& .line .verb': { fontFamily: 'h3.fontFamily', fontWeight: 650, mr: 0.75 },
  '& .line .sentence': { typography: 'body1' },
  '& .line .row, & .line .rest': { fontSize: 14, color: 'text.secondary', mt: 0.5 },
  '& .line .row.labelled': { display: 'grid', gridTemplateColumns: { xs: '96px 1fr', sm: '132px 1fr' } },
  '& .line .row .label': { fontWeight: 650 },
  '& .line .remove': {
    border: 0,
    background: 'none',
    color: 'text.secondary',
    cursor: 'pointer',
    font: 'inherit',
    px: 0.5,
    // Out of sight it takes no place: it must not begin a line of its own.
    mr: '-1.5em',
  },
  ...phraseStyles,
  ...lineMenuStyles,
};

const StepLine = memo(function StepLine({
  line,
  readOnly,
  selected,
  onSelect,
  onAction,
  onRemoveRow,
  below,
}: LineProps) {
  const stopped = (phrase: Phrase) => phrase.edit !== undefined && line.stops.includes(phrase.edit.path.join('.'));
  const phrases = { readOnly, stopped };
  const onKey = (event: React.KeyboardEvent<HTMLElement>) => {
    if (readOnly) return;
    const own = event.target === event.currentTarget;
    const act = (action: LineAction) => {
      event.preventDefault();
      onAction(line.step, action);
    };
    if (event.altKey && event.key === 'ArrowUp') return act('up');
    if (event.altKey && event.key === 'ArrowDown') return act('down');
    const control = event.ctrlKey || event.metaKey;
    if (control && (window.getSelection()?.toString() ?? '') === '') {
      if (event.key === 'c') return act('copy');
      if (event.key === 'x') return act('cut');
      if (event.key === 'v') return act('paste');
    }
    if (own && event.key === 'Enter') return act('add');
    if (own && (event.key === 'Delete' || event.key === 'Backspace')) return act('remove');
  };
  return (
    <LineItem
      id={line.step}
      className={line.depth > 0 ? 'nested' : undefined}
      style={line.depth > 0 ? { marginLeft: line.depth * 32 } : undefined}
    >
      {line.lane && (
        <Typography variant="overline" component="p" color="textSecondary" sx={{ px: 1.5, pt: 0.75, lineHeight: 1.6 }}>
          {line.lane}
        </Typography>
      )}
      {/* biome-ignore lint/a11y/useSemanticElements: a line of a procedure is no set of fields */}
      <div
        role="group"
        aria-label={`Line ${line.number}, ${line.verb}`}
        tabIndex={readOnly ? -1 : 0}
        className={selected ? 'line selected' : 'line'}
        onClick={() => onSelect(line.step)}
        onFocus={() => onSelect(line.step)}
        onKeyDown={onKey}
      >
        <LineHandle id={line.step} words={`${line.number} ${line.verb}`} disabled={readOnly || line.verb === 'Ask'}>
          <StepPebble number={line.number} tone={line.verb === 'Decide' || line.verb === 'Do' ? 'person' : 'quiet'} />
        </LineHandle>
        <div>
          <div className="sentence">
            <b className="verb">{line.verb}</b>
            <Phrases phrases={line.sentence} {...phrases} />
          </div>
          {line.rows.map(row => (
            <div key={row.path.join('.')} className={row.label ? 'row labelled' : 'row'}>
              {row.label && (
                <span className="label" style={{ color: toneColour[row.tone] }}>
                  <Phrases phrases={[row.labelPhrase]} {...phrases} />
                </span>
              )}
              <span>
                <Phrases phrases={row.phrases} {...phrases} />
                {!readOnly && row.mayGo && <RemoveRow row={row} onRemove={() => onRemoveRow(row.path)} />}
              </span>
            </div>
          ))}
          {line.after.length > 0 && (
            <div className="rest">
              <Phrases phrases={line.after} {...phrases} />
            </div>
          )}
        </div>
        {readOnly ? <span /> : <LineMenu line={line} onAction={action => onAction(line.step, action)} />}
      </div>
      {below}
    </LineItem>
  );
});

function outcomeEdit(definition: Definition, path: Line['path'], step: string) {
  return {
    kind: 'outcome' as const,
    path,
    outcome: getAt(definition, path) as Extract<Phrase['edit'], { kind: 'outcome' }>['outcome'],
    step,
  };
}

function NoteField({ onSave, onCancel }: { onSave: (text: string) => void; onCancel: () => void }) {
  const [text, setText] = useState('');
  return (
    <Box
      component="form"
      onSubmit={event => {
        event.preventDefault();
        if (text.trim()) onSave(text.trim());
      }}
      sx={{ p: 1.5 }}
    >
      <TextField
        autoFocus
        fullWidth
        size="small"
        label="Note for colleagues"
        value={text}
        onChange={event => setText(event.target.value)}
        onKeyDown={event => {
          event.stopPropagation();
          if (event.key === 'Escape') onCancel();
        }}
        helperText="Enter keeps it in the margin beside this line."
      />
    </Box>
  );
}

const focusLine = (step: string) =>
  requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-line="${step}"] [role="group"]`)?.focus());

type Props = Shared & {
  findings: readonly Finding[];
  selected: string | null;
  onSelect: (step: string) => void;
  /** Who writes notes, and when. */
  by: string;
  now: Instant;
  onSay: (words: string) => void;
  /** What happened at a step in a rehearsal, below its line. */
  happened?: (step: string) => ReactNode;
};

type Open = { step: string; what: 'add' | 'note'; lane?: number } | null;

export function Procedure(props: Props) {
  const { definition, index, findings, readOnly, selected, onSelect, onChange, by, now, onSay, happened } = props;
  // The lines follow a moment later when there are many, so that what is typed shows at once.
  const { lists } = useAround();
  const lines = usePageLines(useDeferredValue(definition), index, useDeferredValue(findings), lists);
  const [open, setOpen] = useState<Open>(null);
  const current = useRef({ definition, onChange, onSay });
  current.current = { definition, onChange, onSay };

  const paste = useCallback(async (after: string) => {
    let text: string;
    try {
      text = await navigator.clipboard.readText();
    } catch {
      return current.current.onSay('The browser does not let the clipboard be read here. Allow it, then paste again.');
    }
    const found = stepsFromText(text);
    if ('wrong' in found) return current.current.onSay(found.wrong);
    const { definition: before, onChange: change } = current.current;
    const placed = structure(before).of(after);
    const made = copies(before, found.steps);
    if (!placed || made.length === 0) return;
    change(insertSteps(before, placeAfter(placed), made));
    focusLine(made[0].id);
  }, []);

  const act = useCallback(
    (step: string, action: LineAction) => {
      const { definition: before, onChange: change, onSay: say } = current.current;
      const found = stepById(before, step);
      if (!found) return;
      switch (action) {
        case 'up':
        case 'down':
          change(moveStep(before, step, action === 'up' ? -1 : 1));
          focusLine(step);
          return;
        case 'copy':
        case 'cut':
          if (found.verb === 'Ask') return;
          void navigator.clipboard.writeText(stepsAsText([found])).then(
            () =>
              say(
                action === 'cut'
                  ? 'Cut. Paste it below another line, here or in another workflow.'
                  : 'Copied. Paste it below another line, here or in another workflow.',
              ),
            () => say('The browser does not let the clipboard be written here.'),
          );
          if (action === 'cut') change(removeStep(before, step));
          return;
        case 'paste':
          void paste(step);
          return;
        case 'remove':
          change(removeStep(before, step));
          say('Removed. Undo brings it back.');
          return;
        case 'add':
        case 'note':
          setOpen({ step, what: action });
      }
    },
    [paste],
  );
  const drop = useCallback((dragged: string, target: string) => {
    current.current.onChange(moveTo(current.current.definition, dragged, target));
  }, []);

  const removeRow = useCallback((path: Line['path']) => {
    const { definition: before, onChange: change } = current.current;
    // What a refusal leads to is no list: it goes as a whole.
    if (path.at(-1) === 'refused') return change(setAt(before, path, undefined));
    const list = path.slice(0, -1);
    const rest = (getAt(before, list) as unknown[]).filter((_, i) => i !== path.at(-1));
    // A checklist that is empty is none; a table without rows is still a table.
    change(
      setAt(before, list, rest.length === 0 && ['checklist', 'fills'].includes(String(list.at(-1))) ? undefined : rest),
    );
  }, []);

  const addBelow = (step: string, steps: Step[], lane?: number) => {
    const placed = structure(definition).of(step);
    if (!placed) return;
    const place =
      lane === undefined ? placeAfter(placed) : { sequence: [...placed.path, 'lanes', lane, 'steps'], position: 0 };
    onChange(insertSteps(definition, place, steps));
    setOpen(null);
    focusLine(steps[steps.length - 1].id);
  };
  const keepNote = (step: string, text: string) => {
    const notes = definition.notes ?? [];
    const note = {
      id: idFrom(
        `note-${notes.length + 1}`,
        notes.map(n => n.id),
      ),
      on: { what: 'step' as const, id: step },
      text,
      by,
      at: now,
    };
    onChange({ ...definition, notes: [...notes, note] });
    setOpen(null);
    focusLine(step);
  };
  const below = (line: PageLine): ReactNode => {
    if (!happened && open?.step !== line.step && line.verb !== 'Split') return null;
    const step = stepById(definition, line.step);
    return (
      <>
        {happened?.(line.step)}
        {open?.step === line.step && open.what === 'note' && (
          <NoteField onSave={text => keepNote(line.step, text)} onCancel={() => setOpen(null)} />
        )}
        {!readOnly &&
          step?.verb === 'Split' &&
          step.lanes.map((lane, n) =>
            lane.steps.length > 0 ? null : (
              <Box key={lane.id} sx={{ pl: 7, pb: 1 }}>
                {open?.step === line.step && open.lane === n ? (
                  <AddLine
                    definition={definition}
                    index={index}
                    lists={lists}
                    onAdd={steps => addBelow(line.step, steps, n)}
                    onCancel={() => setOpen(null)}
                  />
                ) : (
                  <Button
                    size="small"
                    startIcon={<AddOutlined />}
                    onClick={() => setOpen({ step: line.step, what: 'add', lane: n })}
                  >
                    First line in {lane.name}
                  </Button>
                )}
              </Box>
            ),
          )}
        {open?.step === line.step && open.what === 'add' && open.lane === undefined && (
          <AddLine
            definition={definition}
            index={index}
            lists={lists}
            onAdd={steps => addBelow(line.step, steps)}
            onCancel={() => {
              setOpen(null);
              focusLine(line.step);
            }}
          />
        )}
      </>
    );
  };
  const last = lines.filter(l => l.depth === 0).at(-2) ?? lines[0];
  const sheet = useMemo(() => ({ definition, index, onChange }), [definition, index, onChange]);
  return (
    <SheetContext value={sheet}>
      <LineDrag onDrop={drop}>
        <Box component="ol" aria-label="Steps" sx={lineStyles}>
          {lines.map(line => (
            <StepLine
              key={line.step}
              line={line}
              readOnly={readOnly}
              selected={line.step === selected}
              onSelect={onSelect}
              onAction={act}
              onRemoveRow={removeRow}
              below={below(line)}
            />
          ))}
        </Box>
      </LineDrag>
      {!readOnly && last && (
        <Button startIcon={<AddOutlined />} sx={{ m: 1 }} onClick={() => setOpen({ step: last.step, what: 'add' })}>
          New line before the end
        </Button>
      )}
    </SheetContext>
  );
}
