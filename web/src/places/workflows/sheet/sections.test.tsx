/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import type { SurroundingsView } from '@north-pebble/contract';
import { type Definition, moveStep, setAt } from '@north-pebble/core/workflow';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { annual, annualLeave, bookOf, date, index, instant, sick } from '../../../../../core/testing/house.ts';
import { FiguresEditor } from '../figures/FiguresEditor.tsx';
import { FieldSettings } from '../form/FieldSettings.tsx';
import { MailPreview } from '../messages/MessagesEditor.tsx';
import { Rehearse } from '../rehearse/Rehearse.tsx';
import { useRehearsal } from '../rehearse/useRehearsal.ts';
import { AroundContext } from '../steps/editors/shared.tsx';
import { Compare } from '../versions/Versions.tsx';
import { readFile } from '../versions/WorkflowFile.tsx';
import { About } from './About.tsx';

const realFetch = globalThis.fetch;
afterEach(() => {
  cleanup();
  globalThis.fetch = realFetch;
});

const surroundings: SurroundingsView = {
  lists: [],
  leaveTypes: [annual, sick].map(({ id, name }) => ({ id, name })),
  connections: [],
  offers: {},
  workflows: [{ id: 'annual', name: 'Annual leave' }],
  today: date('2026-02-02'),
};
const around = {
  lists: [],
  workflows: surroundings.workflows,
  leaveTypes: surroundings.leaveTypes,
  sample: { Days: 4.5 },
};
function shown(node: (change: (definition: Definition) => void) => ReactNode) {
  const change = jest.fn<(definition: Definition) => void>();
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <AroundContext value={around}>{node(change)}</AroundContext>
    </QueryClientProvider>,
  );
  return { change, user: userEvent.setup(), changed: () => change.mock.calls.at(-1)?.[0] as Definition };
}

describe('about a workflow', () => {
  const open = (definition = annualLeave) =>
    shown(change => <About definition={definition} index={index} readOnly={false} onChange={change} />);
  test('says it in one sentence, and who may ask', async () => {
    const { user, changed } = open();
    expect(screen.getByText(/^The asker fills in 3 fields/)).toBeTruthy();
    expect(screen.getByText('Everybody may ask, for themselves.')).toBeTruthy();
    await user.click(screen.getByRole('checkbox', { name: 'people who report to them' }));
    expect(changed().opening).toEqual({ forWhom: ['self', 'report'] });
    await user.click(within(screen.getByRole('group', { name: 'From' })).getByRole('spinbutton', { name: 'Day' }));
    await user.keyboard('01032026');
    expect(changed().opening).toMatchObject({ from: '2026-03-01' });
  });
  test('what else means an outcome in a reply is kept by its label, and goes with its last word', async () => {
    const { user, changed } = open();
    const approve = screen.getByRole('combobox', { name: '“Approve” is also' });
    await user.type(approve, 'Go ahead{Enter}');
    expect(changed().phrases).toEqual({ Approve: ['Go ahead'] });
    cleanup();
    const again = open({ ...annualLeave, phrases: { Approve: ['Go ahead'], Decline: ['Not now'] } });
    await again.user.click(screen.getByRole('combobox', { name: '“Decline” is also' }));
    await again.user.keyboard('{Backspace}');
    expect(again.changed().phrases).toEqual({ Approve: ['Go ahead'] });
  });
  test('the settings of a field name its readers and what it takes', async () => {
    const note = { kind: 'document', id: 'note', label: 'Note', required: false, expires: false } as const;
    const definition = { ...annualLeave, form: { fields: [...annualLeave.form.fields, note] } };
    const { user, changed } = shown(change => (
      <FieldSettings
        field={note}
        definition={definition}
        index={index}
        onChange={change}
        onGo={() => {}}
        onGone={() => {}}
      />
    ));
    expect(screen.getByText(/^Read by the asker.*each look of others than the asker recorded/)).toBeTruthy();
    await user.click(screen.getByRole('combobox', { name: /^Read by these roles only/ }));
    await user.click(screen.getByRole('option', { name: 'HR partner' }));
    await user.keyboard('{Escape}');
    expect(changed().form.fields[3]).toMatchObject({ readers: ['HR partner'] });
    await user.click(screen.getByRole('combobox', { name: /^Takes/ }));
    await user.click(screen.getByRole('option', { name: 'picture' }));
    await user.keyboard('{Escape}');
    expect(changed().form.fields[3]).toMatchObject({ takes: ['picture'] });
    fireEvent.change(screen.getByRole('spinbutton', { name: 'Up to, in MB' }), { target: { value: '99' } });
    expect(changed().form.fields[3]).toMatchObject({ largest: 25 });
  });
  test('what is as usual is not written down', async () => {
    const { user, changed } = open({ ...annualLeave, opening: { forWhom: ['self', 'report'] } });
    await user.click(screen.getByRole('checkbox', { name: 'people who report to them' }));
    expect('opening' in changed()).toBe(false);
  });
});

describe('the settings of a field', () => {
  const [, dates, remark] = annualLeave.form.fields;
  const open = (field: typeof dates) =>
    shown(change => (
      <FieldSettings
        field={field}
        definition={annualLeave}
        index={index}
        onChange={change}
        onGo={() => {}}
        onGone={() => {}}
      />
    ));
  test('a new label is followed everywhere; one that is taken is refused', async () => {
    const { user, change, changed } = open(dates);
    const label = screen.getByRole('textbox', { name: 'Label' });
    fireEvent.change(label, { target: { value: 'Kind' } });
    expect(screen.getByText('Another field or figure has this name.')).toBeTruthy();
    await user.type(label, '{Enter}');
    expect(change).not.toHaveBeenCalled();
    fireEvent.change(label, { target: { value: 'Days off' } });
    await user.type(label, '{Enter}');
    expect(changed().figures[0].formula).toBe('leave days(Days off)');
  });
  test('say where a field is used before it is taken out', async () => {
    const { user, changed } = open(dates);
    expect(screen.getByText(/^Used in 7 places/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /used in 7 places/ }));
    expect(changed().form.fields.map(f => f.id)).toEqual(['kind', 'remark']);
  });
  test('who sees it at which step; as usual is not written down', async () => {
    const { user, changed } = open(remark);
    await user.click(screen.getByRole('combobox', { name: 'Remark at step 3' }));
    await user.click(screen.getByRole('option', { name: 'hidden' }));
    expect(changed().access).toEqual({ manager: { remark: 'hidden' } });
  });
  test('what stands in it before anybody types, and checks with their own words', async () => {
    const { user, changed } = open(remark);
    await user.click(screen.getByRole('combobox', { name: 'Starts with' }));
    await user.click(screen.getByRole('option', { name: 'what is known of the asker' }));
    expect(changed().form.fields[2].start).toEqual({ from: 'known', fact: 'name' });
    await user.click(screen.getByRole('button', { name: 'Add a check' }));
    expect(changed().form.fields[2].checks).toHaveLength(1);
    await user.click(screen.getByRole('combobox', { name: 'Asks for' }));
    await user.click(screen.getByRole('option', { name: 'an amount of money' }));
    expect(changed().form.fields[2]).toMatchObject({ kind: 'money', currency: 'EUR', label: 'Remark' });
  });
});

describe('figures', () => {
  test('show their value in the test case and where they are used; a change of name is followed', async () => {
    const { changed, user } = shown(change => (
      <FiguresEditor definition={annualLeave} readOnly={false} onChange={change} />
    ));
    expect(screen.getByText(/In the test case: 4½ days/)).toBeTruthy();
    expect(screen.getByText(/used in step 2, step 4, message/)).toBeTruthy();
    const [name] = screen.getAllByRole('textbox', { name: 'Name' });
    fireEvent.change(name, { target: { value: 'Leave days' } });
    fireEvent.blur(name);
    expect(JSON.stringify(changed().steps)).toContain('Leave days <= 2');
    await user.click(screen.getByRole('button', { name: 'New figure' }));
    expect(changed().figures).toHaveLength(4);
    await user.click(screen.getByRole('button', { name: 'What a formula can do' }));
    expect(screen.getByText(/people of the team away on any day of the span/)).toBeTruthy();
  });
});

describe('comparing', () => {
  test('shows both sides with what differs marked, and the rest on request', async () => {
    const after = moveStep(setAt(annualLeave, ['figures', 0, 'formula'], 'leave days(Dates) + 1'), 'record', -1);
    const { user } = shown(() => (
      <Compare before={annualLeave} after={after} index={index} names={['Version 1', 'Now']} />
    ));
    expect(screen.getByText('1 changed, 1 moved')).toBeTruthy();
    expect(document.querySelector('ins')?.textContent).toContain('+ 1');
    const rows = screen.getAllByRole('row').length;
    await user.click(screen.getByRole('checkbox', { name: 'Also what is the same' }));
    expect(screen.getAllByRole('row').length).toBeGreaterThan(rows + 10);
  });
});

describe('files', () => {
  const file = (name: string, text: string, size = text.length) => ({ name, size, text: async () => text });
  test('of JSON and of BPMN are read, and everything else is refused with its reason', async () => {
    const { writeBpmn } = await import('@north-pebble/core/formats');
    expect((await readFile(file('a.json', JSON.stringify(annualLeave)))).definition).toEqual(annualLeave);
    expect((await readFile(file('a.bpmn', await writeBpmn(annualLeave)))).definition).toEqual(annualLeave);
    const wrong = async (...args: Parameters<typeof file>) => (await readFile(file(...args))).told?.lines.join(' ');
    expect(await wrong('a.txt', 'hello')).toContain('neither JSON nor BPMN');
    expect(await wrong('a.json', '{}', 50_000_000)).toContain('It is 50 MB');
    expect(await wrong('a.bpmn', '<definitions')).toContain('no BPMN 2.0');
    expect(await wrong('a.json', JSON.stringify(setAt(annualLeave, ['steps', 0, 'verb'], 'Ponder')))).toContain(
      '“Ponder” is not a verb',
    );
  });
  test('a mail is shown with its few elements, and nothing else of what it carries', () => {
    shown(() => (
      <MailPreview
        subject="Hello"
        body="x"
        html={'<p>Dear <strong>Ina</strong><img src=x onerror="boom()"></p>'}
        to="Ina"
      />
    ));
    expect(document.querySelector('strong')?.textContent).toBe('Ina');
    expect(document.querySelector('img')).toBeNull();
  });
});

function RehearsingLeave({ onChange }: { onChange: (definition: Definition) => void }) {
  const playing = useRehearsal(annualLeave);
  return (
    <Rehearse
      definition={annualLeave}
      index={index}
      surroundings={surroundings}
      playing={playing}
      now={instant('2026-02-02T10:00:00Z')}
      zone="UTC"
      self="ina"
      onChange={onChange}
      readOnly={false}
    />
  );
}

describe('rehearsing on the sheet', () => {
  test('begins with a person and answers, says what is refused, decides as the manager, and is kept as a check', async () => {
    const { types, plans, entries, adjustments } = bookOf();
    globalThis.fetch = (async () => ({
      ok: true,
      status: 200,
      headers: new Map(),
      json: async () => ({ types, plans, entries, adjustments, person: 'ina', openings: [], away: [] }),
    })) as never;
    const { user, changed } = shown(change => <RehearsingLeave onChange={change} />);
    const begin = screen.getByRole('button', { name: 'Begin the rehearsal' });
    await waitFor(() => expect(begin).toHaveProperty('disabled', false));
    await user.click(begin);
    expect(screen.getByText('It would not be sent').closest('[role="alert"]')?.textContent).toContain(
      'Kind is needed.',
    );
    await user.click(screen.getByRole('combobox', { name: 'Kind' }));
    await user.click(screen.getByRole('option', { name: 'Sick leave' }));
    for (const [label, digits] of [
      ['First day', '09022026'],
      ['Last day', '13022026'],
    ]) {
      await user.click(within(screen.getByRole('group', { name: label })).getByRole('spinbutton', { name: 'Day' }));
      await user.keyboard(digits);
    }
    await user.click(begin);
    expect(screen.getByRole('heading', { name: 'You are Tom Lund, step 3' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'A day later' }));
    await user.click(screen.getByRole('button', { name: 'One step back' }));
    await user.click(screen.getByRole('button', { name: 'Approve' }));
    expect(screen.getByRole('status').textContent).toContain('It ends: Approved');
    expect(screen.getByText('Approved: 4½ days')).toBeTruthy();
    await user.type(screen.getByRole('textbox', { name: 'Keep this as a check called' }), 'A week{Enter}');
    expect(changed().checks).toMatchObject([{ id: 'a-week', asker: 'ina', acts: [{ step: 'manager' }] }]);
  });
});
