/** Messages in rich text with fields and figures put in, previewed as somebody; and the closings that send them. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { idFrom } from '@north-pebble/core/form';
import {
  cleanRich,
  type Definition,
  fillMessage,
  insertionNames,
  type Message,
  setAt,
  structure,
} from '@north-pebble/core/workflow';
import { useState } from 'react';
import { LettersEditor } from './LettersEditor.tsx';
import { TextHead } from './TextHead.tsx';
import { Body, InsertMenu } from './Writing.tsx';

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
  const names = insertionNames(definition);
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
            <TextHead
              name={message.name}
              verb="sent"
              uses={uses}
              isOpen={isOpen}
              onToggle={() => setOpen(isOpen ? null : message.id)}
            />
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
                        names={names}
                        onInsert={name => change(at, { subject: `${message.subject}{${name}}` })}
                      />
                    </Box>
                    <Body message={message} names={names} onChange={body => change(at, { body: body || '<p></p>' })} />
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
      <LettersEditor definition={definition} readOnly={readOnly} onChange={onChange} />
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
