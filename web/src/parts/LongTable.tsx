/**
 * A table of many rows: only those on the screen are drawn, and more are fetched before the end comes into sight. What
 * stands in it and how wide, its columns say; on a narrow screen it is moved sideways.
 */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { type ColumnDef, tableFeatures, useTable } from '@tanstack/react-table';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';

type ColumnSize = {
  /** As in a grid template: `84px`, `minmax(120px, 1fr)`. */
  width?: string;
};

const features = tableFeatures({ columnMeta: {} as ColumnSize });

export type LongColumn<Row extends object> = ColumnDef<typeof features, Row>;

type Props<Row extends object> = {
  /** What it is a table of, for whoever hears it. */
  label: string;
  /** The same ones from drawing to drawing, as the rows are. */
  columns: LongColumn<Row>[];
  rows: readonly Row[];
  rowKey: (row: Row) => string;
  /** How many there are in all, when more can be fetched. */
  total?: number | null;
  onNearEnd?: () => void;
  rowHeight?: number;
  /** So wide is a column at least, on the average. */
  leastColumn?: number;
};

/** So many rows before the end the next are fetched. */
const ahead = 30;
const usualColumn = 118;

export function LongTable<Row extends object>({
  label,
  columns,
  rows,
  rowKey,
  total = rows.length,
  onNearEnd,
  rowHeight = 40,
  leastColumn = usualColumn,
}: Props<Row>) {
  const list = useRef<HTMLDivElement>(null);
  const table = useTable({ features, columns, data: rows, getRowId: rowKey });
  const drawn = table.getRowModel().rows;
  const virtual = useWindowVirtualizer({
    count: drawn.length,
    estimateSize: () => rowHeight,
    overscan: 12,
    scrollMargin: list.current?.offsetTop ?? 0,
  });
  const items = virtual.getVirtualItems();
  const last = items[items.length - 1]?.index ?? 0;
  useEffect(() => {
    if (last >= drawn.length - ahead) onNearEnd?.();
  }, [last, drawn.length, onNearEnd]);
  const leaves = table.getAllLeafColumns();
  const line = {
    display: 'grid',
    gridTemplateColumns: leaves.map(column => column.columnDef.meta?.width ?? 'minmax(120px, 1fr)').join(' '),
    columnGap: 16,
    alignItems: 'center',
    minWidth: leaves.length * leastColumn,
  };
  return (
    <Box role="table" aria-label={label} aria-rowcount={total ?? -1} sx={{ overflowX: 'auto', fontSize: 14 }}>
      <Box role="row" style={line} sx={{ borderBottom: '1px solid', borderColor: 'divider', pb: 0.75 }}>
        {table.getFlatHeaders().map(header => (
          <Box key={header.id} role="columnheader" sx={{ color: 'text.secondary', fontSize: 13 }}>
            <table.FlexRender header={header} />
          </Box>
        ))}
      </Box>
      <Box ref={list} sx={{ position: 'relative' }} style={{ height: virtual.getTotalSize() }}>
        {items.map(item => (
          <Box
            key={drawn[item.index].id}
            role="row"
            aria-rowindex={item.index + 2}
            style={{
              ...line,
              position: 'absolute',
              insetInline: 0,
              height: rowHeight,
              transform: `translateY(${item.start - virtual.options.scrollMargin}px)`,
            }}
            sx={{ borderBottom: '1px solid', borderColor: 'divider' }}
          >
            {drawn[item.index].getAllCells().map(cell => (
              <Typography key={cell.id} role="cell" noWrap sx={{ fontSize: 14 }}>
                <table.FlexRender cell={cell} />
              </Typography>
            ))}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
