/** Versions: who published what and when, what differs in sentences, taking back, moving open requests, archiving, and who may. */

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { Permissions, SheetView } from '@north-pebble/contract';
import type { DirectoryIndex, PersonId } from '@north-pebble/core/people';
import { fullMoment } from '@north-pebble/core/time';
import { compare, type Definition, type Difference, differenceWords, pieces } from '@north-pebble/core/workflow';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../../api/client.ts';
import { movableQuery, queryClient, versionQuery } from '../../../api/queries.ts';
import { FailureNote, Note } from '../../../parts/Notes.tsx';
import { Loaded } from '../../../parts/Page.tsx';
import { Sure } from '../../../parts/Sure.tsx';

const kindWords: Record<Difference['kind'], string> = {
  same: '',
  changed: 'changed',
  moved: 'moved',
  new: 'new',
  gone: 'gone',
};
const kindColour: Record<Difference['kind'], string> = {
  same: 'text.secondary',
  changed: 'secondary.main',
  moved: 'secondary.main',
  new: 'success.main',
  gone: 'error.main',
};

function Sentence({ difference, side }: { difference: Difference; side: 'before' | 'after' }) {
  const words = difference[side];
  if (words === null) return <Box sx={{ color: 'text.secondary', opacity: 0.6 }}>–</Box>;
  if (difference.kind !== 'changed') return <>{words}</>;
  const found = pieces(difference.before ?? '', difference.after ?? '').filter(
    p => p.kind === 'same' || (p.kind === 'gone') === (side === 'before'),
  );
  return found.map((piece, i) =>
    piece.kind === 'same' ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: pieces have no identity besides their place
      <span key={i}>{piece.text}</span>
    ) : (
      <Box
        // biome-ignore lint/suspicious/noArrayIndexKey: pieces have no identity besides their place
        key={i}
        component={side === 'before' ? 'del' : 'ins'}
        sx={{
          color: side === 'before' ? 'error.main' : 'success.main',
          textDecoration: side === 'before' ? 'line-through' : 'underline',
          textDecorationThickness: '1.5px',
        }}
      >
        {piece.text}
      </Box>
    ),
  );
}

/** Two versions side by side, sentence by sentence; what is the same is folded away. */
export function Compare({
  before,
  after,
  index,
  names,
}: {
  before: Definition;
  after: Definition;
  index: DirectoryIndex | undefined;
  names: [string, string];
}) {
  const [all, setAll] = useState(false);
  const differences = compare(before, after, index);
  const shown = differences.filter(d => all || d.kind !== 'same');
  return (
    <Box component="section" aria-label="Compare" sx={{ p: 2 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', mb: 1 }}>
        <Typography variant="h3" component="h2">
          {differenceWords(differences)}
        </Typography>
        <FormControlLabel
          control={<Checkbox size="small" checked={all} onChange={(_, on) => setAll(on)} />}
          label="Also what is the same"
        />
      </Box>
      <Box
        component="table"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          fontSize: 13.5,
          tableLayout: 'fixed',
          '& td, & th': {
            verticalAlign: 'top',
            textAlign: 'left',
            p: 0.75,
            borderBottom: '1px solid',
            borderColor: 'divider',
          },
        }}
      >
        <thead>
          <tr>
            <Box component="th" sx={{ width: 84 }}>
              Where
            </Box>
            <th>{names[0]}</th>
            <th>{names[1]}</th>
          </tr>
        </thead>
        <tbody>
          {shown.map(d => (
            <tr key={`${d.section}-${d.id}`}>
              <td>
                {d.section}
                {d.numbers && ` ${d.numbers.after ?? d.numbers.before}`}
                <Box sx={{ color: kindColour[d.kind], fontWeight: 600, fontSize: 12 }}>{kindWords[d.kind]}</Box>
              </td>
              <td>
                <Sentence difference={d} side="before" />
              </td>
              <td>
                <Sentence difference={d} side="after" />
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

function MoveRequests({ sheet }: { sheet: SheetView }) {
  const movable = useQuery(movableQuery(sheet.id));
  const [chosen, setChosen] = useState<string[]>([]);
  const [reason, setReason] = useState('');
  const move = useMutation({
    mutationFn: () =>
      call('POST /workflows/:id/moving', { params: { id: sheet.id }, body: { requests: chosen, reason } }),
    onSuccess: async () => {
      setChosen([]);
      await queryClient.invalidateQueries();
    },
  });
  return (
    <Box
      component="section"
      aria-label="Moving open requests"
      sx={{ p: 2, borderTop: '1px solid', borderColor: 'divider' }}
    >
      <Typography variant="h3" component="h2">
        Open requests on older versions
      </Typography>
      <Loaded query={movable}>
        {rows => {
          const fits = rows.filter(r => r.obstacles.length === 0);
          if (rows.length === 0)
            return <Typography variant="body2">There are none: every open request is on the live version.</Typography>;
          return (
            <>
              <Typography variant="body2" color="textSecondary">
                {fits.length} of {rows.length} fit version {sheet.live?.version}. They finish on their own version
                unless you move them.
              </Typography>
              <Box sx={{ maxHeight: 280, overflowY: 'auto', my: 1 }} tabIndex={0} role="group" aria-label="Requests">
                {rows.map(row => (
                  <Box key={row.request} sx={{ borderBottom: '1px solid', borderColor: 'divider', fontSize: 14 }}>
                    <FormControlLabel
                      disabled={row.obstacles.length > 0}
                      control={
                        <Checkbox
                          size="small"
                          checked={chosen.includes(row.request)}
                          onChange={(_, on) =>
                            setChosen(on ? [...chosen, row.request] : chosen.filter(r => r !== row.request))
                          }
                        />
                      }
                      label={`${row.request}, ${row.askerName}: ${row.title}, ${row.standing} (version ${row.version})`}
                    />
                    {row.obstacles.map(why => (
                      <Box key={why} sx={{ pl: 4, color: 'warning.main', fontSize: 13 }}>
                        {why}
                      </Box>
                    ))}
                  </Box>
                ))}
              </Box>
              <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
                <Button size="small" onClick={() => setChosen(fits.map(r => r.request))}>
                  Choose all that fit
                </Button>
                <TextField
                  size="small"
                  label="Why they are moved"
                  value={reason}
                  onChange={event => setReason(event.target.value)}
                  sx={{ flex: 1 }}
                />
                <Button
                  variant="outlined"
                  disabled={chosen.length === 0 || reason.trim() === '' || move.isPending}
                  onClick={() => move.mutate()}
                >
                  Move {chosen.length} {chosen.length === 1 ? 'request' : 'requests'}
                </Button>
              </Box>
            </>
          );
        }}
      </Loaded>
      {move.error && <FailureNote fault={move.error} />}
      {move.data && (
        <Note
          tone={move.data.refused.length > 0 ? 'waiting' : 'good'}
          title={`${move.data.moved.length} moved`}
          role="status"
        >
          {move.data.refused.map(r => `${r.request}: ${r.why}`).join(' ')}
        </Note>
      )}
    </Box>
  );
}

function KeepersForm({ sheet, index }: { sheet: SheetView; index: DirectoryIndex | undefined }) {
  const [permissions, setPermissions] = useState<Permissions>(sheet.permissions ?? { edit: [], publish: [], see: [] });
  const people = index?.directory.people ?? [];
  const save = useMutation({
    mutationFn: () =>
      call('PUT /workflows/:id/permissions', {
        params: { id: sheet.id },
        body: { permissions: Object.values(permissions).every(list => list.length === 0) ? null : permissions },
      }),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  const field = (key: keyof Permissions, label: string) => (
    <Autocomplete
      multiple
      size="small"
      options={people.map(p => p.id as string)}
      value={permissions[key]}
      getOptionLabel={id => index?.person(id as PersonId)?.name ?? id}
      onChange={(_, value) => setPermissions({ ...permissions, [key]: value })}
      renderInput={params => (
        <TextField {...params} label={label} placeholder={permissions[key].length === 0 ? 'every designer' : ''} />
      )}
    />
  );
  return (
    <Box
      component="section"
      aria-label="Who may"
      sx={{ p: 2, borderTop: '1px solid', borderColor: 'divider', display: 'grid', gap: 1.25 }}
    >
      <Typography variant="h3" component="h2">
        Who may
      </Typography>
      {field('edit', 'Write')}
      {field('publish', 'Publish, archive and move')}
      {field('see', 'See, besides those')}
      {save.error && <FailureNote fault={save.error} />}
      {save.isSuccess && <Note tone="good" title="Kept" role="status" />}
      <Button sx={{ justifySelf: 'start' }} disabled={save.isPending} onClick={() => save.mutate()}>
        Keep
      </Button>
    </Box>
  );
}

export function Versions({
  sheet,
  definition,
  index,
  zone,
  isDraft,
  onTakeBack,
  onBeginAgain,
}: {
  sheet: SheetView;
  definition: Definition;
  index: DirectoryIndex | undefined;
  zone: string;
  isDraft: boolean;
  /** An older version becomes the draft, as one change that can be undone. */
  onTakeBack: (definition: Definition) => void;
  onBeginAgain: () => Promise<void>;
}) {
  const newest = sheet.versions[0]?.version;
  const [left, setLeft] = useState<number | null>(newest ?? null);
  const [right, setRight] = useState<number | 'draft'>('draft');
  const before = useQuery({ ...versionQuery(sheet.id, left ?? 0), enabled: left !== null });
  const after = useQuery({ ...versionQuery(sheet.id, right === 'draft' ? 0 : right), enabled: right !== 'draft' });
  const takeBack = useMutation({
    mutationFn: (version: number) => queryClient.fetchQuery(versionQuery(sheet.id, version)),
    onSuccess: old => onTakeBack(old),
  });
  const [asked, setAsked] = useState<number | null>(null);
  const archive = useMutation({
    mutationFn: () =>
      call('PUT /workflows/:id/archive', { params: { id: sheet.id }, body: { archived: sheet.archivedAt === null } }),
    onSuccess: () => onBeginAgain(),
  });
  const now = right === 'draft' ? definition : after.data;
  return (
    <>
      {sheet.versions.length === 0 && (
        <Typography sx={{ p: 2 }}>
          Nothing is published yet. Once it is, every version stands here, and can be compared and used again.
        </Typography>
      )}
      {sheet.versions.map(v => (
        <Box
          key={v.version}
          sx={{
            display: 'grid',
            gridTemplateColumns: '110px 1fr auto',
            px: 2,
            py: 1,
            borderBottom: '1px solid',
            borderColor: 'divider',
            fontSize: 14,
            alignItems: 'baseline',
          }}
        >
          <b>
            Version {v.version}
            {sheet.live?.version === v.version && ', live'}
          </b>
          <Box>
            {v.comment}
            <Typography variant="body2" color="textSecondary">
              {v.publishedBy}, {fullMoment(v.publishedAt, zone)}
              {v.open > 0 && ` · ${v.open} open ${v.open === 1 ? 'request stays' : 'requests stay'} on it`}
            </Typography>
          </Box>
          {sheet.may.edit && (
            <Button
              size="small"
              disabled={takeBack.isPending}
              onClick={() => (isDraft ? setAsked(v.version) : takeBack.mutate(v.version))}
            >
              Draft from this version
            </Button>
          )}
        </Box>
      ))}
      {takeBack.error && <FailureNote fault={takeBack.error} />}
      {asked !== null && (
        <Sure
          title={`Draft from version ${asked}?`}
          verb={`Use version ${asked}`}
          onNo={() => setAsked(null)}
          onYes={() => {
            setAsked(null);
            takeBack.mutate(asked);
          }}
        >
          It takes the place of what is drafted now. Undo brings that back as long as you stay on this page.
        </Sure>
      )}
      {sheet.versions.length > 0 && (
        <Box sx={{ display: 'flex', gap: 1, px: 2, pt: 2 }}>
          <TextField
            select
            size="small"
            label="From"
            value={left ?? ''}
            onChange={event => setLeft(Number(event.target.value))}
            sx={{ width: 200 }}
          >
            {sheet.versions.map(v => (
              <MenuItem key={v.version} value={v.version}>
                Version {v.version}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label="To"
            value={right}
            onChange={event => setRight(event.target.value === 'draft' ? 'draft' : Number(event.target.value))}
            sx={{ width: 200 }}
          >
            <MenuItem value="draft">What stands here</MenuItem>
            {sheet.versions.map(v => (
              <MenuItem key={v.version} value={v.version}>
                Version {v.version}
              </MenuItem>
            ))}
          </TextField>
        </Box>
      )}
      {before.data && now && left !== null && (
        <Compare
          before={before.data}
          after={now}
          index={index}
          names={[`Version ${left}`, right === 'draft' ? 'What stands here' : `Version ${right}`]}
        />
      )}
      {sheet.live && sheet.may.publish && <MoveRequests sheet={sheet} />}
      {sheet.may.publish && <KeepersForm sheet={sheet} index={index} />}
      {sheet.may.publish && (
        <Box sx={{ p: 2, borderTop: '1px solid', borderColor: 'divider' }}>
          {archive.error && <FailureNote fault={archive.error} />}
          <Button size="small" disabled={archive.isPending} onClick={() => archive.mutate()}>
            {sheet.archivedAt ? 'Take it out of the archive' : 'Archive it'}
          </Button>
          <Typography variant="body2" color="textSecondary">
            {sheet.archivedAt
              ? 'Nobody can ask through it while it is archived; open requests go on.'
              : `Nobody can ask through it any more then; ${sheet.live?.open ?? 0} open requests go on to their end.`}
          </Typography>
        </Box>
      )}
    </>
  );
}
