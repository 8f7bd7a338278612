/** Something put on a balance or taken off it by hand, with what follows before it is made. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { BalanceView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { useState } from 'react';
import { queryClient } from '../../../api/queries.ts';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { useChange } from '../../../parts/change/useChange.ts';
import { DayField } from '../../../parts/form/DayField.tsx';
import { typedNumber } from '../../../parts/form/typedNumber.ts';

export function Adjust({ view }: { view: BalanceView }) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState({
    type: view.types[0]?.id ?? '',
    date: view.today as string,
    amount: '',
    reason: '',
  });
  const amount = typedNumber(typed.amount);
  const isNumber = Number.isFinite(amount);
  const change =
    isNumber && typed.date && typed.reason.trim()
      ? ({
          what: 'adjustment',
          person: view.person,
          type: typed.type,
          date: typed.date,
          amount,
          reason: typed.reason.trim(),
        } as unknown as HouseChange)
      : null;
  const close = () => setOpen(false);
  const changing = useChange(change, () => {
    close();
    setTyped({ ...typed, amount: '', reason: '' });
    void queryClient.invalidateQueries({ queryKey: ['balance'] });
    void queryClient.invalidateQueries({ queryKey: ['leave'] });
  });
  const put = (more: Partial<typeof typed>) => changing.put(setTyped)({ ...typed, ...more });
  const { faultOf } = changing;
  const unit = view.types.find(one => one.id === typed.type)?.statement.unit ?? 'days';
  const bad = typed.amount.trim() !== '' && !isNumber ? 'Write a number, as 2 or -1.5.' : faultOf('amount');
  return (
    <>
      <Button onClick={() => setOpen(true)}>Adjust</Button>
      <Dialog open={open} onClose={close} fullWidth maxWidth="sm">
        <DialogTitle>Adjust a balance of {view.name}</DialogTitle>
        <DialogContent>
          <Box component="form" onSubmit={changing.send} sx={{ display: 'grid', gap: 2, pt: 1 }}>
            <TextField select label="Balance" value={typed.type} onChange={event => put({ type: event.target.value })}>
              {view.types.map(one => (
                <MenuItem key={one.id} value={one.id}>
                  {one.name}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              label={`Amount, in ${unit}`}
              value={typed.amount}
              onChange={event => put({ amount: event.target.value })}
              error={bad !== undefined}
              helperText={bad ?? 'Below zero for what is taken off.'}
              autoComplete="off"
              slotProps={{ htmlInput: { inputMode: 'decimal' } }}
            />
            <DayField
              label="On"
              date={typed.date}
              onDate={date => put({ date })}
              fault={faultOf('date') !== undefined}
              help={faultOf('date') ?? ''}
            />
            <TextField
              label="What the statement says"
              value={typed.reason}
              onChange={event => put({ reason: event.target.value })}
              error={faultOf('reason') !== undefined}
              helperText={faultOf('reason')}
              autoComplete="off"
            />
            <ChangeEnd changing={changing} verb="Put it on the balance" onCancel={close} />
          </Box>
        </DialogContent>
      </Dialog>
    </>
  );
}
