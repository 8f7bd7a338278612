/** What stands in a cell of a file, read in the file's own form: dates, decimals, yes and no. */
import { type CivilDate, isCivilDate } from '../time/index.ts';

/** How a file writes its dates and its decimals. */
export type FileForm = { readonly dates: 'year first' | 'day first' | 'month first'; readonly decimal: '.' | ',' };
export const dateForms = ['year first', 'day first', 'month first'] as const;

const pad = (text: string | undefined, n: number): string => (text ?? '').padStart(n, '0');

/** @returns the date; nothing for what is none in this form */
export function readDate(text: string, { dates }: FileForm): CivilDate | undefined {
  const yearFirst = /^(\d{4})[-./](\d{1,2})[-./](\d{1,2})(?:T[\d:.]+Z?)?$/.exec(text);
  const other = /^(\d{1,2})[-./ ](\d{1,2})[-./ ](\d{4})$/.exec(text);
  const parts = yearFirst
    ? [yearFirst[1], yearFirst[2], yearFirst[3]]
    : other && dates !== 'year first'
      ? [other[3], ...(dates === 'day first' ? [other[2], other[1]] : [other[1], other[2]])]
      : null;
  if (!parts) return undefined;
  const date = `${parts[0]}-${pad(parts[1], 2)}-${pad(parts[2], 2)}`;
  return isCivilDate(date) ? (date as CivilDate) : undefined;
}

/** @returns the number, also with its thousands grouped; nothing for what is none in this form */
export function readNumber(text: string, { decimal }: FileForm): number | undefined {
  const group = decimal === '.' ? ',' : '.';
  const plain = text.replaceAll(/[\s\u00a0\u202f']/g, '');
  const isGrouped = new RegExp(`^-?\\d{1,3}(\\${group}\\d{3})+(\\${decimal}\\d+)?$`).test(plain);
  const whole = isGrouped ? plain.replaceAll(group, '') : plain;
  const standard = whole.replace(decimal, '.');
  return /^-?\d+(\.\d+)?$/.test(standard) && (decimal === '.' || !whole.includes('.')) ? Number(standard) : undefined;
}

export function readYesNo(text: string): boolean | undefined {
  const small = text.toLowerCase();
  if (['yes', 'y', 'true', '1', 'x'].includes(small)) return true;
  if (['no', 'n', 'false', '0'].includes(small)) return false;
  return undefined;
}

/** What a spreadsheet would work out instead of showing. */
export const isFormula = (text: string): boolean => /^[=@\t\r]/.test(text) || /^[+-](?![\d\s.,])/.test(text);

/** Text as it was before it was made safe for spreadsheets with a leading apostrophe. */
export const undefused = (text: string): string => (/^'[=+\-@\t\r]/.test(text) ? text.slice(1) : text);

/** The form that fits most of what stands in some cells: what can only be one is one. */
export function guessForm(cells: Iterable<string>): FileForm {
  let dayFirst = 0;
  let monthFirst = 0;
  let yearFirst = 0;
  let commas = 0;
  let points = 0;
  for (const cell of cells) {
    const text = cell.trim();
    if (/^\d{4}-\d{1,2}-\d{1,2}/.test(text)) yearFirst++;
    const other = /^(\d{1,2})([-./ ])(\d{1,2})\2\d{4}$/.exec(text);
    if (other) {
      if (Number(other[1]) > 12 || other[2] === '.') dayFirst++;
      else if (Number(other[3]) > 12) monthFirst++;
      else dayFirst += 0.001;
    }
    if (/^-?\d+,\d{1,2}$/.test(text)) commas++;
    if (/^-?\d+\.\d{1,6}$/.test(text)) points++;
  }
  const dates =
    monthFirst > dayFirst
      ? 'month first'
      : dayFirst > 0 && dayFirst >= yearFirst * 0.001 && dayFirst > yearFirst
        ? 'day first'
        : 'year first';
  return { dates, decimal: commas > points ? ',' : '.' };
}
