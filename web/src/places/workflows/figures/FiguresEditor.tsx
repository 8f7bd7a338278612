/** Figures: what is worked out, each with its formula, its unit, and its value in the test case. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { idFrom } from '@north-pebble/core/form';
import { compile } from '@north-pebble/core/formula';
import {
  currencyOf,
  type Definition,
  type Figure,
  figureWords,
  namesOf,
  rename,
  setAt,
  type Unit,
  unitType,
  usesOfName,
} from '@north-pebble/core/workflow';
import { useEffect, useState } from 'react';
import { Why } from '../../../parts/Why.tsx';
import { FormulaField } from '../steps/editors/FormulaField.tsx';
import { FunctionList } from '../steps/editors/FunctionList.tsx';
import { useAround } from '../steps/editors/shared.tsx';

const units: Unit[] = ['days', 'hours', 'money', 'number', 'date', 'text', 'yes/no'];

function FigureRow({
  figure,
  at,
  definition,
  readOnly,
  onChange,
}: {
  figure: Figure;
  at: number;
  definition: Definition;
  readOnly: boolean;
  onChange: (definition: Definition) => void;
}) {
  const { lists, sample } = useAround();
  const [name, setName] = useState(figure.name);
  const [formula, setFormula] = useState(figure.formula);
  useEffect(() => setName(figure.name), [figure.name]);
  useEffect(() => setFormula(figure.formula), [figure.formula]);
  const taken =
    definition.figures.some(f => f !== figure && f.name === name.trim()) ||
    definition.form.fields.some(f => f.label === name.trim());
  const keepName = () => {
    const next = name.trim();
    if (next === '' || taken) setName(figure.name);
    else if (next !== figure.name) onChange(rename(definition, figure.name, next));
  };
  const keepFormula = () =>
    formula !== figure.formula && onChange(setAt(definition, ['figures', at, 'formula'], formula));
  const uses = usesOfName(definition, figure.name);
  const value = sample[figure.name];
  const names = namesOf(definition, lists, at);
  const compiled = compile(figure.formula, names, unitType[figure.unit]);
  return (
    <Box
      sx={{
        borderBottom: '1px solid',
        borderColor: 'divider',
        p: 1.5,
        display: 'grid',
        gap: 1,
        gridTemplateColumns: { xs: '1fr', sm: '180px 1fr 120px' },
        alignItems: 'start',
      }}
    >
      <TextField
        size="small"
        label="Name"
        value={name}
        disabled={readOnly}
        error={taken}
        helperText={taken ? 'This name is taken.' : ' '}
        onChange={event => setName(event.target.value)}
        onBlur={keepName}
        onKeyDown={event => event.key === 'Enter' && keepName()}
      />
      <Box onBlur={keepFormula}>
        <FormulaField
          label={`Formula of ${figure.name}`}
          source={formula}
          onChange={setFormula}
          onEnter={keepFormula}
          definition={definition}
          names={names}
          wanted={unitType[figure.unit]}
        />
      </Box>
      <TextField
        select
        size="small"
        label="Unit"
        value={figure.unit}
        disabled={readOnly}
        onChange={event => onChange(setAt(definition, ['figures', at, 'unit'], event.target.value))}
      >
        {units.map(unit => (
          <MenuItem key={unit} value={unit}>
            {unit}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ gridColumn: { sm: '1 / -1' }, display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'baseline' }}>
        <Typography variant="body2">
          {value === undefined
            ? 'No test case yet: rehearse once, and its values stand here.'
            : `In the test case: ${figureWords(figure, value, currencyOf(definition))}`}
          {value !== undefined && compiled.ok && (
            <Why about={figureWords(figure, value, currencyOf(definition))}>
              <Typography variant="body2">{figure.formula}</Typography>
              {compiled.formula.uses.map(used => (
                <Typography key={used} variant="body2">
                  {used} is{' '}
                  {sample[used] === undefined || sample[used] === null
                    ? 'not known'
                    : typeof sample[used] === 'object'
                      ? JSON.stringify(sample[used])
                      : String(sample[used])}
                </Typography>
              ))}
            </Why>
          )}
        </Typography>
        <Typography variant="body2" color="textSecondary">
          {uses.length === 0 ? 'used nowhere yet' : `used in ${uses.map(u => u.words.split(':')[0]).join(', ')}`}
        </Typography>
        {!readOnly && (
          <Button
            size="small"
            color="error"
            onClick={() =>
              onChange(
                setAt(
                  definition,
                  ['figures'],
                  definition.figures.filter(f => f !== figure),
                ),
              )
            }
          >
            Remove
          </Button>
        )}
      </Box>
    </Box>
  );
}

export function FiguresEditor({
  definition,
  readOnly,
  onChange,
}: {
  definition: Definition;
  readOnly: boolean;
  onChange: (definition: Definition) => void;
}) {
  const [help, setHelp] = useState(false);
  const add = () => {
    const name = `Figure ${definition.figures.length + 1}`;
    const id = idFrom(name, [...definition.figures.map(f => f.id), ...definition.form.fields.map(f => f.id)]);
    const span = definition.form.fields.find(f => f.kind === 'leave span');
    onChange(
      setAt(
        definition,
        ['figures'],
        [
          ...definition.figures,
          { id, name, formula: span ? `leave days(${span.label})` : '1 + 1', unit: span ? 'days' : 'number' },
        ],
      ),
    );
  };
  return (
    <>
      {definition.figures.map((figure, at) => (
        <FigureRow
          key={figure.id}
          figure={figure}
          at={at}
          definition={definition}
          readOnly={readOnly}
          onChange={onChange}
        />
      ))}
      <Box sx={{ p: 1 }}>
        {!readOnly && (
          <Button size="small" startIcon={<AddOutlined />} onClick={add}>
            New figure
          </Button>
        )}
        <Button size="small" aria-expanded={help} onClick={() => setHelp(!help)}>
          {help ? 'Hide the functions' : 'What a formula can do'}
        </Button>
      </Box>
      {help && (
        <Box sx={{ px: 2, pb: 2 }}>
          <FunctionList />
        </Box>
      )}
    </>
  );
}
