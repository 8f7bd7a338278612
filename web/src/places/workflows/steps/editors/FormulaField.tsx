/** A formula being typed: names and functions offered as one types, errors at their place, and its value for a test case. */
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import MenuList from '@mui/material/MenuList';
import Paper from '@mui/material/Paper';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { moneyWords } from '@north-pebble/core/form';
import {
  compile,
  functionHelp,
  houseFunctions,
  isAmount,
  isHouseFunction,
  type Names,
  spoken,
  type Type,
  type Value,
} from '@north-pebble/core/formula';
import { type Definition, namesOf } from '@north-pebble/core/workflow';
import { useRef, useState } from 'react';
import { Example, FunctionList } from './FunctionList.tsx';
import { useAround } from './shared.tsx';

export type Suggestion = { text: string; insert: string; kind: string; help: string };

const wordBefore = /[\p{L}][\p{L}\p{N} .]*$/u;

/** Names and functions that begin as the word before the cursor does; the word may have several parts. */
export function suggestionsFor(source: string, at: number, names: Names): { from: number; found: Suggestion[] } {
  const all: Suggestion[] = [
    ...Object.entries(names)
      .filter(([name]) => !name.endsWith('.*'))
      .map(([name, type]) => ({ text: name, insert: name, kind: spoken(type), help: '' })),
    ...functionHelp.map(({ name, help }) => ({ text: `${name}(…)`, insert: `${name}(`, kind: 'a function', help })),
  ];
  const before = source.slice(0, at);
  const run = wordBefore.exec(before)?.[0] ?? '';
  // The longest tail of the words before the cursor that something begins with.
  const words = run.split(' ');
  for (let i = 0; i < words.length; i++) {
    const typed = words.slice(i).join(' ');
    if (typed.trim() === '') break;
    const found = all.filter(s => s.text.toLowerCase().startsWith(typed.toLowerCase()) && s.insert !== typed);
    if (found.length > 0) return { from: at - typed.length, found: found.slice(0, 7) };
  }
  return { from: at, found: [] };
}

/** A value as a designer reads it. */
export function valueSaid(value: Value): string {
  if (value === null) return 'not known';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (isAmount(value)) return moneyWords(value.amount, value.currency);
  if (Array.isArray(value))
    return value.length === 0 ? 'an empty list' : value.map(one => valueSaid(one as Value)).join(', ');
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** The function between whose brackets the cursor stands. */
export function functionAround(source: string, at: number): (typeof functionHelp)[number] | undefined {
  let deep = 0;
  for (let i = at - 1; i >= 0; i--) {
    if (source[i] === ')') deep += 1;
    if (source[i] !== '(') continue;
    if (deep > 0) {
      deep -= 1;
      continue;
    }
    const before = source.slice(0, i).replace(/\s+/g, ' ');
    const found = functionHelp.filter(({ name }) => before.endsWith(name));
    if (found.length > 0) return found.toSorted((a, b) => b.name.length - a.name.length)[0];
  }
  return undefined;
}

export function FormulaField({
  label,
  source,
  onChange,
  onEnter,
  definition,
  wanted,
  names: given,
  autoFocus = false,
  mayBeEmpty = false,
}: {
  label: string;
  source: string;
  onChange: (source: string) => void;
  onEnter?: () => void;
  definition: Definition;
  wanted: Type;
  names?: Names;
  autoFocus?: boolean;
  mayBeEmpty?: boolean;
}) {
  const { lists, sample } = useAround();
  const names = given ?? namesOf(definition, lists);
  const input = useRef<HTMLTextAreaElement>(null);
  const [cursor, setCursor] = useState<number | null>(null);
  const [chosen, setChosen] = useState(0);
  const [listed, setListed] = useState(false);
  const compiled = compile(source, names, wanted);
  const offer = cursor === null ? { from: 0, found: [] } : suggestionsFor(source, cursor, names);
  const empty = source.trim() === '';
  const problem = compiled.ok || (empty && mayBeEmpty) ? null : compiled.problems[0];
  const usesHouse =
    compiled.ok && Object.keys(houseFunctions).some(name => isHouseFunction(name) && source.includes(`${name}(`));
  const tried =
    compiled.ok && !usesHouse && compiled.formula.uses.every(name => sample[name] !== undefined)
      ? compiled.formula.run({ values: sample as Record<string, Value>, call: () => null })
      : undefined;
  const around = cursor === null ? undefined : functionAround(source, cursor);
  const put = (insert: string, from: number, to: number) => {
    onChange(source.slice(0, from) + insert + source.slice(to));
    const end = from + insert.length;
    setCursor(null);
    requestAnimationFrame(() => {
      input.current?.focus();
      input.current?.setSelectionRange(end, end);
    });
  };
  const take = (suggestion: Suggestion) => put(suggestion.insert, offer.from, cursor ?? source.length);
  return (
    <Box sx={{ position: 'relative' }}>
      <TextField
        autoFocus={autoFocus}
        fullWidth
        multiline
        label={label}
        value={source}
        inputRef={input}
        error={problem !== null}
        onChange={event => {
          onChange(event.target.value);
          setCursor(event.target.selectionStart);
          setChosen(0);
        }}
        onSelect={event => {
          const { selectionStart } = event.target as HTMLTextAreaElement;
          if (cursor !== null && selectionStart !== cursor) setCursor(selectionStart);
        }}
        onBlur={() => setTimeout(() => setCursor(null), 150)}
        onKeyDown={event => {
          const open = offer.found.length > 0;
          if (open && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
            event.preventDefault();
            const n = offer.found.length;
            setChosen(c => (c + (event.key === 'ArrowDown' ? 1 : n - 1)) % n);
          } else if (open && event.key === 'Tab') {
            event.preventDefault();
            take(offer.found[chosen]);
          } else if (event.key === 'Escape' && open) {
            event.stopPropagation();
            setCursor(null);
          } else if (event.key === 'Enter' && !event.shiftKey) {
            event.preventDefault();
            onEnter?.();
          }
        }}
        helperText={
          problem ? (
            <>
              {problem.message}
              {!empty && problem.to > problem.from && (
                <Box component="code" sx={{ display: 'block', color: 'text.secondary' }}>
                  {source.slice(0, problem.from)}
                  <Box
                    component="mark"
                    sx={{ bgcolor: 'transparent', color: 'error.main', textDecoration: 'underline wavy' }}
                  >
                    {source.slice(problem.from, problem.to)}
                  </Box>
                  {source.slice(problem.to)}
                </Box>
              )}
            </>
          ) : around ? (
            <>
              {around.help}.{around.example && <Example of={around.example} />}
            </>
          ) : tried !== undefined ? (
            `In the test case: ${valueSaid(tried)}`
          ) : (
            'This can be read. Tab takes what is offered.'
          )
        }
        slotProps={{
          htmlInput: { spellCheck: false, style: { fontFamily: 'ui-monospace, monospace', fontSize: 13.5 } },
        }}
      />
      {offer.found.length > 0 && (
        <Paper
          elevation={4}
          sx={{ position: 'absolute', zIndex: 10, left: 8, right: 8, mt: -2.5, borderRadius: '10px' }}
        >
          <MenuList dense aria-label="Names and functions">
            {offer.found.map((suggestion, i) => (
              <MenuItem
                key={suggestion.text}
                selected={i === chosen}
                tabIndex={-1}
                onMouseDown={event => event.preventDefault()}
                onClick={() => take(suggestion)}
              >
                <Box component="span" sx={{ flex: 1 }}>
                  {suggestion.text}
                </Box>
                <Typography variant="body2" color="textSecondary">
                  {suggestion.help || suggestion.kind}
                </Typography>
              </MenuItem>
            ))}
          </MenuList>
        </Paper>
      )}
      <Box
        component="details"
        onToggle={event => setListed((event.target as HTMLDetailsElement).open)}
        sx={{ fontSize: 13.5, '& summary': { cursor: 'pointer', color: 'primary.main' } }}
      >
        <summary>What a formula can do</summary>
        {listed && (
          <FunctionList
            onTake={name => {
              const at = input.current?.selectionStart ?? source.length;
              put(`${name}(`, at, at);
            }}
          />
        )}
      </Box>
    </Box>
  );
}
