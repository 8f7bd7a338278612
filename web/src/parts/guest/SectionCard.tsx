/** The one section that is open: its fields, what is missing, and one button. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { GuestSectionView, GuestView } from '@north-pebble/contract';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { FailureNote, Note } from '../Notes.tsx';
import { GuestField, missingOf } from './GuestField.tsx';
import { PartMark } from './PartMark.tsx';
import { useTyping } from './useTyping.ts';

type Props = {
  section: GuestSectionView;
  view: GuestView;
  token: string | null;
  onView: (view: GuestView) => void;
  /** The page as it is on the server now. */
  onReload: () => Promise<GuestView | undefined>;
  onHandedIn: (view: GuestView) => void;
};

const small = (title: string): string => title.charAt(0).toLowerCase() + title.slice(1);

export function SectionCard({ section, view, token, onView, onReload, onHandedIn }: Props) {
  const { typed, fields, keeping, type, flush, settle } = useTyping(token, section);
  const [tried, setTried] = useState(false);
  const [reading, setReading] = useState<string | null>(null);
  const card = useRef<HTMLDivElement>(null);
  // What was signed in the page is said by the house; it stands over what is typed.
  const values: Readonly<Record<string, unknown>> = {
    ...typed,
    ...Object.fromEntries(
      fields
        .filter(
          ({ field }) => field.kind === 'paper' && (typed[field.id] as { how?: string } | null)?.how !== 'by hand',
        )
        .map(({ field }) => [field.id, section.answers[field.id] ?? null]),
    ),
  };
  const missing = missingOf(fields, values);
  const send = useMutation({
    mutationFn: async () => {
      await flush();
      const asked = new Set(fields.map(({ field }) => field.id));
      const answers = Object.fromEntries(Object.entries(values).filter(([id]) => asked.has(id)));
      return call('POST /guest/:token/sections/:section', {
        params: { token: token ?? '', section: section.id },
        body: { answers },
      });
    },
    onSuccess: onHandedIn,
  });
  const problem = problemOf(send.error);
  const faultOf = (id: string, label: string): string | undefined =>
    problem?.faults?.find(one => one.field === id)?.message ??
    (tried && missing.includes(label) ? 'This is needed.' : undefined);
  const other = problem && !problem.faults?.some(one => fields.some(({ field }) => field.id === one.field));
  const handIn = () => {
    setTried(true);
    if (missing.length === 0) return send.mutate();
    const first = fields.find(({ field }) => field.label === missing[0]);
    const place = card.current?.querySelector(`[data-field="${first?.field.id}"]`);
    place?.scrollIntoView({ block: 'center', behavior: 'smooth' });
    place?.querySelector<HTMLElement>('input, select, textarea, button')?.focus({ preventScroll: true });
  };
  return (
    <Box
      ref={card}
      component="section"
      aria-label={section.title}
      sx={{
        bgcolor: 'background.paper',
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: '16px',
        p: { xs: 2, sm: 2.5 },
        my: 1.75,
      }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mb: 1.5 }}>
        <PartMark state="now" />
        <Typography variant="h2" sx={{ fontSize: 18 }}>
          {section.title}
        </Typography>
      </Box>
      {section.state === 'back' && section.note && (
        <Note tone="rework" title={`${view.contact || 'It'} gives this back to you`}>
          {section.note}
        </Note>
      )}
      {section.help && (
        <Typography variant="body2" color="textSecondary" sx={{ mb: 2 }}>
          {section.help}
        </Typography>
      )}
      <Box sx={{ display: 'grid', gap: 2.5 }}>
        {fields.map(({ field, needed, readBy }) => (
          <Box key={field.id} data-field={field.id} sx={{ minWidth: 0 }}>
            <GuestField
              field={field}
              needed={needed}
              readBy={readBy}
              value={values[field.id]}
              fault={faultOf(field.id, field.label)}
              token={token}
              view={view}
              onType={value => type(field.id, value)}
              onSigned={onView}
              reading={reading}
              onReading={setReading}
            />
          </Box>
        ))}
      </Box>
      {keeping === 'other' && (
        <Box sx={{ mt: 2 }}>
          <Note tone="waiting" title="This part was changed on another device meanwhile" role="alert">
            <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 0.75 }}>
              {(['theirs', 'mine'] as const).map(which => (
                <Button
                  key={which}
                  size="small"
                  onClick={async () => {
                    const found = (await onReload())?.sections.find(one => one.id === section.id);
                    if (found) settle(found, which);
                  }}
                >
                  {which === 'theirs' ? 'Show that' : 'Keep what is here'}
                </Button>
              ))}
            </Box>
          </Note>
        </Box>
      )}
      {/* One clear button at a time: while a paper is open, that is its own. */}
      {token !== null && reading === null && (
        <>
          <Box sx={{ mt: 2 }}>
            {missing.length > 0 && (
              <Note tone="waiting" title={`Still missing: ${missing.join(', ')}`}>
                You can hand this in once it is here.
              </Note>
            )}
            {other && <FailureNote fault={send.error} />}
          </Box>
          <Button
            fullWidth
            variant="contained"
            color="primary"
            disabled={send.isPending || keeping === 'other'}
            onClick={handIn}
            sx={{ minHeight: 52, borderRadius: '13px', fontSize: 16.5 }}
          >
            Hand in: {small(section.title)}
          </Button>
          <Typography variant="body2" color="textSecondary" role="status" sx={{ mt: 1 }}>
            {keeping === 'away'
              ? 'Not kept yet: there is no connection. It is tried again by itself; leave this page open.'
              : keeping === 'keeping'
                ? 'Keeping what you type …'
                : 'Everything you type is kept.'}
          </Typography>
        </>
      )}
    </Box>
  );
}
