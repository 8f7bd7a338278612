/** What a kind of field is made of: one module tells everything that the core knows of it. */
import type { z } from 'zod';
import type { Type, Value } from '../../formula/index.ts';
import type { Answer, HouseLists, Naming } from '../answer.ts';
import type { ReferenceList } from '../list.ts';
import type { Common } from '../parts.ts';

type AnyField = Common & { kind: string };
/** The settings that a kind has besides those of every field. */
type Own<F extends AnyField> = Omit<F, keyof Common | 'kind'>;

/** What formulas see of the house when they name a field. */
export type Seen = {
  readonly lists: readonly ReferenceList[];
  readonly leaveType: (id: string) => string | undefined;
};

export type FieldKindModule<F extends AnyField> = {
  /** Its settings in a definition, and what is wrong with them. */
  readonly schema: z.ZodType<F>;
  /** `a line of text`: what it asks for, as a designer chooses it. */
  readonly words: string;
  /** Its own settings in a sentence: ` in EUR`. */
  readonly detail: (field: F) => string;
  /** Its own settings when it is new. */
  readonly blank: () => Own<F>;
  /** What its answer is in a formula, whatever its settings. */
  readonly type: Type;
  /** The same, where its settings say more. */
  readonly typeOf?: (field: F) => Type;
  /** The schema of an answer, which hangs on the field alone; it is not asked about an empty one. */
  readonly answer: (field: F) => z.ZodType<Answer>;
  /** The same, where the house or other answers say what it may be; nothing where they do not. */
  readonly answerIn?: (
    field: F,
    house: HouseLists,
    given: Readonly<Record<string, unknown>>,
  ) => z.ZodType<Answer> | undefined;
  /** An answer that is not empty, in words. */
  readonly say: (field: F, answer: NonNullable<Answer>, naming: Naming) => string;
  /** What is said of an answer that is not readable; what the schema says, when left out. */
  readonly fault?: (field: F, issue: z.core.$ZodIssue) => string | undefined;
  /** It asks nothing; nobody answers it. */
  readonly asksNothing?: true;
  /** Nothing can stand in it before anybody types. */
  readonly startsEmpty?: true;
  /** A date to count from. */
  readonly dated?: true;
  /** Its answer is files. */
  readonly files?: true;
  /** The least and the most that it takes, where it is a number. */
  readonly bounds?: (field: F) => { least?: number | undefined; most?: number | undefined };
  /** What formulas see instead of the answer. */
  readonly value?: (field: F, answer: Answer, seen: Seen) => Value;
  /** What formulas may name of it besides its label, as `Label.part`; `lists` is empty where they are not known. */
  readonly parts?: (field: F, lists: readonly ReferenceList[]) => Readonly<Record<string, Type>>;
  readonly partValues?: (field: F, answer: Answer, lists: readonly ReferenceList[]) => Readonly<Record<string, Value>>;
};

/** A kind, with the settings that its schema reads. */
export const fieldKind = <S extends z.ZodType<AnyField>>(
  module: { readonly schema: S } & Omit<FieldKindModule<z.infer<S>>, 'schema'>,
) => module;

export const nothing = () => '';
export const asWritten = (_field: unknown, answer: unknown): string => String(answer);
export const noSettings = () => ({});
