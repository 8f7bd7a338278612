/** What the leave of somebody goes by, for them and for HR: children, papers, one cause, coming back by stages. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PersonPageView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { useState } from 'react';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { ChoiceField } from '../../parts/change/ChoiceField.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { typedNumber } from '../../parts/form/typedNumber.ts';

type View = NonNullable<PersonPageView['circumstances']>;

const kinds = [
  { id: 'child', name: 'A child' },
  { id: 'paper at once', name: 'Papers from the first day' },
  { id: 'same cause', name: 'Two absences with the same cause' },
  { id: 'stages', name: 'Back by stages' },
] as const;
type Kind = (typeof kinds)[number]['id'];

type Typed = {
  kind: Kind;
  born: string;
  type: string;
  from: string;
  to: string;
  request: string;
  follows: string;
  hours: string;
};
const empty: Typed = {
  ...{ kind: 'child', born: '', type: '', from: '', to: '' },
  ...{ request: '', follows: '', hours: '' },
};

/** What is sent; nothing while something is missing. */
export function holdsOf(typed: Typed): object | null {
  switch (typed.kind) {
    case 'child':
      return typed.born ? { is: 'child', born: typed.born } : null;
    case 'paper at once':
      return typed.type && typed.from
        ? { is: 'paper at once', type: typed.type, from: typed.from, to: typed.to || null }
        : null;
    case 'same cause':
      return typed.request && typed.follows
        ? { is: 'same cause', request: typed.request, follows: typed.follows }
        : null;
    case 'stages': {
      const minutes = Math.round(typedNumber(typed.hours) * 60);
      return typed.request && typed.from && minutes >= 1 && minutes <= 1440
        ? { is: 'stages', request: typed.request, stages: [{ from: typed.from, minutes }] }
        : null;
    }
  }
}

function NewCircumstance({ person, view, onDone }: { person: string; view: View; onDone: () => void }) {
  const [typed, setTyped] = useState(empty);
  const holds = holdsOf(typed);
  const changing = useChange(
    holds ? ({ what: 'circumstance', person, id: 'new', holds } as unknown as HouseChange) : null,
    onDone,
  );
  const { faultOf } = changing;
  const put = (more: Partial<Typed>) => changing.put(setTyped)({ ...typed, ...more });
  const absences = view.absences.map(({ request, label }) => ({ id: request, name: label }));
  const day = (label: string, name: 'born' | 'from' | 'to', help = '') => (
    <DayField
      label={label}
      date={typed[name]}
      onDate={date => put({ [name]: date })}
      fault={faultOf(`holds.${name}`) !== undefined}
      help={faultOf(`holds.${name}`) ?? help}
    />
  );
  const absence = (label: string, name: 'request' | 'follows') => (
    <ChoiceField
      label={label}
      value={typed[name]}
      options={absences}
      onChange={id => put({ [name]: id })}
      fault={faultOf(`holds.${name}`)}
      help={absences.length === 0 ? 'No absence is booked for them.' : undefined}
    />
  );
  return (
    <Box component="form" onSubmit={changing.send} aria-label="Add for leave" sx={{ display: 'grid', gap: 2, mt: 1.5 }}>
      <ChoiceField label="What" value={typed.kind} options={kinds} onChange={id => put({ kind: id as Kind })} />
      {typed.kind === 'child' && day('Born on', 'born')}
      {typed.kind === 'paper at once' && (
        <>
          <ChoiceField
            label="For"
            value={typed.type}
            options={view.types}
            onChange={type => put({ type })}
            fault={faultOf('holds.type')}
          />
          {day('From', 'from')}
          {day('Until', 'to', 'Left empty, until further notice.')}
        </>
      )}
      {typed.kind === 'same cause' && (
        <>
          {absence('This absence', 'request')}
          {absence('has the same cause as', 'follows')}
        </>
      )}
      {typed.kind === 'stages' && (
        <>
          {absence('While this absence goes on', 'request')}
          {day('They work again from', 'from')}
          <TextField
            label="Hours a day"
            value={typed.hours}
            onChange={event => put({ hours: event.target.value })}
            slotProps={{ htmlInput: { inputMode: 'decimal' } }}
            autoComplete="off"
          />
        </>
      )}
      <ChangeEnd changing={changing} verb="Save" onCancel={onDone} />
    </Box>
  );
}

function Remove({ person, id, onDone }: { person: string; id: string; onDone: () => void }) {
  const changing = useChange({ what: 'circumstance', person, id, holds: null } as unknown as HouseChange, onDone);
  return (
    <Box component="form" onSubmit={changing.send} aria-label="Remove" sx={{ display: 'grid', gap: 2, my: 1 }}>
      <ChangeEnd changing={changing} verb="Remove" onCancel={onDone} />
    </Box>
  );
}

export function Circumstances({ view, mayChange }: { view: PersonPageView; mayChange: boolean }) {
  const [open, setOpen] = useState<string | null>(null);
  const { circumstances } = view;
  if (!circumstances || (circumstances.all.length === 0 && !mayChange)) return null;
  return (
    <Box component="section" aria-label="For leave" sx={{ mt: 3 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        For leave
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 0.5 }}>
        Only {mayChange ? 'they' : 'you'} and HR see this.
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {circumstances.all.map(({ id, words }) => (
          <Box component="li" key={id} sx={{ py: 0.5, borderBottom: '1px solid', borderColor: 'divider' }}>
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline', justifyContent: 'space-between' }}>
              <Typography variant="body2" sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
                {words}
              </Typography>
              {mayChange && open !== id && (
                <Button size="small" onClick={() => setOpen(id)} aria-label={`Remove: ${words}`}>
                  Remove
                </Button>
              )}
            </Box>
            {open === id && <Remove person={view.id} id={id} onDone={() => setOpen(null)} />}
          </Box>
        ))}
      </Box>
      {mayChange &&
        (open === 'new' ? (
          <NewCircumstance person={view.id} view={circumstances} onDone={() => setOpen(null)} />
        ) : (
          <Button onClick={() => setOpen('new')} sx={{ mt: 0.5 }}>
            Add
          </Button>
        ))}
    </Box>
  );
}
