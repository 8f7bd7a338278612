/** A guest in words, and read back: who fills in what by which link, until when, how often they are reminded. */
import { type Definition, fieldById, type Guest, messageById } from '../definition/definition.ts';
import { quoted } from './phrase.ts';
import { type Known, readField } from './ruleReader.ts';
import type { Style } from './ruleWords.ts';
import type { Scanner } from './scanner.ts';

const days = (n: number): string => (n === 1 ? '1 day' : `${n} days`);

/** `“Name” fills in “You” and “Bank” by a personal link to “Private mail”, good for 30 days, reminded every 3 days at most 5 times.` */
export function guestWords(guest: Guest, definition: Definition, style: Style = 'shown'): string {
  const name = (text: string) => (style === 'written' ? quoted(text) : text);
  const field = (id: string) => name(fieldById(definition, id)?.label ?? id);
  const sections = guest.sections.map(id => name(definition.form.sections?.find(s => s.id === id)?.title ?? id));
  const parts = [
    `${field(guest.name)} fills in ${sections.join(', ')} by a personal link to ${field(guest.mail)}`,
    guest.days === undefined ? '' : `good for ${days(guest.days)}`,
    guest.remind ? `reminded every ${days(guest.remind.everyDays)} at most ${guest.remind.atMost} times` : '',
    guest.goesOn ? 'goes on by itself once all is in' : '',
    guest.message === undefined ? '' : `with ${name(messageById(definition, guest.message)?.name ?? guest.message)}`,
  ];
  return `${parts.filter(Boolean).join(', ')}.`;
}

/** Nothing where the words are about something else. */
export function readGuest(s: Scanner, known: Known): Guest | undefined {
  return s.try(() => {
    const name = readField(s, known);
    if (name === undefined || !s.eat(/fills? in/, 'fills in')) return undefined;
    const titles = (known.definition.form.sections ?? []).flatMap(({ id, title }) => [
      { name: title, value: id },
      { name: id, value: id },
    ]);
    const sections: string[] = [];
    do {
      const section = s.name(titles, 'a section');
      if (section === undefined) return undefined;
      sections.push(section);
    } while (s.eat(/,|and(?=\s)/));
    if (!s.eat(/by a personal link to/, 'by a personal link to')) return undefined;
    const mail = readField(s, known);
    if (mail === undefined) return undefined;
    const guest: Guest = { name, mail, sections };
    while (s.eat(/,\s*(?:and(?=\s))?/)) {
      const good = s.eat(/good for (\d+) days?/);
      const remind = good ? undefined : s.eat(/reminded every (?:(\d+) )?days?(?:,? at most (\d+) times)?/);
      if (good) guest.days = Number(good[1]);
      else if (remind) guest.remind = { everyDays: Number(remind[1] ?? 1), atMost: Number(remind[2] ?? 5) };
      else if (s.eat(/goes on by itself(?: once all is in)?/, 'goes on by itself')) guest.goesOn = true;
      else if (s.words('with')) {
        const messages = known.definition.messages.map(({ id, name }) => ({ name, value: id }));
        const message = s.name(messages, 'a message');
        if (message === undefined) return undefined;
        guest.message = message;
      } else return undefined;
    }
    s.eat(/\./);
    return guest;
  });
}
