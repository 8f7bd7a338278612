/** Lists that forms let people pick from: their columns, their rows and the days on which these hold, and who may edit them. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Chip from '@mui/material/Chip';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { ListsView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { type Cell, type Column, cellWords, openPostsList } from '@north-pebble/core/form';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { listsQuery } from '../../api/queries.ts';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { ColumnsField } from '../../parts/form/ColumnsField.tsx';
import { DayField } from '../../parts/form/DayField.tsx';
import { PersonField } from '../../parts/form/PersonField.tsx';
import { useYear } from '../../parts/frame/session.ts';
import { Empty, Loaded } from '../../parts/Page.tsx';
import { ScrollStrip } from '../../parts/ScrollStrip.tsx';
import { Beside, HouseFrame, Names } from './HouseFrame.tsx';

type OneList = ListsView['lists'][number];
type Row = OneList['rows'][number];

function ListChange({ list, onDone }: { list: OneList | null; onDone: () => void }) {
  const [name, setName] = useState(list?.name ?? '');
  const [columns, setColumns] = useState<readonly Column[]>(list?.columns ?? []);
  const [owners, setOwners] = useState(list?.owners ?? []);
  const change = name.trim()
    ? ({
        what: 'list',
        list: { id: list?.id ?? 'new', name, columns, owners: owners.map(one => one.id) },
      } as unknown as HouseChange)
    : null;
  const changing = useChange(change, onDone);
  const { put } = changing;
  return (
    <Box
      component="form"
      aria-label={list ? `Change ${list.name}` : 'A new list'}
      onSubmit={changing.send}
      sx={{ my: 2, maxWidth: 560, display: 'grid', gap: 2 }}
    >
      <TextField
        label="Name"
        value={name}
        onChange={event => put(setName)(event.target.value)}
        error={changing.faultOf('list.name') !== undefined}
        helperText={changing.faultOf('list.name')}
        autoComplete="off"
      />
      <ColumnsField
        columns={columns}
        most={20}
        mayBeNone
        mayBeOutside={list?.id === openPostsList}
        onChange={put(setColumns)}
      />
      <Box>
        <Typography variant="body2" color="textSecondary" sx={{ mb: 0.5 }}>
          Who may edit its rows, beside HR operations
        </Typography>
        <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mb: 1 }}>
          {owners.map(one => (
            <Chip
              key={one.id}
              label={one.name}
              size="small"
              onDelete={() => put(setOwners)(owners.filter(other => other.id !== one.id))}
            />
          ))}
        </Box>
        <OwnerField
          key={owners.length}
          onAdd={one => !owners.some(other => other.id === one.id) && put(setOwners)([...owners, one])}
        />
      </Box>
      <ChangeEnd changing={changing} verb="Save the list" onCancel={onDone} />
    </Box>
  );
}

function OwnerField({ onAdd }: { onAdd: (one: OneList['owners'][number]) => void }) {
  return (
    <PersonField
      label="One more"
      onChange={to => {
        if (to && 'person' in to) onAdd({ id: to.person, name: to.person });
      }}
    />
  );
}

/** What is typed in a cell, as it is kept; a number that is none stays a text, and the server says so at its place. */
function cellOf(column: Column, text: string): Cell {
  if (text.trim() === '') return null;
  if (column.kind === 'number' || column.kind === 'money') {
    const number = Number(text.replace(',', '.'));
    return Number.isFinite(number) ? number : text;
  }
  return text;
}

function RowChange({ list, row, onDone }: { list: OneList; row: Row | null; onDone: () => void }) {
  const [title, setTitle] = useState(row?.title ?? '');
  const [texts, setTexts] = useState<Record<string, string | boolean>>(() =>
    Object.fromEntries(
      list.columns.map(one => {
        const cell = row?.cells[one.id];
        return [one.id, typeof cell === 'boolean' ? cell : cell === null || cell === undefined ? '' : String(cell)];
      }),
    ),
  );
  const [from, setFrom] = useState<string>(row?.from ?? '');
  const [to, setTo] = useState<string>(row?.to ?? '');
  const cells = Object.fromEntries(
    list.columns.flatMap(column => {
      const text = texts[column.id] ?? '';
      const cell = typeof text === 'boolean' ? text : cellOf(column, text);
      return cell === null ? [] : [[column.id, cell]];
    }),
  );
  const change = title.trim()
    ? ({
        what: 'row',
        list: list.id,
        row: { id: row?.id ?? 'new', title, cells, from: from || null, to: to || null },
      } as unknown as HouseChange)
    : null;
  const changing = useChange(change, onDone);
  const { faultOf, put } = changing;
  return (
    <Box
      component="form"
      aria-label={row ? `Change ${row.title}` : 'A new row'}
      onSubmit={changing.send}
      sx={{ my: 2, maxWidth: 720, display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' } }}
    >
      <TextField
        label="Title"
        value={title}
        onChange={event => put(setTitle)(event.target.value)}
        error={faultOf('row.title') !== undefined}
        helperText={faultOf('row.title')}
        autoComplete="off"
      />
      {list.columns.map(column => {
        const value = texts[column.id] ?? '';
        const fault = faultOf(`cells.${column.id}`);
        const set = (next: string | boolean) => put(setTexts)({ ...texts, [column.id]: next });
        if (column.kind === 'yes/no')
          return (
            <FormControlLabel
              key={column.id}
              label={column.label}
              control={<Checkbox checked={value === true} onChange={event => set(event.target.checked)} />}
            />
          );
        if (column.kind === 'date')
          return (
            <DayField
              key={column.id}
              label={column.label}
              date={String(value)}
              onDate={set}
              fault={fault !== undefined}
              help={fault}
            />
          );
        return (
          <TextField
            key={column.id}
            label={column.label}
            value={value}
            onChange={event => set(event.target.value)}
            error={fault !== undefined}
            helperText={fault}
            autoComplete="off"
          />
        );
      })}
      <DayField label="Can be picked from" date={from} onDate={put(setFrom)} help="Left empty, always." />
      <DayField
        label="Can be picked until"
        date={to}
        onDate={put(setTo)}
        fault={faultOf('row.to') !== undefined}
        help={faultOf('row.to') ?? 'A row that is in use is ended, not taken away: requests go on naming it.'}
      />
      <Box sx={{ gridColumn: '1 / -1', display: 'grid', gap: 2 }}>
        <ChangeEnd changing={changing} verb="Save the row" onCancel={onDone} />
      </Box>
    </Box>
  );
}

function Rows({ list, today }: { list: OneList; today: string }) {
  const year = useYear();
  const [open, setOpen] = useState<string | null>(null);
  return (
    <>
      {open === 'new' ? (
        <RowChange list={list} row={null} onDone={() => setOpen(null)} />
      ) : (
        <Button variant="contained" onClick={() => setOpen('new')} sx={{ mb: 1 }}>
          A new row
        </Button>
      )}
      {list.rows.length === 0 ? (
        <Typography color="textSecondary">Nothing can be picked yet.</Typography>
      ) : (
        <ScrollStrip label={list.name}>
          <Box
            component="table"
            sx={{
              borderCollapse: 'collapse',
              fontSize: 14,
              width: '100%',
              '& th, & td': {
                textAlign: 'left',
                p: 0.75,
                borderBottom: '1px solid',
                borderColor: 'divider',
                verticalAlign: 'top',
              },
              '& th': { color: 'text.secondary', fontWeight: 500 },
              '& .n': { textAlign: 'right' },
            }}
          >
            <thead>
              <tr>
                <th scope="col">Title</th>
                {list.columns.map(one => (
                  <th
                    key={one.id}
                    scope="col"
                    className={one.kind === 'number' || one.kind === 'money' ? 'n' : undefined}
                  >
                    {one.label}
                  </th>
                ))}
                <th scope="col">Can be picked</th>
                <Box component="th" scope="col" sx={{ position: 'relative' }}>
                  <Box
                    component="span"
                    sx={{ position: 'absolute', width: 1, height: 1, overflow: 'hidden', clipPath: 'inset(50%)' }}
                  >
                    Change
                  </Box>
                </Box>
              </tr>
            </thead>
            <tbody>
              {list.rows.map(row => (
                <Box
                  component="tr"
                  key={row.id}
                  sx={{ color: row.to && row.to < today ? 'text.secondary' : undefined }}
                >
                  {open === row.id ? (
                    <td colSpan={list.columns.length + 3}>
                      <RowChange list={list} row={row} onDone={() => setOpen(null)} />
                    </td>
                  ) : (
                    <>
                      <td>{row.title}</td>
                      {list.columns.map(one => (
                        <td key={one.id} className={one.kind === 'number' || one.kind === 'money' ? 'n' : undefined}>
                          {cellWords(one, row.cells[one.id])}
                        </td>
                      ))}
                      <td>
                        {!row.from && !row.to && 'always'}
                        {row.from && `from ${dateWords(row.from, year)} `}
                        {row.to && `until ${dateWords(row.to, year)}`}
                      </td>
                      <td className="n">
                        <Button size="small" aria-label={`Change ${row.title}`} onClick={() => setOpen(row.id)}>
                          Change
                        </Button>
                      </td>
                    </>
                  )}
                </Box>
              ))}
            </tbody>
          </Box>
        </ScrollStrip>
      )}
    </>
  );
}

function OneListPart({ list, view }: { list: OneList; view: ListsView }) {
  const [isOpen, setIsOpen] = useState(false);
  return (
    <>
      <Typography variant="h2">{list.name}</Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1.5 }}>
        {list.used.length > 0 ? `Picked from in ${list.used.join(', ')}.` : 'No workflow picks from it.'}{' '}
        {list.owners.length > 0 && `Its rows are kept by ${list.owners.map(one => one.name).join(', ')} too.`}{' '}
        {view.mayKeep && !isOpen && (
          <Button size="small" onClick={() => setIsOpen(true)}>
            Change the list itself
          </Button>
        )}
      </Typography>
      {isOpen && <ListChange list={list} onDone={() => setIsOpen(false)} />}
      <Rows list={list} today={view.today} />
    </>
  );
}

export function ListsPlace() {
  const found = useQuery(listsQuery);
  const [search, setSearch] = useSearchParams();
  const [isNew, setIsNew] = useState(false);
  return (
    <HouseFrame
      title="Lists"
      sub="What forms let people pick from. A change holds for what is asked from now on."
      actions={
        found.data?.mayKeep &&
        !isNew && (
          <Button variant="contained" color="primary" onClick={() => setIsNew(true)}>
            A new list
          </Button>
        )
      }
    >
      <Loaded query={found}>
        {view => {
          const chosen = view.lists.find(one => one.id === search.get('list')) ?? view.lists[0];
          return (
            <>
              {isNew && <ListChange list={null} onDone={() => setIsNew(false)} />}
              {chosen ? (
                <Beside
                  list={
                    <Names
                      label="Lists"
                      chosen={chosen.id}
                      onChoose={id => setSearch({ list: id }, { replace: true })}
                      rows={view.lists.map(one => ({
                        id: one.id,
                        name: one.name,
                        note: one.rows.length === 1 ? 'one row' : `${one.rows.length} rows`,
                      }))}
                    />
                  }
                >
                  <OneListPart key={chosen.id} list={chosen} view={view} />
                </Beside>
              ) : (
                !isNew && (
                  <Empty title="There is no list">
                    A form picks from a list such as programmes, equipment or consoles.
                  </Empty>
                )
              )}
            </>
          );
        }}
      </Loaded>
    </HouseFrame>
  );
}
