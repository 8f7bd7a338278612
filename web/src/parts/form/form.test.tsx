/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import type { Field } from '@north-pebble/core/form';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { annualLeave } from '../../../../core/testing/house.ts';
import { serve, unserve } from '../../testing/page.tsx';
import { FieldInput } from './FieldInput.tsx';
import { answersOf, FormFields, initialTyped } from './FormFields.tsx';
import type { FormHouse } from './fieldFrame.ts';
import { numberFrom } from './inputs/NumberInput.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

/** Types into a day or a time from one of its parts on. */
async function typeParts(user: ReturnType<typeof userEvent.setup>, label: string, part: string, digits: string) {
  await user.click(within(screen.getByRole('group', { name: label })).getByRole('spinbutton', { name: part }));
  await user.keyboard(digits);
}
// The field puts marks of direction between its parts.
const allParts = (label: string) =>
  screen.getAllByRole('group', { name: label }).map(g => g.textContent?.replace(/[^\dDMY/:]/g, ''));
const partsOf = (label: string) => allParts(label)[0];

const house: FormHouse = {
  leaveTypes: [{ id: 'annual', name: 'Annual leave' }],
  lists: [
    {
      id: 'boats',
      name: 'Boats',
      columns: [{ id: 'quay', label: 'Quay', kind: 'text' }],
      rows: [
        { id: 'gull', title: 'Gull', cells: { quay: 'North' } },
        { id: 'tern', title: 'Tern', cells: { quay: 'South' } },
      ],
    },
  ],
  people: [
    { id: 'tom', name: 'Tom Lund' },
    { id: 'ina', name: 'Ina Okell' },
  ],
};

function Asked({
  field,
  start,
  seen,
  answers = {},
}: {
  field: Field;
  start?: unknown;
  seen: (value: unknown) => void;
  answers?: Record<string, unknown>;
}) {
  const [value, setValue] = useState<unknown>(start);
  return (
    <FieldInput
      field={field}
      value={value}
      answers={answers}
      onChange={next => {
        setValue(next);
        seen(next);
      }}
      fault={undefined}
      closed={false}
      highlighted={false}
      house={house}
    />
  );
}

const field = (change: Partial<Field> & { kind: Field['kind'] }): Field =>
  ({ id: 'a', label: 'A', required: true, ...change }) as Field;
function ask(change: Partial<Field> & { kind: Field['kind'] }, start?: unknown, answers?: Record<string, unknown>) {
  const seen = jest.fn<(value: unknown) => void>();
  render(<Asked field={field(change)} start={start} seen={seen} {...(answers ? { answers } : {})} />);
  return { seen, user: userEvent.setup() };
}

describe('each kind of field is filled in', () => {
  test('text as text, empty fields say that they may stay empty', async () => {
    const { seen, user } = ask({ kind: 'text', required: false });
    await user.type(screen.getByRole('textbox', { name: 'A (may stay empty)' }), 'x');
    expect(seen).toHaveBeenLastCalledWith('x');
  });

  test('numbers as numbers, with a comma too; what is no number stays as typed', async () => {
    const { seen, user } = ask({ kind: 'money', currency: 'EUR' });
    const box = screen.getByRole('textbox', { name: 'A, EUR' });
    await user.type(box, '12,5');
    expect(seen).toHaveBeenLastCalledWith(12.5);
    await user.clear(box);
    expect(seen).toHaveBeenLastCalledWith(null);
    expect(numberFrom('1.')).toBe('1.');
    expect(numberFrom('many')).toBe('many');
  });

  test('yes or no by two words, neither of them chosen before', async () => {
    const { seen, user } = ask({ kind: 'yes/no' });
    expect(screen.getAllByRole('radio').some(r => (r as HTMLInputElement).checked)).toBe(false);
    await user.click(screen.getByRole('radio', { name: 'no' }));
    expect(seen).toHaveBeenLastCalledWith(false);
  });

  test('several choices keep the order of the form', async () => {
    const { seen, user } = ask({ kind: 'several choices', options: ['Mon', 'Tue', 'Wed'] }, ['Wed']);
    await user.click(screen.getByRole('checkbox', { name: 'Mon' }));
    expect(seen).toHaveBeenLastCalledWith(['Mon', 'Wed']);
    await user.click(screen.getByRole('checkbox', { name: 'Wed' }));
    expect(seen).toHaveBeenLastCalledWith(['Mon']);
  });

  test('a person by typing their name', async () => {
    const { seen, user } = ask({ kind: 'person' });
    await user.type(screen.getByRole('combobox', { name: 'A' }), 'tom');
    await user.click(screen.getByRole('option', { name: 'Tom Lund' }));
    expect(seen).toHaveBeenLastCalledWith('tom');
  });

  test('a row of a list, only those that fit what it depends on', async () => {
    const { seen, user } = ask({ kind: 'pick', list: 'boats', where: { column: 'quay', field: 'q' } }, null, {
      q: 'South',
    });
    await user.click(screen.getByRole('combobox', { name: 'A' }));
    expect(screen.getAllByRole('option').map(o => o.textContent)).toEqual(['Tern']);
    await user.click(screen.getByRole('option', { name: 'Tern' }));
    expect(seen).toHaveBeenLastCalledWith('tern');
  });

  test('a range of days by its ends, a table by its cells', async () => {
    const range = ask({ kind: 'date range' });
    await typeParts(range.user, 'First day', 'Day', '09022026');
    await typeParts(range.user, 'Last day', 'Day', '11022026');
    expect(range.seen).toHaveBeenLastCalledWith({ from: '2026-02-09', to: '2026-02-11' });
    cleanup();
    const { seen, user } = ask({
      kind: 'table',
      columns: [
        { id: 'what', label: 'What', kind: 'text' },
        { id: 'cost', label: 'Cost', kind: 'money' },
      ],
    });
    await user.click(screen.getByRole('button', { name: 'Add a row' }));
    await user.type(screen.getByRole('textbox', { name: 'Cost' }), '40');
    expect(seen).toHaveBeenLastCalledWith([{ what: null, cost: 40 }]);
    await user.click(screen.getByRole('button', { name: 'Remove row 1' }));
    expect(seen).toHaveBeenLastCalledWith([]);
  });

  test('a document by its file, with the day it expires', async () => {
    serve({ 'POST /files': { id: 'f1', name: 'licence.pdf', size: 1, type: 'application/pdf' } });
    const { seen, user } = ask({ kind: 'document', expires: true });
    await user.upload(screen.getByLabelText('A'), new File(['x'], 'licence.pdf', { type: 'application/pdf' }));
    await screen.findByText('licence.pdf, 1 kB');
    expect(seen).toHaveBeenLastCalledWith({
      file: expect.objectContaining({ name: 'licence.pdf', size: 1 }),
      expires: null,
    });
    await typeParts(user, 'Valid until', 'Day', '01012027');
    expect(seen).toHaveBeenLastCalledWith(expect.objectContaining({ expires: '2027-01-01' }));
    await user.click(screen.getByRole('button', { name: 'Remove licence.pdf' }));
    expect(seen).toHaveBeenLastCalledWith(null);
  });

  test('a day and a time of day part by part; typed halfway they are not there yet', async () => {
    const day = ask({ kind: 'date' });
    await typeParts(day.user, 'A', 'Day', '3112');
    expect(day.seen).not.toHaveBeenCalled();
    await day.user.keyboard('2026');
    expect(day.seen).toHaveBeenLastCalledWith('2026-12-31');
    cleanup();
    const time = ask({ kind: 'time' }, '09:30');
    expect(partsOf('A')).toBe('09:30');
    await typeParts(time.user, 'A', 'Hours', '1745');
    expect(time.seen).toHaveBeenLastCalledWith('17:45');
  });

  test('days in the rows of a table stay with their rows', async () => {
    const columns = [{ id: 'on', label: 'On', kind: 'date' as const }];
    const { seen, user } = ask({ kind: 'table', columns }, [{ on: '2026-03-02' }, { on: null }, { on: '2026-03-04' }]);
    expect(allParts('On')).toEqual(['02/03/2026', 'DD/MM/YYYY', '04/03/2026']);
    await user.click(screen.getByRole('button', { name: 'Remove row 1' }));
    expect(allParts('On')).toEqual(['DD/MM/YYYY', '04/03/2026']);
    await user.click(screen.getByRole('button', { name: 'Remove row 1' }));
    expect(seen).toHaveBeenLastCalledWith([{ on: '2026-03-04' }]);
    expect(allParts('On')).toEqual(['04/03/2026']);
  });

  test('fixed text is read, not filled in', () => {
    ask({ kind: 'fixed text', text: 'Read this first.' });
    expect(screen.getByText('Read this first.')).toBeTruthy();
    expect(screen.queryByRole('textbox')).toBeNull();
  });
});

describe('a form', () => {
  const definition = {
    ...annualLeave,
    form: {
      sections: [{ id: 'trip', title: 'The trip' }],
      fields: [
        field({ kind: 'text', id: 'to', label: 'To', section: 'trip' }),
        field({ kind: 'text', id: 'secret', label: 'Secret', section: 'trip' }),
        field({ kind: 'date range', id: 'days', label: 'Days', required: false }),
      ],
    },
  };

  test('stands under its sections, without what is not asked, and closed where it is only shown', () => {
    const shown = [
      { id: 'to', level: 'shown' as const },
      { id: 'days', level: 'editable' as const },
    ];
    render(
      <FormFields
        definition={definition}
        house={house}
        typed={{ to: 'Ovay' }}
        onChange={() => {}}
        faults={[{ field: 'days', message: 'Choose days.' }]}
        shown={shown}
      />,
    );
    expect(screen.getByRole('heading', { name: 'The trip' })).toBeTruthy();
    expect(screen.getByRole('textbox', { name: 'To' })).toHaveProperty('disabled', true);
    expect(screen.queryByRole('textbox', { name: 'Secret' })).toBeNull();
    expect(screen.getByText('Choose days.')).toBeTruthy();
  });

  test('sends a range only when both of its days are there', () => {
    expect(answersOf(definition, { days: { from: '2026-02-09' } })).toEqual({});
    expect(answersOf(definition, { days: { from: '2026-02-09', to: '2026-02-10' }, to: '' })).toEqual({
      days: { from: '2026-02-09', to: '2026-02-10' },
    });
    expect(initialTyped(definition)).toEqual({});
  });
});
