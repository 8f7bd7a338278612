/** The shelf: workflows by area with live facts, found by tag and by word; starters to begin from. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { may, type ShelfRow } from '@north-pebble/contract';
import { blank, otherWordsOf, starters } from '@north-pebble/core/starters';
import { type Definition, inOneSentence } from '@north-pebble/core/workflow';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink, useNavigate, useSearchParams } from 'react-router';
import { call } from '../../../api/client.ts';
import { queryClient, shelfQuery } from '../../../api/queries.ts';
import { FilterField } from '../../../parts/form/FilterField.tsx';
import { useHere } from '../../../parts/frame/session.ts';
import { FailureNote } from '../../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../../parts/Page.tsx';
import { OpenFile } from '../versions/WorkflowFile.tsx';

function facts(row: ShelfRow): string {
  const said = [
    row.liveVersion === null ? 'not published yet' : `version ${row.liveVersion} is live`,
    `${row.open} open`,
    row.typicalDays === null
      ? null
      : row.typicalDays === 0
        ? 'ends on the same day, as a rule'
        : `${row.typicalDays} ${row.typicalDays === 1 ? 'day' : 'days'} from asking to the end, as a rule`,
  ];
  return said.filter(Boolean).join(' · ');
}

const findingWords = (found: ShelfRow['findings']): string | null => {
  if (!found) return 'being checked';
  const { stops, warns } = found;
  if (stops > 0) return `${stops} ${stops === 1 ? 'finding stops' : 'findings stop'} it`;
  return warns > 0 ? `${warns} ${warns === 1 ? 'warning' : 'warnings'}` : null;
};

const matches = (words: string, ...texts: string[]): boolean =>
  words
    .toLowerCase()
    .split(/\s+/)
    .every(word => texts.some(text => text.toLowerCase().includes(word)));

function Shelf({
  rows,
  words,
  tag,
  archived,
}: {
  rows: ShelfRow[];
  words: string;
  tag: string | null;
  archived: boolean;
}) {
  const shown = rows.filter(
    row =>
      row.archived === archived &&
      (!tag || row.tags.includes(tag)) &&
      matches(words, row.name, row.area, row.purpose, row.sentence, row.tags.join(' ')),
  );
  if (rows.length === 0) return <Empty title="No workflow yet">Begin from a starter below, or from nothing.</Empty>;
  if (shown.length === 0) return <Empty title="Nothing like that">No workflow on the shelf has these words.</Empty>;
  return [...new Set(shown.map(row => row.area))].map(area => (
    <Box component="section" key={area} aria-label={area} sx={{ mb: 3, maxWidth: 860 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        {area}
      </Typography>
      {shown
        .filter(row => row.area === area)
        .map(row => (
          <Box key={row.id} sx={{ py: 1.25, borderBottom: '1px solid', borderColor: 'divider' }}>
            <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', flexWrap: 'wrap' }}>
              <Link component={RouterLink} to={`/workflows/${row.id}`} variant="h2">
                {row.name}
              </Link>
              {row.hasDraft && (
                <Typography variant="body2" color="warning" sx={{ fontWeight: 600 }}>
                  has a draft
                </Typography>
              )}
              {row.stuck > 0 && (
                <Typography variant="body2" color="error" sx={{ fontWeight: 600 }}>
                  {row.stuck} stuck
                </Typography>
              )}
              {findingWords(row.findings) && (
                <Typography variant="body2" color={(row.findings?.stops ?? 0) > 0 ? 'error' : 'textSecondary'}>
                  {findingWords(row.findings)}
                </Typography>
              )}
            </Box>
            <Typography>{row.purpose}</Typography>
            <Typography variant="body2" color="textSecondary">
              {row.sentence}
            </Typography>
            <Typography variant="body2" color="textSecondary">
              {facts(row)}
            </Typography>
          </Box>
        ))}
    </Box>
  ));
}

function Starters({
  words,
  busy,
  onBegin,
}: {
  words: string;
  busy: boolean;
  onBegin: (definition: Definition) => void;
}) {
  const shown = starters.filter(starter => {
    const { definition: d } = starter;
    return matches(words, d.name, d.area, d.purpose, d.tags?.join(' ') ?? '', otherWordsOf(starter));
  });
  return (
    <Box component="section" aria-label="Starters" sx={{ mt: 4, maxWidth: 860 }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Starters
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1.5 }}>
        Whole workflows to begin from. A copy becomes a draft of your own.
      </Typography>
      {[...new Set(shown.map(s => s.definition.area))].map(area => (
        <Box key={area}>
          <Typography variant="overline" component="h3" color="textSecondary">
            {area}
          </Typography>
          {shown
            .filter(s => s.definition.area === area)
            .map(({ id, definition }) => (
              <Box
                key={id}
                sx={{
                  display: 'grid',
                  gridTemplateColumns: { xs: '1fr', sm: '1fr auto' },
                  gap: 2,
                  py: 1,
                  borderBottom: '1px solid',
                  borderColor: 'divider',
                  alignItems: 'start',
                }}
              >
                <Box>
                  <Typography sx={{ fontWeight: 650 }}>{definition.name}</Typography>
                  <Typography variant="body2" color="textSecondary">
                    {inOneSentence(definition)}
                  </Typography>
                </Box>
                <Button
                  size="small"
                  variant="outlined"
                  disabled={busy}
                  aria-label={`Begin from ${definition.name}`}
                  onClick={() => onBegin(definition)}
                >
                  Begin from it
                </Button>
              </Box>
            ))}
        </Box>
      ))}
    </Box>
  );
}

export function ShelfPlace() {
  const { self } = useHere();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const shelf = useQuery(shelfQuery);
  const [name, setName] = useState('');
  const words = search.get('words') ?? '';
  const tag = search.get('tag');
  const archived = search.get('archived') === 'yes';
  const set = (key: string, value: string | null) =>
    setSearch(
      before => {
        const next = new URLSearchParams(before);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const begin = useMutation({
    mutationFn: (definition: Definition) => call('POST /workflows', { body: { definition } }),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: ['workflows'] });
      navigate(`/workflows/${id}?section=About`);
    },
  });
  const designs = may(self, 'design workflows');
  const tags = [...new Set(shelf.data?.flatMap(row => row.tags) ?? [])].sort();
  const anyArchived = shelf.data?.some(row => row.archived) ?? false;
  return (
    <Page title="Workflows">
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 2, maxWidth: 860 }}>
        <FilterField
          size="small"
          type="search"
          label="Find"
          value={words}
          onFilter={typed => set('words', typed)}
          sx={{ width: 220 }}
        />
        {tags.map(t => (
          <Chip
            key={t}
            size="small"
            label={t}
            variant={t === tag ? 'filled' : 'outlined'}
            color={t === tag ? 'primary' : 'default'}
            onClick={() => set('tag', t === tag ? null : t)}
            aria-pressed={t === tag}
          />
        ))}
        {anyArchived && (
          <Button size="small" onClick={() => set('archived', archived ? null : 'yes')}>
            {archived ? 'Back to the shelf' : 'The archive'}
          </Button>
        )}
      </Box>
      {designs && (
        <Box
          component="form"
          sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 3, alignItems: 'center' }}
          onSubmit={event => {
            event.preventDefault();
            if (name.trim()) begin.mutate(blank(name.trim()));
          }}
        >
          <TextField
            size="small"
            label="A new workflow called"
            value={name}
            onChange={event => setName(event.target.value.slice(0, 80))}
            sx={{ width: 280 }}
          />
          <Button type="submit" variant="contained" color="primary" disabled={name.trim() === '' || begin.isPending}>
            Begin from nothing
          </Button>
          <OpenFile label="Begin from a file" onRead={definition => begin.mutate(definition)} />
        </Box>
      )}
      {begin.error && <FailureNote fault={begin.error} />}
      <Loaded query={shelf}>{rows => <Shelf rows={rows} words={words} tag={tag} archived={archived} />}</Loaded>
      {designs && !archived && (
        <Starters words={words} busy={begin.isPending} onBegin={definition => begin.mutate(definition)} />
      )}
    </Page>
  );
}
