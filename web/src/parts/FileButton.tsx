/** A button that lets files be chosen; the field behind it is not walked to by itself. */
import Button, { type ButtonProps } from '@mui/material/Button';
import { type ReactNode, useRef } from 'react';

type Props = Pick<ButtonProps, 'variant' | 'color'> & {
  children: ReactNode;
  accept: string;
  multiple?: boolean;
  onFiles: (files: File[]) => void;
};

export function FileButton({ children, accept, multiple = false, onFiles, ...look }: Props) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...look} onClick={() => field.current?.click()}>
        {children}
      </Button>
      <input
        ref={field}
        type="file"
        accept={accept}
        multiple={multiple}
        hidden
        onChange={event => {
          const files = [...(event.target.files ?? [])];
          // The same file may be chosen again.
          event.target.value = '';
          onFiles(files);
        }}
      />
    </>
  );
}
