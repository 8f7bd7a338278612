/** What goes with a message: files of a field, an invitation. */
import { holdsFiles } from '../../../form/index.ts';
import { type AttachedFiles, type Attachment, invitable } from '../../definition/definition.ts';
import type { Saying } from './saying.ts';

/** `; with the files of Itinerary` */
export function readAttachedFiles(s: Saying): AttachedFiles | undefined {
  const { w } = s;
  return w.try((): AttachedFiles | undefined => {
    w.eat(';|,|and');
    if (!w.eat('with the? files|file of', 'with the? files|file in')) return undefined;
    const files = s.known.definition.form.fields.filter(f => holdsFiles(f));
    const field = w.name(files.map(f => ({ name: f.label, value: f.id })));
    return field === undefined ? undefined : { what: 'files', field };
  });
}

/** An invitation over the dates that the form asks for; nothing where it asks for none. */
export function readInvitation(s: Saying): Attachment | undefined {
  const { fields } = s.known.definition.form;
  const of =
    fields.find(f => f.kind === 'date range' || f.kind === 'leave span') ?? fields.find(f => f.kind === 'date');
  return of && { what: 'invitation', of: of.id, title: of.label };
}

/** `; with an invitation Trip to {To} over Legs`, or over the dates that the form asks for where nothing is said. */
export function readAttachment(s: Saying): Attachment | undefined {
  const { w } = s;
  return (
    readAttachedFiles(s) ??
    w.try(() => {
      w.eat(';|,|and');
      if (!w.eat('with a|an? invitation')) return undefined;
      const over = w.try((): Attachment | undefined => {
        let title = w.quoted();
        if (title === undefined) {
          const from = w.at;
          while (!w.done && w.peek() !== 'over') w.at++;
          title = w.between(from, w.at);
        }
        if (!w.eat('over')) return undefined;
        const dated = s.known.definition.form.fields.filter(f => invitable.some(kind => kind === f.kind));
        const of = w.name(dated.map(f => ({ name: f.label, value: f.id })));
        const called = title || dated.find(f => f.id === of)?.label;
        return of === undefined || !called ? undefined : { what: 'invitation', of, title: called };
      });
      return over ?? readInvitation(s);
    })
  );
}
