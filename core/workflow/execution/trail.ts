/** The trail of a request in words: who, what, when and why. */
import { type Answer, answerWords, type Change, type GivenFile, isEmptyAnswer, spanWords } from '../../form/index.ts';
import { leaveType, metWords } from '../../leave/index.ts';
import type { PersonId } from '../../people/index.ts';
import { type CivilDate, civilDateAt, dateWords, fullDate, type Instant, yearOf } from '../../time/index.ts';
import { closingById, type Definition, fieldById, messageById } from '../definition/definition.ts';
import { allSteps, stepById, stepNumber } from '../definition/structure.ts';
import { naming } from '../mail/letters.ts';
import { type Context, nameOf } from '../request/context.ts';
import type { KeptLimit, RequestEvent } from '../request/events.ts';
import type { Attached } from '../request/outgoing.ts';
import type { Reason } from '../request/reason.ts';
import { type Sights, sightIn, tellsClosed } from '../request/visibility.ts';
import { askWords, outcomeLabel, reasonWords, stuckWords } from './reasonWords.ts';

export type TrailLine = {
  at: Instant;
  /** Nobody when North Pebble acted on its own. */
  by: PersonId | null;
  who: string;
  text: string;
  note: string | null;
  why: readonly string[];
  changes: readonly { label: string; before: string; after: string }[];
  /** Files that came with a comment: whoever reads it may open them. */
  files: readonly GivenFile[];
  tone: 'plain' | 'good' | 'rework' | 'bad' | 'late';
};

type EventWords = Partial<Pick<TrailLine, 'note' | 'why' | 'changes' | 'files' | 'tone'>> & { text: string };

export type TrailContext = Pick<Context, 'index' | 'book' | 'lists'> & {
  /** What the reader may see; everything when nothing is said. */
  /** What its reader sees; `all` where nobody is told but whoever sees everything. */
  sights: Sights | 'all';
};

/** What a connection says of what it did, for whoever reads on; what it answers besides is for the machine. */
const told: Readonly<Record<string, (words: string) => string>> = {
  clash: words => `The name of the account: ${words}.`,
  groups: words => `In the groups that go with the post and the place: ${words}.`,
  'groups left': words => `No longer in ${words}, which went with the post or the place of before.`,
  'no such group': words => `The directory has no group ${words}: nobody was put into it.`,
};
const mostTold = 500;
const toldBy = (result: Readonly<Record<string, unknown>>): string[] =>
  Object.entries(told).flatMap(([name, say]) => {
    const words = Object.hasOwn(result, name) ? result[name] : undefined;
    return typeof words === 'string' && words !== '' ? [say(words.slice(0, mostTold))] : [];
  });

/** One event in words; nothing for events that only move the request along. */
function say(definition: Definition, event: RequestEvent, context: TrailContext): EventWords | null {
  const { index, book } = context;
  const step = (id: string) => `step ${stepNumber(definition, id)}`;
  const typeName = (id: string) => leaveType(book, id)?.name ?? id;
  const names = naming(context);
  const { sights } = context;
  const sight = (field: string) => (sights === 'all' ? 'open' : sightIn(sights, field));
  const seen = <T extends { field: string }>(changes: readonly T[]) => changes.filter(c => sight(c.field) !== 'hidden');
  const said = (changes: readonly Change[]) =>
    seen(changes).map(change => {
      const field = fieldById(definition, change.field);
      if (sight(change.field) !== 'open') {
        const words = (answer: Answer) => (isEmptyAnswer(answer) ? 'nothing' : 'not shown');
        return { label: field?.label ?? change.field, before: words(change.before), after: words(change.after) };
      }
      return {
        label: field?.label ?? change.field,
        before: field ? answerWords(field, change.before, names) : '',
        after: field ? answerWords(field, change.after, names) : '',
      };
    });
  const notShown = 'worked out from something that is not shown to you';
  /** Reasons of a step, unless they tell of what the reader may not see. */
  const telling = { definition, ...context };
  const words = (why: Reason) => reasonWords(why, telling);
  const reasons = (id: string, why: readonly Reason[]): readonly string[] => {
    const found = stepById(definition, id);
    return found && sights !== 'all' && tellsClosed(definition, found, sights, context.lists)
      ? [notShown]
      : why.map(words);
  };
  const year = yearOf(context.book.today);
  const label = (id: string) => fieldById(definition, id)?.label ?? id;
  switch (event.kind) {
    case 'asked': {
      const other = event.subject && event.subject !== event.asker ? ` for ${nameOf(index, event.subject)}` : '';
      const there = event.outside ? ` at the public address; ${nameOf(index, event.asker)} keeps it in the house` : '';
      return {
        text: `asked for ${definition.name.toLowerCase()}${other}${there}`,
      };
    }
    case 'against rules': {
      if (event.limits.length === 0) return { text: 'chose dates that keep to the rules of the leave type' };
      const spans = allSteps(definition).flatMap(one =>
        one.verb === 'Record' && one.effect.kind === 'book leave' ? [one.effect.span] : [],
      );
      const isClosed = spans.some(id => sight(id) === 'hidden');
      const wordsOf = ({ met, pass }: KeptLimit) => [
        metWords(met, event.at.slice(0, 10) as CivilDate),
        ...(pass ? [`${nameOf(index, pass.by)} of HR let it pass: ${pass.reason}`] : []),
      ];
      return {
        text: 'asked for it beside the rules of the leave type',
        why: isClosed ? [notShown] : event.limits.flatMap(wordsOf),
        tone: 'late',
      };
    }
    case 'held':
      return { text: `reserved ${typeName(event.type).toLowerCase()}, ${spanWords(event.span, year)}` };
    case 'booked':
      return {
        text: `booked ${event.restOf ? `the rest of ${event.restOf}: ` : ''}${typeName(event.type).toLowerCase()}, ${spanWords(event.span, year)}${event.planner ? ', on the planner' : ''}`,
        ...(event.reason ? { note: event.reason } : {}),
        tone: 'good',
      };
    case 'let end':
      return {
        text: 'let it end: its days had passed',
        why: [`Its last day was ${fullDate(event.last)}.`],
        note: event.reason,
        tone: 'bad',
      };
    case 'voided':
      return { text: 'voided the leave', note: event.reason, tone: 'bad' };
    case 'released':
      return { text: 'freed the leave that was reserved', why: [words(event.reason)] };
    case 'skipped':
      return { text: `skipped ${step(event.step)}`, why: reasons(event.step, [event.reason]) };
    case 'chose':
      return {
        text:
          event.row === null
            ? `took “otherwise” at ${step(event.step)}`
            : `took a line of the table at ${step(event.step)}`,
        why: reasons(event.step, [event.reason]),
      };
    case 'given': {
      const cover = event.coverFor ? `, standing in for ${nameOf(index, event.coverFor)}` : '';
      return {
        text: `assigned ${step(event.step)} to ${nameOf(index, event.holder)}${cover}`,
        why: [...reasons(event.step, event.reasons), ...(event.dueReason ? [`due: ${words(event.dueReason)}`] : [])],
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
        ...(event.filled ? { changes: said(event.filled.changes) } : {}),
      };
    }
    case 'kept':
      return {
        text: `kept “${outcomeLabel(definition, event.step, event.outcome)}” of ${nameOf(index, event.holder)} at ${step(event.step)}`,
        why: [words(event.reason)],
      };
    case 'settled':
      return {
        text: `settled ${step(event.step)} as “${outcomeLabel(definition, event.step, event.outcome)}”`,
        why: [words(event.reason)],
      };
    case 'taken':
      return { text: `took ${step(event.step)}` };
    case 'put back':
      return { text: `put ${step(event.step)} back for the others` };
    case 'done':
      return { text: `did ${step(event.step)}`, note: event.note, tone: 'good', changes: said(event.filled.changes) };
    case 'could not':
      return { text: `could not do ${step(event.step)}`, note: event.note, tone: 'bad' };
    case 'set':
      return {
        text: `set ${
          seen(event.filled.changes)
            .map(c => label(c.field))
            .join(', ') || 'nothing new'
        }`,
        changes: said(event.filled.changes),
      };
    case 'waiting':
      return {
        text: event.reminders ? `reminded of what ${step(event.step)} waits for` : `waits at ${step(event.step)}`,
        why: [words(event.reason)],
      };
    case 'waited':
      return {
        text: event.filled
          ? `handed in what ${step(event.step)} waits for`
          : `went on at ${step(event.step)}, which waits no longer`,
        why: [words(event.reason)],
        ...(event.filled ? { changes: said(event.filled.changes) } : {}),
      };
    case 'came back':
      return { text: `a letter to ${event.address} came back`, note: event.why, tone: 'bad' };
    case 'calendar answered':
      return {
        text: `${event.answer === 'perhaps' ? 'may come' : event.answer} in their calendar, invited at ${step(event.step)}`,
      };
    case 'joined':
      return { text: `went on behind the lanes of ${step(event.step)}`, why: [words(event.reason)] };
    case 'recorded':
    case 'provisioned':
      return event.undelivered
        ? { text: `asked for: ${askWords(event.what, telling)}` }
        : { text: askWords(event.what, telling), tone: 'good' };
    case 'opened':
      return event.undelivered
        ? { text: `asked for a request in ${event.workflow}` }
        : { text: `opened a request in ${event.workflow}` };
    case 'delivered':
      return {
        text: event.note === undefined ? `heard that ${step(event.step)} is done` : `did ${step(event.step)} by hand`,
        tone: 'good',
        why: toldBy(event.result),
        ...(event.note === undefined ? {} : { note: event.note }),
        ...(event.filled ? { changes: said(event.filled.changes) } : {}),
      };
    case 'refused':
      return { text: `heard that ${step(event.step)} was refused`, note: event.reason, tone: 'bad' };
    case 'asked again':
      return { text: `asked again for ${step(event.step)}` };
    case 'given up':
      return { text: `went on without ${step(event.step)}, which is not done`, note: event.note, tone: 'late' };
    case 'undone':
      return event.stays === undefined
        ? { text: `heard that what ${step(event.step)} brought about is taken back` }
        : { text: `heard that the time of ${step(event.step)} is over; ${event.stays} gives the same, so it stays` };
    case 'let out':
      return null;
    case 'held back': {
      const name = messageById(definition, event.message)?.name ?? event.message;
      return {
        text: `keeps “${name}” until what it tells of is done`,
        why: event.because.map(what => askWords(what, telling)),
        tone: 'late',
      };
    }
    case 'opened closed':
      return { text: `heard that a request that it opened has ended: ${event.closing}` };
    case 'moved':
      return { text: `moved it from version ${event.from} to version ${event.to}`, why: [event.reason] };
    case 'sent back': {
      const fields = event.fields
        .filter(id => sight(id) !== 'hidden')
        .map(label)
        .join(', ');
      return { text: `sent it back; ${fields} may be changed`, tone: 'rework' };
    }
    case 'reworked':
      return {
        text: event.changes.length > 0 ? 'changed it and sent it again' : 'sent it again unchanged',
        tone: 'rework',
        changes: said(event.changes),
      };
    case 'reminded':
      return { text: 'sent a reminder' };
    case 'questioned':
      return { text: `asked a question at ${step(event.step)}; the clock stands still`, note: event.question };
    case 'replied':
      return {
        text: `replied to the question at ${step(event.step)}`,
        note: event.reply,
        ...(event.dueReason ? { why: [`due: ${words(event.dueReason)}`] } : {}),
      };
    case 'handed over': {
      const role = event.role ? ` (${event.role})` : '';
      return {
        text: `handed ${step(event.step)} over to ${event.to.map(p => nameOf(index, p)).join(', ')}${role}`,
        note: event.note,
      };
    }
    case 'set aside': {
      const to = event.to ? ` and lent it to ${event.to.map(p => nameOf(index, p)).join(', ')}` : '';
      return { text: `set ${step(event.step)} aside until ${dateWords(event.until, year)}${to}`, note: event.note };
    }
    case 'brought back':
      return { text: `took ${step(event.step)} back onto the desk` };
    case 'owner changed':
      return { text: `made ${nameOf(index, event.to)} the owner`, why: [words(event.reason)], note: event.note };
    case 'appointed':
      return { text: `named ${nameOf(index, event.to)} for ${step(event.step)}`, note: event.note };
    case 'commented': {
      const to = event.mentions.length > 0 ? ` for ${event.mentions.map(p => nameOf(index, p)).join(', ')}` : '';
      const files = event.files ?? [];
      const given = files.length > 0 ? `, with ${files.map(file => file.name).join(', ')}` : '';
      return { text: `wrote a comment${to}${given}`, note: event.text, files };
    }
    case 'looked':
      return { text: `looked at “${label(event.field)}”` };
    case 'called back': {
      const rest = event.rest ? `; ${spanWords(event.rest, year)} stays leave, under a request of its own` : '';
      return {
        text: `called them back to work for ${spanWords(event.days, year)}${rest}`,
        note: event.reason,
        changes: said(event.filled.changes),
        tone: 'rework',
      };
    }
    case 'corrected':
      return { text: 'corrected it', note: event.reason, changes: said(event.filled.changes), tone: 'rework' };
    case 'reopened':
      return {
        text: event.what === 'change' ? 'asked for a change after approval' : 'asked to cancel it after approval',
        note: event.note,
        tone: 'rework',
      };
    case 'kept as approved':
      return { text: 'left it as it was approved', why: [words(event.reason)] };
    case 'cancelled':
      return { text: 'cancelled it after approval', note: event.note };
    case 'date moved':
      return {
        text: `moved ${label(event.field)}`,
        note: event.reason,
        changes: said(event.filled.changes),
        tone: 'rework',
      };
    case 'due again':
      return {
        text: 'counted a limit anew',
        ...(event.dueReason ? { why: [`due: ${words(event.dueReason)}`] } : {}),
      };
    case 'alerted': {
      const left = event.left.map(id => step(id)).join(', ');
      return {
        text: `told ${event.people.map(p => nameOf(index, p)).join(', ') || 'nobody, since nobody was found,'} that it is not ready: ${left} ${event.left.length === 1 ? 'is' : 'are'} left`,
        tone: 'late',
      };
    }
    case 'alert over':
      return event.ready ? { text: 'is ready', tone: 'good' } : { text: 'has time again' };
    case 'invited':
      return {
        text: `invited ${event.guest} to fill in step ${stepNumber(definition, event.step)} by a personal link to ${event.address}${event.link > 1 ? ', in place of the one before' : ''}`,
        why: [`good until ${fullDate(civilDateAt(event.until, 'UTC'))}`],
      };
    case 'link ended':
      return { text: `ended the personal link of ${step(event.step)}`, note: event.note };
    case 'section in':
      return {
        text: `handed in “${sectionTitle(definition, event.section)}”`,
        // What is given for the first time stands in the request; what was changed is told.
        changes: said(event.filled.changes.filter(change => !isEmptyAnswer(change.before))),
        tone: 'good',
      };
    case 'section back':
      return {
        text: `gave “${sectionTitle(definition, event.section)}” back`,
        note: event.note,
        tone: 'rework',
      };
    case 'consent withdrawn':
      return { text: `took the consent “${label(event.field)}” back`, tone: 'late' };
    case 'guest asked':
      return { text: 'asked a question', note: event.text };
    case 'guest answered':
      return { text: `wrote to the guest of ${step(event.step)}`, note: event.text };
    case 'guest reminded':
      return { text: `reminded the guest of ${step(event.step)}` };
    case 'passed limit':
      return { text: `the limit passed; ${words(event.next)}`, tone: 'late' };
    case 'told':
      return {
        text: `told ${[...event.people.map(p => nameOf(index, p)), ...(event.addresses ?? [])].join(', ')}${withWords(event.attached)}`,
      };
    case 'uninvited':
      return {
        text: `took back the invitation of ${[...event.people.map(p => nameOf(index, p)), ...event.addresses].join(', ')}: ${event.invitation.title}`,
        tone: 'late',
      };
    case 'stuck':
      return { text: `cannot go on at ${step(event.step)}`, why: [stuckWords(event.reason, telling)], tone: 'bad' };
    case 'tried again':
      return { text: 'let it try again' };
    case 'withdrawn':
      return { text: 'withdrew it', note: event.note };
    case 'closed': {
      const closing = closingById(definition, event.closing);
      const tone = closing?.tone === 'good' ? 'good' : closing?.tone === 'bad' ? 'bad' : 'plain';
      return { text: `closed: ${closing?.name ?? event.closing}`, tone };
    }
    case 'ended':
      // Other ends are told by what ended them.
      return event.reason.code === 'somebody else has it by now'
        ? { text: 'looked by the records as they are now: it is somebody else’s' }
        : null;
    case 'entered':
    case 'lane done':
      return null;
  }
}

/** What went out with a message. */
function withWords(attached: Attached | undefined): string {
  const parts = [
    ...(attached?.files ?? []).map(file => file.name),
    ...(attached?.invitation
      ? [attached.invitation.sequence > 0 ? 'the invitation, changed' : 'an invitation for their calendar']
      : []),
  ];
  return parts.length > 0 ? `, with ${parts.join(' and ')}` : '';
}

const sectionTitle = (definition: Definition, id: string): string =>
  definition.form.sections?.find(section => section.id === id)?.title ?? id;

const byNobody = new Set([
  'guest reminded',
  'held',
  'booked',
  'released',
  'skipped',
  'chose',
  'given',
  'told',
  'uninvited',
  'stuck',
  'closed',
  'reminded',
  'kept',
  'kept as approved',
  'settled',
  'set',
  'waiting',
  'joined',
  'recorded',
  'provisioned',
  'opened',
  'opened closed',
  'held back',
  'refused',
  'undone',
  'due again',
  'alerted',
  'alert over',
]);

/** Whoever is on no file is called as the request calls them. */
const whoDid = (event: RequestEvent): string | undefined => {
  if (event.kind === 'asked') return event.outside?.name;
  if (event.kind === 'calendar answered') return event.who;
  return 'guest' in event && event.kind !== 'invited' ? event.guest : undefined;
};

export function trail(definition: Definition, events: readonly RequestEvent[], context: TrailContext): TrailLine[] {
  return events.flatMap(event => {
    const said = say(definition, event, context);
    if (!said) return [];
    // Somebody's command may carry a wait along that is over by itself.
    const byItself =
      byNobody.has(event.kind) ||
      (event.kind === 'waited' && !event.filled) ||
      (event.kind === 'invited' && event.link === 1);
    const by = byItself ? null : event.by;
    return [
      {
        at: event.at,
        by,
        who: whoDid(event) ?? nameOf(context.index, by),
        note: null,
        why: [],
        changes: [],
        files: [],
        tone: 'plain' as const,
        ...said,
      },
    ];
  });
}
