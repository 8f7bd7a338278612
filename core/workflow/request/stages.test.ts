/** One form in stages, as the sheet says it: held against what readers really see. */
import { describe, expect, test } from '@jest/globals';
import { starters } from '../../starters/index.ts';
import { type Definition, filledWords, sightOf, stages } from '../index.ts';

const of = (id: string): Definition => {
  const found = starters.find(one => one.id === id);
  if (!found) throw new Error(id);
  return found.definition;
};
const said = (definition: Definition) =>
  Object.fromEntries(stages(definition).map(one => [one.section?.title ?? '', one]));

describe('the stages of an application', () => {
  const all = said(of('application'));

  test('say who fills in each of them, and when', () => {
    expect(filledWords(all['About you'])).toBe(
      'Filled in by the asker and whoever asks from outside, at the public address.',
    );
    expect(filledWords(all['Your application'])).toBe('Filled in by Name by a personal link at step 2.');
    expect(filledWords(all['Looked through'])).toBe('Filled in by whoever has step 4.');
    expect(filledWords(all['The talk'])).toBe('Filled in by whoever has step 5 and whoever has step 7.');
    expect(filledWords(all['The offer'])).toBe('Filled in by whoever has step 8 and North Pebble at step 9.');
  });

  test('say who reads what; where not all is read alike, of which fields', () => {
    expect(all['Looked through'].read).toHaveLength(1);
    expect(all['Looked through'].read[0].words).not.toContain('the asker');
    const talk = all['The talk'].read;
    expect(talk.find(one => one.fields.includes('Day of the talk'))?.words).toContain('the asker');
    expect(talk.find(one => one.fields.includes('From the talk'))?.words).not.toContain('the asker');
  });
});

test.each(starters)('of $id say that the asker reads a field exactly when they do', ({ definition }) => {
  const asker = { own: true, steps: [], roles: [], all: false };
  for (const { section, read } of stages(definition))
    for (const field of definition.form.fields) {
      if ((field.section ?? null) !== (section?.id ?? null) || field.kind === 'fixed text') continue;
      const words = read.find(one => one.fields.length === 0 || one.fields.includes(field.label))?.words ?? '';
      expect([field.label, words.startsWith('Read by the asker')]).toEqual([
        field.label,
        sightOf(definition, field, asker) === 'open',
      ]);
    }
});

test('a form without sections is one stage, and what nobody fills in says so', () => {
  const definition = {
    ...of('equipment'),
    form: { fields: [{ kind: 'text', id: 'x', label: 'X', required: false }] },
    access: Object.fromEntries(of('equipment').steps.map(step => [step.id, { x: 'shown' }])),
  } as unknown as Definition;
  const [one, ...others] = stages(definition);
  expect(others).toEqual([]);
  expect(one.section).toBeNull();
  expect(filledWords(one)).toBe('Filled in by nobody.');
});
