/** One thing of a record changed from a day on: what follows is shown before it is made. */
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { PersonPageView, RecordChoices } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { useState } from 'react';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { PostField } from '../../parts/change/PostField.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { PersonField } from '../../parts/form/PersonField.tsx';

const kinds = [
  ['pattern', 'Work pattern'],
  ['fte', 'Hours, as a share of full time'],
  ['place', 'Place'],
  ['department', 'Department'],
  ['plan', 'Leave plan'],
  ['post', 'Post'],
  ['joined', 'First day'],
  ['left', 'Last day'],
  ['name', 'Name'],
  ['mail', 'Mail address'],
  ['dottedTo', 'Whom they also answer to'],
] as const;
type Kind = (typeof kinds)[number][0];

/** The change as it is sent; nothing while something is missing. */
export function changeOf(person: string, kind: Kind, value: string, from: string, worth = ''): HouseChange | null {
  const dated = (set: object) =>
    from === '' ? null : ({ what: 'record', person, from, set } as unknown as HouseChange);
  const own = (set: object) => ({ what: 'own', person, set }) as unknown as HouseChange;
  switch (kind) {
    case 'pattern':
    case 'place':
    case 'department':
      return value === '' ? null : dated({ [kind]: value });
    case 'plan': {
      const per = Number(worth.trim().replace(',', '.'));
      const planPer = worth.trim() === '' ? {} : { planPer: per };
      // What is no number is said at the field before anything is asked.
      return Number.isFinite(per) ? dated({ plan: value === '' ? null : value, ...planPer }) : null;
    }
    case 'fte': {
      const share = Number(value.replace(',', '.')) / 100;
      return Number.isFinite(share) && value.trim() !== '' ? dated({ fte: Math.round(share * 10_000) / 10_000 }) : null;
    }
    case 'post':
      return value === '' || from === ''
        ? null
        : ({ what: 'post', person, from, post: value } as unknown as HouseChange);
    case 'joined':
      return from === '' ? null : ({ what: 'first day', person, joined: from } as unknown as HouseChange);
    case 'left':
      return { what: 'last day', person, left: from === '' ? null : from } as unknown as HouseChange;
    case 'name':
    case 'mail':
      return value.trim() === '' ? null : own({ [kind]: value });
    case 'dottedTo':
      return own({ dottedTo: value === '' ? null : value });
  }
}
const dated: ReadonlySet<Kind> = new Set(['pattern', 'fte', 'place', 'department', 'plan', 'post']);

/** Where the value of a change may be found at fault. */
const fields = ['post', 'place', 'department', 'pattern', 'plan', 'fte', 'mail', 'name', 'dottedTo'];
/** Written beside the plan. */
const worthField = 'planPer';

const unitOf = ({ plans }: RecordChoices, id: string): 'days' | 'hours' =>
  plans.find(one => one.id === id)?.unit ?? 'days';
const otherUnit = (choices: RecordChoices, id: string): string =>
  unitOf(choices, id) === 'days' ? 'an hour' : 'a day';
const isNoNumber = (text: string): boolean => text.trim() !== '' && !(Number(text.trim().replace(',', '.')) > 0);

type Props = { person: PersonPageView['id']; choices: RecordChoices; onDone: () => void };

export function RecordChange({ person, choices, onDone }: Props) {
  const [kind, setKind] = useState<Kind>('pattern');
  const [value, setValue] = useState('');
  const [from, setFrom] = useState('');
  const [worth, setWorth] = useState('');
  const change = changeOf(person, kind, value, from, worth);
  const changing = useChange(change, onDone);
  const { faultOf } = changing;
  const anew =
    <T,>(set: (next: T) => void) =>
    (next: T) => {
      set(next);
      changing.anew();
    };
  const isEnd = kind === 'left' || kind === 'joined';
  const hasDay = dated.has(kind) || isEnd;
  const valueFault = faultOf(...fields, ...(hasDay ? [] : ['change']));
  const dayFault = faultOf('from', 'joined', 'left', 'change');
  const listOf = {
    pattern: choices.patterns,
    place: choices.places,
    department: choices.departments,
    plan: choices.plans,
  };
  const label = kinds.find(([one]) => one === kind)?.[1] ?? '';
  const setText = anew(setValue);
  return (
    <Box
      component="form"
      aria-label="Change the record"
      onSubmit={changing.send}
      sx={{ display: 'grid', gap: 2, maxWidth: 560, my: 2 }}
    >
      <TextField
        select
        label="What changes"
        value={kind}
        onChange={event => {
          anew(setKind)(event.target.value as Kind);
          setValue('');
        }}
      >
        {kinds.map(([one, words]) => (
          <MenuItem key={one} value={one}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {kind in listOf && (
        <TextField
          select
          label={label}
          value={value}
          onChange={event => setText(event.target.value)}
          error={valueFault !== undefined}
          helperText={valueFault}
          slotProps={{ select: { displayEmpty: kind === 'plan' }, inputLabel: kind === 'plan' ? { shrink: true } : {} }}
        >
          {kind === 'plan' && <MenuItem value="">no leave plan</MenuItem>}
          {listOf[kind as keyof typeof listOf].map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {kind === 'plan' && value !== '' && (
        <TextField
          label={`What ${otherUnit(choices, value)} of the plan before is worth, in ${unitOf(choices, value)}`}
          value={worth}
          onChange={event => anew(setWorth)(event.target.value)}
          error={isNoNumber(worth) || faultOf(worthField) !== undefined}
          helperText={
            isNoNumber(worth)
              ? 'Write a number, as 7.5.'
              : (faultOf(worthField) ??
                'Only where the plan before counts in the other unit. Left empty, it is worked out from their work pattern.')
          }
          autoComplete="off"
          slotProps={{ htmlInput: { inputMode: 'decimal' } }}
        />
      )}
      {kind === 'post' && (
        <PostField label="Post" posts={choices.posts} value={value} onChange={setText} fault={valueFault} />
      )}
      {(kind === 'fte' || kind === 'name' || kind === 'mail') && (
        <TextField
          label={kind === 'fte' ? 'Hours in percent of full time' : label}
          value={value}
          onChange={event => setText(event.target.value)}
          error={valueFault !== undefined}
          helperText={valueFault}
          autoComplete="off"
        />
      )}
      {kind === 'dottedTo' && (
        <PersonField
          label={label}
          {...(valueFault === undefined ? {} : { fault: valueFault })}
          onChange={to => setText(to && 'person' in to ? to.person : '')}
        />
      )}
      {hasDay && (
        <DayField
          label={isEnd ? label : 'From'}
          date={from}
          onDate={anew(setFrom)}
          fault={dayFault !== undefined}
          help={
            dayFault ??
            (kind === 'left'
              ? 'Left empty, no last day is on file.'
              : kind === 'joined'
                ? 'Service and leave are counted from this day.'
                : 'A day that has passed corrects what was.')
          }
        />
      )}
      <ChangeEnd changing={changing} verb="Make the change" onCancel={onDone} />
    </Box>
  );
}
