/** Things one below the other, each in a field of its own: choices, columns, items of a checklist. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import InputBase from '@mui/material/InputBase';
import Typography from '@mui/material/Typography';
import { type ReactNode, useEffect, useRef, useState } from 'react';

type Item = { readonly key: number; readonly words: string };

/**
 * What is typed stays as it is typed, blanks and doubles too; only what counts is told.
 * @param onChange told the words in their order, each with the number under which it was before, or none for a new one
 */
export function ItemList({
  label,
  one,
  items,
  onChange,
  most = 200,
  beside,
}: {
  label: string;
  /** What one of them is called: `choice`. */
  one: string;
  items: readonly string[];
  onChange: (items: readonly { words: string; before: number | null }[]) => void;
  most?: number;
  /** What stands beside an item, by its number among those that count. */
  beside?: (at: number) => ReactNode;
}) {
  const [shown, setShown] = useState<readonly Item[]>(() => items.map((words, key) => ({ key, words })));
  const next = useRef(items.length);
  const list = useRef<HTMLDivElement>(null);
  const focus = useRef<number | null>(null);
  useEffect(() => {
    if (focus.current === null) return;
    list.current?.querySelectorAll('input')[focus.current]?.focus();
    focus.current = null;
  });

  const counting = (all: readonly Item[]): Item[] => {
    const seen = new Set<string>();
    return all.filter(({ words }) => {
      const plain = words.trim();
      if (plain === '' || seen.has(plain)) return false;
      seen.add(plain);
      return true;
    });
  };
  /** The number under which each item was told last. */
  const told = useRef(new Map<number, number>(items.map((_, i) => [i, i])));
  const change = (all: readonly Item[]) => {
    setShown(all);
    const now = counting(all);
    onChange(now.map(({ key, words }) => ({ words: words.trim(), before: told.current.get(key) ?? null })));
    told.current = new Map(now.map(({ key }, i) => [key, i]));
  };
  const count = counting(shown);
  // What was changed elsewhere, as by *Undo*, is shown at once.
  if (count.length !== items.length || count.some(({ words }, i) => words.trim() !== items[i])) {
    const fresh = items.map((words): Item => ({ key: next.current++, words }));
    told.current = new Map(fresh.map(({ key }, i) => [key, i]));
    setShown(fresh);
  }
  const twice = (item: Item) => item.words.trim() !== '' && !count.includes(item);
  const add = (after: number) => {
    if (shown.length >= most) return;
    focus.current = after + 1;
    setShown([...shown.slice(0, after + 1), { key: next.current++, words: '' }, ...shown.slice(after + 1)]);
  };

  return (
    <Box role="group" aria-label={label} ref={list}>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 0.5 }}>
        {label}
      </Typography>
      {shown.map((item, i) => (
        <Box
          key={item.key}
          sx={{ display: 'flex', alignItems: 'center', gap: 0.5, borderBottom: '1px solid', borderColor: 'divider' }}
        >
          <InputBase
            fullWidth
            value={item.words}
            inputProps={{ 'aria-label': `${one} ${i + 1}`, maxLength: 80 }}
            onChange={event => change(shown.map(x => (x === item ? { ...x, words: event.target.value } : x)))}
            onKeyDown={event => {
              if (event.key !== 'Enter') return;
              event.preventDefault();
              add(i);
            }}
            sx={{ py: 0.25 }}
          />
          {twice(item) && (
            <Typography variant="body2" color="error" role="alert" sx={{ whiteSpace: 'nowrap' }}>
              twice
            </Typography>
          )}
          {beside && count.includes(item) && beside(count.indexOf(item))}
          <IconButton
            size="small"
            aria-label={`Move ${item.words || `${one} ${i + 1}`} up`}
            disabled={i === 0}
            onClick={() => change([...shown.slice(0, i - 1), item, shown[i - 1], ...shown.slice(i + 1)])}
          >
            <ArrowUpward fontSize="inherit" />
          </IconButton>
          <IconButton
            size="small"
            aria-label={`Remove ${item.words || `${one} ${i + 1}`}`}
            onClick={() => change(shown.filter(x => x !== item))}
          >
            <CloseOutlined fontSize="inherit" />
          </IconButton>
        </Box>
      ))}
      <Button size="small" startIcon={<AddOutlined />} onClick={() => add(shown.length - 1)} sx={{ mt: 0.5 }}>
        Another {one}
      </Button>
    </Box>
  );
}
