/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { type Definition, type Edit, procedure, type Step, setAt } from '@north-pebble/core/workflow';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { base } from '../../../../../../core/testing/anyWorkflow.ts';
import { index } from '../../../../../../core/testing/house.ts';
import { conditionOfParts, partsOf } from './FormulaEditor.tsx';
import { ruleChoices } from './PeopleEditor.tsx';
import { PhraseEditor } from './PhraseEditor.tsx';

afterEach(cleanup);

const person = { first: { kind: 'manager' as const, levels: 1 }, otherwise: [] };
const more: Step[] = [
  {
    verb: 'Do',
    id: 'do',
    when: null,
    who: person,
    whenAway: 'waits',
    task: 'Lay out',
    checklist: [{ id: 'keys', label: 'Keys' }],
    limit: null,
  },
  { verb: 'Hold', id: 'hold', when: null, until: { kind: 'time', amount: { workingDays: 1 } } },
  {
    verb: 'Provision',
    id: 'give',
    when: null,
    connection: 'Directory',
    action: 'add to group',
    values: [{ name: 'to', formula: 'Lead' }],
  },
];
const definition: Definition = { ...base, steps: [...base.steps.slice(0, 4), ...more, ...base.steps.slice(4)] };
const lines = procedure(definition, index);
const edits = lines
  .flatMap(l => [...l.sentence, ...l.rows.flatMap(r => r.phrases), ...l.after])
  .flatMap(p => (p.edit ? [p.edit] : []));
const edit = <K extends Edit['kind']>(kind: K, nth = 0) =>
  edits.filter(e => e.kind === kind)[nth] as Extract<Edit, { kind: K }>;

function open(what: Edit) {
  const done = jest.fn<(definition?: Definition) => void>();
  render(<PhraseEditor edit={what} definition={definition} index={index} onDone={done} />);
  const changed = () => {
    const result = done.mock.calls.at(-1)?.[0];
    if (!result) throw new Error('nothing was changed');
    return result;
  };
  return { user: userEvent.setup(), done, changed };
}
const step = (d: Definition, id: string) => d.steps.find(s => s.id === id) as never as Record<string, never>;
const change = () => screen.getByRole('button', { name: 'Change' });

describe('phrases of every kind', () => {
  test('how answers are counted', async () => {
    const { user, changed } = open(edit('count'));
    await user.click(screen.getByRole('menuitem', { name: 'by majority' }));
    expect(step(changed(), 'manager').count).toBe('majority');
  });

  test('an outcome: its words, what it is, what it needs, where it leads', async () => {
    const { user, changed } = open(edit('outcome'));
    const words = screen.getByRole('textbox', { name: 'Words on the button' });
    await user.clear(words);
    await user.type(words, 'Send home');
    expect(screen.getByRole('combobox', { name: 'Back to' })).toBeTruthy();
    await user.click(change());
    expect(JSON.stringify(changed())).toContain('"label":"Send home"');
    await user.clear(words);
    expect(change()).toHaveProperty('disabled', true);
  });

  test('where an outcome leads may become a way back for changes', async () => {
    const { user, changed } = open(edit('go', 2));
    await user.click(screen.getByRole('menuitem', { name: 'send back for changes …' }));
    for (const box of screen.getAllByRole('checkbox'))
      if (box !== screen.getByRole('checkbox', { name: 'Amount' })) await user.click(box);
    await user.click(change());
    expect(JSON.stringify(changed())).toContain('"leads":{"to":"rework","fields":["amount"]');
  });

  test('a limit counted back from a date, and what happens when it passes', async () => {
    const { user, changed } = open(edit('limit'));
    await user.click(screen.getByRole('combobox', { name: 'Counted' }));
    await user.click(screen.getByRole('option', { name: 'back from a date of the form' }));
    await user.click(screen.getByRole('combobox', { name: 'before' }));
    await user.click(screen.getByRole('option', { name: 'Start date' }));
    await user.click(screen.getByRole('combobox', { name: 'Unanswered at the limit' }));
    await user.click(screen.getByRole('option', { name: 'an outcome is taken' }));
    await user.click(change());
    expect(step(changed(), 'manager').limit).toMatchObject({
      within: { workingDaysBefore: 1, field: 'start' },
      atLimit: { take: 'approve' },
    });
  });

  test('what is waited for', async () => {
    const { user, changed } = open(edit('until'));
    await user.click(screen.getByRole('combobox', { name: 'Wait' }));
    await user.click(screen.getByRole('option', { name: 'until a document is in' }));
    await user.click(change());
    expect(step(changed(), 'hold').until).toEqual({ kind: 'document', field: 'paper' });
  });

  test('a checklist, an item each; what stays keeps its id', async () => {
    const { user, changed } = open(edit('checklist'));
    await user.type(screen.getByRole('textbox', { name: 'item 1' }), '{Enter}Badge');
    await user.click(screen.getByRole('button', { name: 'Change' }));
    expect(step(changed(), 'do').checklist).toEqual([
      { id: 'keys', label: 'Keys' },
      { id: 'badge', label: 'Badge' },
    ]);
  });

  test('named values, one more and none without a name', async () => {
    const { user, changed } = open(edit('values'));
    await user.click(screen.getByRole('button', { name: 'Add a value' }));
    expect(change()).toHaveProperty('disabled', true);
    await user.type(screen.getAllByRole('textbox', { name: 'Name' })[1], 'why');
    await user.click(change());
    expect(step(changed(), 'give').values).toMatchObject([{ name: 'to' }, { name: 'why', formula: 'Kind' }]);
  });

  test('what is recorded becomes something else', async () => {
    const { user, changed } = open(edit('effect'));
    await user.click(screen.getByRole('combobox', { name: 'What is recorded' }));
    await user.click(screen.getByRole('option', { name: 'set a field' }));
    await user.click(change());
    expect(step(changed(), 'record').effect).toMatchObject({ kind: 'set' });
  });

  test('words, and one of several', async () => {
    const text = open(edit('text'));
    const words = screen.getByRole('textbox', { name: 'Words' });
    await text.user.clear(words);
    expect(screen.getByText('Write something.')).toBeTruthy();
    await text.user.type(words, 'Hang up{Enter}');
    expect(step(text.changed(), 'do').task).toBe('Hang up');
    cleanup();
    const choice = open(edits.find(e => e.kind === 'choice' && e.path.at(-1) === 'pool') as Edit);
    await choice.user.click(screen.getByRole('menuitem', { name: 'whoever takes it first' }));
    expect(step(choice.changed(), 'do').pool).toBe(true);
  });

  test('a condition picked together, and one that is said in words', async () => {
    const { user, changed } = open(edit('formula'));
    await user.click(screen.getByRole('button', { name: 'Pick it together' }));
    await user.click(screen.getByRole('button', { name: 'Remove Others away' }));
    await user.click(change());
    expect(JSON.stringify(changed())).toContain('"condition":"Days <= 2"');
    cleanup();
    const said = open(edit('formula'));
    fireEvent.change(screen.getByRole('textbox', { name: 'Condition' }), {
      target: { value: 'Days is over 3 and Urgent is yes' },
    });
    await said.user.click(change());
    expect(JSON.stringify(said.changed())).toContain('"condition":"Days > 3 and Urgent = true"');
  });

  test('kept as it is, nothing is changed', async () => {
    const { user, done } = open(edit('people'));
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect(done).toHaveBeenCalledWith();
  });
});

describe('what can be chosen', () => {
  test('people rules name the people, posts and deciders of this workflow', () => {
    const kinds = new Set(ruleChoices(definition, index).map(r => r.kind));
    for (const kind of [
      'manager',
      'managers',
      'person in',
      'post in',
      'role',
      'decided',
      'post',
      'person',
      'subject',
    ] as const)
      expect(kinds).toContain(kind);
    expect(ruleChoices(setAt(definition, ['form', 'fields'], []), undefined).some(r => r.kind === 'person in')).toBe(
      false,
    );
  });

  test('comparisons are taken apart and put together the same', () => {
    const names = { Days: 'number', Kind: 'text', Urgent: 'yes/no', Start: 'date' } as const;
    for (const source of ['Days <= 2 and Kind = "A"', 'Urgent = false', 'Start > date("2026-02-01")'])
      expect(conditionOfParts(partsOf(source, names) ?? [], names)).toBe(source);
    expect(partsOf('Days * 2 > 3', names)).toBeNull();
    expect(partsOf(' ', names)).toEqual([]);
  });
});
