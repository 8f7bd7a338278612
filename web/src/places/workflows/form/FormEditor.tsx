/** The form being written: fields in order by drag and by keys, settings beside the field, and the form as it will be seen. */
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import AddOutlined from '@mui/icons-material/AddOutlined';
import DragIndicatorOutlined from '@mui/icons-material/DragIndicatorOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { SurroundingsView } from '@north-pebble/contract';
import { type Answers, bySection, type Field, idFrom } from '@north-pebble/core/form';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { type SectionSet, sectionSets } from '@north-pebble/core/starters';
import type { Instant } from '@north-pebble/core/time';
import {
  type Definition,
  fieldsAt,
  fieldWords,
  type GuestStep,
  isGuestStep,
  outsideGuest,
  setAt,
  structure,
  type Use,
  withStarts,
} from '@north-pebble/core/workflow';
import { type ReactNode, useState } from 'react';
import { byNameOnly, FilingContext } from '../../../parts/form/FilesInput.tsx';
import { FormFields, type Typed } from '../../../parts/form/FormFields.tsx';
import { PersonPicker } from '../steps/PersonPicker.tsx';
import { factsFor, usePerson } from '../steps/usePerson.ts';
import { FieldSettings } from './FieldSettings.tsx';
import { GuestLook } from './GuestLook.tsx';
import { Stages } from './Stages.tsx';

function FieldLine({
  field,
  definition,
  open,
  readOnly,
  onOpen,
  onMove,
  children,
}: {
  field: Field;
  definition: Definition;
  open: boolean;
  readOnly: boolean;
  onOpen: () => void;
  onMove: (by: 1 | -1) => void;
  children: ReactNode;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: field.id,
    disabled: readOnly,
  });
  const [words] = fieldWords(field, definition)
    .split(/(?<=[^:]*): /)
    .slice(1)
    .join(': ')
    .split(', under ');
  return (
    <Box
      ref={setNodeRef}
      component="li"
      sx={{
        borderBottom: '1px solid',
        borderColor: 'divider',
        transform: CSS.Transform.toString(transform),
        transition,
        bgcolor: 'background.paper',
      }}
    >
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: '30px minmax(110px, 160px) 1fr',
          alignItems: 'baseline',
          px: 1,
          py: 0.75,
          background: open
            ? 'linear-gradient(90deg, color-mix(in srgb, var(--mui-palette-primary-main) 12%, transparent), transparent 70%)'
            : undefined,
        }}
      >
        {readOnly ? (
          <span />
        ) : (
          <Box
            ref={setActivatorNodeRef}
            component="span"
            {...attributes}
            {...listeners}
            aria-label={`Move ${field.label}`}
            sx={{ cursor: 'grab', color: 'text.secondary', alignSelf: 'center', lineHeight: 0 }}
          >
            <DragIndicatorOutlined fontSize="small" />
          </Box>
        )}
        <Box
          component="button"
          type="button"
          aria-expanded={open}
          onClick={onOpen}
          onKeyDown={(event: React.KeyboardEvent) => {
            if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
            event.preventDefault();
            onMove(event.key === 'ArrowUp' ? -1 : 1);
          }}
          sx={{
            font: 'inherit',
            fontWeight: 650,
            textAlign: 'left',
            border: 0,
            background: 'none',
            color: 'inherit',
            cursor: 'pointer',
            p: 0,
          }}
        >
          {field.label}
        </Box>
        <Typography variant="body2" color="textSecondary">
          {words}
        </Typography>
      </Box>
      {children}
    </Box>
  );
}

/** Among the steps, for what stands at the public address. */
const atPublic = '#public';

/** Whoever asks from outside, with the sections that stand there. */
function publicStep(definition: Definition): GuestStep | undefined {
  const own = outsideGuest(definition);
  const sections = definition.opening?.outside?.sections;
  return own && sections && { ...own, guest: { ...own.guest, sections } };
}

function Preview({
  definition,
  index,
  surroundings,
  now,
  self,
}: {
  definition: Definition;
  index: DirectoryIndex | undefined;
  surroundings: SurroundingsView | undefined;
  now: Instant;
  self: string;
}) {
  const [person, setPerson] = useState(self);
  const [step, setStep] = useState(definition.steps[0].id);
  const [typed, setTyped] = useState<Typed>({});
  const [touched, setTouched] = useState<string[]>([]);
  const about = usePerson(person, index, surroundings);
  const steps = structure(definition).all.filter(
    p => p.step.verb === 'Ask' || p.step.verb === 'Decide' || p.step.verb === 'Do',
  );
  const isOutside = step === atPublic && definition.opening?.outside !== undefined;
  const at = steps.some(p => p.step.id === step) ? step : definition.steps[0].id;
  const guest = isOutside
    ? publicStep(definition)
    : steps.map(p => p.step).find((one): one is GuestStep => one.id === at && isGuestStep(one));
  const facts = about && factsFor(about, person, now);
  const answers = facts ? withStarts(definition, typed as Answers, facts, new Set(touched)) : (typed as Answers);
  const shown = facts
    ? fieldsAt(definition, at, answers, facts).map(({ field, level }) => ({ id: field.id, level }))
    : undefined;
  return (
    <Box
      component="section"
      aria-label="As it will be seen"
      sx={{ borderTop: '1px solid', borderColor: 'divider', p: 2 }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 2, alignItems: 'center' }}>
        <Typography variant="overline" component="h2" color="textSecondary">
          As it will be seen
        </Typography>
        <PersonPicker label="See it as" value={person} onChange={setPerson} index={index} />
        <TextField
          select
          size="small"
          label="At"
          value={isOutside ? atPublic : at}
          onChange={event => setStep(event.target.value)}
          sx={{ minWidth: 150 }}
        >
          {definition.opening?.outside && <MenuItem value={atPublic}>the public address</MenuItem>}
          {steps.map(p => (
            <MenuItem key={p.step.id} value={p.step.id}>
              {p.number} {p.step.verb}
              {isGuestStep(p.step) && ', as the guest'}
            </MenuItem>
          ))}
        </TextField>
        {Object.keys(typed).length > 0 && (
          <Button
            size="small"
            onClick={() => {
              setTyped({});
              setTouched([]);
            }}
          >
            Empty it
          </Button>
        )}
      </Box>
      {guest && facts ? (
        <GuestLook definition={definition} step={guest} answers={answers} facts={facts} now={now} />
      ) : definition.form.fields.length === 0 ? (
        <Typography variant="body2" color="textSecondary">
          The form appears here as soon as it has a field.
        </Typography>
      ) : (
        <FilingContext value={byNameOnly}>
          <FormFields
            definition={definition}
            house={{
              leaveTypes: surroundings?.leaveTypes ?? [],
              lists: facts?.lists ?? [],
              people: index?.directory.people ?? [],
            }}
            typed={answers as Typed}
            onChange={(next, field) => {
              setTyped({ ...typed, [field]: next[field] });
              setTouched([...new Set([...touched, field])]);
            }}
            faults={[]}
            {...(shown ? { shown } : {})}
          />
        </FilingContext>
      )}
    </Box>
  );
}

/** The definition with a set of sections and what is asked in them, under names that nothing else has. */
function withSet(definition: Definition, set: SectionSet): Definition {
  const { fields, sections = [] } = definition.form;
  const ids = [...fields.map(f => f.id), ...definition.figures.map(f => f.id)];
  const labels = [...fields.map(f => f.label), ...definition.figures.map(f => f.name)];
  const newIds = new Map<string, string>();
  const added = set.sections.map(section => {
    const id = idFrom(section.id, [...sections.map(s => s.id), ...newIds.values()]);
    newIds.set(section.id, id);
    return { ...section, id };
  });
  const more = set.fields.map(field => {
    const id = idFrom(field.id, ids);
    ids.push(id);
    let { label } = field;
    for (let n = 2; labels.includes(label); n++) label = `${field.label} ${n}`;
    labels.push(label);
    return { ...field, id, label, section: newIds.get(field.section ?? '') } as Field;
  });
  const next = setAt(definition, ['form', 'sections'], [...sections, ...added]);
  return setAt(next, ['form', 'fields'], [...fields, ...more]);
}

/** Sections that are ready to be used: chosen by name, then changed like any other. */
function ReadySections({ onAdd }: { onAdd: (set: SectionSet) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button size="small" aria-haspopup="menu" onClick={event => setAnchor(event.currentTarget)}>
        Sections that are ready …
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {sectionSets.map(set => (
          <MenuItem
            key={set.name}
            onClick={() => {
              setAnchor(null);
              onAdd(set);
            }}
          >
            {set.name}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

type Props = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  surroundings: SurroundingsView | undefined;
  readOnly: boolean;
  selected: string | null;
  onSelect: (field: string | null) => void;
  onChange: (definition: Definition) => void;
  onGo: (use: Use) => void;
  now: Instant;
  self: string;
};

export function FormEditor({
  definition,
  index,
  surroundings,
  readOnly,
  selected,
  onSelect,
  onChange,
  onGo,
  now,
  self,
}: Props) {
  const { fields, sections = [] } = definition.form;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const groups = bySection(definition.form);
  const setFields = (next: Field[]) => onChange(setAt(definition, ['form', 'fields'], next));
  const reorder = (from: string, to: string) => {
    const moving = fields.find(f => f.id === from);
    const target = fields.find(f => f.id === to);
    if (!moving || !target) return;
    const rest = fields.filter(f => f !== moving);
    const at = rest.indexOf(target) + (fields.indexOf(moving) < fields.indexOf(target) ? 1 : 0);
    // Dropped among the fields of another section, it belongs to that section.
    const { section: _section, ...plain } = moving;
    const moved = (target.section ? { ...plain, section: target.section } : plain) as Field;
    setFields([...rest.slice(0, at), moved, ...rest.slice(at)]);
  };
  const moveBy = (field: Field, by: 1 | -1) => {
    const shown = groups.flatMap(g => g.fields);
    const other = shown[shown.indexOf(field) + by];
    if (other) reorder(field.id, other.id);
  };
  const addField = (section?: string) => {
    const taken = [...fields.map(f => f.label), ...definition.figures.map(f => f.name)];
    let label = 'New field';
    for (let n = 2; taken.includes(label); n++) label = `New field ${n}`;
    const field: Field = {
      kind: 'text',
      id: idFrom(label, [...fields.map(f => f.id), ...definition.figures.map(f => f.id)]),
      label,
      required: false,
      ...(section ? { section } : {}),
    };
    setFields([...fields, field]);
    onSelect(field.id);
  };
  const addSection = () => {
    const title = `Section ${sections.length + 1}`;
    onChange(
      setAt(
        definition,
        ['form', 'sections'],
        [
          ...sections,
          {
            id: idFrom(
              title,
              sections.map(s => s.id),
            ),
            title,
          },
        ],
      ),
    );
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) reorder(String(active.id), String(over.id));
  };
  return (
    <>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={groups.flatMap(g => g.fields.map(f => f.id))} strategy={verticalListSortingStrategy}>
          {groups.map(({ section, fields: mine }) => {
            const i = sections.findIndex(s => s.id === section?.id);
            return (
              <Box key={section?.id ?? ''} component="section" aria-label={section?.title ?? 'Fields'}>
                {section && (
                  <Box sx={{ display: 'flex', gap: 1, px: 1.5, pt: 1.5 }}>
                    <TextField
                      size="small"
                      variant="standard"
                      value={section.title}
                      disabled={readOnly}
                      onChange={event =>
                        onChange(setAt(definition, ['form', 'sections', i, 'title'], event.target.value))
                      }
                      slotProps={{ htmlInput: { 'aria-label': 'Section title', style: { fontWeight: 650 } } }}
                    />
                    {!readOnly && (
                      <Button
                        variant="text"
                        size="small"
                        onClick={() =>
                          onChange(
                            setAt(
                              setAt(
                                definition,
                                ['form', 'sections'],
                                sections.length > 1 ? sections.filter(s => s !== section) : undefined,
                              ),
                              ['form', 'fields'],
                              fields.map(f => (f.section === section.id ? (({ section: _s, ...rest }) => rest)(f) : f)),
                            ),
                          )
                        }
                      >
                        Remove the heading, keep its fields
                      </Button>
                    )}
                  </Box>
                )}
                <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
                  {mine.map(field => (
                    <FieldLine
                      key={field.id}
                      field={field}
                      definition={definition}
                      open={field.id === selected}
                      readOnly={readOnly}
                      onOpen={() => onSelect(field.id === selected ? null : field.id)}
                      onMove={by => moveBy(field, by)}
                    >
                      {field.id === selected && !readOnly && (
                        <FieldSettings
                          key={field.id}
                          field={field}
                          definition={definition}
                          index={index}
                          onChange={onChange}
                          onGo={onGo}
                          onGone={() => onSelect(null)}
                        />
                      )}
                    </FieldLine>
                  ))}
                </Box>
                {!readOnly && (
                  <Button size="small" startIcon={<AddOutlined />} sx={{ m: 1 }} onClick={() => addField(section?.id)}>
                    New field{section ? ` in ${section.title}` : ''}
                  </Button>
                )}
              </Box>
            );
          })}
        </SortableContext>
      </DndContext>
      {!readOnly && (
        <Box sx={{ p: 1, display: 'flex', gap: 1 }}>
          {!groups.some(g => g.section === null) && (
            <Button size="small" startIcon={<AddOutlined />} onClick={() => addField()}>
              New field
            </Button>
          )}
          <Button size="small" onClick={addSection}>
            New section
          </Button>
          <ReadySections onAdd={set => onChange(withSet(definition, set))} />
        </Box>
      )}
      <Stages definition={definition} />
      {!readOnly && <Preview definition={definition} index={index} surroundings={surroundings} now={now} self={self} />}
    </>
  );
}
