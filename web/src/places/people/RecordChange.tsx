/** One thing of a record changed from a day on, or several together: what follows is shown before they are made. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { PersonPageView, RecordChoices } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { useState } from 'react';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { PostField } from '../../parts/change/PostField.tsx';
import { type Changing, useChange } from '../../parts/change/useChange.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { typedNumber } from '../../parts/form/typedNumber.ts';

const kinds = [
  ['pattern', 'Work pattern'],
  ['fte', 'Hours, as a share of full time'],
  ['place', 'Place'],
  ['department', 'Department'],
  ['plan', 'Leave plan'],
  ['post', 'Post'],
  ['seconded', 'Secondment'],
  ['line', 'Line manager'],
  ['joined', 'First day'],
  ['left', 'Last day'],
  ['name', 'Name'],
  ['mail', 'Mail address'],
  ['number', 'Personnel number'],
  ['costCentre', 'Cost centre'],
  ['dottedTo', 'Whom they also answer to'],
] as const;
type Kind = (typeof kinds)[number][0];

/** What only some kinds of change say besides. */
type Besides = {
  readonly worth?: string;
  readonly mainPost?: string | null;
  readonly until?: string;
  readonly post?: string;
};

/** The change as it is sent; nothing while something is missing. */
export function changeOf(
  person: string,
  kind: Kind,
  value: string,
  from: string,
  { worth = '', mainPost = null, until = '', post: otherPost = '' }: Besides = {},
): HouseChange | null {
  const dated = (set: object) =>
    from === '' ? null : ({ what: 'record', person, from, set } as unknown as HouseChange);
  const own = (set: object) => ({ what: 'own', person, set }) as unknown as HouseChange;
  switch (kind) {
    case 'pattern':
    case 'place':
    case 'department':
      return value === '' ? null : dated({ [kind]: value });
    case 'plan': {
      const per = worth.trim() === '' ? null : typedNumber(worth);
      const planPer = per === null ? {} : { planPer: per };
      // What is no number is said at the field before anything is asked.
      return per === null || Number.isFinite(per) ? dated({ plan: value === '' ? null : value, ...planPer }) : null;
    }
    case 'fte': {
      const share = typedNumber(value) / 100;
      return Number.isFinite(share) ? dated({ fte: Math.round(share * 10_000) / 10_000 }) : null;
    }
    case 'post':
      return value === '' || from === ''
        ? null
        : ({ what: 'post', person, from, post: value } as unknown as HouseChange);
    case 'seconded':
      return value === '' || from === '' || until === ''
        ? null
        : ({
            ...{ what: 'seconded', person, from, to: until },
            ...{ place: value, post: otherPost === '' ? null : otherPost },
          } as unknown as HouseChange);
    // Whom somebody answers to is said of the post that they hold.
    case 'line':
      return value === '' || from === '' || mainPost === null
        ? null
        : ({ what: 'line', post: mainPost, from, reportsTo: value } as unknown as HouseChange);
    case 'joined':
      return from === '' ? null : ({ what: 'first day', person, joined: from } as unknown as HouseChange);
    case 'left':
      return { what: 'last day', person, left: from === '' ? null : from } as unknown as HouseChange;
    case 'costCentre':
      return dated({ costCentre: value.trim() === '' ? null : value.trim() });
    case 'number':
      return own({ number: value.trim() === '' ? null : value.trim() });
    case 'name':
    case 'mail':
      return value.trim() === '' ? null : own({ [kind]: value });
    case 'dottedTo':
      return own({ dottedTo: value === '' ? null : value });
  }
}
const dated: ReadonlySet<Kind> = new Set([
  'pattern',
  'fte',
  'place',
  'department',
  'plan',
  'post',
  'line',
  'seconded',
  'costCentre',
]);

/** What is typed as it is. */
const plain: ReadonlySet<Kind> = new Set(['fte', 'name', 'mail', 'number', 'costCentre']);
const emptied: { readonly [K in Kind]?: string } = {
  number: 'What pay knows them by. Left empty, it is their short name here.',
  costCentre: 'Left empty, they have none.',
};

/** Where the value of a change may be found at fault. */
const fields = [
  ...['post', 'reportsTo', 'place', 'department', 'pattern', 'plan', 'fte', 'costCentre'],
  ...['mail', 'name', 'number', 'dottedTo'],
];
/** Written beside the plan. */
const worthField = 'planPer';

const unitOf = ({ plans }: RecordChoices, id: string): 'days' | 'hours' =>
  plans.find(one => one.id === id)?.unit ?? 'days';
const isNoNumber = (text: string): boolean => text.trim() !== '' && !(typedNumber(text) > 0);

/** One thing of the change as it stands in the form. */
type Thing = {
  readonly key: number;
  readonly kind: Kind;
  readonly value: string;
  readonly from: string;
  readonly worth: string;
  /** Of what goes by for a time: its last day, and the post that they have then. */
  readonly until: string;
  readonly post: string;
};
/** So many things are changed at once at most. */
const mostThings = 8;
let keys = 0;
const thing = (kind: Kind, from = ''): Thing => ({
  key: ++keys,
  kind,
  value: '',
  from,
  worth: '',
  until: '',
  post: '',
});

/** What a unit of a plan is worth goes by the pattern, which may be among them: plans come last. */
const inOrder = (things: readonly Thing[]): Thing[] =>
  things.toSorted((a, b) => Number(a.kind === 'plan') - Number(b.kind === 'plan'));

/** The change of all of them, made together or not at all; nothing while one of them is not whole. */
function together(
  person: string,
  things: readonly Thing[],
  posts: { readonly main: string | null },
): HouseChange | null {
  const all = inOrder(things).map(one =>
    changeOf(person, one.kind, one.value, one.from, { ...one, mainPost: posts.main }),
  );
  if (all.some(one => one === null)) return null;
  return all.length === 1 ? (all[0] as HouseChange) : ({ what: 'several', changes: all } as unknown as HouseChange);
}

type Props = { person: PersonPageView['id']; post: string | null; choices: RecordChoices; onDone: () => void };

export function RecordChange({ person, post, choices, onDone }: Props) {
  const [things, setThings] = useState<readonly Thing[]>(() => [thing('pattern')]);
  const changing = useChange(together(person, things, { main: post }), onDone);
  const set = changing.put(setThings);
  const isOne = things.length === 1;
  const left = kinds.filter(([kind]) => things.every(one => one.kind !== kind) && (kind !== 'line' || post !== null));
  return (
    <Box
      component="form"
      aria-label="Change the record"
      onSubmit={changing.send}
      sx={{ display: 'grid', gap: 2, maxWidth: 560, my: 2 }}
    >
      {things.map((one, n) => (
        <Box
          key={one.key}
          {...(isOne ? {} : { component: 'fieldset', 'aria-label': labelOf(one.kind) })}
          sx={{ display: 'grid', gap: 2, minWidth: 0, m: 0, p: 0, border: 0, ...(isOne ? {} : apart) }}
        >
          <OneThing
            thing={one}
            kinds={kinds.filter(([kind]) => kind === one.kind || left.some(([other]) => other === kind))}
            choices={choices}
            faultOf={faultsOf(changing, things, n)}
            onChange={next => set(things.map(other => (other.key === one.key ? next : other)))}
          />
          {!isOne && (
            <Button
              size="small"
              sx={{ justifySelf: 'start' }}
              aria-label={`Remove ${labelOf(one.kind)}`}
              onClick={() => set(things.filter(other => other.key !== one.key))}
            >
              Remove
            </Button>
          )}
        </Box>
      ))}
      {things.length < mostThings && left.length > 0 && (
        <Button
          size="small"
          sx={{ justifySelf: 'start' }}
          onClick={() => set([...things, thing((left[0] as (typeof left)[number])[0], things.at(-1)?.from)])}
        >
          Add another change
        </Button>
      )}
      <ChangeEnd changing={changing} verb="Make the change" onCancel={onDone} />
    </Box>
  );
}
const apart = { borderLeft: '3px solid', borderColor: 'divider', pl: 2 } as const;

const labelOf = (kind: Kind): string => kinds.find(([one]) => one === kind)?.[1] ?? '';

/** What stands in the way of one of them: of several, each is told by its place among those that are sent. */
function faultsOf(changing: Changing, things: readonly Thing[], n: number): Changing['faultOf'] {
  if (things.length === 1) return changing.faultOf;
  const at = inOrder(things).indexOf(things[n] as Thing);
  return (...ends) =>
    changing.faultOf(
      ...ends.flatMap(end => [
        `changes.${at}.${end}`,
        `changes.${at}.set.${end}`,
        ...(end === 'change' ? [`changes.${at}.`] : []),
      ]),
    );
}

type OneProps = {
  thing: Thing;
  kinds: readonly (readonly [Kind, string])[];
  choices: RecordChoices;
  faultOf: Changing['faultOf'];
  onChange: (next: Thing) => void;
};

function OneThing({ thing: now, kinds: open, choices, faultOf, onChange }: OneProps) {
  const { kind, value, from, worth, until, post } = now;
  const put = (more: Partial<Thing>) => onChange({ ...now, ...more });
  const setText = (text: string) => put({ value: text });
  const isEnd = kind === 'left' || kind === 'joined';
  const hasDay = dated.has(kind) || isEnd;
  const valueFault = faultOf(...fields, ...(hasDay ? [] : ['change']));
  const dayFault = faultOf('from', 'joined', 'left', 'change');
  const listOf = {
    pattern: choices.patterns,
    place: choices.places,
    seconded: choices.places,
    department: choices.departments,
    plan: choices.plans,
  };
  const label = labelOf(kind);
  return (
    <>
      <TextField
        select
        label="What changes"
        value={kind}
        onChange={event => put({ kind: event.target.value as Kind, value: '' })}
      >
        {open.map(([one, words]) => (
          <MenuItem key={one} value={one}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {kind in listOf && (
        <TextField
          select
          label={kind === 'seconded' ? 'To the place' : label}
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
          label={
            unitOf(choices, value) === 'hours'
              ? 'Hours for one day of the old plan'
              : 'Days for one hour of the old plan'
          }
          value={worth}
          onChange={event => put({ worth: event.target.value })}
          error={isNoNumber(worth) || faultOf(worthField) !== undefined}
          helperText={
            isNoNumber(worth)
              ? 'Write a number, as 7.5.'
              : (faultOf(worthField) ??
                'Only if the old plan counts in the other unit. If left empty, it is worked out from their work pattern.')
          }
          autoComplete="off"
          slotProps={{ htmlInput: { inputMode: 'decimal' } }}
        />
      )}
      {(kind === 'post' || kind === 'line') && (
        <PostField
          label={kind === 'post' ? 'Post' : 'The post above theirs'}
          posts={choices.posts}
          value={value}
          onChange={setText}
          fault={valueFault}
        />
      )}
      {kind === 'seconded' && (
        <PostField
          label="Post there (optional)"
          posts={choices.posts}
          value={post}
          onChange={next => put({ post: next })}
          fault={faultOf('post')}
        />
      )}
      {plain.has(kind) && (
        <TextField
          label={kind === 'fte' ? 'Hours in percent of full time' : label}
          value={value}
          onChange={event => setText(event.target.value)}
          error={valueFault !== undefined}
          helperText={valueFault ?? emptied[kind]}
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
          onDate={day => put({ from: day })}
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
      {kind === 'seconded' && (
        <DayField
          label="Until"
          date={until}
          onDate={day => put({ until: day })}
          fault={faultOf('to') !== undefined}
          help={faultOf('to') ?? 'They are back the day after.'}
        />
      )}
    </>
  );
}
