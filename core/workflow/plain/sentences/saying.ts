/** One sentence while it is read: its words, what may be named in it, and the ids that steps have already. */
import { idFrom } from '../../../form/index.ts';
import type { Known } from '../people.ts';
import type { Named, Words } from '../words.ts';

export class Saying {
  readonly w: Words;
  readonly known: Known;
  /** Ids of steps that are taken; those of steps that are read join them. */
  readonly taken: string[];
  constructor(w: Words, known: Known, taken: string[]) {
    this.w = w;
    this.known = known;
    this.taken = taken;
  }

  /** An id for a step, made of words and like no other. */
  id(words: string): string {
    const id = idFrom(words, this.taken);
    this.taken.push(id);
    return id;
  }

  get fields(): Named<string>[] {
    return this.known.definition.form.fields.map(f => ({ name: f.label, value: f.id }));
  }
  get messages(): Named<string>[] {
    return this.known.definition.messages.map(m => ({ name: m.name, value: m.id }));
  }
  get closings(): Named<string>[] {
    return this.known.definition.closings.map(c => ({ name: c.name, value: c.id }));
  }
}
