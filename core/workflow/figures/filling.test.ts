import { describe, expect, test } from '@jest/globals';
import type { Field, ReferenceList } from '../../form/index.ts';
import { annual, annualLeave, bookOf, contextFor, date, index, person, sick } from '../../testing/house.ts';
import {
  compileWorkflow,
  type Definition,
  evaluateFigures,
  type Facts,
  fieldsAt,
  fieldWords,
  fillIn,
  houseListsOf,
  levelAt,
  namesOf,
  openingWords,
  startOf,
  withPosts,
  withStarts,
  workOut,
} from '../index.ts';

const boats: ReferenceList = {
  id: 'boats',
  name: 'Boats',
  columns: [
    { id: 'skipper', label: 'Skipper', kind: 'text' },
    { id: 'berths', label: 'Berths', kind: 'number' },
  ],
  rows: [{ id: 'gull', title: 'Gull', cells: { skipper: 'tom', berths: 4 } }],
};
const rates: ReferenceList = {
  id: 'rates',
  name: 'Rates',
  columns: [{ id: 'rate', label: 'For one euro', kind: 'number' }],
  rows: [{ id: 'nok', title: 'NOK', cells: { rate: 11.5 }, from: date('2026-01-01') }],
};
const lists = withPosts(index, [boats, rates]);
const facts: Facts = { book: bookOf(), asker: person('ina'), lists };
const house = houseListsOf(contextFor('ina', { lists: [boats] }));
const field = (change: Partial<Field> & { kind: Field['kind']; id: string }): Field =>
  ({ label: change.id, required: false, ...change }) as Field;
const form = (...fields: Field[]): Definition => ({ ...annualLeave, form: { fields }, figures: [] });
const boat = field({ kind: 'pick', id: 'boat', list: 'boats' });

describe('what is known stands in the form', () => {
  test.each<[string, Field, unknown]>([
    ['a fixed value', field({ kind: 'whole number', id: 'a', start: { from: 'fixed', value: 2 } }), 2],
    ['the asker’s name', field({ kind: 'text', id: 'a', start: { from: 'known', fact: 'name' } }), 'Ina Okell'],
    ['their manager, by name', field({ kind: 'text', id: 'a', start: { from: 'known', fact: 'manager' } }), 'Tom Lund'],
    [
      'their manager, as a person',
      field({ kind: 'person', id: 'a', start: { from: 'known', fact: 'manager' } }),
      'tom',
    ],
    [
      'their post, to pick',
      field({ kind: 'pick', id: 'a', list: 'posts', start: { from: 'known', fact: 'post' } }),
      'observer-1',
    ],
    ['their place', field({ kind: 'text', id: 'a', start: { from: 'known', fact: 'place' } }), 'Ovay Station'],
    ['their department', field({ kind: 'text', id: 'a', start: { from: 'known', fact: 'department' } }), 'Observatory'],
    ['their mail', field({ kind: 'text', id: 'a', start: { from: 'known', fact: 'mail' } }), 'ina@selkie.example'],
    [
      'a formula',
      field({ kind: 'date', id: 'a', start: { from: 'formula', formula: 'add days(today(), 7)' } }),
      '2026-02-09',
    ],
    [
      'a formula that cannot be worked out',
      field({ kind: 'date', id: 'a', start: { from: 'formula', formula: 'nonsense' } }),
      null,
    ],
  ])('%s', (_, asked, value) => {
    expect(startOf(form(asked), asked, {}, facts)).toBe(value);
  });

  test('what belongs to a picked row or person follows the pick, until it is typed over', () => {
    const skipper = field({
      kind: 'person',
      id: 'skipper',
      start: { from: 'picked', field: 'boat', column: 'skipper' },
    });
    const above = field({
      kind: 'person',
      id: 'above',
      start: { from: 'picked', field: 'skipper', column: 'manager' },
    });
    const definition = form(boat, skipper, above);
    expect(withStarts(definition, { boat: 'gull' }, facts)).toEqual({ boat: 'gull', skipper: 'tom', above: 'dora' });
    expect(withStarts(definition, { boat: 'gull', skipper: 'per' }, facts, new Set(['skipper']))).toMatchObject({
      skipper: 'per',
      above: 'tom',
    });
    expect(withStarts(definition, {}, facts)).toMatchObject({ skipper: null });
  });
});

describe('what is asked', () => {
  const urgent = field({ kind: 'yes/no', id: 'urgent', required: true });
  const why = field({ kind: 'text', id: 'why', required: true, shownWhen: 'urgent' });
  const ferry = field({ kind: 'text', id: 'ferry', required: true, places: ['skarn'] });
  const definition = form(urgent, why, ferry);

  test('depends on the answers and on the place', () => {
    const shown = (answers: Record<string, never>) => fieldsAt(definition, 'ask', answers, facts).map(f => f.field.id);
    expect(shown({ urgent: true } as never)).toEqual(['urgent', 'why']);
    expect(shown({ urgent: false } as never)).toEqual(['urgent']);
    // As long as it cannot be told, the field is there.
    expect(shown({})).toEqual(['urgent', 'why']);
  });

  test('what is not asked is not needed, and is not taken', () => {
    const read = fillIn(definition, 'ask', {}, { urgent: false, why: 'left over' }, facts, house);
    expect(read).toMatchObject({ ok: true, filled: { answers: { urgent: false, why: null, ferry: null } } });
    const missing = fillIn(definition, 'ask', {}, { urgent: true }, facts, house);
    expect(missing.ok || missing.faults).toEqual([{ field: 'why', message: 'why is needed.' }]);
  });

  test('checks say their own words, and say when they cannot be worked out', () => {
    const many = field({
      kind: 'whole number',
      id: 'many',
      checks: [{ formula: 'many <= 3', message: 'At most three.' }],
    });
    const odd = field({ kind: 'whole number', id: 'odd', checks: [{ formula: 'odd / 0 > 1', message: 'Never.' }] });
    const faults = (definition_: Definition, answers: object) => {
      const read = fillIn(definition_, 'ask', {}, answers, facts, house);
      return read.ok ? [] : read.faults.map(f => f.message);
    };
    expect(faults(form(many), { many: 4 })).toEqual(['At most three.']);
    expect(faults(form(many), { many: 3 })).toEqual([]);
    expect(faults(form(odd), { odd: 1 })[0]).toContain('This cannot be checked');
  });

  test('what somebody may not change is refused, the same answer again is not', () => {
    const definition_ = {
      ...form(boat, urgent),
      access: { manager: { urgent: 'editable' as const, boat: 'hidden' as const } },
    };
    const before = { boat: 'gull', urgent: false };
    expect(levelAt(definition_, 'manager', boat)).toBe('hidden');
    expect(fillIn(definition_, 'manager', before, { urgent: true }, facts, house)).toMatchObject({
      ok: true,
      filled: { answers: { boat: 'gull', urgent: true }, changes: [{ field: 'urgent' }] },
    });
    expect(fillIn(definition_, 'manager', before, { boat: 'gull' }, facts, house).ok).toBe(true);
    expect(fillIn(definition_, 'manager', before, { boat: null, urgent: true }, facts, house).ok).toBe(true);
    expect(fillIn(definition_, 'manager', before, { moon: 1 }, facts, house).ok).toBe(false);
  });
});

describe('formulas over a form', () => {
  const definition: Definition = {
    ...form(
      boat,
      field({ kind: 'table', id: 'costs', label: 'Costs', columns: [{ id: 'sum', label: 'Sum', kind: 'money' }] }),
      field({ kind: 'date range', id: 'trip', label: 'Trip' }),
      field({ kind: 'several choices', id: 'kit', label: 'Kit', options: ['Radio', 'Keys'] }),
    ),
    figures: [{ id: 'cost', name: 'Cost', formula: 'sum(Costs.Sum)', unit: 'money' }],
  };
  const answers = {
    boat: 'gull',
    costs: [{ sum: 0.1 }, { sum: 0.2 }],
    trip: { from: date('2026-02-09'), to: date('2026-02-13') },
    kit: ['Keys'],
  };
  const { scope, figures } = evaluateFigures(definition, answers, facts);
  test.each<[string, unknown]>([
    ['boat.Berths > 3', true],
    ['boat = "Gull"', true],
    ['nights(Trip)', 4],
    ['list contains(Kit, "Keys")', true],
    ['count(Costs)', 2],
    ['Asker place = "Ovay Station"', true],
    ['manager(Asker, 2)', 'dora'],
    ['row of("Boats", "Gull").Berths', 4],
    ['row of("Boats", "Tern").Berths', null],
    ['in currency(money(100, "EUR"), "NOK", date("2026-02-02"))', { amount: 1150, currency: 'NOK' }],
    ['in currency(money(1150, "NOK"), "EUR", date("2026-02-02"))', { amount: 100, currency: 'EUR' }],
    // A rate that is missing, or was not known yet, is not guessed.
    ['in currency(money(100, "EUR"), "SEK", date("2026-02-02"))', null],
    ['in currency(money(100, "EUR"), "NOK", date("2025-02-02"))', null],
    ['Asker grade', null],
    ['working days between(today(), date("2026-02-09"))', 5],
    ['add working days(date("2026-02-06"), 1) = date("2026-02-09")', true],
    ['days between(today(), date("2026-03-02"))', 28],
  ])('%s', (formula, value) => {
    const worked = workOut(definition, formula, 'anything', scope, lists);
    expect(worked.known ? worked.value : null).toEqual(value);
  });
  test('add decimals exactly, and say when there is no value', () => {
    expect(figures).toEqual({ cost: { amount: 0.3, currency: 'EUR' } });
    expect(workOut(definition, 'manager(Asker, 9)', 'anything', scope, lists)).toMatchObject({ known: false });
    expect(Object.keys(namesOf(definition, lists))).toContain('boat.Skipper');
  });
});

describe('the form in words', () => {
  test('a field says all that it asks', () => {
    const [, dates] = annualLeave.form.fields;
    expect(fieldWords({ ...dates, shownWhen: 'Days > 2', start: { from: 'known', fact: 'name' } }, annualLeave)).toBe(
      'Dates: a span of leave, by halves, needed, starts as the asker’s name, shown when Days > 2.',
    );
    expect(openingWords(annualLeave)).toBe('Everybody may ask, for themselves.');
    expect(openingWords({ ...annualLeave, opening: { forWhom: ['report'], from: date('2026-03-01') } })).toContain(
      'people who report to them. From 2026-03-01 on.',
    );
    expect([annual, sick].length).toBe(2);
  });
});

test('formulas are compiled once, though they are asked for with lists and without them in turns', () => {
  const definition: Definition = { ...annualLeave };
  const [bare, listed] = [compileWorkflow(definition), compileWorkflow(definition, [boats])];
  for (let turn = 0; turn < 3; turn++) {
    expect(compileWorkflow(definition)).toBe(bare);
    expect(compileWorkflow(definition, [boats])).toBe(listed);
  }
});
