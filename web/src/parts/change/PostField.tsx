/** A post, told apart from others of its title by where it is and who holds it. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import type { RecordChoices } from '@north-pebble/contract';
import { type ReactNode, useDeferredValue, useMemo, useState } from 'react';

type Post = RecordChoices['posts'][number];
type Props = {
  label: string;
  posts: readonly Post[];
  value: string;
  fault: string | undefined;
  onChange: (post: string) => void;
};

/** Of many posts the first that fit are shown: more letters find the others. */
const mostShown = 8;
const inOrder = new Intl.Collator('en', { numeric: true });

function fitting(posts: readonly Post[], words: string): Post[] {
  const parts = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found: Post[] = [];
  for (const post of posts) {
    const letters = `${post.name} ${post.where} ${post.holder ?? 'vacant'}`.toLowerCase();
    if (parts.every(part => letters.includes(part))) found.push(post);
    if (found.length === mostShown) break;
  }
  return found.sort((a, b) => inOrder.compare(a.name, b.name));
}

/**
 * What is found stands right beneath the field, in the page: to have its place worked out against the window takes
 * longer than to find it among ten thousand.
 */
function Beneath({ open, children }: { open: boolean; children?: ReactNode | ((of: object) => ReactNode) }) {
  if (!open) return null;
  return (
    <Box sx={{ position: 'absolute', top: '100%', left: 0, right: 0, zIndex: 'modal' }}>
      {typeof children === 'function' ? children({}) : children}
    </Box>
  );
}

export function PostField({ label, posts, value, fault, onChange }: Props) {
  const [typed, setWords] = useState('');
  // The field answers at once; what is found comes after.
  const words = useDeferredValue(typed);
  const chosen = useMemo(() => posts.find(post => post.id === value) ?? null, [posts, value]);
  const options = useMemo(() => fitting(posts, words === chosen?.name ? '' : words), [posts, words, chosen]);
  return (
    <Box sx={{ position: 'relative' }}>
      <Autocomplete
        slots={{ popper: Beneath as never }}
        options={chosen && !options.includes(chosen) ? [chosen, ...options] : options}
        openOnFocus
        filterOptions={all => all}
        getOptionLabel={post => post.name}
        getOptionKey={post => post.id}
        value={chosen}
        onInputChange={(_, text) => setWords(text)}
        onChange={(_, post) => onChange(post?.id ?? '')}
        renderOption={({ key, ...props }, post) => (
          <li key={key} {...props}>
            <span>
              {post.name}
              <small style={{ fontSize: 14, color: 'var(--mui-palette-text-secondary)' }}>
                {' '}
                {post.where}
                {post.holder ? `, held by ${post.holder}` : ', vacant'}
              </small>
            </span>
          </li>
        )}
        renderInput={props => <TextField {...props} label={label} error={fault !== undefined} helperText={fault} />}
      />
    </Box>
  );
}
