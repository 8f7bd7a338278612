/** What the house before said of a balance, by hand: with it the statement begins, and nothing before it is worked out. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import type { BalanceView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { useState } from 'react';
import { queryClient } from '../../../api/queries.ts';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { useChange } from '../../../parts/change/useChange.ts';
import { DayField } from '../../../parts/form/DayField.tsx';
import { typedNumber } from '../../../parts/form/typedNumber.ts';

const isAmount = (text: string): boolean => Number.isFinite(typedNumber(text));

type Typed = { on: string; own: string; carried: string; lapses: string; source: string; there: boolean };

function typedFor(view: BalanceView, type: string): Typed {
  const known = view.types.find(one => one.id === type)?.opening;
  return {
    on: known?.on ?? '',
    own: known ? String(known.own) : '',
    carried: known && known.carried !== 0 ? String(known.carried) : '',
    lapses: known?.lapses ?? '',
    source: known?.source ?? '',
    there: true,
  };
}

/** The change as it is sent; nothing while something is missing or is no number. */
function changeOf(person: string, type: string, typed: Typed): HouseChange | null {
  if (!typed.there) return { what: 'opening', person, type, opening: null } as unknown as HouseChange;
  if (!typed.on || !isAmount(typed.own) || (typed.carried.trim() !== '' && !isAmount(typed.carried))) return null;
  const opening = {
    on: typed.on,
    own: typedNumber(typed.own),
    carried: typed.carried.trim() === '' ? 0 : typedNumber(typed.carried),
    lapses: typed.lapses === '' ? null : typed.lapses,
    source: typed.source.trim(),
  };
  return { what: 'opening', person, type, opening } as unknown as HouseChange;
}

export function OpeningBalance({ view }: { view: BalanceView }) {
  const [open, setOpen] = useState(false);
  const [type, setType] = useState(view.types[0]?.id ?? '');
  const [typed, setTyped] = useState(() => typedFor(view, type));
  const close = () => setOpen(false);
  const changing = useChange(changeOf(view.person, type, typed), () => {
    close();
    void queryClient.invalidateQueries({ queryKey: ['balance'] });
    void queryClient.invalidateQueries({ queryKey: ['leave'] });
  });
  const put = (more: Partial<Typed>) => changing.put(setTyped)({ ...typed, ...more });
  const { faultOf } = changing;
  const chosen = view.types.find(one => one.id === type);
  const unit = chosen?.statement.unit ?? 'days';
  const amountField = (label: string, value: string, field: 'own' | 'carried', help: string) => {
    const fault = value.trim() !== '' && !isAmount(value) ? 'Write a number, as 21.5.' : faultOf(`opening.${field}`);
    return (
      <TextField
        label={`${label}, in ${unit}`}
        value={value}
        onChange={event => put({ [field]: event.target.value })}
        error={fault !== undefined}
        helperText={fault ?? help}
        autoComplete="off"
        slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      />
    );
  };
  return (
    <>
      <Button
        onClick={() => {
          setTyped(typedFor(view, type));
          setOpen(true);
        }}
      >
        Opening balance
      </Button>
      <Dialog open={open} onClose={close} fullWidth maxWidth="sm">
        <DialogTitle>Opening balance of {view.name}</DialogTitle>
        <DialogContent>
          <Box component="form" onSubmit={changing.send} sx={{ display: 'grid', gap: 2, pt: 1 }}>
            <TextField
              select
              label="Balance"
              value={type}
              onChange={event => {
                setType(event.target.value);
                changing.put(setTyped)(typedFor(view, event.target.value));
              }}
            >
              {view.types.map(one => (
                <MenuItem key={one.id} value={one.id}>
                  {one.name}
                </MenuItem>
              ))}
            </TextField>
            {chosen?.opening && (
              <FormControlLabel
                control={<Switch checked={typed.there} onChange={(_, there) => put({ there })} />}
                label="The statement begins with an opening balance"
              />
            )}
            {typed.there && (
              <>
                <DayField
                  label="As of the morning of"
                  date={typed.on}
                  onDate={on => put({ on })}
                  fault={faultOf('opening.on') !== undefined}
                  help={faultOf('opening.on') ?? 'Nothing before this day is worked out.'}
                />
                {amountField('Left of this leave year', typed.own, 'own', 'Below zero for what is owed.')}
                {amountField('Carried over from the last one', typed.carried, 'carried', 'What is still left of it.')}
                <DayField
                  label="Last day to take what was carried over"
                  date={typed.lapses}
                  onDate={lapses => put({ lapses })}
                  fault={faultOf('opening.lapses') !== undefined}
                  help={faultOf('opening.lapses') ?? 'Left empty, it ends with the leave year.'}
                />
                <TextField
                  label="Source"
                  value={typed.source}
                  onChange={event => put({ source: event.target.value })}
                  error={faultOf('opening.source') !== undefined}
                  helperText={faultOf('opening.source') ?? 'Where the figures come from; the statement says it.'}
                  autoComplete="off"
                  slotProps={{ htmlInput: { maxLength: 200 } }}
                />
              </>
            )}
            <ChangeEnd changing={changing} verb="Save the opening balance" onCancel={close} />
          </Box>
        </DialogContent>
      </Dialog>
    </>
  );
}
