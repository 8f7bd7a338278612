/** Tables by which a house moves in: their columns, and lines that are read cell by cell. */
import type { Fact, OnFile } from '../facts/index.ts';
import type { CivilDate } from '../time/index.ts';
import { type FileForm, isFormula, readDate, readNumber, readYesNo, undefused } from './cell.ts';

export const tableIds = [
  'calendars',
  'holidays',
  'places',
  'departments',
  'patterns',
  'posts',
  'lines',
  'people',
  'records',
  'holdings',
  'roles',
  'lists',
  'rows',
  'children',
  'papers',
  'presence',
  'openings',
  'balances',
  'bookings',
] as const;
export type TableId = (typeof tableIds)[number];

export type ColumnDef = {
  readonly id: string;
  readonly label: string;
  /** What it means, for whoever fills it in. */
  readonly means: string;
  readonly needed?: true;
  readonly like: string;
};

/** Why a line cannot be read, at its column, with what would be right. */
export type LineFault = {
  readonly table: TableId;
  /** As a spreadsheet counts: the headings are line 1. */
  readonly line: number;
  /** The label of the column; empty for the line as a whole. */
  readonly column: string;
  readonly code:
    | 'needed'
    | 'no date'
    | 'no number'
    | 'no yes or no'
    | 'not on file'
    | 'formula'
    | 'too long'
    | 'twice'
    | 'does not fit'
    | 'stands in the way';
  readonly value: string;
  /** In words; what is closest where something was meant that is not on file. */
  readonly right: string;
};

export type Placed = { readonly fact: Fact; readonly line: number };

/** Names of what may be named in a file, by how it may be written, in small letters. */
export type Names = ReadonlyMap<string, string>;

export type Around = {
  /** The house with all that the tables before this one bring. */
  readonly file: Required<OnFile>;
  readonly plans: readonly { readonly id: string; readonly name: string }[];
  readonly types: readonly { readonly id: string; readonly name: string }[];
};

export type TableKind = {
  readonly id: TableId;
  readonly name: string;
  readonly says: string;
  readonly columns: readonly ColumnDef[];
  /** Whether columns of its own may follow. */
  readonly own?: true;
  readonly read: (lines: readonly Line[], around: Around) => Placed[];
  /** Lines of what is on file, by the ids of columns; of own columns by their labels. */
  readonly write: (around: Around) => Readonly<Record<string, string>>[];
};

const longestCell = 2000;

/** How far two words are from one another: letters to put in, take out or change. */
function distance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next.push(
        Math.min((row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1, (row[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1)),
      );
    row = next;
  }
  return row[b.length] ?? 0;
}

/** What is written most alike, where it is alike at all. */
export function closest(names: Names, written: string): string | null {
  const wanted = written.toLowerCase().slice(0, 60);
  let found: { name: string; off: number } | null = null;
  let looked = 0;
  for (const name of names.keys()) {
    if (++looked > 3000) break;
    if (Math.abs(name.length - wanted.length) > 3) continue;
    const off = distance(wanted, name);
    if (off <= Math.max(1, Math.floor(wanted.length / 4)) && (!found || off < found.off)) found = { name, off };
  }
  return found?.name ?? null;
}

/** One line of a file. What cannot be read is a fault at its column and reads as `undefined`. */
export class Line {
  readonly at: number;
  readonly #table: TableKind;
  readonly #cells: Readonly<Record<string, string>>;
  readonly #form: FileForm;
  readonly #faults: LineFault[];
  readonly #notRead: ReadonlySet<string>;
  #bad = false;

  constructor(
    at: number,
    table: TableKind,
    cells: Readonly<Record<string, string>>,
    form: FileForm,
    faults: LineFault[],
    notRead: ReadonlySet<string>,
  ) {
    this.at = at;
    this.#table = table;
    this.#cells = cells;
    this.#form = form;
    this.#faults = faults;
    this.#notRead = notRead;
  }

  /** Whether something in it could not be read. */
  get isBad(): boolean {
    return this.#bad;
  }

  /** What it would be named by. */
  get names(): string[] {
    return ['id', 'mail', 'name', 'title'].flatMap(column => this.#cells[column]?.trim().toLowerCase() || []);
  }

  fault(column: string, code: LineFault['code'], value: string, right: string): undefined {
    this.#bad = true;
    const label = this.#table.columns.find(one => one.id === column)?.label ?? column;
    this.#faults.push({ table: this.#table.id, line: this.at, column: label, code, value, right });
  }

  /** The text of a cell; empty where there is none. */
  text(column: string, longest = 200): string {
    const raw = (this.#cells[column] ?? '').trim();
    if (raw === '') return '';
    if (isFormula(raw)) {
      this.fault(column, 'formula', raw.slice(0, 60), 'What the formula gives, as plain text.');
      return '';
    }
    const text = undefused(raw).normalize('NFC');
    if (text.length > Math.min(longest, longestCell)) {
      this.fault(column, 'too long', `${text.slice(0, 40)}…`, `At most ${longest} letters; these are ${text.length}.`);
      return '';
    }
    return text;
  }

  need(column: string, longest = 200): string {
    const before = this.#bad;
    const text = this.text(column, longest);
    if (text === '' && this.#bad === before) this.fault(column, 'needed', '', this.#like(column));
    return text;
  }

  #like(column: string): string {
    const like = this.#table.columns.find(one => one.id === column)?.like;
    return like ? `As in “${like}”.` : 'A value.';
  }

  date(column: string): CivilDate | null | undefined {
    const text = this.text(column);
    if (text === '') return null;
    const date = readDate(text, this.#form);
    if (date && date >= '1900-01-01' && date <= '2199-12-31') return date;
    const right = { 'year first': '2026-03-13', 'day first': '13.03.2026', 'month first': '03/13/2026' };
    return this.fault(column, 'no date', text, `A date of the calendar, as in ${right[this.#form.dates]}.`);
  }

  needDate(column: string): CivilDate | undefined {
    const before = this.#bad;
    const date = this.date(column);
    if (date === null && this.#bad === before) this.fault(column, 'needed', '', this.#like(column));
    return date ?? undefined;
  }

  number(column: string): number | null | undefined {
    const text = this.text(column);
    if (text === '') return null;
    const number = readNumber(text, this.#form);
    if (number !== undefined) return number;
    return this.fault(column, 'no number', text, `A number, as in ${this.#form.decimal === '.' ? '0.8' : '0,8'}.`);
  }

  yesNo(column: string, otherwise: boolean): boolean | undefined {
    const text = this.text(column);
    if (text === '') return otherwise;
    return readYesNo(text) ?? this.fault(column, 'no yes or no', text, 'yes or no.');
  }

  /** The id of what is named, by its id or its name. */
  named(column: string, names: Names): string | null | undefined {
    const text = this.text(column);
    if (text === '') return null;
    const id = names.get(text.toLowerCase());
    if (id !== undefined) return id;
    if (this.#notRead.has(text.toLowerCase())) {
      // Its own line is told already: once that is right, this is.
      this.#bad = true;
      return undefined;
    }
    const near = closest(names, text);
    return this.fault(
      column,
      'not on file',
      text,
      near ? `Perhaps “${near}”.` : 'Something that is on file, or comes in the same go.',
    );
  }

  needNamed(column: string, names: Names): string | undefined {
    const before = this.#bad;
    const id = this.named(column, names);
    if (id === null && this.#bad === before) this.fault(column, 'needed', '', this.#like(column));
    return id ?? undefined;
  }

  /** An id of small letters, figures and hyphens, as it is or made of another cell. */
  own(column: string, of: string): string {
    return this.text(column, 40) || idOf(this.need(of));
  }
}

/** An id of words: small letters, figures and hyphens. */
export const idOf = (words: string): string =>
  words
    .toLowerCase()
    .normalize('NFD')
    .replaceAll(/[\u0300-\u036f]/g, '')
    .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
    .replaceAll(/^-+|-+$/g, '')
    .slice(0, 40);

/** By id and by name; what two are called is good for neither. */
export function namesOf(all: readonly { readonly id: string; readonly name: string }[]): Names {
  const names = new Map<string, string>();
  const twice = new Set<string>();
  for (const { id, name } of all) {
    const small = name.toLowerCase();
    if (names.has(small) && names.get(small) !== id) twice.add(small);
    names.set(small, id);
  }
  for (const small of twice) names.delete(small);
  for (const { id } of all) names.set(id.toLowerCase(), id);
  return names;
}

/** People by id and by mail address. */
export function peopleNames(file: OnFile): Names {
  const names = new Map<string, string>();
  for (const { id, mail } of file.people) if (mail) names.set(mail.toLowerCase(), id);
  for (const { id } of file.people) names.set(id.toLowerCase(), id);
  return names;
}

export const postNames = (file: OnFile): Names => namesOf(file.posts.map(({ id, title }) => ({ id, name: title })));

/** Somebody who is named in a line. */
export const personColumn = {
  id: 'person',
  label: 'Person',
  means: 'Their number or short name on file, or their mail address.',
  needed: true,
  like: 'ines',
} as const;

/** What something is called in other tables. */
export const idColumn = (label: string, like: string): ColumnDef => ({
  id: 'id',
  label,
  means: 'A short name that never changes.',
  needed: true,
  like,
});
export const nameColumn = (like: string): ColumnDef => ({
  id: 'name',
  label: 'Name',
  means: 'What it is called.',
  needed: true,
  like,
});
/** Where something takes several lines. */
export const firstNameColumn = (like: string): ColumnDef => ({
  id: 'name',
  label: 'Name',
  means: 'What it is called, on its first line.',
  like,
});
export const headColumn: ColumnDef = {
  id: 'head',
  label: 'Head',
  means: 'The post that heads it; may come later.',
  like: '',
};
/** Where somebody or something is. */
export const whereColumns: readonly ColumnDef[] = [
  { id: 'place', label: 'Place', means: 'By its short name or its name.', needed: true, like: 'Ovay Station' },
  { id: 'department', label: 'Department', means: 'By its short name or its name.', needed: true, like: 'Observatory' },
];
