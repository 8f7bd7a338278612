/** The frame of a field that is more than one box to type in: its label, what is in it, and what is wrong or helps below. */
import FormControl from '@mui/material/FormControl';
import FormHelperText from '@mui/material/FormHelperText';
import FormLabel from '@mui/material/FormLabel';
import type { DragEvent, ReactNode } from 'react';
import { edge, type FieldProps, labelOf } from './fieldFrame.ts';

type Props = Pick<FieldProps, 'field' | 'fault' | 'closed' | 'highlighted'> & {
  /** The id of the label, where a part inside names itself by it; else the whole is a set of fields named by it. */
  labelId?: string;
  /** What is said below when nothing is wrong; the help of the field when left out. */
  help?: string | undefined;
  onDrop?: (event: DragEvent) => void;
  children: ReactNode;
};

export function FieldGroup({ field, fault, closed, highlighted, labelId, help = field.help, onDrop, children }: Props) {
  const isSet = labelId === undefined;
  return (
    <FormControl
      {...(isSet ? { component: 'fieldset' } : {})}
      disabled={closed}
      error={fault !== undefined}
      sx={edge(highlighted)}
      {...(onDrop ? { onDrop, onDragOver: (event: DragEvent) => event.preventDefault() } : {})}
    >
      {isSet ? (
        <FormLabel component="legend" sx={{ mb: 0.5 }}>
          {labelOf(field, closed)}
        </FormLabel>
      ) : (
        <FormLabel id={labelId}>{labelOf(field, closed)}</FormLabel>
      )}
      {children}
      <FormHelperText>{fault ?? help ?? ' '}</FormHelperText>
    </FormControl>
  );
}
