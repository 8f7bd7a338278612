/** The rest of the sheet in words: form, figures, messages, closings, versions. */

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { SheetView } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import type { Definition, Field } from '@north-pebble/core/workflow';
import type { ReactNode } from 'react';
import { useHere } from '../../parts/session.ts';

const kindWords: Record<Field['kind'], string> = {
  'leave span': 'first and last day, by halves',
  choice: 'a choice',
  text: 'a line of text',
  'long text': 'text',
  'yes/no': 'yes or no',
};

function Entry({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: '150px 1fr' },
        px: 2,
        py: 0.9,
        borderBottom: '1px solid',
        borderColor: 'divider',
        fontSize: 14,
      }}
    >
      <Box sx={{ fontWeight: 650 }}>{name}</Box>
      <Box sx={{ color: 'text.secondary' }}>{children}</Box>
    </Box>
  );
}

export function FormSection({ definition }: { definition: Definition }) {
  return definition.form.fields.map(field => (
    <Entry key={field.id} name={field.label}>
      {kindWords[field.kind]}
      {field.required ? ', needed' : ''}
      {field.help ? `. ${field.help}` : ''}
    </Entry>
  ));
}

export function FiguresSection({ definition }: { definition: Definition }) {
  return definition.figures.map(figure => (
    <Entry key={figure.id} name={figure.name}>
      <code>{figure.formula}</code>
    </Entry>
  ));
}

export function MessagesSection({ definition }: { definition: Definition }) {
  return (
    <>
      {definition.messages.map(message => (
        <Entry key={message.id} name={message.name}>
          <Box sx={{ color: 'text.primary' }}>{message.subject}</Box>
          <Box sx={{ whiteSpace: 'pre-wrap' }}>{message.body}</Box>
        </Entry>
      ))}
      {definition.closings.map(closing => (
        <Entry key={closing.id} name={`Closing: ${closing.name}`}>
          {closing.message
            ? `the asker gets “${definition.messages.find(m => m.id === closing.message)?.name ?? '?'}”`
            : 'the asker is not told'}
        </Entry>
      ))}
    </>
  );
}

export function VersionsSection({ sheet }: { sheet: SheetView }) {
  const { self } = useHere();
  if (sheet.versions.length === 0) return <Typography sx={{ p: 2 }}>Nothing is published yet.</Typography>;
  return sheet.versions.map(version => (
    <Entry key={version.version} name={`Version ${version.version}`}>
      <Typography variant="body2" color="textPrimary">
        {version.comment}
      </Typography>
      {version.publishedBy}, {momentWords(version.publishedAt, self.zone)} {version.publishedAt.slice(0, 4)}
      {version.open > 0 && ` · ${version.open} open ${version.open === 1 ? 'request stays' : 'requests stay'} on it`}
    </Entry>
  ));
}
