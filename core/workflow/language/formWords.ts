/** The form, the figures and the rest of a definition in sentences. */
import { type Field, type Start, takesWords } from '../../form/index.ts';
import { type Definition, messageById } from '../definition/definition.ts';
import { plainOf } from '../mail/richText.ts';

export const kindWords: Record<Field['kind'], string> = {
  text: 'a line of text',
  'long text': 'a longer text',
  'whole number': 'a whole number',
  decimal: 'a number',
  money: 'an amount of money',
  'yes/no': 'yes or no',
  choice: 'one of several',
  'several choices': 'any of several',
  date: 'a date',
  time: 'a time of day',
  'leave span': 'a span of leave, by halves',
  'date range': 'a first and a last day',
  person: 'a person',
  pick: 'a row of a list',
  files: 'files',
  table: 'a small table',
  document: 'a document',
  'fixed text': 'words to read',
};

function detail(field: Field): string {
  switch (field.kind) {
    case 'choice':
      return field.options === 'leave types' ? ' (leave types)' : `: ${field.options.join(', ')}`;
    case 'several choices':
      return `: ${field.options.join(', ')}`;
    case 'money':
      return ` in ${field.currency}`;
    case 'pick':
      return ` (${field.list})`;
    case 'table':
      return ` with ${field.columns.map(c => c.label).join(', ')}`;
    case 'files':
      return field.takes || field.largest ? ` (${takesWords(field)})` : '';
    case 'document':
      return `${field.expires ? ' with the day it expires' : ''}${field.takes || field.largest ? ` (${takesWords(field)})` : ''}`;
    case 'fixed text':
      return `: “${field.text}”`;
    default:
      return '';
  }
}

export function startWords(start: Start, definition: Definition): string {
  const label = (id: string) => definition.form.fields.find(f => f.id === id)?.label ?? id;
  switch (start.from) {
    case 'fixed':
      return `starts as “${String(start.value)}”`;
    case 'formula':
      return `starts as ${start.formula}`;
    case 'known':
      return `starts as the asker’s ${start.fact}`;
    case 'picked':
      return `starts as ${start.column} of ${label(start.field)}`;
  }
}

/** `Dates: a span of leave, by halves, needed. Shown when Days > 2.` */
export function fieldWords(field: Field, definition: Definition): string {
  const parts = [`${kindWords[field.kind]}${detail(field)}`];
  if (field.required && field.kind !== 'fixed text') parts.push('needed');
  if (field.start) parts.push(startWords(field.start, definition));
  if (field.shownWhen) parts.push(`shown when ${field.shownWhen}`);
  if (field.places) parts.push(`asked in ${field.places.join(', ')} only`);
  if (field.readers) parts.push(`read by ${field.readers.join(', ')} only`);
  for (const check of field.checks ?? []) parts.push(`must meet ${check.formula} (“${check.message}”)`);
  const section = definition.form.sections?.find(s => s.id === field.section);
  return `${field.label}: ${parts.join(', ')}${section ? `, under ${section.title}` : ''}.${field.help ? ` ${field.help}` : ''}`;
}

export function closingWords(closing: Definition['closings'][number], definition: Definition): string {
  const message = messageById(definition, closing.message);
  return `${closing.name} (${closing.tone}): ${message ? `the asker gets “${message.name}”` : 'the asker is not told'}.`;
}

export const messageWords = (message: Definition['messages'][number]): string =>
  `${message.name}: “${message.subject}”. ${plainOf(message.body).replace(/\s+/g, ' ')}`;
