/** What a finding is. Each has its place, its words, and often a fix. */
import type { ReferenceList } from '../../form/index.ts';
import { nearest } from '../../formula/index.ts';
import type { DirectoryIndex, PersonId } from '../../people/index.ts';
import type { CivilDate } from '../../time/index.ts';
import type { Definition, Offers, Step } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';

export type Fix = { label: string; path: Path; value: unknown };

export type Finding = {
  /** Stable while the cause is there. */
  id: string;
  level: 'stops' | 'warns';
  title: string;
  detail: string;
  /** The step that it is about, if any. */
  step: string | null;
  path: Path;
  /** Where in the formula, when it is about one. */
  place?: { from: number; to: number };
  people?: { person: PersonId; name: string; why: string; day: CivilDate }[];
  fix?: Fix;
};

/** The directory on one or more days, for trying people rules on everyone. */
export type People = { index: DirectoryIndex; days: readonly CivilDate[] };

/** A name that a system outside does not know, with the nearest that it knows. */
export type Absent = { connection: string; from: 'groups' | 'spaces'; name: string; near: string | null };

/** What a definition is looked at against. */
export type Surroundings = {
  people?: People;
  /** The reference lists of the house, posts included; nothing when they are not known here. */
  lists?: readonly ReferenceList[];
  /** Leave types of the house, by id. */
  leaveTypes?: readonly string[];
  /** The same by name, as conditions compare them. */
  leaveTypeNames?: readonly string[];
  /** Ids of the workflows that a request may open. */
  workflows?: readonly string[];
  /** Names of the connections that are set up; nothing when they are not known here. */
  connections?: readonly string[];
  /** What each of them can be asked to do, where that is known. */
  offers?: Readonly<Record<string, Offers>>;
  /** What a step names of a system outside that is not there, as that system says itself. */
  absent?: readonly Absent[];
  /** Values of figures and fields, by name, in the samples that were tried. */
  samples?: readonly Readonly<Record<string, unknown>>[];
};

export class Findings {
  readonly all: Finding[] = [];
  readonly definition: Definition;
  readonly around: Surroundings;

  constructor(definition: Definition, around: Surroundings) {
    this.definition = definition;
    this.around = around;
  }

  add(
    level: Finding['level'],
    kind: string,
    step: Step | null,
    path: Path,
    title: string,
    detail: string,
    more: Partial<Finding> = {},
  ): void {
    this.all.push({ id: `${kind}:${path.join('.')}`, level, title, detail, step: step?.id ?? null, path, ...more });
  }
}

/** A fix that takes the nearest known id instead, when one is near enough to be a slip. */
export function nearestFix(
  wrong: string,
  known: readonly { id: string; name: string }[],
  path: Path,
): Pick<Finding, 'fix'> {
  const near = nearest(
    wrong,
    known.map(k => k.id),
  );
  const found = known.find(k => k.id === near);
  return found ? { fix: { label: `Take “${found.name}”`, path, value: found.id } } : {};
}
