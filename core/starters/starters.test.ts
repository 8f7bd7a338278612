import { describe, expect, test } from '@jest/globals';
import { readBpmn, workflowJsonSchema, writeBpmn } from '../formats/index.ts';
import { findings, inOneSentence, readDefinition, readProcedure, writeProcedure } from '../workflow/index.ts';
import { blank, otherWordsOf, starters } from './index.ts';

describe.each(starters)('the starter $id', ({ definition }) => {
  test('has no findings of its own', () => {
    // What the house cannot bring about yet is said, and nothing else is.
    expect(findings(definition).filter(f => !f.id.startsWith('undelivered'))).toEqual([]);
  });

  test('is described by one sentence made from it', () => {
    expect(inOneSentence(definition)).toMatch(/^The asker fills in \d+ fields?(,| and) .+; it ends as .+\.$/);
  });

  test('has sentences that read back into the same steps', () => {
    expect(readProcedure(writeProcedure(definition), definition)).toEqual({ ok: true, steps: definition.steps });
  });

  test('is the same after JSON, and after BPMN', async () => {
    expect(readDefinition(JSON.parse(JSON.stringify(definition)))).toEqual({ ok: true, definition });
    const read = await readBpmn(await writeBpmn(definition));
    expect(read).toEqual({ ok: true, definition, unread: [] });
  });
});

test('there are at least ten, each with a name of its own, and every verb and many kinds of field are shown', () => {
  expect(starters.length).toBeGreaterThanOrEqual(10);
  expect(new Set(starters.map(s => s.definition.name)).size).toBe(starters.length);
  const all = JSON.stringify(starters);
  for (const verb of ['Ask', 'Choose', 'Decide', 'Do', 'Split', 'Hold', 'Record', 'Provision', 'Tell', 'Close'])
    expect(all).toContain(`"verb":"${verb}"`);
});

test('a last day that is agreed stands on file before anything is closed or said to be done', () => {
  const leaver = starters.find(one => one.id === 'leaver')?.definition;
  const told = leaver?.steps.map(step =>
    step.verb === 'Record' && step.effect.kind === 'person' ? step.effect.property : step.verb,
  );
  expect(told).toEqual(['Ask', 'Decide', 'last day', 'Split', 'Close']);
});

test('a workflow from nothing has nothing that stops it but what is missing', () => {
  expect(findings(blank('Mine')).map(f => f.title)).toEqual([
    'The form asks nothing',
    'The asker is not told of “Done”',
    'The asker is not told of “Declined”',
  ]);
  expect(JSON.stringify(workflowJsonSchema())).toContain('formatVersion');
});

test.each([
  ['holiday', 'Leave'],
  ['vacation', 'Leave'],
  ['overtime', 'Compensation time'],
  ['ill', 'Sick leave'],
  ['training', 'Study leave'],
  ['part time', 'Change of hours'],
  ['expenses', 'Expenses of a trip'],
  ['hire', 'New colleague'],
  ['onboarding', 'New colleague'],
  ['resign', 'Leaver'],
  ['password', 'Console access'],
  ['folder', 'Shared space'],
  ['headcount', 'New post'],
  ['laptop', 'Equipment'],
  ['bank details', 'Change of name'],
])('the trade’s word “%s” finds %s', (word, name) => {
  const found = starters.filter(one => otherWordsOf(one).includes(word)).map(one => one.definition.name);
  expect(found).toContain(name);
});

test('whoever asks for a joiner is not said to fill in what the joiner gives, nor what a later step gives', () => {
  const joiner = starters.find(one => one.id === 'new-colleague')?.definition ?? blank('');
  const [words] = writeProcedure(joiner).split('\n');
  expect(words).toContain('The asker fills in Name, Post, Start date');
  for (const other of ['Day of birth', 'Account number', 'Account name']) expect(words).not.toContain(other);
  expect(inOneSentence(joiner)).toMatch(/^The asker fills in 7 fields,/);
});

test('every starter has other words', () => {
  expect(starters.filter(one => otherWordsOf(one) === '').map(one => one.definition.name)).toEqual([]);
});
