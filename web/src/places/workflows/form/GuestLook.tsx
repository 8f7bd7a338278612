/** The page of a guest as it will be seen, with what was typed in the form above and nothing handed in. */
import Box from '@mui/material/Box';
import type { GuestView } from '@north-pebble/contract';
import type { Answers } from '@north-pebble/core/form';
import type { Instant } from '@north-pebble/core/time';
import { type Definition, type Facts, type GuestStep, guestForm } from '@north-pebble/core/workflow';
import { GuestPage } from '../../../parts/guest/GuestPage.tsx';

type Props = { definition: Definition; step: GuestStep; answers: Answers; facts: Facts; now: Instant };

export function GuestLook({ definition, step, answers, facts, now }: Props) {
  const form = guestForm(definition, step, answers, { sections: {} }, facts);
  const name = answers[step.guest.name];
  const view: GuestView = {
    state: 'open',
    name: typeof name === 'string' && name !== '' ? name : 'there',
    house: '',
    about: definition.name,
    until: null,
    now,
    date: null,
    contact: '',
    due: null,
    zone: 'UTC',
    sections: form.map(({ section, fields }) => ({
      id: section.id,
      title: section.title,
      help: section.help ?? null,
      state: 'open',
      note: null,
      fields: fields.map(({ field, needed }) => ({ field, needed, readBy: field.readers?.join(' and ') ?? '' })),
      answers: {},
      typed: null,
    })),
    words: [],
    own: null,
    lists: (facts.lists ?? []).map(({ id, rows }) => ({
      id,
      rows: rows.map(row => ({ id: row.id, title: row.title })),
    })),
  };
  return (
    <Box sx={{ maxWidth: 430, border: '1px solid', borderColor: 'divider', borderRadius: '14px', p: 2 }}>
      <GuestPage view={view} token={null} onView={() => {}} onReload={() => Promise.resolve(view)} />
    </Box>
  );
}
