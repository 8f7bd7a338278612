/** Moving in by files: chosen, their columns matched, looked at, and taken over as a whole. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { type MovingPreview, may } from '@north-pebble/contract';
import { movingTables, tableIds } from '@north-pebble/core/movingIn';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { call } from '../../../api/client.ts';
import { houseBeginsQuery, queryClient } from '../../../api/queries.ts';
import { FileButton } from '../../../parts/FileButton.tsx';
import { DayField } from '../../../parts/form/DayField.tsx';
import { useHere } from '../../../parts/frame/session.ts';
import { FailureNote, Note } from '../../../parts/Notes.tsx';
import { HouseFrame } from '../HouseFrame.tsx';
import { FileColumns } from './FileColumns.tsx';
import { FromDirectory } from './FromDirectory.tsx';
import { faultWords, type ReadFile, readFile } from './reading.ts';

type Chosen = {
  key: number;
  name: string;
  share: number;
  fault: string | null;
  file: ReadFile | null;
  stop: () => void;
};

let keys = 0;

/** What these bring is not taken back with the change. */
const bringsLeave: ReadonlySet<string> = new Set(['balances', 'bookings']);

function Tables() {
  return (
    <Box component="section" aria-label="Tables" sx={{ mt: 5 }}>
      <Typography variant="h2">The tables</Typography>
      <Typography variant="body2" color="textSecondary" sx={{ maxWidth: 720, mb: 1 }}>
        Each is a CSV file: the first line names its columns. Several can be moved in with at one go, in any order. What
        is on file already and stands the same stays; nothing that is missing from a file is taken away.
      </Typography>
      <Box
        component="ul"
        sx={{
          listStyle: 'none',
          p: 0,
          m: 0,
          display: 'grid',
          gap: 1.5,
          gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' },
        }}
      >
        {tableIds.map(id => {
          const { name, says, columns } = movingTables[id];
          return (
            <Box component="li" key={id} sx={{ borderLeft: '3px solid', borderColor: 'divider', pl: 1.5 }}>
              <Typography variant="h3" component="h3">
                {name}
              </Typography>
              <Typography variant="body2" color="textSecondary">
                {says}
              </Typography>
              <Box component="details" sx={{ fontSize: 13.5, my: 0.5 }}>
                <summary>{columns.length} columns</summary>
                <Box component="dl" sx={{ m: 0, mt: 0.5 }}>
                  {columns.map(one => (
                    <Box key={one.id}>
                      <Box component="dt" sx={{ fontWeight: 600, display: 'inline' }}>
                        {one.label}
                        {one.needed ? '' : ' (may stay empty)'}
                      </Box>
                      <Box component="dd" sx={{ display: 'inline', m: 0, ml: 0.75, color: 'text.secondary' }}>
                        {one.means}
                      </Box>
                    </Box>
                  ))}
                </Box>
              </Box>
              <Link href={`/api/moving/${id}/template.csv`} download sx={{ fontSize: 14, mr: 2 }}>
                Template
              </Link>
              <Link href={`/api/moving/${id}/file.csv`} download sx={{ fontSize: 14 }}>
                As it is on file
              </Link>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

function Faults({ preview }: { preview: MovingPreview }) {
  const n = preview.faults.length + preview.moreFaults;
  return (
    <Box role="region" aria-label="What is wrong" sx={{ my: 2 }}>
      <Note tone="stop" role="alert" title={n === 1 ? 'One thing is wrong' : `${n} things are wrong`}>
        Nothing is taken over before all lines are right. Put them right in the files, and choose them again.
      </Note>
      <Box sx={{ overflowX: 'auto' }}>
        <Box
          component="table"
          sx={{
            fontSize: 14,
            borderCollapse: 'collapse',
            '& th, & td': {
              textAlign: 'left',
              py: 0.5,
              pr: 2,
              verticalAlign: 'top',
              borderBottom: '1px solid',
              borderColor: 'divider',
            },
            '& th': { fontWeight: 500, color: 'text.secondary' },
          }}
        >
          <thead>
            <tr>
              <th scope="col">Table</th>
              <th scope="col">Line</th>
              <th scope="col">Column</th>
              <th scope="col">What stands there</th>
              <th scope="col">What would be right</th>
            </tr>
          </thead>
          <tbody>
            {preview.faults.map(one => (
              <tr key={`${one.table} ${one.line} ${one.column} ${one.code} ${one.right}`}>
                <td>{movingTables[one.table].name}</td>
                <td className="n">{one.line || '–'}</td>
                <td>{one.column || 'the line'}</td>
                <td>{one.value || (one.code === 'needed' ? 'nothing' : '')}</td>
                <td>{one.right}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
      {preview.moreFaults > 0 && <Typography variant="body2">And {preview.moreFaults} more.</Typography>}
    </Box>
  );
}

const noOpeningTitle = (n: number): string =>
  n === 1
    ? 'One person comes without an opening balance'
    : `${n.toLocaleString('en-GB')} people come without an opening balance`;

/** The day on which the house begins: until then what was is said by opening balances. */
function Begins() {
  const begins = useQuery(houseBeginsQuery);
  const save = useMutation({
    mutationFn: (on: string | null) => call('PUT /moving/begins', { body: { on: on as never } }),
    onSuccess: found => queryClient.setQueryData(houseBeginsQuery.queryKey, found),
  });
  const fault = save.error instanceof Error ? save.error.message : undefined;
  return (
    <Box sx={{ maxWidth: 320, my: 2 }}>
      <DayField
        label="The house begins here on"
        date={begins.data?.on ?? ''}
        onDate={on => save.mutate(on === '' ? null : on)}
        fault={fault !== undefined}
        help={fault ?? 'Whoever joined before it brings an opening balance. Left empty, it is today.'}
      />
    </Box>
  );
}

function Brings({ preview }: { preview: MovingPreview }) {
  const words = ({ added, changed, same }: MovingPreview['counts'][number]) =>
    [
      added > 0 && `${added.toLocaleString('en-GB')} new`,
      changed > 0 && `${changed.toLocaleString('en-GB')} changed`,
      same > 0 && `${same.toLocaleString('en-GB')} as they are`,
    ]
      .filter(Boolean)
      .join(', ') || 'nothing';
  return (
    <Box
      role="region"
      aria-label="What they bring"
      sx={{ my: 2, borderLeft: '3px solid', borderColor: 'primary.main', pl: 1.5 }}
    >
      <Typography variant="h3" component="h2">
        What they bring
      </Typography>
      <Box component="ul" sx={{ m: 0, pl: 2.25, fontSize: 14.5 }}>
        {preview.counts.map(one => (
          <li key={one.table}>
            {movingTables[one.table].name}: {words(one)}
          </li>
        ))}
      </Box>
      {preview.noOpening.length > 0 && (
        <Box sx={{ maxWidth: 720, mt: 1 }}>
          <Note tone="waiting" title={noOpeningTitle(preview.noOpening.length + preview.moreNoOpening)}>
            They were here before the house begins, and nothing says what is left of their leave: every year since their
            first day would be worked out as if they had never taken any. Add a file of opening balances for{' '}
            {preview.noOpening.join(', ')}
            {preview.moreNoOpening > 0 && ` and ${preview.moreNoOpening.toLocaleString('en-GB')} more`}.
          </Note>
        </Box>
      )}
      {preview.says.length > 0 && (
        <Box component="details" sx={{ mt: 1, fontSize: 14 }}>
          <summary>One by one</summary>
          {preview.says.map((one, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the same words may stand there twice
            <div key={n}>{one}</div>
          ))}
          {preview.moreSays > 0 && <div>And {preview.moreSays.toLocaleString('en-GB')} more facts.</div>}
        </Box>
      )}
    </Box>
  );
}

export function MovingPlace() {
  const { self } = useHere();
  const [chosen, setChosen] = useState<readonly Chosen[]>([]);
  const [done, setDone] = useState<{ facts: number; leave: boolean } | null>(null);
  const stopper = useRef<AbortController | null>(null);
  const files = chosen.flatMap(({ file }) =>
    file?.table ? [{ table: file.table, form: file.form, columns: file.columns, rows: file.rows }] : [],
  );
  const preview = useMutation({
    mutationFn: () => {
      stopper.current = new AbortController();
      return call('POST /moving/preview', { body: { files }, signal: stopper.current.signal });
    },
  });
  const move = useMutation({
    mutationFn: (digest: string) => call('POST /moving', { body: { files, digest } }),
    onSuccess: async ({ facts }) => {
      setDone({ facts, leave: files.some(one => bringsLeave.has(one.table)) });
      setChosen([]);
      preview.reset();
      await queryClient.invalidateQueries();
    },
  });
  const latest = useRef(chosen);
  useEffect(() => {
    latest.current = chosen;
  });
  // Whoever leaves the page stops what is still being read.
  useEffect(
    () => () => {
      for (const one of latest.current) one.stop();
    },
    [],
  );
  const anew = () => {
    preview.reset();
    move.reset();
    setDone(null);
  };
  const choose = (files: readonly File[]) => {
    const added = files.map((file): Chosen => {
      const key = ++keys;
      const put = (more: Partial<Chosen>) =>
        setChosen(all => all.map(one => (one.key === key ? { ...one, ...more } : one)));
      const stop = readFile(file, told => {
        if (told.at === 'reading') put({ share: told.share });
        else if (told.at === 'fault') put({ fault: faultWords[told.fault], share: 1 });
        else put({ file: told.file, share: 1 });
      });
      return { key, name: file.name, share: 0, fault: null, file: null, stop };
    });
    setChosen([...chosen, ...added]);
    anew();
  };
  const found = preview.data;
  const isReading = chosen.some(one => one.file === null && one.fault === null);
  const mayLook = files.length > 0 && files.length === chosen.length && !isReading;
  return (
    <HouseFrame
      title="Moving in"
      sub="People, posts, lines, records, patterns, calendars, roles, lists, balances and booked leave from files."
      actions={
        <FileButton variant="contained" color="primary" accept=".csv,text/csv" multiple onFiles={choose}>
          Choose files
        </FileButton>
      }
    >
      {done !== null && (
        <Note
          tone="good"
          role="status"
          title={
            done.facts === 0
              ? 'Everything was there already'
              : `${done.facts.toLocaleString('en-GB')} facts were taken over`
          }
        >
          {done.facts === 0
            ? 'Nothing was changed.'
            : done.leave
              ? 'They stand under “What was changed”. What brought balances or booked leave is not taken back: it is corrected by another file, or by hand.'
              : 'They stand under “What was changed”, and can be taken back from there.'}
        </Note>
      )}
      <Begins />
      {chosen.length === 0 && done === null && (
        <Typography color="textSecondary" sx={{ maxWidth: 640 }}>
          Choose one file or several. Nothing is stored before you have seen what they bring.
        </Typography>
      )}
      {chosen.map(one => (
        <Box
          key={one.key}
          component="section"
          aria-label={one.name}
          sx={{ border: '1px solid', borderColor: 'divider', borderRadius: 3, p: 2, mb: 1.5 }}
        >
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
            <Typography variant="h3" component="h2" sx={{ flex: 1 }}>
              {one.name}
            </Typography>
            <Button
              size="small"
              aria-label={one.file || one.fault ? `Leave ${one.name} out` : `Stop reading ${one.name}`}
              onClick={() => {
                one.stop();
                setChosen(chosen.filter(other => other.key !== one.key));
                anew();
              }}
            >
              {one.file || one.fault ? 'Leave it out' : 'Stop'}
            </Button>
          </Box>
          {one.file === null && one.fault === null && (
            <LinearProgress variant="determinate" value={one.share * 100} aria-label={`Reading ${one.name}`} />
          )}
          {one.fault && (
            <Typography role="alert" color="error" variant="body2">
              {one.fault}
            </Typography>
          )}
          {one.file && (
            <FileColumns
              file={one.file}
              onChange={file => {
                setChosen(chosen.map(other => (other.key === one.key ? { ...other, file } : other)));
                anew();
              }}
            />
          )}
        </Box>
      ))}
      {found && (found.faults.length > 0 ? <Faults preview={found} /> : <Brings preview={found} />)}
      <FailureNote fault={preview.isPending ? null : (move.error ?? preview.error)} />
      {chosen.length > 0 && (
        <Box sx={{ display: 'flex', gap: 1 }}>
          {found && found.faults.length === 0 ? (
            <Button
              variant="contained"
              color="primary"
              disabled={move.isPending}
              onClick={() => move.mutate(found.digest)}
            >
              {move.isPending ? 'One moment …' : 'Move in'}
            </Button>
          ) : (
            <Button
              variant="contained"
              color="primary"
              disabled={!mayLook || preview.isPending}
              onClick={() => preview.mutate()}
            >
              {preview.isPending ? 'Looking …' : 'See what they bring'}
            </Button>
          )}
          {preview.isPending && (
            <Button
              onClick={() => {
                stopper.current?.abort();
                preview.reset();
              }}
            >
              Stop
            </Button>
          )}
        </Box>
      )}
      {may(self, 'keep connections') && <FromDirectory />}
      <Tables />
    </HouseFrame>
  );
}
