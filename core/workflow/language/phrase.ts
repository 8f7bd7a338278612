/** Phrases: the pieces of which sentences are made. Some can be changed in place and say where they stand. */
import type { Comparator, Place, Type } from '../../formula/index.ts';
import type { PeopleRule } from '../../people/index.ts';
import type {
  Go,
  Guest,
  InPlan,
  Limit,
  Outcome,
  Quorum,
  RecordEffect,
  Rework,
  Until,
} from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';

export type Choice = { value: unknown; words: string };

export type Edit =
  | {
      kind: 'value';
      path: Path;
      source: string;
      place: Place;
      value: string;
      valueKind: 'number' | 'text' | 'date' | 'yes/no';
    }
  | { kind: 'comparator'; path: Path; source: string; place: Place; value: Comparator }
  | { kind: 'formula'; path: Path; source: string; wanted: Type; mayBeEmpty?: true }
  | { kind: 'people'; path: Path; rule: PeopleRule }
  | { kind: 'limit'; path: Path; limit: Limit | null; step: string }
  | { kind: 'guest'; path: Path; guest: Guest | undefined; step: string }
  | { kind: 'plan'; path: Path; plan: InPlan | undefined; step: string }
  | { kind: 'count'; path: Path; count: Quorum | undefined }
  | { kind: 'fields'; path: Path; fields: readonly string[] }
  | { kind: 'go'; path: Path; go: Go | Rework; step: string }
  | { kind: 'outcome'; path: Path; outcome: Outcome; step: string }
  | { kind: 'until'; path: Path; until: Until }
  | { kind: 'effect'; path: Path; effect: RecordEffect }
  | { kind: 'values'; path: Path; values: readonly { name: string; formula: string }[] }
  | { kind: 'checklist'; path: Path; items: readonly { id: string; label: string }[] }
  | { kind: 'choice'; path: Path; value: unknown; choices: readonly Choice[] }
  | { kind: 'text'; path: Path; value: string };

/** `text` is shown; `written` stands for it where sentences are read back, when that needs more care. */
export type Phrase = { text: string; written?: string; edit?: Edit };

export const say = (text: string): Phrase => ({ text });

/** A name in marks, so that it can be told from the words around it. */
export const quoted = (name: string): string => `“${name.replace(/”/g, '””')}”`;
export const named = (name: string, edit?: Edit): Phrase => ({
  text: name,
  written: quoted(name),
  ...(edit ? { edit } : {}),
});
/** A formula in marks. */
export const marked = (formula: string): string => `‹${formula.replace(/›/g, '››')}›`;

const join = (parts: readonly string[]): string => parts.join(' ').replace(/ ([.,:;])/g, '$1');

/** A sentence read aloud: phrases joined, no space before a mark. */
export const aloud = (phrases: readonly Phrase[]): string => join(phrases.map(p => p.text));

/** A sentence as it can be read back. */
export const written = (phrases: readonly Phrase[]): string => join(phrases.map(p => p.written ?? p.text));
