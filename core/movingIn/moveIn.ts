/** Files of a house read into facts: what is different from what is on file, or what is wrong in which line. */
import {
  type ChangeFault,
  edited,
  type Fact,
  type FactEdit,
  factKey,
  factsOf,
  type OnFile,
  sameFact,
  unsound,
} from '../facts/index.ts';
import type { FileForm } from './cell.ts';
import { type Around, Line, type LineFault, type TableId, tableIds } from './table.ts';
import { tables } from './tables/index.ts';

/** A file as its table: for each of its columns the id of the table's, the label of an own one, or nothing. */
export type Given = {
  readonly table: TableId;
  readonly form: FileForm;
  readonly columns: readonly (string | null)[];
  /** Without the headings. */
  readonly rows: readonly (readonly string[])[];
};

export type Moved = {
  readonly edits: readonly FactEdit[];
  readonly faults: readonly LineFault[];
  /** How many faults there are besides those that are named. */
  readonly more: number;
  readonly counts: readonly {
    readonly table: TableId;
    readonly added: number;
    readonly changed: number;
    readonly same: number;
  }[];
};

const mostFaults = 200;

type Rules = Pick<Around, 'plans' | 'types'> & {
  /** Bookings that were decided here: a file may name them, and change none. */
  readonly decidedHere?: readonly string[];
};
type FaultWords = (file: OnFile, fault: ChangeFault) => string;

/** @param words what a fault of the house as a whole is in words */
export function moveIn(start: Required<OnFile>, given: readonly Given[], rules: Rules, words: FaultWords): Moved {
  const decidedHere = new Set(rules.decidedHere);
  let file = start;
  const faults: LineFault[] = [];
  const edits: FactEdit[] = [];
  const counts: Moved['counts'][number][] = [];
  /** What lines that could not be read would have been named by. */
  const notRead = new Set<string>();
  const from = new Map<string, { table: TableId; line: number }>();
  for (const id of tableIds) {
    for (const one of given.filter(each => each.table === id)) {
      const lines = linesOf(one, faults, notRead);
      const placed = tables[id].read(lines, { file, ...rules });
      for (const line of lines) if (line.isBad) for (const name of line.names) notRead.add(name);
      const known = new Map(
        factsOf(file, [...new Set(placed.map(({ fact }) => fact.kind))]).map(fact => [factKey(fact), fact]),
      );
      const own: FactEdit[] = [];
      const seen = new Set<string>();
      let [added, changed, same] = [0, 0, 0];
      for (const { fact, line } of placed) {
        const key = factKey(fact);
        if (seen.has(key)) {
          faults.push({
            table: id,
            line,
            column: '',
            code: 'twice',
            value: '',
            right: 'Each once: another line is about the same.',
          });
          continue;
        }
        seen.add(key);
        from.set(key, { table: id, line });
        const before = known.get(key) ?? null;
        if (sameFact(before, fact)) {
          same++;
          continue;
        }
        if (fact.kind === 'booking' && decidedHere.has(fact.id)) {
          faults.push({
            table: id,
            line,
            column: '',
            code: 'stands in the way',
            value: '',
            right: 'This leave was decided here. It is changed by its request.',
          });
          continue;
        }
        if (before) changed++;
        else added++;
        own.push({ before, after: fact });
      }
      const now = edited(file, own);
      if (!now.ok) throw new Error(`facts of a file do not fit what they were compared with: ${now.stale}`);
      file = now.directory;
      edits.push(...own);
      counts.push({ table: id, added, changed, same });
    }
  }
  const wrong = new Set(unsound(start, rules.plans, rules.types).map(one => `${one.key} ${one.fault.code}`));
  for (const { key, fault } of unsound(file, rules.plans, rules.types)) {
    // What was wrong before is not the file's doing.
    if (wrong.has(`${key} ${fault.code}`)) continue;
    const at = from.get(key);
    faults.push({
      table: at?.table ?? given[0]?.table ?? 'people',
      line: at?.line ?? 0,
      column: at ? labelOf(at.table, fault.field) : '',
      code: 'stands in the way',
      value: at ? '' : key,
      right: words(file, fault),
    });
  }
  const ordered = faults.toSorted((a, b) => tableIds.indexOf(a.table) - tableIds.indexOf(b.table) || a.line - b.line);
  return {
    edits: faults.length > 0 ? [] : squashed(edits),
    faults: ordered.slice(0, mostFaults),
    more: Math.max(0, ordered.length - mostFaults),
    counts,
  };
}

const labelOf = (table: TableId, field: string): string =>
  tables[table].columns.find(one => one.id === field)?.label ?? '';

/** Edits of one fact by several tables are one: a calendar and its days of every year. */
function squashed(edits: readonly FactEdit[]): FactEdit[] {
  const found = new Map<string, FactEdit>();
  for (const edit of edits) {
    const key = factKey((edit.before ?? edit.after) as Fact);
    const first = found.get(key);
    found.set(key, first ? { before: first.before, after: edit.after } : edit);
  }
  return [...found.values()].filter(edit => !sameFact(edit.before, edit.after));
}

function linesOf({ table, form, columns, rows }: Given, faults: LineFault[], notRead: ReadonlySet<string>): Line[] {
  return rows.flatMap((row, i) => {
    // An empty line says nothing.
    if (row.every(cell => cell.trim() === '')) return [];
    const cells: Record<string, string> = {};
    for (const [n, column] of columns.entries()) if (column !== null) cells[column] = row[n] ?? '';
    return [new Line(i + 2, tables[table], cells, form, faults, notRead)];
  });
}

type Written = { table: TableId; headings: string[]; rows: string[][] };

/** What is on file as lines of its tables, with the labels of their columns. */
export const writtenOut = (around: Around): Written[] => tableIds.map(table => writtenTable(table, around));

export function writtenTable(table: TableId, around: Around): Written {
  const kind = tables[table];
  const written = kind.write(around);
  const ids = kind.columns.map(one => one.id);
  const own = kind.own
    ? [...new Set(written.flatMap(row => Object.keys(row)))].filter(name => !ids.includes(name))
    : [];
  return {
    table,
    headings: [...kind.columns.map(one => one.label), ...own],
    rows: written.map(row => [...ids, ...own].map(name => row[name] ?? '')),
  };
}
