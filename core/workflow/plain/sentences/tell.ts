/** `Tell the asker that it was approved`: who is told what. */
import type { PeopleRule } from '../../../people/index.ts';
import type { Attachment, Step } from '../../definition/definition.ts';
import { readWhom } from '../people.ts';
import { type Around, behindAll, leading, whenOf } from './around.ts';
import { readAttachment } from './attachment.ts';
import type { Saying } from './saying.ts';

/** A message, by its name or by what it says: `that it was approved`. */
export function readMessage(s: Saying): string | undefined {
  const { w } = s;
  return w.try(() => {
    w.eat('with|about|that|of|using');
    w.eat('the|a|an');
    w.eat('message|mail');
    const plain = w.name(s.messages);
    if (plain !== undefined) return plain;
    w.eat('it|this|they|he|she|request|the_request');
    w.eat('is|was|are|were|has|have been?');
    const said = w.name(s.messages);
    if (said !== undefined) return said;
    // `that papers are missing`: the words of a message's name with a small word between.
    const named = s.messages.find(({ name }) => {
      const words = name.toLowerCase().split(/\s+/);
      let at = w.at;
      for (const word of words) {
        while (/^(is|are|was|were|has|have|been|the|it)$/.test(w.tokens[at]?.low ?? '')) at++;
        if (w.tokens[at]?.low !== word) return false;
        at++;
      }
      w.at = at;
      return true;
    });
    return named?.value;
  });
}

export function readReaders(s: Saying): PeopleRule[] | undefined {
  const { w, known } = s;
  const to: PeopleRule[] = [];
  do {
    w.eat('to');
    const whom = readWhom(w, known);
    if (!whom || whom.how === 'turn' || (whom.count && whom.count !== 'everyone')) return undefined;
    for (const rule of whom.rules)
      to.push(...(rule.kind === 'either' ? rule.rules : [rule]).map(first => ({ first, ...whom.besides })));
  } while (w.eat('and to', '; and to', ', to', 'and also to?'));
  return to;
}

export function told(s: Saying): Step[] | undefined {
  const { w } = s;
  const around = leading(s);
  const { limit } = around;
  if (around.remind || (limit && 'workingDays' in limit)) return undefined;
  const found =
    w.try(() => {
      // `send Starts tomorrow to the line manager`
      if (!w.eat('send|sends|mail|mails')) return undefined;
      if (/^(it|this)$/.test(w.peek()) && w.peek(1) === 'back') return undefined;
      const message = readMessage(s);
      if (message === undefined) return undefined;
      w.eat('message|mail');
      if (!w.eat('to')) return undefined;
      const to = readReaders(s);
      return to && { message, to };
    }) ??
    w.try(() => {
      // `tell the asker that it was approved`, `let HR know with Papers missing`, `remind the manager that …`
      const letting = w.eat('let|lets');
      if (!letting && !w.eat('tell|tells|inform|informs|notify|notifies|remind|reminds|send|sends|mail|mails|write'))
        return undefined;
      const to = readReaders(s);
      if (!to || (letting && !w.eat('know'))) return undefined;
      w.eat(',|:');
      const message = readMessage(s);
      return message === undefined ? undefined : { message, to };
    }) ??
    w.try(() => {
      // `the asker gets Approved`, `HR is told Papers missing`
      const to = readReaders(s);
      if (!to || !w.eat('gets|get|receives|receive', 'is|are|must|be? be? told|informed|notified|reminded|sent'))
        return undefined;
      w.eat('that|with|of|by');
      const message = readMessage(s);
      return message === undefined ? undefined : { message, to };
    });
  if (!found) return undefined;
  const attach: Attachment[] = [];
  const attached = () => {
    const one = readAttachment(s);
    if (one) attach.push(one);
    return one !== undefined;
  };
  const inner: Around = { when: [...around.when] };
  if (limit) inner.limit = limit;
  if (!behindAll(s, inner, attached) || inner.back || inner.count || inner.remind || inner.atLimit !== undefined)
    return undefined;
  if (inner.limit && !('workingDaysBefore' in inner.limit)) return undefined;
  const { limit: day } = inner;
  const tell: Step = {
    verb: 'Tell',
    id: s.id('tell'),
    when: whenOf(inner),
    to: found.to,
    message: found.message,
    ...(attach.length > 0 ? { attach } : {}),
  };
  if (!day || !('workingDaysBefore' in day)) return [tell];
  // Told some days before a date: it waits for that day first.
  const hold: Step = {
    verb: 'Hold',
    id: s.id('hold'),
    when: null,
    until: { kind: 'before', workingDays: day.workingDaysBefore, field: day.field },
  };
  return [hold, tell];
}
