/** What the small forms behind phrases share. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ReferenceList } from '@north-pebble/core/form';
import type { DirectoryIndex } from '@north-pebble/core/people';
import type { WorkingAmount } from '@north-pebble/core/time';
import type { Definition, Edit, Offers } from '@north-pebble/core/workflow';
import { createContext, useContext, useState } from 'react';

export type EditOf<Kind extends Edit['kind']> = Extract<Edit, { kind: Kind }>;
/** Called with the changed definition, or with nothing when it stays as it is. */
export type Done = (definition?: Definition) => void;
export type Props<Kind extends Edit['kind']> = {
  edit: EditOf<Kind>;
  definition: Definition;
  index: DirectoryIndex | undefined;
  onDone: Done;
};

/** What formulas are tried with, and what the house offers to choose from. */
export type Around = {
  lists: readonly ReferenceList[];
  workflows: readonly { id: string; name: string }[];
  leaveTypes: readonly { id: string; name: string }[];
  /** What connections can be asked to do, by their names. */
  offers?: Readonly<Record<string, Offers>>;
  /** How long steps took so far, in working days, by step; where there are enough of them. */
  took?: Readonly<Record<string, { median: number; nineInTen: number; of: number }>>;
  /** Values by name, for trying a formula while it is typed. */
  sample: Readonly<Record<string, unknown>>;
};
export const AroundContext = createContext<Around>({ lists: [], workflows: [], leaveTypes: [], sample: {} });
export const useAround = (): Around => useContext(AroundContext);

/** The sheet as it is now, for what is open over it: a line that is not open is not drawn again for a change elsewhere. */
export type OpenSheet = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  onChange: (definition: Definition) => void;
};
export const SheetContext = createContext<OpenSheet | null>(null);
export function useSheet(): OpenSheet {
  const sheet = useContext(SheetContext);
  if (!sheet) throw new Error('outside of a sheet');
  return sheet;
}

export function Buttons({ disabled = false, onCancel }: { disabled?: boolean; onCancel: () => void }) {
  return (
    <Box sx={{ display: 'flex', gap: 1, mt: 1.5 }}>
      <Button type="submit" variant="contained" color="primary" disabled={disabled}>
        Change
      </Button>
      <Button onClick={onCancel}>Keep</Button>
    </Box>
  );
}

export function AmountFields({
  label,
  amount,
  onChange,
}: {
  label: string;
  amount: WorkingAmount;
  onChange: (amount: WorkingAmount) => void;
}) {
  const isDays = 'workingDays' in amount;
  const value = isDays ? amount.workingDays : amount.workingHours;
  const [text, setText] = useState(String(value));
  const make = (words: string, days: boolean) => {
    const number = Number(words);
    if (number > 0 && (!days || Number.isInteger(number)))
      onChange(days ? { workingDays: number } : { workingHours: number });
  };
  const wrong = !(Number(text) > 0) || (isDays && !Number.isInteger(Number(text)));
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 150px', gap: 1 }}>
      <TextField
        label={label}
        value={text}
        error={wrong}
        helperText={wrong ? 'A whole number above 0.' : ' '}
        onChange={event => {
          setText(event.target.value);
          make(event.target.value, isDays);
        }}
        slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      />
      <TextField
        select
        label="Counted in"
        value={isDays ? 'days' : 'hours'}
        onChange={event => make(text, event.target.value === 'days')}
      >
        <MenuItem value="days">working days</MenuItem>
        <MenuItem value="hours">working hours</MenuItem>
      </TextField>
    </Box>
  );
}
