/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import {
  type Definition,
  findings,
  readWords,
  removeStep,
  type Surroundings,
  setAt,
} from '@north-pebble/core/workflow';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import type { ReactNode } from 'react';
import { annualLeave, date, index, instant } from '../../../../../core/testing/house.ts';
import { asKind } from '../form/FieldSettings.tsx';
import { AddLine } from '../steps/AddLine.tsx';
import { suggestionsFor } from '../steps/editors/FormulaField.tsx';
import { Procedure } from '../steps/Procedure.tsx';
import { stepsAsText, stepsFromText } from '../steps/stepClipboard.ts';
import { marginNotes } from './findingNotes.tsx';
import { level } from './level.ts';
import { Margin } from './Margin.tsx';
import type { Found } from './useFindings.ts';

// The size of what is open is not measured here; there is no layout.
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

afterEach(cleanup);

const around: Surroundings = { people: { index, days: [date('2026-02-02')] } };
const wrong = setAt(annualLeave, ['steps', 1, 'rows', 0, 'condition'], 'Balance aftr < 0');

function show(found: Found | null, definition: Definition, readOnly = false) {
  const go = jest.fn<(place: object) => void>();
  const change = jest.fn<(definition: Definition) => void>();
  const notes = marginNotes({
    found,
    definition,
    index,
    zone: 'UTC',
    readOnly,
    onGo: go,
    onEdit: next => change(next(definition)),
  });
  render((<Margin notes={notes} levelled={false} />) as ReactNode);
  return { user: userEvent.setup(), go, change };
}
const foundIn = (definition: Definition): Found => ({ findings: findings(definition, around), checks: [] });

describe('the margin', () => {
  test('says that findings are being worked out, and when there are none', () => {
    show(null, annualLeave);
    expect(screen.getByText('Reading the workflow …')).toBeTruthy();
    cleanup();
    show({ findings: [], checks: [] }, annualLeave);
    expect(screen.getByRole('status').textContent).toContain('Nothing found');
  });

  test('leads to the step of a finding, and mends it with one click', async () => {
    const { user, go, change } = show(foundIn(wrong), wrong);
    expect(screen.getByText('“Balance aftr”')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Step 2' }));
    expect(go).toHaveBeenCalledWith({ step: 'choose', section: 'Steps' });
    await user.click(screen.getByRole('button', { name: 'Change to “Balance after”' }));
    expect(findings(change.mock.calls[0][0]).filter(f => f.level === 'stops')).toEqual([]);
  });

  test('names the people who would get stuck, each with the reason', async () => {
    const { user } = show(foundIn(annualLeave), annualLeave);
    expect(screen.queryByText(/Con Tractor: /)).toBeNull();
    await user.click(screen.getAllByRole('button', { name: 'Show people' })[0]);
    expect(screen.getByText('Con Tractor: Con Tractor holds no post, so no line manager is on file.')).toBeTruthy();
  });

  test('offers no fix to those who only look', () => {
    show(foundIn(wrong), wrong, true);
    expect(screen.queryByRole('button', { name: /Change to/ })).toBeNull();
  });

  test('a kept check with another result says what was expected and what was found', () => {
    const differences = [{ line: 2, expected: 'manager: to tom', found: 'manager: to dora' }];
    show({ findings: [], checks: [{ id: 'c', name: 'A week', ok: false, differences }] }, annualLeave);
    expect(screen.getByText('The check “A week” has another result')).toBeTruthy();
    expect(screen.getByText(/expected “step 3: to Tom Lund”, found “step 3: to Dora Quill”/)).toBeTruthy();
  });

  test('notes stand level with their lines, never over one another', () => {
    const note = fc.record({ height: fc.integer({ min: 1, max: 200 }), top: fc.integer({ min: 0, max: 900 }) });
    fc.assert(
      fc.property(fc.array(note), notes => {
        const tops = level(notes);
        tops.forEach((top, i) => {
          expect(top).toBeGreaterThanOrEqual(notes[i].top);
          if (i > 0) expect(top).toBeGreaterThanOrEqual(tops[i - 1] + notes[i - 1].height);
        });
      }),
    );
    expect(
      level([
        { height: 50, top: 0 },
        { height: 50, top: 300 },
      ]),
    ).toEqual([0, 300]);
  });
});

describe('the written procedure on the sheet', () => {
  const open = (readOnly: boolean, definition = annualLeave) => {
    const change = jest.fn<(definition: Definition) => void>();
    const select = jest.fn<(step: string) => void>();
    const say = jest.fn<(words: string) => void>();
    render(
      <Procedure
        definition={definition}
        index={index}
        findings={findings(definition)}
        readOnly={readOnly}
        selected="manager"
        onSelect={select}
        onChange={change}
        by="kay"
        now={instant('2026-02-02T10:00:00Z')}
        onSay={say}
      />,
    );
    return { change, select, say, user: userEvent.setup() };
  };
  const line = (number: string) => screen.getByRole('group', { name: new RegExp(`^Line ${number}, `) });
  const order = (definition: Definition) => definition.steps.map(s => s.id);

  test('has a line a step and phrases that open by keyboard', async () => {
    const { user, change } = open(false);
    expect(screen.getAllByRole('listitem')).toHaveLength(6);
    screen.getByRole('button', { name: '2: change the value' }).focus();
    await user.keyboard('{Enter}');
    const field = screen.getByRole('textbox', { name: 'Number' });
    await user.clear(field);
    await user.type(field, '4{Enter}');
    expect(JSON.stringify(change.mock.calls[0][0])).toContain('Days <= 4 and Others away = 0');
  });

  test('selects the line in which a phrase has the focus', () => {
    const { select } = open(false);
    screen.getByRole('button', { name: '10: change the value' }).focus();
    expect(select).toHaveBeenCalledWith('above');
  });

  test('is plain text for those who only look', () => {
    open(true);
    expect(screen.queryAllByRole('button')).toEqual([]);
    expect(screen.getByText(/By the first line that holds/)).toBeTruthy();
  });

  test('lines move with Alt and the arrows, and go with Delete', async () => {
    const { change, say } = open(false);
    fireEvent.keyDown(line('4'), { key: 'ArrowUp', altKey: true });
    expect(order(change.mock.calls[0][0])).toEqual(['ask', 'choose', 'above', 'manager', 'record', 'end']);
    fireEvent.keyDown(line('4'), { key: 'Delete' });
    expect(change.mock.calls[1][0]).toEqual(removeStep(annualLeave, 'above'));
    expect(say).toHaveBeenCalledWith('Removed. Undo brings it back.');
    // The focus follows a moved line one frame later.
    await waitFor(() => expect(document.activeElement).toBe(line('4')));
  });

  test('Enter on a line opens a new one below it, which takes words', async () => {
    const { change, user } = open(false);
    line('3').focus();
    await user.keyboard('{Enter}');
    await user.type(screen.getByRole('textbox', { name: /What happens next/ }), 'wait for 2 working days{Enter}');
    expect(order(change.mock.calls[0][0])).toEqual(['ask', 'choose', 'manager', 'hold', 'above', 'record', 'end']);
  });

  test('the menu of a line adds what its verb can have', async () => {
    const { change, user } = open(false);
    await user.click(screen.getByRole('button', { name: 'More for line 3' }));
    await user.click(screen.getByRole('menuitem', { name: 'Another outcome' }));
    const [, , decide] = change.mock.calls[0][0].steps;
    expect(decide.verb === 'Decide' && decide.outcomes.map(o => o.label)).toEqual([
      'Approve',
      'Send back',
      'Decline',
      'Outcome 4',
    ]);
  });

  test('a note for colleagues is kept with who wrote it', async () => {
    const { change, user } = open(false);
    await user.click(screen.getByRole('button', { name: 'More for line 3' }));
    await user.click(screen.getByRole('menuitem', { name: 'Note for colleagues' }));
    await user.type(screen.getByRole('textbox', { name: 'Note for colleagues' }), 'Two days are tight.{Enter}');
    expect(change.mock.calls[0][0].notes).toMatchObject([
      { on: { what: 'step', id: 'manager' }, by: 'kay', text: 'Two days are tight.' },
    ]);
  });
});

describe('a new line', () => {
  test('says what it understood before it is taken, and what could stand where it did not', async () => {
    const add = jest.fn();
    const user = userEvent.setup();
    render(<AddLine definition={annualLeave} index={index} lists={[]} onAdd={add} onCancel={() => {}} />);
    const field = screen.getByRole('textbox');
    await user.type(field, 'manager decides within 2 days');
    expect(screen.getByText(/Decide: the asker’s line manager decides within 2 working days/)).toBeTruthy();
    await user.keyboard('{Enter}');
    const reading = readWords('manager decides within 2 days', annualLeave, index);
    expect(add).toHaveBeenCalledWith(reading.ok && reading.steps);
    await user.clear(field);
    await user.type(field, 'close as ');
    const offered = within(screen.getByRole('menu', { name: 'What could stand here' }));
    await user.click(offered.getByText('close as Declined'));
    expect(field).toHaveProperty('value', 'close as Declined');
  });
});

describe('steps on the clipboard', () => {
  test('are read back the same; anything else is refused with its reason', () => {
    expect(stepsFromText(stepsAsText(annualLeave.steps))).toEqual({ steps: annualLeave.steps });
    expect(stepsFromText('hello')).toHaveProperty('wrong');
    expect(stepsFromText('{"a":1}')).toHaveProperty('wrong');
    expect(stepsFromText(stepsAsText([{ verb: 'Ponder', id: 'a' } as never]))).toHaveProperty('wrong');
  });
});

describe('a formula being typed', () => {
  const names = { Days: 'number', 'Days away': 'number', Kind: 'text' } as const;
  test('is offered names and functions that begin as the words before the cursor do', () => {
    const texts = (source: string) => suggestionsFor(source, source.length, names).found.map(s => s.text);
    expect(texts('Da')).toEqual([
      'Days',
      'Days away',
      'days of notice(…)',
      'date(…)',
      'date and time(…)',
      'day of year(…)',
      'day of week(…)',
    ]);
    expect(texts('Days > 3 and Days aw')).toEqual(['Days away']);
    expect(texts('3 + ')).toEqual([]);
    expect(suggestionsFor('1 + Ki', 6, names).from).toBe(4);
  });
});

describe('a field of another kind', () => {
  test('keeps what both have', () => {
    const [, dates] = annualLeave.form.fields;
    expect(asKind({ ...dates, help: 'When?' }, 'date')).toEqual({
      kind: 'date',
      id: 'dates',
      label: 'Dates',
      required: true,
      help: 'When?',
    });
    expect(asKind(dates, 'choice')).toMatchObject({ kind: 'choice', options: ['First', 'Second'] });
  });
});
