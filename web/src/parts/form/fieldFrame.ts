/** What every field of a form is given, and what stands around it. */
import type { Field, ReferenceList } from '@north-pebble/core/form';

/** What the house offers to choose from. */
export type FormHouse = {
  leaveTypes: readonly { id: string; name: string; times?: boolean | undefined; openEnd?: boolean | undefined }[];
  lists: readonly ReferenceList[];
  people: readonly { id: string; name: string }[];
};

export type FieldProps<F extends Field = Field> = {
  field: F;
  value: unknown;
  /** All that is typed, for picks that depend on another field. */
  answers: Readonly<Record<string, unknown>>;
  onChange: (value: unknown) => void;
  fault: string | undefined;
  closed: boolean;
  highlighted: boolean;
  house: FormHouse;
};

export const labelOf = (field: Field, closed: boolean): string =>
  field.required || closed ? field.label : `${field.label} (may stay empty)`;

export const edge = (highlighted: boolean) =>
  highlighted ? { borderLeft: '3px solid', borderColor: 'secondary.main', pl: 1.5 } : undefined;

/** The frame of a field that is one box: what is said of it, as a text field takes it. */
export const boxed = ({
  field,
  fault,
  closed,
  highlighted,
}: Omit<FieldProps, 'value' | 'answers' | 'onChange' | 'house'>) => ({
  label: labelOf(field, closed),
  disabled: closed,
  error: fault !== undefined,
  helperText: fault ?? field.help ?? ' ',
  sx: edge(highlighted),
});
