/** What a phrase can be instead: one small form for each kind of phrase. */

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import MenuList from '@mui/material/MenuList';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type Comparator, compile, replaceIn } from '@north-pebble/core/formula';
import type { DirectoryIndex, PeopleRule, SingleRule } from '@north-pebble/core/people';
import type { WorkingAmount } from '@north-pebble/core/time';
import {
  comparatorWords,
  type Definition,
  type Edit,
  type Go,
  type Limit,
  namesOf,
  peopleWords,
  setAt,
} from '@north-pebble/core/workflow';
import { useState } from 'react';

type EditOf<Kind extends Edit['kind']> = Extract<Edit, { kind: Kind }>;
/** Called with the changed definition, or with nothing when it stays as it is. */
type Done = (definition?: Definition) => void;
type Props<Kind extends Edit['kind']> = {
  edit: EditOf<Kind>;
  definition: Definition;
  index: DirectoryIndex | undefined;
  onDone: Done;
};

function Buttons({ disabled = false, onCancel }: { disabled?: boolean; onCancel: () => void }) {
  return (
    <Box sx={{ display: 'flex', gap: 1, mt: 1.5 }}>
      <Button type="submit" variant="contained" color="primary" disabled={disabled}>
        Change
      </Button>
      <Button onClick={onCancel}>Keep</Button>
    </Box>
  );
}

function ValueEditor({ edit, definition, onDone }: Props<'value'>) {
  const [text, setText] = useState(edit.value);
  if (edit.valueKind === 'yes/no') {
    return (
      <MenuList autoFocusItem>
        {['true', 'false'].map(value => (
          <MenuItem
            key={value}
            selected={value === edit.value}
            onClick={() => onDone(setAt(definition, edit.path, replaceIn(edit.source, edit.place, value)))}
          >
            {value === 'true' ? 'yes' : 'no'}
          </MenuItem>
        ))}
      </MenuList>
    );
  }
  const isNumber = edit.valueKind === 'number';
  const wrong = isNumber
    ? !/^-?\d+(\.\d+)?$/.test(text.trim())
    : edit.valueKind === 'date' && !/^\d{4}-\d{2}-\d{2}$/.test(text.trim());
  const literal = isNumber ? text.trim() : edit.valueKind === 'date' ? `date("${text.trim()}")` : JSON.stringify(text);
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        if (!wrong) onDone(setAt(definition, edit.path, replaceIn(edit.source, edit.place, literal)));
      }}
    >
      <TextField
        autoFocus
        fullWidth
        label={isNumber ? 'Number' : edit.valueKind === 'date' ? 'Date, as in 2026-02-09' : 'Text'}
        value={text}
        onChange={event => setText(event.target.value)}
        onFocus={event => event.target.select()}
        error={wrong}
        helperText={wrong ? (isNumber ? 'Write a number, as in 2 or 2.5.' : 'Write a date, as in 2026-02-09.') : ' '}
        slotProps={{ htmlInput: { inputMode: isNumber ? 'decimal' : 'text' } }}
      />
      <Buttons disabled={wrong} onCancel={() => onDone()} />
    </form>
  );
}

function ComparatorEditor({ edit, definition, onDone }: Props<'comparator'>) {
  return (
    <MenuList autoFocusItem>
      {(Object.keys(comparatorWords) as Comparator[]).map(comparator => (
        <MenuItem
          key={comparator}
          selected={comparator === edit.value}
          onClick={() => onDone(setAt(definition, edit.path, replaceIn(edit.source, edit.place, comparator)))}
        >
          {comparatorWords[comparator]}
        </MenuItem>
      ))}
    </MenuList>
  );
}

function FormulaEditor({ edit, definition, onDone }: Props<'formula'>) {
  const [source, setSource] = useState(edit.source);
  const names = namesOf(definition);
  const compiled = compile(source, names, 'yes/no');
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        onDone(setAt(definition, edit.path, source));
      }}
    >
      <TextField
        autoFocus
        fullWidth
        multiline
        label="Condition"
        value={source}
        onChange={event => setSource(event.target.value)}
        onKeyDown={event => {
          if (event.key !== 'Enter' || event.shiftKey) return;
          event.preventDefault();
          onDone(setAt(definition, edit.path, source));
        }}
        error={!compiled.ok}
        helperText={compiled.ok ? 'This can be read.' : compiled.problems[0].message}
      />
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
        Names: {Object.keys(names).join(', ')}
      </Typography>
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}

const plainRules: SingleRule[] = [
  { kind: 'manager', levels: 1 },
  { kind: 'manager', levels: 2 },
  { kind: 'manager', levels: 3 },
  { kind: 'head of department' },
  { kind: 'dotted-line manager' },
];

function PeopleEditor({ edit, definition, index, onDone }: Props<'people'>) {
  const roles = [...new Set(index?.directory.roles.map(r => r.role) ?? [])];
  const options: SingleRule[] = [
    ...plainRules,
    ...roles.map(role => ({ kind: 'role' as const, role })),
    ...(index?.directory.people ?? []).map(p => ({ kind: 'person' as const, person: p.id })),
  ];
  const words = (rule: SingleRule) => peopleWords({ first: rule, otherwise: [] }, index);
  const [first, setFirst] = useState<SingleRule>(edit.rule.first);
  const [otherwise, setOtherwise] = useState<SingleRule[]>(edit.rule.otherwise);
  const rule: PeopleRule = { first, otherwise };
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        onDone(setAt(definition, edit.path, rule));
      }}
    >
      <Autocomplete
        options={options}
        value={first}
        disableClearable
        getOptionLabel={words}
        getOptionKey={JSON.stringify}
        isOptionEqualToValue={(a, b) => words(a) === words(b)}
        onChange={(_, value) => setFirst(value)}
        renderInput={params => <TextField {...params} autoFocus label="Who decides" />}
      />
      <Autocomplete
        multiple
        options={options}
        value={otherwise}
        getOptionLabel={words}
        getOptionKey={JSON.stringify}
        isOptionEqualToValue={(a, b) => words(a) === words(b)}
        onChange={(_, value) => setOtherwise(value.slice(0, 5))}
        renderInput={params => <TextField {...params} label="When nobody is found, else" />}
        sx={{ mt: 1.5 }}
      />
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}

function AmountFields({
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

function LimitEditor({ edit, definition, onDone }: Props<'limit'>) {
  const usual: Limit = { within: { workingDays: 2 }, remind: null, atLimit: 'wait' };
  const [limit, setLimit] = useState<Limit | null>(edit.limit);
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        onDone(setAt(definition, edit.path, limit));
      }}
    >
      <FormControlLabel
        control={
          <Checkbox checked={limit !== null} onChange={(_, on) => setLimit(on ? (edit.limit ?? usual) : null)} />
        }
        label="There is a limit"
      />
      {limit && (
        <>
          <AmountFields label="Within" amount={limit.within} onChange={within => setLimit({ ...limit, within })} />
          <TextField
            select
            fullWidth
            label="Unanswered at the limit"
            value={limit.atLimit}
            onChange={event => setLimit({ ...limit, atLimit: event.target.value as Limit['atLimit'] })}
          >
            <MenuItem value="wait">it stays and is shown as late</MenuItem>
            <MenuItem value="pass up">pass to the manager above</MenuItem>
          </TextField>
          <FormControlLabel
            control={
              <Checkbox
                checked={limit.remind !== null}
                onChange={(_, on) =>
                  setLimit({ ...limit, remind: on ? { after: { workingDays: 1 }, atMost: 3 } : null })
                }
              />
            }
            label="Send reminders"
          />
          {limit.remind && (
            <AmountFields
              label="First after, then every"
              amount={limit.remind.after}
              onChange={after => setLimit({ ...limit, remind: { atMost: limit.remind?.atMost ?? 3, after } })}
            />
          )}
        </>
      )}
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}

function FieldsEditor({ edit, definition, onDone }: Props<'fields'>) {
  const [fields, setFields] = useState<string[]>([...edit.fields]);
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        if (fields.length > 0) onDone(setAt(definition, edit.path, fields));
      }}
    >
      <Typography variant="body2" color="textSecondary">
        The asker may change:
      </Typography>
      {definition.form.fields.map(field => (
        <Box key={field.id}>
          <FormControlLabel
            control={
              <Checkbox
                checked={fields.includes(field.id)}
                onChange={(_, on) =>
                  setFields(
                    definition.form.fields.map(f => f.id).filter(id => (id === field.id ? on : fields.includes(id))),
                  )
                }
              />
            }
            label={field.label}
          />
        </Box>
      ))}
      {fields.length === 0 && (
        <Typography variant="body2" color="error">
          Choose one field at least.
        </Typography>
      )}
      <Buttons disabled={fields.length === 0} onCancel={() => onDone()} />
    </form>
  );
}

function GoEditor({ edit, definition, onDone }: Props<'go'>) {
  const choices: { words: string; go: Go }[] = [
    { words: 'go on to the next step', go: { to: 'next' } },
    ...definition.steps.slice(1).map((step, i) => ({
      words: `go to ${i + 2}, ${step.verb.toLowerCase()}`,
      go: { to: 'step' as const, step: step.id },
    })),
    ...definition.closings.map(closing => ({
      words: `close as ${closing.name}`,
      go: { to: 'close' as const, closing: closing.id },
    })),
  ];
  return (
    <MenuList autoFocusItem>
      {choices.map(({ words, go }) => (
        <MenuItem
          key={words}
          selected={JSON.stringify(go) === JSON.stringify(edit.go)}
          onClick={() => onDone(setAt(definition, edit.path, go))}
        >
          {words}
        </MenuItem>
      ))}
    </MenuList>
  );
}

export function PhraseEditor({
  edit,
  ...rest
}: {
  edit: Edit;
  definition: Definition;
  index: DirectoryIndex | undefined;
  onDone: Done;
}) {
  switch (edit.kind) {
    case 'value':
      return <ValueEditor edit={edit} {...rest} />;
    case 'comparator':
      return <ComparatorEditor edit={edit} {...rest} />;
    case 'formula':
      return <FormulaEditor edit={edit} {...rest} />;
    case 'people':
      return <PeopleEditor edit={edit} {...rest} />;
    case 'limit':
      return <LimitEditor edit={edit} {...rest} />;
    case 'fields':
      return <FieldsEditor edit={edit} {...rest} />;
    case 'go':
      return <GoEditor edit={edit} {...rest} />;
  }
}
