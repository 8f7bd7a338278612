/** Changes to a definition as a designer makes them: steps put in, moved, copied and taken out; names changed everywhere. */
import { type Field, idFrom } from '../../form/index.ts';
import { renameIn } from '../../formula/index.ts';
import { type Definition, type Go, isPersonStep, type Rework, type Step, shapeOf } from '../definition/definition.ts';
import { getAt, type Path, setAt } from '../definition/path.ts';
import { allSteps, type Placed, stepNumber, structure } from '../definition/structure.ts';
import { namesOf } from '../figures/evaluate.ts';
import { formulasOf } from '../figures/formulas.ts';
import { insertedNames } from '../mail/letters.ts';

/** Where steps are put in: at a place of a sequence. */
export type Place = { sequence: Path; position: number };

export const placeAfter = (placed: Placed): Place => ({
  sequence: placed.path.slice(0, -1),
  position: placed.position + 1,
});

export function insertSteps(definition: Definition, place: Place, steps: readonly Step[]): Definition {
  const sequence = getAt(definition, place.sequence) as readonly Step[];
  return setAt(definition, place.sequence, [
    ...sequence.slice(0, place.position),
    ...steps,
    ...sequence.slice(place.position),
  ]);
}

export function removeStep(definition: Definition, id: string): Definition {
  const placed = structure(definition).of(id);
  if (!placed || placed.step.verb === 'Ask') return definition;
  const left = placed.sequence.filter(s => s !== placed.step);
  const without = setAt(definition, placed.path.slice(0, -1), left);
  const inside = new Set(allSteps({ steps: [placed.step] }).map(s => s.id));
  const access = Object.fromEntries(Object.entries(without.access ?? {}).filter(([step]) => !inside.has(step)));
  return without.access ? { ...without, access } : without;
}

/** Moves a step one place up or down in its own sequence; the first step stays first. */
export function moveStep(definition: Definition, id: string, by: 1 | -1): Definition {
  const placed = structure(definition).of(id);
  if (!placed) return definition;
  const to = placed.position + by;
  const first = placed.depth === 0 ? 1 : 0;
  if (placed.position < first || to < first || to >= placed.sequence.length) return definition;
  const steps = [...placed.sequence];
  [steps[placed.position], steps[to]] = [steps[to], steps[placed.position]];
  return setAt(definition, placed.path.slice(0, -1), steps);
}

/** Moves a step to stand before another one of the same sequence. */
export function moveTo(definition: Definition, id: string, target: string): Definition {
  const placed = structure(definition).of(id);
  const other = structure(definition).of(target);
  if (!placed || !other || placed.sequence !== other.sequence || placed.step.verb === 'Ask') return definition;
  const without = placed.sequence.filter(s => s !== placed.step);
  const at = Math.max(placed.depth === 0 ? 1 : 0, other.position);
  return setAt(definition, placed.path.slice(0, -1), [...without.slice(0, at), placed.step, ...without.slice(at)]);
}

function renamed(step: Step, ids: ReadonlyMap<string, string>): Step {
  const id = (old: string) => ids.get(old) ?? old;
  const go = (g: Go | Rework): Go | Rework => {
    if (g.to === 'step') return { ...g, step: id(g.step) };
    if (g.to === 'rework') return { ...g, resume: id(g.resume), ...(g.whom ? { whom: id(g.whom) } : {}) };
    return g;
  };
  const led = shapeOf(step)
    .leads(step)
    .filter(lead => lead.go.to === 'step' || lead.go.to === 'rework')
    .reduce<Step>((changed, lead) => setAt(changed, lead.path, go(lead.go)), step);
  if (isPersonStep(led) && led.plan?.after)
    return { ...led, id: id(step.id), plan: { ...led.plan, after: led.plan.after.map(id) } };
  if (led.verb !== 'Split') return { ...led, id: id(step.id) };
  return { ...led, id: id(step.id), lanes: led.lanes.map(l => ({ ...l, steps: l.steps.map(s => renamed(s, ids)) })) };
}

/** Copies of steps with ids that the definition does not have; ways among the copies stay among them. */
export function copies(definition: Definition, steps: readonly Step[]): Step[] {
  const taken = allSteps(definition).map(s => s.id);
  const ids = new Map<string, string>();
  for (const step of allSteps({ steps: [...steps] })) {
    const id = idFrom(step.id, taken);
    taken.push(id);
    ids.set(step.id, id);
  }
  return steps.filter(s => s.verb !== 'Ask').map(s => renamed(s, ids));
}

/** The titles of invitations, which have names put into them as messages have. */
function invitationTitles(definition: Definition): { step: Step; at: Path; title: string }[] {
  return structure(definition).all.flatMap(({ step, path }) =>
    step.verb === 'Tell'
      ? (step.attach ?? []).flatMap((one, i) =>
          one.what === 'invitation' ? [{ step, at: [...path, 'attach', i, 'title'], title: one.title }] : [],
        )
      : [],
  );
}

/** Where a field, figure, message, closing or step is used, in words, with the path to go there. */
export type Use = { words: string; path: Path; step: string | null };

const numbered = (definition: Definition, id: string): string => `step ${stepNumber(definition, id)}`;

export function usesOfName(definition: Definition, name: string): Use[] {
  const found: Use[] = [];
  const names = namesOf(definition);
  for (const { source, path, step } of formulasOf(definition)) {
    const uses = renameIn(source, name, '\u0000', names) !== source;
    if (!uses) continue;
    const where = step
      ? numbered(definition, step.id)
      : path[0] === 'figures'
        ? `figure “${definition.figures[path[1] as number].name}”`
        : `field “${definition.form.fields[path[2] as number].label}”`;
    found.push({ words: `${where}: ${source}`, path, step: step?.id ?? null });
  }
  definition.messages.forEach((message, i) => {
    for (const part of ['subject', 'body'] as const) {
      if (insertedNames(message[part]).includes(name))
        found.push({
          words: `message “${message.name}”, ${part === 'body' ? 'text' : 'subject'}`,
          path: ['messages', i, part],
          step: null,
        });
    }
  });
  definition.letters?.forEach((letter, i) => {
    for (const part of ['title', 'body', 'foot'] as const)
      if (insertedNames(letter[part] ?? '').includes(name))
        found.push({ words: `letter “${letter.name}”`, path: ['letters', i, part], step: null });
  });
  for (const { step, at, title } of invitationTitles(definition)) {
    if (insertedNames(title).includes(name))
      found.push({ words: `${numbered(definition, step.id)}, invitation`, path: at, step: step.id });
  }
  return found;
}

/** Every string inside a step that is this id, at a place that names a field. */
function fieldPlaces(step: Step, id: string): (string | number)[][] {
  const found: (string | number)[][] = [];
  const keys = new Set(['field', 'span', 'type', 'row', 'of']);
  const visit = (value: unknown, path: (string | number)[]): void => {
    if (Array.isArray(value)) {
      const last = path[path.length - 1];
      value.forEach((item, i) => {
        if (item === id && (last === 'fields' || last === 'needs')) found.push([...path, i]);
        else visit(item, [...path, i]);
      });
      return;
    }
    if (typeof value !== 'object' || value === null) return;
    for (const [key, inner] of Object.entries(value)) {
      if (key === 'lanes') continue;
      if (inner === id && keys.has(key)) found.push([...path, key]);
      else visit(inner, [...path, key]);
    }
  };
  visit(step, []);
  return found;
}

export function usesOfField(definition: Definition, field: Field): Use[] {
  const found = usesOfName(definition, field.label);
  for (const { step, path } of structure(definition).all) {
    for (const place of fieldPlaces(step, field.id))
      found.push({ words: `${numbered(definition, step.id)}, ${step.verb}`, path: [...path, ...place], step: step.id });
  }
  for (const [step, levels] of Object.entries(definition.access ?? {})) {
    if (field.id in levels)
      found.push({ words: `access at ${numbered(definition, step)}`, path: ['access', step, field.id], step });
  }
  for (const part of ['field', 'place'] as const)
    if (definition.countsBack?.[part] === field.id)
      found.push({ words: 'what it counts back from', path: ['countsBack', part], step: null });
  definition.form.fields.forEach((other, i) => {
    const picked = other.start?.from === 'picked' && other.start.field === field.id;
    const where = other.kind === 'pick' && other.where?.field === field.id;
    if (picked || where) found.push({ words: `field “${other.label}”`, path: ['form', 'fields', i], step: null });
  });
  return found;
}

/** A field or a figure gets another name, and every formula and message that names it follows. */
export function rename(definition: Definition, before: string, after: string): Definition {
  const names = namesOf(definition);
  let changed = definition;
  for (const { source, path } of formulasOf(definition)) {
    const next = renameIn(source, before, after, names);
    if (next !== source) changed = setAt(changed, path, next);
  }
  const inText = (text: string) =>
    text.replace(/\{\s*([^{}]+?)\s*\}/g, (whole, name: string) => (name === before ? `{${after}}` : whole));
  for (const { at, title } of invitationTitles(changed)) changed = setAt(changed, at, inText(title));
  return {
    ...changed,
    form: { ...changed.form, fields: changed.form.fields.map(f => (f.label === before ? { ...f, label: after } : f)) },
    figures: changed.figures.map(f => (f.name === before ? { ...f, name: after } : f)),
    messages: changed.messages.map(m => ({ ...m, subject: inText(m.subject), body: inText(m.body) })),
    ...(changed.letters
      ? {
          letters: changed.letters.map(letter => ({
            ...letter,
            title: inText(letter.title),
            body: inText(letter.body),
            ...(letter.foot ? { foot: inText(letter.foot) } : {}),
          })),
        }
      : {}),
  };
}

/** Takes a field out; what refers to it stays and is found, so that nothing changes in silence. */
export function removeField(definition: Definition, id: string): Definition {
  const access = Object.entries(definition.access ?? {}).map(
    ([step, { [id]: _level, ...rest }]) => [step, rest] as const,
  );
  return {
    ...definition,
    form: { ...definition.form, fields: definition.form.fields.filter(f => f.id !== id) },
    ...(definition.access
      ? { access: Object.fromEntries(access.filter(([, levels]) => Object.keys(levels).length > 0)) }
      : {}),
  };
}
