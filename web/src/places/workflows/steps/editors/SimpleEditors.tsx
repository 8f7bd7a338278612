/** Values, comparisons, choices and words. */
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import MenuList from '@mui/material/MenuList';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type Comparator, replaceIn } from '@north-pebble/core/formula';
import { comparatorWords, countWords, type Quorum, setAt } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { Buttons, type Props, useAround } from './shared.tsx';

export function ValueEditor({ edit, definition, onDone }: Props<'value'>) {
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

export function ComparatorEditor({ edit, definition, onDone }: Props<'comparator'>) {
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

export function FieldsEditor({ edit, definition, onDone }: Props<'fields'>) {
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

export function ChoiceEditor({ edit, definition, onDone }: Props<'choice'>) {
  const same = (value: unknown) => JSON.stringify(value) === JSON.stringify(edit.value);
  return (
    <MenuList autoFocusItem>
      {edit.choices.length === 0 && <MenuItem disabled>There is nothing to choose yet.</MenuItem>}
      {edit.choices.map(({ value, words }) => (
        <MenuItem key={words} selected={same(value)} onClick={() => onDone(setAt(definition, edit.path, value))}>
          {words}
        </MenuItem>
      ))}
    </MenuList>
  );
}

/** Of the connections that are set up, or by a name that one will have. */
function ConnectionChoice({ edit, definition, onDone }: Props<'text'>) {
  const known = Object.keys(useAround().offers ?? {});
  const all = known.includes(edit.value) ? known : [edit.value, ...known];
  return (
    <MenuList autoFocusItem>
      {all.map(name => (
        <MenuItem
          key={name}
          selected={name === edit.value}
          onClick={() => onDone(name === edit.value ? undefined : setAt(definition, edit.path, name))}
        >
          {name}
          {!known.includes(name) && ' (not set up yet)'}
        </MenuItem>
      ))}
    </MenuList>
  );
}

export function TextEditor(props: Props<'text'>) {
  const { offers } = useAround();
  const isConnection = props.edit.path.at(-1) === 'connection' && Object.keys(offers ?? {}).length > 0;
  return isConnection ? <ConnectionChoice {...props} /> : <Words {...props} />;
}

function Words({ edit, definition, onDone }: Props<'text'>) {
  const [text, setText] = useState(edit.value);
  const empty = text.trim() === '';
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        if (!empty) onDone(setAt(definition, edit.path, text.trim()));
      }}
    >
      <TextField
        autoFocus
        fullWidth
        label="Words"
        value={text}
        onChange={event => setText(event.target.value)}
        onFocus={event => event.target.select()}
        error={empty}
        helperText={empty ? 'Write something.' : ' '}
      />
      <Buttons disabled={empty} onCancel={() => onDone()} />
    </form>
  );
}

const countings: (Quorum | undefined)[] = [undefined, 'everyone', 'majority', 'in turn', { atLeast: 2 }];
const countingWords = (count: Quorum | undefined): string =>
  count === undefined
    ? 'the first answer settles'
    : count === 'everyone'
      ? 'all together: everyone must agree'
      : count === 'majority'
        ? 'by majority'
        : count === 'in turn'
          ? 'in turn, one after another'
          : countWords(count);

export function CountEditor({ edit, definition, onDone }: Props<'count'>) {
  const [atLeast, setAtLeast] = useState(typeof edit.count === 'object' ? String(edit.count.atLeast) : '2');
  const same = (count: Quorum | undefined) =>
    typeof count === typeof edit.count && (typeof count === 'object' || count === edit.count);
  const number = Number(atLeast);
  return (
    <>
      <MenuList autoFocusItem>
        {countings.map(count => (
          <MenuItem
            key={countingWords(count)}
            selected={same(count)}
            onClick={() =>
              onDone(
                setAt(definition, edit.path, typeof count === 'object' ? { atLeast: number > 0 ? number : 2 } : count),
              )
            }
          >
            {typeof count === 'object' ? `with at least ${atLeast || '2'} in favour` : countingWords(count)}
          </MenuItem>
        ))}
      </MenuList>
      <TextField
        label="At least"
        size="small"
        value={atLeast}
        onChange={event => setAtLeast(event.target.value.replace(/\D/g, ''))}
        slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        sx={{ mt: 1, width: 120 }}
      />
    </>
  );
}
