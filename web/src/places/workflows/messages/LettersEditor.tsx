/** Letters: papers with values put in, made into PDFs by a step and kept in a field. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { idFrom } from '@north-pebble/core/form';
import { type Definition, type Letter, letterInsertionNames, setAt, structure } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { TextHead } from './TextHead.tsx';
import { Body, InsertMenu } from './Writing.tsx';

type Props = { definition: Definition; readOnly: boolean; onChange: (definition: Definition) => void };

export function LettersEditor({ definition, readOnly, onChange }: Props) {
  const letters = definition.letters ?? [];
  const [open, setOpen] = useState<string | null>(null);
  const names = letterInsertionNames(definition);
  const put = (next: readonly Letter[]) => onChange(setAt(definition, ['letters'], next.length > 0 ? next : undefined));
  const change = (at: number, next: Partial<Letter>) =>
    put(letters.map((letter, n) => (n === at ? { ...letter, ...next } : letter)));
  const madeBy = (id: string) =>
    structure(definition).all.flatMap(({ step, number }) =>
      step.verb === 'Record' && step.effect.kind === 'make letter' && step.effect.letter === id
        ? [`step ${number}`]
        : [],
    );
  const add = () => {
    const name = `Letter ${letters.length + 1}`;
    const id = idFrom(
      name,
      letters.map(one => one.id),
    );
    put([...letters, { id, name, title: '{workflow}: {subject}', body: '<p></p>' }]);
    setOpen(id);
  };
  return (
    <Box
      component="section"
      aria-label="Letters"
      sx={{ borderTop: '1px solid', borderColor: 'divider', pt: 1.5, mt: 1 }}
    >
      <Typography variant="overline" component="h2" color="textSecondary" sx={{ px: 2 }}>
        Letters, made as PDFs
      </Typography>
      {letters.map((letter, at) => {
        const isOpen = letter.id === open;
        const makers = madeBy(letter.id);
        return (
          <Box key={letter.id} sx={{ borderBottom: '1px solid', borderColor: 'divider' }}>
            <TextHead
              name={letter.name}
              verb="made"
              uses={makers}
              isOpen={isOpen}
              onToggle={() => setOpen(isOpen ? null : letter.id)}
            />
            {isOpen && (
              <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.25 }}>
                <TextField
                  size="small"
                  label="Name of the letter"
                  value={letter.name}
                  disabled={readOnly}
                  onChange={event => event.target.value.length <= 80 && change(at, { name: event.target.value || ' ' })}
                />
                <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1 }}>
                  <TextField
                    size="small"
                    label="Head of the page"
                    value={letter.title}
                    disabled={readOnly}
                    onChange={event =>
                      event.target.value.length <= 200 && change(at, { title: event.target.value || ' ' })
                    }
                  />
                  {!readOnly && (
                    <InsertMenu names={names} onInsert={name => change(at, { title: `${letter.title}{${name}}` })} />
                  )}
                </Box>
                {!readOnly && (
                  <Body message={letter} names={names} onChange={body => change(at, { body: body || '<p></p>' })} />
                )}
                <TextField
                  size="small"
                  label="Foot of every page"
                  value={letter.foot ?? ''}
                  disabled={readOnly}
                  onChange={event =>
                    event.target.value.length <= 300 && change(at, { foot: event.target.value || undefined })
                  }
                />
                <Typography variant="body2" color="textSecondary">
                  A paragraph with the name of a table alone becomes that table; {'{answers}'} are all answers that may
                  be read, {'{decisions}'} who decided what and when.
                </Typography>
                {!readOnly && makers.length === 0 && (
                  <Button
                    size="small"
                    color="error"
                    sx={{ justifySelf: 'start' }}
                    onClick={() => put(letters.filter(one => one !== letter))}
                  >
                    Remove the letter
                  </Button>
                )}
              </Box>
            )}
          </Box>
        );
      })}
      {!readOnly && (
        <Button size="small" startIcon={<AddOutlined />} sx={{ m: 1 }} onClick={add}>
          New letter
        </Button>
      )}
    </Box>
  );
}
