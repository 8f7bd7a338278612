/** A whole form in one column: sections, fields as far as they are asked, each with what may be done with it. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import {
  type AccessLevel,
  bySection,
  type FieldFault,
  isAsked,
  isEmptyAnswer,
  mayChange,
} from '@north-pebble/core/form';
import type { Definition } from '@north-pebble/core/workflow';
import { useRef } from 'react';
import { Faults, useFocusOnRefusal } from './Faults.tsx';
import { FieldInput, wholeAnswer } from './FieldInput.tsx';
import type { FormHouse } from './fieldFrame.ts';

export type Typed = Record<string, unknown>;

/** What the form would send: spans and ranges that are not typed to their end are left out. */
export function answersOf(definition: Definition, typed: Typed): Typed {
  const answers: Typed = {};
  for (const field of definition.form.fields) {
    const answer = isAsked(field) ? wholeAnswer(field.kind, typed[field.id]) : null;
    if (!isEmptyAnswer(answer)) answers[field.id] = answer;
  }
  return answers;
}

/** A choice with one option is chosen already, and so is the first of a needed one. */
export function initialTyped(definition: Definition, given: Typed = {}): Typed {
  const typed: Typed = { ...given };
  for (const field of definition.form.fields) {
    if (field.kind !== 'choice' || typed[field.id] !== undefined || field.start) continue;
    const options = field.options === 'leave types' ? field.only : field.options;
    if (options?.[0] && (field.required || options.length === 1)) typed[field.id] = options[0];
  }
  return typed;
}

type Props = {
  definition: Definition;
  house: FormHouse;
  typed: Typed;
  onChange: (typed: Typed, field: string) => void;
  faults: readonly FieldFault[];
  /** What came back when it was sent and not taken: the first field that is wrong gets the focus. */
  refusal?: unknown;
  /** The fields that stand on the form now; all that the asker fills in when not said. */
  shown?: readonly { id: string; level: AccessLevel }[];
  /** Only these may be changed, and are marked. */
  open?: readonly string[];
};

export function FormFields({ definition, house, typed, onChange, faults, refusal, shown, open }: Props) {
  const form = useRef<HTMLDivElement>(null);
  useFocusOnRefusal(form, refusal, faults);
  const level = (id: string): AccessLevel | undefined => (shown ? shown.find(f => f.id === id)?.level : 'editable');
  const sections = bySection(definition.form)
    .map(({ section, fields }) => ({ section, fields: fields.filter(f => (level(f.id) ?? 'hidden') !== 'hidden') }))
    .filter(({ fields }) => fields.length > 0);
  return (
    <Box ref={form} sx={{ display: 'grid', gap: 1.5, maxWidth: 560 }}>
      {sections.map(({ section, fields }) => (
        <Box
          key={section?.id ?? ''}
          role={section ? 'group' : undefined}
          aria-label={section?.title}
          sx={{ display: 'grid', gap: 1.5 }}
        >
          {section && (
            <Box>
              <Typography variant="h3" component="h2">
                {section.title}
              </Typography>
              {section.help && (
                <Typography variant="body2" color="textSecondary">
                  {section.help}
                </Typography>
              )}
            </Box>
          )}
          {fields.map(field => {
            const may = mayChange(level(field.id) ?? 'shown');
            return (
              <Box key={field.id} data-field={field.id} sx={{ minWidth: 0 }}>
                <FieldInput
                  field={level(field.id) === 'required' ? { ...field, required: true } : field}
                  value={typed[field.id]}
                  answers={typed}
                  onChange={value => onChange({ ...typed, [field.id]: value }, field.id)}
                  fault={faults.find(f => f.field === field.id)?.message}
                  closed={open ? !open.includes(field.id) : !may}
                  highlighted={open?.includes(field.id) ?? false}
                  house={house}
                />
              </Box>
            );
          })}
        </Box>
      ))}
      {refusal ? <Faults form={form} fields={sections.flatMap(({ fields }) => fields)} faults={faults} /> : null}
    </Box>
  );
}
