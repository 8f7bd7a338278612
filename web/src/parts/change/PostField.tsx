/** A post, told apart from others of its title by where it is and who holds it. */
import Autocomplete, { createFilterOptions } from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RecordChoices } from '@north-pebble/contract';

type Props = {
  label: string;
  posts: RecordChoices['posts'];
  value: string;
  fault: string | undefined;
  onChange: (post: string) => void;
};

const fitting = createFilterOptions<RecordChoices['posts'][number]>({ limit: 60 });

export function PostField({ label, posts, value, fault, onChange }: Props) {
  return (
    <Autocomplete
      options={posts as RecordChoices['posts'][number][]}
      // Of many posts those that fit best are shown: more letters find the others.
      filterOptions={fitting}
      getOptionLabel={post => post.name}
      getOptionKey={post => post.id}
      value={posts.find(post => post.id === value) ?? null}
      onChange={(_, post) => onChange(post?.id ?? '')}
      renderOption={({ key, ...props }, post) => (
        <Box component="li" key={key} {...props}>
          <span>
            {post.name}
            <Typography component="span" variant="body2" color="textSecondary">
              {' '}
              {post.where}
              {post.holder ? `, held by ${post.holder}` : ', vacant'}
            </Typography>
          </span>
        </Box>
      )}
      renderInput={props => <TextField {...props} label={label} error={fault !== undefined} helperText={fault} />}
    />
  );
}
