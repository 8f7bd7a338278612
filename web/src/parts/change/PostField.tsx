/** A post, told apart from others of its title by where it is and who holds it. */
import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import type { RecordChoices } from '@north-pebble/contract';
import { useDeferredValue, useMemo, useState } from 'react';

type Post = RecordChoices['posts'][number];
type Props = {
  label: string;
  posts: readonly Post[];
  value: string;
  fault: string | undefined;
  onChange: (post: string) => void;
};

/** Of many posts the first that fit are shown: more letters find the others. */
const mostShown = 12;
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

export function PostField({ label, posts, value, fault, onChange }: Props) {
  const [typed, setWords] = useState('');
  // The field answers at once; what is found comes after.
  const words = useDeferredValue(typed);
  const chosen = useMemo(() => posts.find(post => post.id === value) ?? null, [posts, value]);
  const options = useMemo(() => fitting(posts, words === chosen?.name ? '' : words), [posts, words, chosen]);
  return (
    <Autocomplete
      options={chosen && !options.includes(chosen) ? [chosen, ...options] : options}
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
  );
}
