/** A condition or a formula behind a phrase: picked together from comparisons, or typed. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import ListSubheader from '@mui/material/ListSubheader';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { atomOf, type Comparator, type Names, simpleComparisons, type Type } from '@north-pebble/core/formula';
import { comparatorWords, conditionOf, namesOf, setAt } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { DayField } from '../../../../parts/form/DayField.tsx';
import { FormulaField } from './FormulaField.tsx';
import { Buttons, type Props, useAround } from './shared.tsx';

type Part = { name: string; comparator: Comparator; value: string };
const comparable = new Set<string>(['number', 'money', 'text', 'date', 'yes/no', 'time']);

const literal = (part: Part, names: Names): string => {
  const type = names[part.name];
  if (type === 'number' || type === 'money') return part.value.trim() || '0';
  if (type === 'yes/no') return part.value === 'no' || part.value === 'false' ? 'false' : 'true';
  if (type === 'date') return `date("${part.value}")`;
  return JSON.stringify(part.value);
};

export const conditionOfParts = (parts: readonly Part[], names: Names): string =>
  parts.map(p => `${p.name} ${p.comparator} ${literal(p, names)}`).join(' and ');

const groups = ['Worked out', 'In the form', 'Dates', 'Asker and subject', 'Post, place and department'] as const;

/** Under which heading a name is offered. */
const groupOf = (name: string, type: Type | undefined, figures: readonly string[]): (typeof groups)[number] =>
  figures.includes(name)
    ? 'Worked out'
    : /^Asker (post|place|department)$/.test(name)
      ? 'Post, place and department'
      : name === 'Asker' || name === 'Subject'
        ? 'Asker and subject'
        : type === 'date'
          ? 'Dates'
          : 'In the form';

/** What a name holds in the test case, in few words. */
const holding = (value: unknown): string =>
  value === null || value === undefined || typeof value === 'object'
    ? ''
    : typeof value === 'boolean'
      ? value
        ? 'yes'
        : 'no'
      : String(value).slice(0, 24);

/** Comparisons joined by “and”, each of a name, how, and a value. */
export function ConditionPicker({
  parts,
  onChange,
  names,
  figures,
}: {
  parts: Part[];
  onChange: (parts: Part[]) => void;
  names: Names;
  /** Which of the names are figures. */
  figures: readonly string[];
}) {
  const { sample } = useAround();
  const options = Object.entries(names).filter(([name, type]) => comparable.has(atomOf(type)) && !name.endsWith('.*'));
  const change = (at: number, next: Partial<Part>) => onChange(parts.map((p, i) => (i === at ? { ...p, ...next } : p)));
  const [first] = options[0] ?? ['Days'];
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {parts.map((part, i) => {
        const type = names[part.name];
        const ordered = type !== 'yes/no' && type !== 'text';
        return (
          <Box
            // biome-ignore lint/suspicious/noArrayIndexKey: comparisons have no identity besides their place
            key={i}
            sx={{ display: 'grid', gridTemplateColumns: '1fr 104px 1fr 30px', gap: 0.75, alignItems: 'center' }}
          >
            <TextField
              select
              size="small"
              label={i === 0 ? 'What' : 'and'}
              value={type ? part.name : ''}
              slotProps={{ select: { renderValue: value => String(value) } }}
              onChange={event => change(i, { name: event.target.value })}
            >
              {groups.flatMap(group => {
                const of = options.filter(([name, kind]) => groupOf(name, kind, figures) === group);
                if (of.length === 0) return [];
                return [
                  <ListSubheader key={group} sx={{ lineHeight: 2.2 }}>
                    {group}
                  </ListSubheader>,
                  ...of.map(([name]) => (
                    <MenuItem
                      key={name}
                      value={name}
                      aria-label={name}
                      sx={{ gap: 2, justifyContent: 'space-between' }}
                    >
                      {name}
                      <Typography component="span" variant="body2" color="textSecondary" className="holds">
                        {holding(sample[name])}
                      </Typography>
                    </MenuItem>
                  )),
                ];
              })}
            </TextField>
            <TextField
              select
              size="small"
              label="How"
              value={part.comparator}
              onChange={event => change(i, { comparator: event.target.value as Comparator })}
            >
              {(Object.keys(comparatorWords) as Comparator[])
                .filter(c => ordered || c === '=' || c === '!=' || c === part.comparator)
                .map(c => (
                  <MenuItem key={c} value={c}>
                    {comparatorWords[c]}
                  </MenuItem>
                ))}
            </TextField>
            {type === 'yes/no' ? (
              <TextField
                select
                size="small"
                label="Value"
                value={part.value === 'no' || part.value === 'false' ? 'no' : 'yes'}
                onChange={event => change(i, { value: event.target.value })}
              >
                <MenuItem value="yes">yes</MenuItem>
                <MenuItem value="no">no</MenuItem>
              </TextField>
            ) : type === 'date' ? (
              <DayField label="Value" date={part.value} onDate={value => change(i, { value })} />
            ) : (
              <TextField
                size="small"
                label="Value"
                value={part.value}
                onChange={event => change(i, { value: event.target.value })}
              />
            )}
            <IconButton
              size="small"
              aria-label={`Remove ${part.name}`}
              onClick={() => onChange(parts.filter((_, n) => n !== i))}
            >
              <CloseOutlined fontSize="inherit" />
            </IconButton>
          </Box>
        );
      })}
      <Button
        size="small"
        startIcon={<AddOutlined />}
        onClick={() => onChange([...parts, { name: first, comparator: '>', value: '' }])}
        sx={{ justifySelf: 'start' }}
      >
        {parts.length === 0 ? 'Compare something' : 'And'}
      </Button>
    </Box>
  );
}

export const partsOf = (source: string, names: Names): Part[] | null => {
  if (source.trim() === '') return [];
  const found = simpleComparisons(source, names);
  return found ? found.map(c => ({ name: c.name.text, comparator: c.comparator, value: c.value.text })) : null;
};

export function FormulaEditor({ edit, definition, onDone }: Props<'formula'>) {
  const { lists } = useAround();
  const names = namesOf(definition, lists);
  const isCondition = edit.wanted === 'yes/no';
  const [source, setSource] = useState(edit.source);
  const parts = isCondition ? partsOf(source, names) : null;
  const [picking, setPicking] = useState(false);
  const done = () => {
    const text = source.trim();
    // A condition may also be said in words.
    const said = isCondition ? (conditionOf(text, definition) ?? text) : text;
    const empty = said === '' && (edit.mayBeEmpty || edit.path.at(-1) === 'when');
    onDone(setAt(definition, edit.path, empty ? (edit.path.at(-1) === 'when' ? null : undefined) : said));
  };
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        done();
      }}
    >
      {picking && parts ? (
        <ConditionPicker
          figures={definition.figures.map(f => f.name)}
          parts={parts}
          names={names}
          onChange={next => setSource(conditionOfParts(next, names))}
        />
      ) : (
        <FormulaField
          autoFocus
          label={isCondition ? 'Condition' : 'Formula'}
          source={source}
          onChange={setSource}
          onEnter={done}
          definition={definition}
          wanted={edit.wanted}
          mayBeEmpty={edit.mayBeEmpty || edit.path.at(-1) === 'when'}
        />
      )}
      {isCondition && (
        <Button size="small" onClick={() => setPicking(!picking)} disabled={!picking && parts === null}>
          {picking ? 'Type it' : parts === null ? 'Too much to pick together' : 'Pick it together'}
        </Button>
      )}
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}
