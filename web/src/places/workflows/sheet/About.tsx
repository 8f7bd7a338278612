/** What a workflow is about: name, area, purpose, tags, and who may ask. */

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { isDated } from '@north-pebble/core/form';
import type { DirectoryIndex, PeopleRule, SingleRule } from '@north-pebble/core/people';
import {
  type Afterwards,
  afterwardsOf,
  type CountsBack,
  countsBackWords,
  type Definition,
  inOneSentence,
  type Opening,
  openingWords,
  peopleWords,
  ruleWords,
  setAt,
} from '@north-pebble/core/workflow';
import { dequal } from 'dequal';
import { memo, useCallback, useDeferredValue, useRef } from 'react';
import { DayField } from '../../../parts/form/DayField.tsx';
import { ByMail } from '../messages/ByMail.tsx';
import { FromOutside } from './FromOutside.tsx';
import { PublicAddress } from './PublicAddress.tsx';

type Props = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  readOnly: boolean;
  onChange: (definition: Definition) => void;
  /** Its id, where it stands on a shelf and may have a public address. */
  workflow?: string;
};

const forWhom = {
  self: 'themselves',
  report: 'people who report to them',
  joiner: 'people who have not started yet',
} as const;

/** Whom a request may go to when its owner is not here any more, and what is said already. */
function ownersNext({ ownedNext }: Definition, index: DirectoryIndex | undefined): PeopleRule[] {
  const roles = [...new Set(index?.directory.roles.map(one => one.role) ?? [])];
  const all: PeopleRule[] = [
    { kind: 'manager' as const, levels: 1, of: 'subject' as const },
    ...roles.map(role => ({ kind: 'role' as const, role })),
  ].map(first => ({ first, otherwise: [] }));
  return ownedNext && !all.some(rule => dequal(rule, ownedNext)) ? [...all, ownedNext] : all;
}

type PartProps = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  readOnly: boolean;
  onSet: (key: string, value: unknown) => void;
};

/** Equal when what the part shows is equal: the rest of the definition is not its business. */
const showsTheSame =
  (keys: readonly (keyof Definition)[]) =>
  (a: PartProps, b: PartProps): boolean =>
    a.readOnly === b.readOnly &&
    a.index === b.index &&
    a.onSet === b.onSet &&
    keys.every(key => dequal(a.definition[key], b.definition[key]));

const Tags = memo(
  function Tags({ definition, readOnly, onSet }: PartProps) {
    return (
      <Autocomplete
        multiple
        freeSolo
        options={[] as string[]}
        value={definition.tags ?? []}
        disabled={readOnly}
        onChange={(_, tags) => {
          const clean = [...new Set(tags.map(t => t.trim().slice(0, 80)).filter(Boolean))].slice(0, 20);
          onSet('tags', clean.length > 0 ? clean : undefined);
        }}
        renderInput={params => <TextField {...params} label="Tags" helperText="Type one and press Enter." />}
      />
    );
  },
  showsTheSame(['tags']),
);

const Asking = memo(
  function Asking({ definition, index, readOnly, onSet }: PartProps) {
    const opening: Opening = definition.opening ?? { forWhom: ['self'] };
    const open = (next: Partial<Opening>) => {
      const merged = Object.fromEntries(
        Object.entries({ ...opening, ...next }).filter(([, v]) => v !== undefined && v !== ''),
      ) as Opening;
      const plain = Object.keys(merged).length === 1 && merged.forWhom.length === 1 && merged.forWhom[0] === 'self';
      onSet('opening', plain ? undefined : merged);
    };
    const roles = [...new Set(index?.directory.roles.map(r => r.role) ?? [])];
    const who: SingleRule[] = [
      { kind: 'everyone' },
      ...(index?.directory.places ?? []).map((p): SingleRule => ({ kind: 'everyone', place: p.id })),
      ...(index?.directory.departments ?? []).map((d): SingleRule => ({ kind: 'everyone', department: d.id })),
      ...roles.map((role): SingleRule => ({ kind: 'role', role })),
    ];
    return (
      <>
        <Typography variant="overline" component="h2" color="textSecondary">
          Who may ask
        </Typography>
        <Typography variant="body2">{openingWords(definition, index)}</Typography>
        <TextField
          select
          label="Who"
          value={opening.who ? JSON.stringify(opening.who.first) : ''}
          disabled={readOnly}
          onChange={event =>
            open({
              who: event.target.value
                ? { first: JSON.parse(event.target.value) as SingleRule, otherwise: [] }
                : undefined,
            })
          }
        >
          <MenuItem value="">everybody</MenuItem>
          {who.slice(1).map(rule => (
            <MenuItem key={JSON.stringify(rule)} value={JSON.stringify(rule)}>
              {ruleWords(rule, index)}
            </MenuItem>
          ))}
        </TextField>
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
          <Typography component="legend" variant="body2" color="textSecondary">
            For
          </Typography>
          {(Object.keys(forWhom) as (keyof typeof forWhom)[]).map(key => (
            <FormControlLabel
              key={key}
              control={
                <Checkbox
                  checked={opening.forWhom.includes(key)}
                  disabled={readOnly}
                  onChange={(_, on) => {
                    const next = (Object.keys(forWhom) as (keyof typeof forWhom)[]).filter(k =>
                      k === key ? on : opening.forWhom.includes(k),
                    );
                    if (next.length > 0) open({ forWhom: next });
                  }}
                />
              }
              label={forWhom[key]}
            />
          ))}
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
          <DayField
            label="From"
            date={opening.from ?? ''}
            disabled={readOnly}
            onDate={day => open({ from: (day || undefined) as Opening['from'] })}
          />
          <DayField
            label="Until"
            date={opening.to ?? ''}
            disabled={readOnly}
            onDate={day => open({ to: (day || undefined) as Opening['to'] })}
          />
        </Box>
        <FromOutside
          definition={definition}
          index={index}
          readOnly={readOnly}
          onOutside={outside => open({ outside })}
        />
      </>
    );
  },
  showsTheSame(['opening', 'form']),
);

const afterChoices: Record<keyof Afterwards, Record<Afterwards['change'], string>> = {
  change: { decided: 'asks all over again', 'at once': 'is booked at once', not: 'is not open to the asker' },
  cancel: {
    decided: 'is decided by whoever decided last',
    'at once': 'is done at once',
    not: 'is not open to the asker',
  },
};

const AfterApproval = memo(
  function AfterApproval({ definition, index, readOnly, onSet }: PartProps) {
    const after = afterwardsOf(definition);
    return (
      <>
        <Typography variant="overline" component="h2" color="textSecondary">
          After approval
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 1.5 }}>
          {(['change', 'cancel'] as const).map(what => (
            <TextField
              key={what}
              select
              label={what === 'change' ? 'A change' : 'A cancellation'}
              value={after[what]}
              disabled={readOnly}
              onChange={event => onSet('afterwards', { ...after, [what]: event.target.value as Afterwards['change'] })}
            >
              {Object.entries(afterChoices[what]).map(([value, words]) => (
                <MenuItem key={value} value={value}>
                  {words}
                </MenuItem>
              ))}
            </TextField>
          ))}
          <TextField
            select
            label="When somebody else would have a step"
            value={definition.tasksMove ? 'move' : 'stay'}
            disabled={readOnly}
            onChange={event => onSet('tasksMove', event.target.value === 'move' ? true : undefined)}
            helperText="After a change of posts, lines or roles."
          >
            <MenuItem value="stay">what is open stays with whom it is with</MenuItem>
            <MenuItem value="move">what is open goes to them</MenuItem>
          </TextField>
          <TextField
            select
            label="When the owner leaves or is away for long"
            value={definition.ownedNext ? JSON.stringify(definition.ownedNext) : ''}
            disabled={readOnly}
            onChange={event => onSet('ownedNext', event.target.value ? JSON.parse(event.target.value) : undefined)}
            helperText="The owner looks after a request: whoever asked, at first."
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            sx={{ gridColumn: '1 / -1' }}
          >
            <MenuItem value="">the request goes to their cover, else to HR operations</MenuItem>
            {ownersNext(definition, index).map(rule => (
              <MenuItem key={JSON.stringify(rule)} value={JSON.stringify(rule)}>
                {`it goes to ${peopleWords(rule, index, definition)}`}
              </MenuItem>
            ))}
          </TextField>
        </Box>
      </>
    );
  },
  showsTheSame(['afterwards', 'steps', 'tasksMove', 'ownedNext']),
);

const CountingBack = memo(
  function CountingBack({ definition, index, readOnly, onSet }: PartProps) {
    const { countsBack } = definition;
    const dated = definition.form.fields.filter(isDated);
    const places = definition.form.fields.filter(field => field.kind === 'pick' || field.kind === 'person');
    const roles = [...new Set(index?.directory.roles.map(r => r.role) ?? [])];
    const put = (next: Partial<CountsBack>) => {
      const merged = Object.entries({ ...countsBack, ...next }).filter(
        ([, value]) => value !== undefined && value !== '',
      );
      onSet('countsBack', Object.fromEntries(merged));
    };
    const roleOf = (rule: CountsBack['movedBy']) => (rule?.first.kind === 'role' ? rule.first.role : '');
    const ofRole = (role: string): CountsBack['movedBy'] =>
      role ? { first: { kind: 'role', role }, otherwise: [] } : undefined;
    const whole = (text: string, most: number) => {
      const n = Math.min(most, Number(text.replace(/\D/g, '')));
      return n > 0 ? n : undefined;
    };
    if (dated.length === 0 && !countsBack) return null;
    return (
      <>
        <Typography variant="overline" component="h2" color="textSecondary">
          Counting back
        </Typography>
        <Typography variant="body2">{countsBackWords(definition, index)}</Typography>
        <TextField
          select
          label="The date that this counts back from"
          value={countsBack?.field ?? ''}
          disabled={readOnly}
          onChange={event => (event.target.value ? put({ field: event.target.value }) : onSet('countsBack', undefined))}
        >
          <MenuItem value="">none</MenuItem>
          {dated.map(field => (
            <MenuItem key={field.id} value={field.id}>
              {field.label}
            </MenuItem>
          ))}
        </TextField>
        {countsBack && (
          <>
            <TextField
              select
              label="In working days of the place of"
              value={countsBack.place ?? ''}
              disabled={readOnly}
              onChange={event => put({ place: event.target.value || undefined })}
            >
              <MenuItem value="">the person that it is for</MenuItem>
              {places.map(field => (
                <MenuItem key={field.id} value={field.id}>
                  {field.label}
                </MenuItem>
              ))}
            </TextField>
            <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 1.5 }}>
              <TextField
                label="Working days of notice, at least"
                value={countsBack.notice ?? ''}
                disabled={readOnly}
                onChange={event => put({ notice: whole(event.target.value, 400) })}
                slotProps={{ htmlInput: { inputMode: 'numeric' } }}
              />
              <TextField
                label="Tight with so many to spare"
                value={countsBack.tightWithin ?? ''}
                disabled={readOnly}
                onChange={event => put({ tightWithin: whole(event.target.value, 60) })}
                slotProps={{ htmlInput: { inputMode: 'numeric' } }}
              />
              <TextField
                label="Told when not ready, so many before"
                value={countsBack.alert?.workingDays ?? ''}
                disabled={readOnly}
                onChange={event => {
                  const workingDays = whole(event.target.value, 400);
                  const tell = countsBack.alert?.tell ?? ofRole('HR partner');
                  put({ alert: workingDays && tell ? { workingDays, tell } : undefined });
                }}
                slotProps={{ htmlInput: { inputMode: 'numeric' } }}
              />
              <TextField
                select
                label="Who is told"
                value={roleOf(countsBack.alert?.tell)}
                disabled={readOnly || !countsBack.alert}
                onChange={event => {
                  const tell = ofRole(event.target.value);
                  if (tell && countsBack.alert) put({ alert: { ...countsBack.alert, tell } });
                }}
              >
                {roles.map(role => (
                  <MenuItem key={role} value={role}>
                    {role}
                  </MenuItem>
                ))}
              </TextField>
            </Box>
            <TextField
              select
              label="Who may move the date, besides the asker and HR"
              value={roleOf(countsBack.movedBy)}
              disabled={readOnly}
              onChange={event => put({ movedBy: ofRole(event.target.value) })}
            >
              <MenuItem value="">nobody else</MenuItem>
              {roles.map(role => (
                <MenuItem key={role} value={role}>
                  {role}
                </MenuItem>
              ))}
            </TextField>
          </>
        )}
      </>
    );
  },
  showsTheSame(['countsBack', 'form']),
);

export function About({ definition, index, readOnly, onChange, workflow }: Props) {
  const latest = useRef({ definition, onChange });
  latest.current = { definition, onChange };
  const set = useCallback((key: string, value: unknown) => {
    latest.current.onChange(setAt(latest.current.definition, [key], value));
  }, []);
  const parts = { definition, index, readOnly, onSet: set };
  return (
    <Box sx={{ p: 2, display: 'grid', gap: 1.5, maxWidth: 640 }}>
      <Typography variant="body2" color="textSecondary">
        {inOneSentence(useDeferredValue(definition), index)}
      </Typography>
      <TextField
        label="Name"
        value={definition.name}
        disabled={readOnly}
        onChange={event => set('name', event.target.value.slice(0, 80) || ' ')}
      />
      <TextField
        label="Area"
        value={definition.area}
        disabled={readOnly}
        onChange={event => set('area', event.target.value.slice(0, 80) || ' ')}
      />
      <TextField
        label="What it is for"
        multiline
        rows={3}
        value={definition.purpose}
        disabled={readOnly}
        onChange={event => set('purpose', event.target.value.slice(0, 500))}
      />
      <Tags {...parts} />
      <Asking {...parts} />
      {workflow !== undefined && definition.opening?.outside && <PublicAddress workflow={workflow} />}
      <CountingBack {...parts} />
      <AfterApproval {...parts} />
      <ByMail definition={definition} readOnly={readOnly} onSet={set} />
    </Box>
  );
}
