/** A text written with values put in: for messages and letters alike. */
import FormatBoldOutlined from '@mui/icons-material/FormatBoldOutlined';
import FormatItalicOutlined from '@mui/icons-material/FormatItalicOutlined';
import FormatListBulletedOutlined from '@mui/icons-material/FormatListBulletedOutlined';
import FormatListNumberedOutlined from '@mui/icons-material/FormatListNumberedOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import { cleanRich, isRich, type Message } from '@north-pebble/core/workflow';
import { EditorContent, useEditor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';
import { useEffect, useRef, useState } from 'react';

const asRich = (body: string): string =>
  isRich(body)
    ? body
    : body
        .split(/\n{2,}/)
        .map(p => `<p>${p.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/\n/g, '<br>')}</p>`)
        .join('');

export function InsertMenu({ names, onInsert }: { names: readonly string[]; onInsert: (name: string) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button size="small" aria-haspopup="menu" onClick={event => setAnchor(event.currentTarget)}>
        Put in …
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {names.map(name => (
          <MenuItem
            key={name}
            onClick={() => {
              setAnchor(null);
              onInsert(name);
            }}
          >
            {name}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

export function Body({
  message,
  names,
  onChange,
}: {
  message: Pick<Message, 'name' | 'body'>;
  /** What may be put in. */
  names: readonly string[];
  onChange: (body: string) => void;
}) {
  const change = useRef(onChange);
  change.current = onChange;
  const written = useRef(message.body);
  const editor = useEditor({
    extensions: [
      StarterKit.configure({
        heading: { levels: [3] },
        codeBlock: false,
        code: false,
        strike: false,
        horizontalRule: false,
      }),
    ],
    content: asRich(message.body),
    immediatelyRender: false,
    editorProps: { attributes: { 'aria-label': `Text of ${message.name}`, role: 'textbox', 'aria-multiline': 'true' } },
    onUpdate: ({ editor: now }) => {
      written.current = cleanRich(now.getHTML());
      change.current(written.current);
    },
  });
  // Undo outside, or another designer's draft, changes what stands here.
  useEffect(() => {
    if (!editor || message.body === written.current) return;
    written.current = message.body;
    editor.commands.setContent(asRich(message.body), { emitUpdate: false });
  }, [editor, message.body]);
  const tool = (label: string, icon: React.ReactNode, run: () => void, active: boolean) => (
    <Tooltip title={label}>
      <IconButton
        size="small"
        aria-label={label}
        aria-pressed={active}
        onClick={run}
        color={active ? 'primary' : 'default'}
      >
        {icon}
      </IconButton>
    </Tooltip>
  );
  return (
    <Box
      sx={{
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: '10px',
        '& .tiptap': { outline: 'none', minHeight: 90, px: 1.5, py: 0.5, fontSize: 14.5 },
        '&:focus-within': { borderColor: 'primary.main' },
      }}
    >
      {editor && (
        <Box
          role="toolbar"
          aria-label="Writing"
          sx={{ display: 'flex', borderBottom: '1px solid', borderColor: 'divider', px: 0.5 }}
        >
          {tool(
            'Bold',
            <FormatBoldOutlined fontSize="small" />,
            () => editor.chain().focus().toggleBold().run(),
            editor.isActive('bold'),
          )}
          {tool(
            'Italic',
            <FormatItalicOutlined fontSize="small" />,
            () => editor.chain().focus().toggleItalic().run(),
            editor.isActive('italic'),
          )}
          {tool(
            'List',
            <FormatListBulletedOutlined fontSize="small" />,
            () => editor.chain().focus().toggleBulletList().run(),
            editor.isActive('bulletList'),
          )}
          {tool(
            'Numbered list',
            <FormatListNumberedOutlined fontSize="small" />,
            () => editor.chain().focus().toggleOrderedList().run(),
            editor.isActive('orderedList'),
          )}
          <InsertMenu names={names} onInsert={name => editor.chain().focus().insertContent(`{${name}}`).run()} />
        </Box>
      )}
      <EditorContent editor={editor} />
    </Box>
  );
}
