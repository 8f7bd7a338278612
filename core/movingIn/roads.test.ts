/** Every kind of fact is changed by hand and by file, or it is said why not. */
import { describe, expect, test } from '@jest/globals';
import {
  type Booking,
  edited,
  editsOf,
  emptyFile,
  type FactEdit,
  type FactKind,
  factKinds,
  factOfEdit,
  HouseChange,
  type OnFile,
} from '../facts/index.ts';
import { bookingId } from '../leave/index.ts';
import { annual, date, directory, halves, person, sick, standard } from '../testing/house.ts';
import { matched, moveIn, tableIds, writtenOut } from './index.ts';

const span = halves('2026-03-02', '2026-03-06');
const before: Booking = { id: bookingId('ina', 'annual', '2026-03-02am'), person: person('ina'), type: 'annual', span };
const watch = { id: 'watch', name: 'Watch', place: 'ovay', department: null, people: 2, weekdays: [], from: null };
const house: Required<OnFile> = {
  ...emptyFile,
  ...directory,
  lists: [{ id: 'boats', name: 'Boats', owners: [], columns: [], rows: [] }],
  adjustments: [{ person: person('ina'), type: 'annual', date: date('2026-01-01'), amount: 3.5, reason: 'Carried' }],
  bookings: [before],
  leaveTypes: [annual, sick],
  leavePlans: [standard],
  presence: [{ ...watch, to: null }],
};
const [place, department] = [house.places[0], house.departments[0]];
const [calendar, pattern] = [house.calendars[0], house.patterns[0]];
const top = house.posts.find(post => post.lines.every(line => line.reportsTo === null));
const rules = { plans: [{ id: 'standard', name: 'Standard' }], types: [annual, sick] };

/** By which table each kind comes with a file; or why with none. */
const byFile: Readonly<Record<FactKind, (typeof tableIds)[number] | { readonly why: string }>> = {
  ...{ person: 'people', record: 'records', opening: 'openings', circumstance: 'children', post: 'posts' },
  ...{ line: 'lines', holding: 'holdings', role: 'roles', place: 'places', department: 'departments' },
  ...{ pattern: 'patterns', calendar: 'calendars', holiday: 'holidays', list: 'lists', row: 'rows' },
  ...{ adjustment: 'balances', booking: 'bookings', presence: 'presence' },
  'leave type': { why: 'its rules are sentences that are read together, and no line of a table' },
  'leave plan': { why: 'its rules are sentences that are read together, and no line of a table' },
};

/** A change by hand that is of each kind. */
const byHand: Readonly<Record<FactKind, unknown>> = {
  person: { what: 'own', person: 'ina', set: { name: 'Ina Marrow' } },
  record: { what: 'record', person: 'ina', from: '2026-05-01', set: { fte: 0.5 } },
  opening: {
    ...{ what: 'opening', person: 'ina', type: 'annual' },
    opening: { on: '2026-01-12', own: 20, carried: 2, lapses: '2026-03-31', source: '' },
  },
  circumstance: { what: 'circumstance', person: 'ina', id: 'new', holds: { is: 'child', born: '2020-02-29' } },
  post: {
    what: 'a post',
    post: {
      ...{ id: top?.id, title: 'Another title', department: top?.department, place: top?.place },
      ...{ grade: 7, spending: 500, closed: null },
    },
    under: null,
  },
  line: { what: 'line', post: 'ring-b', from: '2026-05-01', reportsTo: top?.id },
  holding: { what: 'leaves post', person: 'ina', post: 'observer-1', last: '2026-06-30' },
  role: { what: 'role', role: 'Diver', person: 'ina', place: null, department: null, held: true },
  place: { what: 'place', place: { ...place, head: null, name: 'Another place' } },
  department: { what: 'department', department: { ...department, name: 'Another department' } },
  pattern: { what: 'pattern', pattern: { ...pattern, name: 'Another pattern' } },
  calendar: { what: 'calendar', calendar: { rules: [], ...calendar, name: 'Another calendar' } },
  holiday: {
    what: 'calendar',
    calendar: { rules: [], ...calendar, holidays: [{ date: '2026-05-04', part: 'am', name: 'Launch' }] },
  },
  list: { what: 'list', list: { id: 'boats', name: 'Ships', columns: [], owners: [] } },
  row: { what: 'row', list: 'boats', row: { id: 'new', title: 'Tern', cells: {}, from: null, to: null } },
  adjustment: {
    ...{ what: 'adjustment', person: 'ina', type: 'annual', date: '2026-02-01', amount: 2, reason: 'Bought' },
  },
  booking: {
    what: 'booking',
    person: 'ina',
    id: before.id,
    booking: { type: 'annual', ...halves('2026-03-03', '2026-03-06') },
  },
  'leave type': { what: 'leave type', type: { ...annual, name: 'Yearly leave' }, from: null },
  'leave plan': { what: 'leave plan', plan: { ...standard, name: 'Usual' }, from: null },
  presence: { what: 'presence', presence: { ...watch, to: null, people: 3 }, needed: true },
};

const edits = (kind: FactKind): readonly FactEdit[] => {
  const found = editsOf(house, HouseChange.parse(byHand[kind]), [{ id: 'standard' }]);
  if (!found.ok) throw new Error(`${found.fault.code} at ${found.fault.field}`);
  return found.edits;
};
const isByFile = (kind: FactKind): boolean => typeof byFile[kind] === 'string';

describe('every kind of fact', () => {
  test.each(factKinds)('%s is changed by hand', kind => {
    expect(edits(kind).map(edit => factOfEdit(edit).kind)).toContain(kind);
  });
  test.each(factKinds.filter(isByFile))('%s is changed by file as it is by hand', kind => {
    const after = edited(house, edits(kind));
    if (!after.ok) throw new Error(after.stale.join());
    const files = writtenOut({ file: after.directory, ...rules })
      .filter(one => one.table === byFile[kind])
      .map(({ table, headings, rows }) => ({
        ...{ table, rows, columns: matched(table, headings) },
        form: { dates: 'year first', decimal: '.' } as const,
      }));
    const found = moveIn(house, files, rules, (_, fault) => fault.code);
    const own = (all: readonly FactEdit[]) =>
      all.flatMap(edit => (edit.after?.kind === kind ? [edit.after] : [])).map(fact => JSON.stringify(sorted(fact)));
    expect(found.faults).toEqual([]);
    expect(own(found.edits)).toEqual(own(edits(kind)));
  });
  test('and every table is of a kind', () => {
    const named = Object.values(byFile).flatMap(one => (typeof one === 'string' ? [one] : []));
    // Papers are circumstances as children are.
    expect(tableIds.filter(one => !named.includes(one))).toEqual(['papers']);
  });
});

const sorted = (fact: object) => Object.fromEntries(Object.entries(fact).toSorted(([a], [b]) => (a < b ? -1 : 1)));
