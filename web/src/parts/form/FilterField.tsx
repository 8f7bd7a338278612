/** A field by whose words something is filtered: it keeps its own text, and the address follows. */
import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { useRef, useState } from 'react';

type Props = Omit<TextFieldProps, 'value' | 'onChange' | 'defaultValue'> & {
  /** As the address has it. */
  value: string;
  onFilter: (words: string) => void;
};

/**
 * The address comes back later than letters are typed, and sometimes with fewer: a field that shows what the address has
 * would lose those between. So what was given to it is not taken for news when it comes back; anything else is, as after
 * going back or taking up a saved view.
 */
export function FilterField({ value, onFilter, ...field }: Props) {
  const [text, setText] = useState(value);
  const [known, setKnown] = useState(value);
  const given = useRef<string[]>([]);
  if (value !== known) {
    setKnown(value);
    const at = given.current.lastIndexOf(value);
    if (at >= 0) given.current.splice(0, at + 1);
    else {
      given.current = [];
      setText(value);
    }
  }
  return (
    <TextField
      {...field}
      value={text}
      onChange={event => {
        const words = event.target.value;
        setText(words);
        given.current.push(words);
        onFilter(words);
      }}
    />
  );
}
