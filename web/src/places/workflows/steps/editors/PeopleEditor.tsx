/** Who: one rule, what is asked instead when it finds nobody, and who is never asked. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { DirectoryIndex, PeopleRule, SingleRule } from '@north-pebble/core/people';
import { type Definition, ruleWords, setAt, structure } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { Buttons, type Props } from './shared.tsx';

/** Every rule that can be chosen for this workflow, the usual ones first. */
export function ruleChoices(definition: Definition, index: DirectoryIndex | undefined): SingleRule[] {
  const { fields } = definition.form;
  const people = fields.filter(f => f.kind === 'person');
  const posts = fields.filter(f => f.kind === 'pick' && f.list === 'posts');
  const deciders = structure(definition).all.filter(p => p.step.verb === 'Decide' || p.step.verb === 'Do');
  const roles = [...new Set(index?.directory.roles.map(r => r.role) ?? [])];
  return [
    { kind: 'manager', levels: 1 },
    { kind: 'manager', levels: 2 },
    { kind: 'manager', levels: 3 },
    { kind: 'managers', levels: 2 },
    { kind: 'managers', levels: 3 },
    { kind: 'head of department' },
    { kind: 'head of place' },
    { kind: 'dotted-line manager' },
    { kind: 'asker' },
    { kind: 'subject' },
    { kind: 'manager', levels: 1, of: 'subject' },
    { kind: 'manager', levels: 2, of: 'subject' },
    { kind: 'managers', levels: 2, of: 'subject' },
    { kind: 'head of department', of: 'subject' },
    { kind: 'head of place', of: 'subject' },
    { kind: 'dotted-line manager', of: 'subject' },
    ...people.flatMap((f): SingleRule[] => [
      { kind: 'person in', field: f.id },
      { kind: 'manager', levels: 1, of: { field: f.id } },
    ]),
    ...posts.flatMap((f): SingleRule[] => [
      { kind: 'post in', field: f.id },
      { kind: 'above post in', field: f.id },
      { kind: 'head of department', of: { post: f.id } },
      { kind: 'head of place', of: { post: f.id } },
    ]),
    ...roles.flatMap((role): SingleRule[] => [
      { kind: 'role', role },
      { kind: 'role', role, within: 'place' },
      { kind: 'role', role, within: 'department' },
      { kind: 'role', role, within: 'place', of: 'subject' },
      { kind: 'role', role, within: 'department', of: 'subject' },
      ...posts.map((f): SingleRule => ({ kind: 'role', role, within: 'place', of: { post: f.id } })),
    ]),
    ...deciders.map((p): SingleRule => ({ kind: 'decided', step: p.step.id })),
    ...(index?.directory.posts ?? []).map((p): SingleRule => ({ kind: 'post', post: p.id })),
    ...(index?.directory.people ?? []).map((p): SingleRule => ({ kind: 'person', person: p.id })),
  ];
}

export function RuleFields({
  rule,
  onChange,
  definition,
  index,
  label,
}: {
  rule: PeopleRule;
  onChange: (rule: PeopleRule) => void;
  definition: Definition;
  index: DirectoryIndex | undefined;
  label: string;
}) {
  const options = ruleChoices(definition, index);
  const words = (r: SingleRule) => ruleWords(r, index, definition);
  const same = (a: SingleRule, b: SingleRule) => JSON.stringify(a) === JSON.stringify(b);
  const { first } = rule;
  const withMoney = first.kind === 'manager with';
  const listed = options.some(o => same(o, first)) ? options : [first, ...options];
  const changeFirst = (next: SingleRule) => onChange({ ...rule, first: next });
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Autocomplete
        options={listed}
        value={first}
        disableClearable
        getOptionLabel={words}
        getOptionKey={JSON.stringify}
        isOptionEqualToValue={same}
        onChange={(_, value) => changeFirst(value)}
        renderInput={params => <TextField {...params} autoFocus label={label} />}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <TextField
          select
          size="small"
          label="By limit instead"
          value={withMoney ? first.what : ''}
          onChange={event => {
            const what = event.target.value as 'grade' | 'spending limit' | '';
            changeFirst(
              what === ''
                ? { kind: 'manager', levels: 1 }
                : { kind: 'manager with', what, least: withMoney ? first.least : '1' },
            );
          }}
        >
          <MenuItem value="">no</MenuItem>
          <MenuItem value="spending limit">first manager who may spend</MenuItem>
          <MenuItem value="grade">first manager of grade</MenuItem>
        </TextField>
        {withMoney && (
          <TextField
            size="small"
            label="At least (formula)"
            value={first.least}
            onChange={event => changeFirst({ ...first, least: event.target.value })}
          />
        )}
      </Box>
      <Autocomplete
        multiple
        options={options}
        value={rule.otherwise}
        getOptionLabel={words}
        getOptionKey={JSON.stringify}
        isOptionEqualToValue={same}
        onChange={(_, value) => onChange({ ...rule, otherwise: value.slice(0, 5) })}
        renderInput={params => <TextField {...params} label="When nobody is found, else" />}
      />
      <Autocomplete
        multiple
        options={options}
        value={rule.except ?? []}
        getOptionLabel={words}
        getOptionKey={JSON.stringify}
        isOptionEqualToValue={same}
        onChange={(_, value) => {
          const { except: _before, ...rest } = rule;
          onChange(value.length > 0 ? { ...rest, except: value.slice(0, 5) } : rest);
        }}
        renderInput={params => <TextField {...params} label="But never" />}
      />
    </Box>
  );
}

export function PeopleEditor({ edit, definition, index, onDone }: Props<'people'>) {
  const [rule, setRule] = useState<PeopleRule>(edit.rule);
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        onDone(setAt(definition, edit.path, rule));
      }}
    >
      <RuleFields rule={rule} onChange={setRule} definition={definition} index={index} label="Who decides" />
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}
