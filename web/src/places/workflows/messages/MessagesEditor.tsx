/** Messages in rich text with fields and figures put in, previewed as somebody; and the closings that send them. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import FormatBoldOutlined from '@mui/icons-material/FormatBoldOutlined';
import FormatItalicOutlined from '@mui/icons-material/FormatItalicOutlined';
import FormatListBulletedOutlined from '@mui/icons-material/FormatListBulletedOutlined';
import FormatListNumberedOutlined from '@mui/icons-material/FormatListNumberedOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { idFrom } from '@north-pebble/core/form';
import {
  cleanRich,
  type Definition,
  fillMessage,
  insertionNames,
  isRich,
  type Message,
  setAt,
  structure,
} from '@north-pebble/core/workflow';
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

function InsertMenu({ definition, onInsert }: { definition: Definition; onInsert: (name: string) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button size="small" aria-haspopup="menu" onClick={event => setAnchor(event.currentTarget)}>
        Put in …
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {insertionNames(definition).map(name => (
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

function Body({
  message,
  definition,
  onChange,
}: {
  message: Message;
  definition: Definition;
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
          <InsertMenu
            definition={definition}
            onInsert={name => editor.chain().focus().insertContent(`{${name}}`).run()}
          />
        </Box>
      )}
      <EditorContent editor={editor} />
    </Box>
  );
}

/** The mail as it would look. Only the few elements that `cleanRich` lets through reach the page. */
export function MailPreview({
  subject,
  body,
  html,
  to,
}: {
  subject: string;
  body: string;
  html?: string;
  to?: string;
}) {
  return (
    <Box
      sx={{
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: '10px',
        p: 1.5,
        fontSize: 14,
        bgcolor: 'background.default',
      }}
    >
      {to && (
        <Typography variant="body2" color="textSecondary">
          To {to}
        </Typography>
      )}
      <Typography sx={{ fontWeight: 650, mb: 0.5 }}>{subject}</Typography>
      {html ? (
        // biome-ignore lint/security/noDangerouslySetInnerHtml: cleaned to a short list of elements without attributes
        <Box sx={{ '& p': { my: 0.75 } }} dangerouslySetInnerHTML={{ __html: cleanRich(html) }} />
      ) : (
        <Box sx={{ whiteSpace: 'pre-wrap' }}>{body}</Box>
      )}
    </Box>
  );
}

type Props = {
  definition: Definition;
  readOnly: boolean;
  onChange: (definition: Definition) => void;
  /** Every name that can be put in, with its words in the test case. */
  words: Readonly<Record<string, string>>;
  who: string | null;
};

export function MessagesEditor({ definition, readOnly, onChange, words, who }: Props) {
  const [open, setOpen] = useState<string | null>(definition.messages[0]?.id ?? null);
  const change = (at: number, next: Partial<Message>) =>
    onChange(setAt(definition, ['messages', at], { ...definition.messages[at], ...next }));
  const usesOf = (id: string) => [
    ...structure(definition)
      .all.filter(p => p.step.verb === 'Tell' && p.step.message === id)
      .map(p => `step ${p.number}`),
    ...definition.closings.filter(c => c.message === id).map(c => `closing “${c.name}”`),
  ];
  const add = () => {
    const name = `Message ${definition.messages.length + 1}`;
    const id = idFrom(
      name,
      definition.messages.map(m => m.id),
    );
    onChange(
      setAt(
        definition,
        ['messages'],
        [...definition.messages, { id, name, subject: '{workflow}: {request}', body: '<p>Hello {asker},</p><p></p>' }],
      ),
    );
    setOpen(id);
  };
  return (
    <>
      {definition.messages.map((message, at) => {
        const isOpen = message.id === open;
        const uses = usesOf(message.id);
        return (
          <Box key={message.id} sx={{ borderBottom: '1px solid', borderColor: 'divider' }}>
            <Box
              component="button"
              type="button"
              aria-expanded={isOpen}
              onClick={() => setOpen(isOpen ? null : message.id)}
              sx={{
                font: 'inherit',
                border: 0,
                background: 'none',
                color: 'inherit',
                width: '100%',
                textAlign: 'left',
                px: 2,
                py: 1,
                cursor: 'pointer',
              }}
            >
              <b>{message.name}</b>
              <Typography component="span" variant="body2" color="textSecondary" sx={{ ml: 1 }}>
                {uses.length > 0 ? `sent by ${uses.join(', ')}` : 'sent by nothing yet'}
              </Typography>
            </Box>
            {isOpen && (
              <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.25 }}>
                {!readOnly && (
                  <>
                    <TextField
                      size="small"
                      label="Name"
                      value={message.name}
                      onChange={event =>
                        event.target.value.length <= 80 && change(at, { name: event.target.value || ' ' })
                      }
                    />
                    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1 }}>
                      <TextField
                        size="small"
                        label="Subject"
                        value={message.subject}
                        onChange={event => change(at, { subject: event.target.value || ' ' })}
                      />
                      <InsertMenu
                        definition={definition}
                        onInsert={name => change(at, { subject: `${message.subject}{${name}}` })}
                      />
                    </Box>
                    <Body
                      message={message}
                      definition={definition}
                      onChange={body => change(at, { body: body || '<p></p>' })}
                    />
                  </>
                )}
                <Typography variant="overline" component="h2" color="textSecondary">
                  {who ? `As ${who} would read it` : 'As it would be read; rehearse once, and its values stand here'}
                </Typography>
                <MailPreview {...fillMessage(message, words)} />
                {!readOnly && uses.length === 0 && (
                  <Button
                    size="small"
                    color="error"
                    sx={{ justifySelf: 'start' }}
                    onClick={() =>
                      onChange(
                        setAt(
                          definition,
                          ['messages'],
                          definition.messages.filter(m => m !== message),
                        ),
                      )
                    }
                  >
                    Remove the message
                  </Button>
                )}
              </Box>
            )}
          </Box>
        );
      })}
      {!readOnly && (
        <Button size="small" startIcon={<AddOutlined />} sx={{ m: 1 }} onClick={add}>
          New message
        </Button>
      )}
      <Closings definition={definition} readOnly={readOnly} onChange={onChange} />
    </>
  );
}

function Closings({ definition, readOnly, onChange }: Pick<Props, 'definition' | 'readOnly' | 'onChange'>) {
  const { closings } = definition;
  const set = (at: number, key: string, value: unknown) => onChange(setAt(definition, ['closings', at, key], value));
  const used = (id: string) =>
    structure(definition).all.some(p => JSON.stringify(p.step).includes(`"closing":"${id}"`));
  return (
    <Box component="section" aria-label="Closings" sx={{ p: 2, borderTop: '1px solid', borderColor: 'divider' }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        How it can end
      </Typography>
      {closings.map((closing, at) => (
        <Box
          key={closing.id}
          sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 120px 1fr auto' }, gap: 1, mt: 1 }}
        >
          <TextField
            size="small"
            label="Closing"
            value={closing.name}
            disabled={readOnly}
            onChange={event => set(at, 'name', event.target.value || ' ')}
          />
          <TextField
            select
            size="small"
            label="It is"
            value={closing.tone}
            disabled={readOnly}
            onChange={event => set(at, 'tone', event.target.value)}
          >
            <MenuItem value="good">good</MenuItem>
            <MenuItem value="bad">bad</MenuItem>
            <MenuItem value="neutral">neither</MenuItem>
          </TextField>
          <TextField
            select
            size="small"
            label="The asker gets"
            value={closing.message ?? ''}
            disabled={readOnly}
            onChange={event => set(at, 'message', event.target.value || null)}
          >
            <MenuItem value="">nothing</MenuItem>
            {definition.messages.map(m => (
              <MenuItem key={m.id} value={m.id}>
                “{m.name}”
              </MenuItem>
            ))}
          </TextField>
          {!readOnly && closings.length > 1 && !used(closing.id) && (
            <Button
              size="small"
              onClick={() =>
                onChange(
                  setAt(
                    definition,
                    ['closings'],
                    closings.filter(c => c !== closing),
                  ),
                )
              }
            >
              Remove
            </Button>
          )}
        </Box>
      ))}
      {!readOnly && (
        <Button
          size="small"
          startIcon={<AddOutlined />}
          sx={{ mt: 1 }}
          onClick={() => {
            const name = `Closing ${closings.length + 1}`;
            onChange(
              setAt(
                definition,
                ['closings'],
                [
                  ...closings,
                  {
                    id: idFrom(
                      name,
                      closings.map(c => c.id),
                    ),
                    name,
                    tone: 'neutral',
                    message: null,
                  },
                ],
              ),
            );
          }}
        >
          New closing
        </Button>
      )}
    </Box>
  );
}
