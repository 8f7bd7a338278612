/** One field of a form as whoever fills it in sees it: every kind with what draws it. */
import type { FieldKind, FieldOf } from '@north-pebble/core/form';
import type { ComponentType } from 'react';
import { FilesInput } from './FilesInput.tsx';
import type { FieldProps } from './fieldFrame.ts';
import { ChoiceInput, PersonInput, PickInput } from './inputs/ChoiceInput.tsx';
import { ConsentInput, PaperNote } from './inputs/ConsentInput.tsx';
import { DayInput, TimeInput } from './inputs/DayInput.tsx';
import { FixedText } from './inputs/FixedText.tsx';
import { LeaveSpanInput } from './inputs/LeaveSpanInput.tsx';
import { NumberInput } from './inputs/NumberInput.tsx';
import { RangeInput, wholeRange } from './inputs/RangeInput.tsx';
import { ScaleInput } from './inputs/ScaleInput.tsx';
import { SeveralInput } from './inputs/SeveralInput.tsx';
import { TableInput } from './inputs/TableInput.tsx';
import { WordsInput } from './inputs/WordsInput.tsx';
import { YesNoInput } from './inputs/YesNoInput.tsx';
import { wholeSpan } from './SpanField.tsx';

type Drawn<K extends FieldKind> = {
  Input: ComponentType<FieldProps<FieldOf<K>>>;
  /** What would be sent of what is typed: nothing until it is typed to its end. All of it when left out. */
  whole?: (typed: unknown) => unknown;
};

const drawn: { readonly [K in FieldKind]: Drawn<K> } = {
  text: { Input: WordsInput },
  'long text': { Input: WordsInput },
  'whole number': { Input: NumberInput },
  decimal: { Input: NumberInput },
  money: { Input: NumberInput },
  scale: { Input: ScaleInput },
  'yes/no': { Input: YesNoInput },
  choice: { Input: ChoiceInput },
  'several choices': { Input: SeveralInput },
  date: { Input: DayInput },
  time: { Input: TimeInput },
  'leave span': { Input: LeaveSpanInput, whole: wholeSpan },
  'date range': { Input: RangeInput, whole: wholeRange },
  person: { Input: PersonInput },
  pick: { Input: PickInput },
  files: { Input: FilesInput },
  table: { Input: TableInput },
  document: { Input: FilesInput },
  paper: { Input: PaperNote },
  consent: { Input: ConsentInput },
  'fixed text': { Input: FixedText },
};

export function wholeAnswer(kind: FieldKind, typed: unknown): unknown {
  const { whole } = drawn[kind];
  return whole ? whole(typed) : typed;
}

export function FieldInput(props: FieldProps) {
  // The field and what draws it are of one kind, which the types cannot follow.
  const Input = drawn[props.field.kind].Input as ComponentType<FieldProps>;
  return <Input {...props} />;
}
