/** Above the list: what waits by workflow, by what is to be done and by role, words to find, and sets that are kept. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import TextField from '@mui/material/TextField';
import type { DeskItem } from '@north-pebble/contract';
import { useSearchParams } from 'react-router';
import { Sets } from '../../parts/Sets.tsx';
import { kindWords } from './DeskRow.tsx';
import { choicesOf, filterIn, fits, isFiltered, type Part, parts, queryOf } from './filter.ts';

/** Fewer than these are seen at a glance. */
const worthIt = 6;

const labels: Record<Part, string> = { workflow: 'By workflow', kind: 'By what is to be done', role: 'By role' };

export function Filters({ items }: { items: readonly DeskItem[] }) {
  const [search, setSearch] = useSearchParams();
  const filter = filterIn(search);
  const filtered = isFiltered(filter);
  if (items.length < worthIt && !filtered) return null;
  const set = (part: string, value: string | null) =>
    setSearch(
      before => {
        const next = new URLSearchParams(before);
        if (value) next.set(part, value);
        else next.delete(part);
        return next;
      },
      { replace: true },
    );
  const name = (part: Part, choice: { value: string; name: string }) =>
    part === 'kind' ? kindWords[choice.value as DeskItem['kind']] : choice.name;
  const shown = items.filter(item => fits(item, filter)).length;
  return (
    <Box component="section" aria-label="Filters" sx={{ mb: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
        <TextField
          size="small"
          type="search"
          label="Find among these"
          value={filter.words}
          onChange={event => set('words', event.target.value)}
          sx={{ width: 200 }}
        />
        {parts.map(part => {
          const choices = choicesOf(items, part);
          return (
            choices.length > 0 && (
              <Box
                key={part}
                role="group"
                aria-label={labels[part]}
                sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}
              >
                {choices.map(choice => {
                  const on = filter[part] === choice.value;
                  return (
                    <Chip
                      key={choice.value}
                      size="small"
                      label={`${name(part, choice)} ${choice.n}`}
                      aria-pressed={on}
                      color={on ? 'primary' : 'default'}
                      variant={on ? 'filled' : 'outlined'}
                      onClick={() => set(part, on ? null : choice.value)}
                    />
                  );
                })}
              </Box>
            )
          );
        })}
        {filtered && (
          <Button size="small" onClick={() => setSearch({}, { replace: true })}>
            {shown} of {items.length}: show all
          </Button>
        )}
      </Box>
      <Box sx={{ mb: 1.5 }}>
        <Sets place="desk" query={queryOf(search)} onTake={query => setSearch(query)} />
      </Box>
    </Box>
  );
}
