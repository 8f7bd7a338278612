/** A house told in a few names, so that sentences can be tried against it without anything else on file. */
import { z } from 'zod';
import { type Field, type FieldKind, Form, fieldKinds, fieldOf, idFrom, Name } from '../../form/index.ts';
import { type DirectoryIndex, indexDirectory, type PersonId } from '../../people/index.ts';
import { CivilDate } from '../../time/index.ts';
import { Definition, Unit } from '../definition/definition.ts';
import { readWords } from './index.ts';

const names = z.array(Name).max(200);

/** The names that sentences may use: roles, posts, people and so on, and what the form asks and works out. */
export const SentencesHouse = z.object({
  /** A label, a kind, and what there is to choose from: words, or the name of a list. */
  fields: z
    .array(z.tuple([Name, z.enum(fieldKinds as [string, ...string[]])]).rest(z.union([names, z.string().max(80)])))
    .max(200),
  figures: z.array(z.tuple([Name, Unit])).max(100),
  roles: names,
  posts: names,
  people: names,
  departments: names,
  messages: names.max(100),
  closings: names.min(1).max(50),
  lists: z.array(z.tuple([Name, names.max(12)])).max(50),
  connections: names.max(50),
});
export type SentencesHouse = z.infer<typeof SentencesHouse>;

export const SentencesInput = z.object({ say: z.string().max(2000) });

export type SentencesRead = {
  /** Whether nothing was left over. */
  taken: boolean;
  /** As the sheet writes them, with their verbs. */
  sentences: string[];
  /** The words that were not understood. */
  left: string[];
};

function told([label, kind, of]: SentencesHouse['fields'][number], taken: string[]): Field {
  const id = idFrom(label, taken);
  taken.push(id);
  const field = fieldOf(kind as FieldKind, { id, label, required: false });
  if (field.kind === 'choice') return { ...field, options: Array.isArray(of) ? of : 'leave types' };
  if (field.kind === 'several choices' && Array.isArray(of)) return { ...field, options: of };
  return field.kind === 'pick' && typeof of === 'string' ? { ...field, list: idFrom(of, []) } : field;
}

/** Steps that stand on the sheet already, so that a sentence can lead to one of them. */
const stepsThere = 9;

function definitionOf(house: SentencesHouse): Definition {
  const taken: string[] = [];
  const fields = house.fields.map(field => told(field, taken));
  const withId = (name: string, given: string[]) => {
    const id = idFrom(name, given);
    given.push(id);
    return { id, name };
  };
  const [figures, messages, closings]: string[][] = [[], [], []];
  return Definition.parse({
    formatVersion: 3,
    name: 'Sentences',
    area: 'Sentences',
    purpose: '',
    form: Form.parse({ fields }),
    figures: house.figures.map(([name, unit]) => ({ ...withId(name, figures), formula: '0', unit })),
    steps: [
      { verb: 'Ask', id: 'ask' },
      ...Array.from({ length: stepsThere - 1 }, (_, i) => ({
        verb: 'Hold',
        id: `hold-${i + 2}`,
        when: null,
        until: { kind: 'time', amount: { workingDays: 1 } },
      })),
    ],
    messages: house.messages.map(name => ({ ...withId(name, messages), subject: name, body: name })),
    closings: house.closings.map(name => ({ ...withId(name, closings), tone: 'good', message: null })),
  });
}

function indexOf(house: SentencesHouse): DirectoryIndex {
  const [start] = [CivilDate.parse('2020-01-01')];
  const departments = house.departments.map(name => ({ id: idFrom(name, []), name }));
  const department = departments[0]?.id ?? 'house';
  return indexDirectory({
    people: house.people.map((name, i) => ({
      id: `person-${i + 1}` as PersonId,
      name,
      mail: `person-${i + 1}@example.org`,
      joined: start,
      left: null,
      dottedTo: null,
      records: [{ from: start, place: 'house', department, pattern: 'office', fte: 1, plan: null }],
    })),
    posts: house.posts.map((title, i) => ({
      id: `post-${i + 1}`,
      title,
      department,
      place: 'house',
      lines: [{ from: start, reportsTo: null }],
    })),
    holdings: [],
    covers: [],
    roles: house.roles.map(role => ({ role, person: 'person-1' as PersonId })),
    places: [],
    departments: departments.map(one => ({ ...one, head: house.posts.length > 0 ? 'post-1' : null })),
    patterns: [],
    calendars: [],
  });
}

/** How one house reads what is said in it. */
export function sentencesOf(house: SentencesHouse): (input: z.infer<typeof SentencesInput>) => SentencesRead {
  const definition = definitionOf(house);
  const index = indexOf(house);
  const lists = house.lists.map(([name]) => ({ id: idFrom(name, []), name }));
  const named = { lists, connections: house.connections };
  return ({ say }) => {
    const read = readWords(say, definition, index, named);
    return read.ok
      ? { taken: true, sentences: read.understood, left: [] }
      : { taken: false, sentences: [], left: read.left };
  };
}
