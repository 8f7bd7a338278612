/** The trail of a request in words: who, what, when and why. */
import { leaveType } from '../leave/index.ts';
import type { PersonId } from '../people/index.ts';
import type { Instant } from '../time/index.ts';
import { answerWords, spanWords } from './answers.ts';
import { type Context, nameOf } from './context.ts';
import { closingById, type Definition, fieldById, stepById, stepNumber } from './definition.ts';
import type { RequestEvent } from './events.ts';

export type TrailLine = {
  at: Instant;
  /** Nobody when North Pebble acted on its own. */
  by: PersonId | null;
  who: string;
  text: string;
  note: string | null;
  why: readonly string[];
  changes: readonly { label: string; before: string; after: string }[];
  tone: 'plain' | 'good' | 'rework' | 'bad' | 'late';
};

type Said = Partial<Pick<TrailLine, 'note' | 'why' | 'changes' | 'tone'>> & { text: string };

/** One event in words; nothing for events that only move the request along. */
function say(definition: Definition, event: RequestEvent, context: Pick<Context, 'index' | 'book'>): Said | null {
  const { index, book } = context;
  const step = (id: string) => `step ${stepNumber(definition, id)}`;
  const typeName = (id: string) => leaveType(book, id)?.name ?? id;
  switch (event.kind) {
    case 'asked':
      return { text: `asked for ${definition.name.toLowerCase()}` };
    case 'held':
      return { text: `held ${typeName(event.type).toLowerCase()}, ${spanWords(event.span)}` };
    case 'booked':
      return {
        text: `booked ${typeName(event.type).toLowerCase()}, ${spanWords(event.span)}${event.planner ? ', on the planner' : ''}`,
        tone: 'good',
      };
    case 'released':
      return { text: 'gave back the leave that was held', why: [event.reason] };
    case 'skipped':
      return { text: `skipped ${step(event.step)}`, why: [event.reason] };
    case 'chose':
      return {
        text:
          event.row === null
            ? `took “otherwise” at ${step(event.step)}`
            : `took a line of the table at ${step(event.step)}`,
        why: [event.reason],
      };
    case 'given': {
      const cover = event.coverFor ? `, standing in for ${nameOf(index, event.coverFor)}` : '';
      return {
        text: `gave ${step(event.step)} to ${nameOf(index, event.holder)}${cover}`,
        why: [...event.reasons, ...(event.dueReason ? [`due: ${event.dueReason}`] : [])],
      };
    }
    case 'answered': {
      const found = stepById(definition, event.step);
      const outcome = found?.verb === 'Decide' ? found.outcomes.find(o => o.id === event.outcome) : undefined;
      const cover = event.coverFor ? ` for ${nameOf(index, event.coverFor)}` : '';
      return {
        text: `answered “${outcome?.label ?? event.outcome}” at ${step(event.step)}${cover}`,
        note: event.note,
        tone: outcome?.tone ?? 'plain',
      };
    }
    case 'sent back': {
      const fields = event.fields.map(id => fieldById(definition, id)?.label ?? id).join(', ');
      return { text: `sent it back; ${fields} may be changed`, tone: 'rework' };
    }
    case 'reworked':
      return {
        text: event.changes.length > 0 ? 'changed it and sent it again' : 'sent it again unchanged',
        tone: 'rework',
        changes: event.changes.map(change => {
          const field = fieldById(definition, change.field);
          return {
            label: field?.label ?? change.field,
            before: field ? answerWords(field, change.before, typeName) : '',
            after: field ? answerWords(field, change.after, typeName) : '',
          };
        }),
      };
    case 'reminded':
      return { text: 'sent a reminder' };
    case 'passed limit':
      return { text: `the limit passed; ${event.next}`, tone: 'late' };
    case 'told':
      return { text: `told ${event.people.map(p => nameOf(index, p)).join(', ')}` };
    case 'stuck':
      return { text: `cannot go on at ${step(event.step)}`, why: [event.reason], tone: 'bad' };
    case 'tried again':
      return { text: 'let it try again' };
    case 'withdrawn':
      return { text: 'withdrew it', note: event.note };
    case 'closed': {
      const closing = closingById(definition, event.closing);
      const tone = closing?.tone === 'good' ? 'good' : closing?.tone === 'bad' ? 'bad' : 'plain';
      return { text: `closed: ${closing?.name ?? event.closing}`, tone };
    }
    case 'entered':
    case 'ended':
      return null;
  }
}

const byNobody = new Set([
  'held',
  'booked',
  'released',
  'skipped',
  'chose',
  'given',
  'told',
  'stuck',
  'closed',
  'reminded',
]);

export function trail(
  definition: Definition,
  events: readonly RequestEvent[],
  context: Pick<Context, 'index' | 'book'>,
): TrailLine[] {
  return events.flatMap(event => {
    const said = say(definition, event, context);
    if (!said) return [];
    const by = byNobody.has(event.kind) ? null : event.by;
    return [
      {
        at: event.at,
        by,
        who: nameOf(context.index, by),
        note: null,
        why: [],
        changes: [],
        tone: 'plain' as const,
        ...said,
      },
    ];
  });
}
