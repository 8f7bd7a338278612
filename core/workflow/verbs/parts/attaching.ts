/** What goes out with a message or a question: said, read back and checked, for every verb that sends something. */
import { holdsFiles } from '../../../form/index.ts';
import type { Findings } from '../../checking/finding.ts';
import { fieldReference } from '../../checking/references.ts';
import { type AttachedFiles, type Attachment, invitable, type Step } from '../../definition/definition.ts';
import type { Path } from '../../definition/path.ts';
import { need } from '../../language/passage.ts';
import { named, type Phrase, say } from '../../language/phrase.ts';
import { type Known, readField } from '../../language/ruleReader.ts';
import type { Scanner } from '../../language/scanner.ts';
import { fieldPhrase, type Writing } from '../../language/writing.ts';
import { isGuarded } from '../../request/visibility.ts';

/** `; with the files of “Itinerary”; with an invitation “Trip” over “Legs”` */
export function attachmentPhrases(writing: Writing, attach: readonly Attachment[] | undefined, path: Path): Phrase[] {
  return (attach ?? []).flatMap((one, n): Phrase[] => {
    const at: Path = [...path, 'attach', n];
    if (one.what === 'files')
      return [say('; with the files of'), fieldPhrase(writing, one.field, [...at, 'field'], f => holdsFiles(f))];
    return [
      say('; with an invitation'),
      named(one.title, { kind: 'text', path: [...at, 'title'], value: one.title }),
      say('over'),
      fieldPhrase(writing, one.of, [...at, 'of'], f => (invitable as readonly string[]).includes(f.kind)),
    ];
  });
}

const readFilesOnce = (s: Scanner, known: Known): AttachedFiles | undefined =>
  s.eat(/;\s*with the files of/)
    ? { what: 'files', field: need(s, readField(s, known), 'as a field of files') }
    : undefined;

function readInvitation(s: Scanner, known: Known): Attachment | undefined {
  if (!s.eat(/;\s*with an invitation/)) return undefined;
  const title = need(s, s.quoted(), 'as what the invitation is called');
  need(s, s.words('over') || undefined, '');
  return { what: 'invitation', of: need(s, readField(s, known), 'as dates'), title };
}

/** As many as stand there; nothing for none. */
function several<T>(read: () => T | undefined): T[] | undefined {
  const found: T[] = [];
  for (let one = read(); one; one = read()) found.push(one);
  return found.length > 0 ? found : undefined;
}

/** Files alone, as they go along with a question. */
export const readFiles = (s: Scanner, known: Known): AttachedFiles[] | undefined =>
  several(() => readFilesOnce(s, known));

export const readAttachments = (s: Scanner, known: Known): Attachment[] | undefined =>
  several(() => readFilesOnce(s, known) ?? readInvitation(s, known));

export function attachmentFindings(
  findings: Findings,
  step: Step,
  attach: readonly Attachment[] | undefined,
  path: Path,
): void {
  attach?.forEach((one, n) => {
    const at: Path = [...path, 'attach', n];
    if (one.what === 'invitation') {
      const field = fieldReference(findings, step, one.of, [...at, 'of'], [...invitable], 'dates to invite to');
      if (field?.kind === 'table' && !field.columns.some(column => column.kind === 'date'))
        findings.add(
          'stops',
          'no date',
          step,
          [...at, 'of'],
          `“${field.label}” has no date to invite to`,
          'An invitation is over the dates of its rows: give it a column of dates.',
        );
      return;
    }
    const field = fieldReference(findings, step, one.field, [...at, 'field'], null, 'the files that go out');
    if (!field) return;
    if (!holdsFiles(field))
      findings.add(
        'stops',
        'no files',
        step,
        [...at, 'field'],
        `“${field.label}” has no files`,
        'Take a field of files.',
      );
    else if (isGuarded(field))
      findings.add(
        'stops',
        'guarded files',
        step,
        [...at, 'field'],
        `“${field.label}” goes into no mail`,
        'Only named readers see it, so that it is opened on the request.',
      );
  });
}
