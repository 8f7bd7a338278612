/** The form, the figures and the rest of a definition in sentences. */
import { type Field, isAsked, kindWords, moduleOf, type Start } from '../../form/index.ts';
import { type Definition, messageById } from '../definition/definition.ts';
import { plainOf } from '../mail/richText.ts';

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
  const parts = [`${kindWords(field.kind)}${moduleOf(field.kind).detail(field)}`];
  if (field.required && isAsked(field)) parts.push('needed');
  if (field.start) parts.push(startWords(field.start, definition));
  if (field.shownWhen) parts.push(`shown when ${field.shownWhen}`);
  if (field.neededWhen) parts.push(`needed when ${field.neededWhen}`);
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
