import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type Directory, indexDirectory, managerOf, type PersonId, recordOn } from '../people/index.ts';
import { date, directory as house, person } from '../testing/house.ts';
import { addDays } from '../time/index.ts';
import { edited, editsOf, freeId, type HouseChange, type OnFile, reversed } from './index.ts';

/** The house of tests with a second place, and without its circle. */
const directory: Directory = {
  ...house,
  places: [...house.places, { id: 'skarn', name: 'Skarn Light', zone: 'Atlantic/Reykjavik', calendar: 'sound' }],
  departments: [...house.departments, { id: 'lights', name: 'Lights', head: null }],
  posts: house.posts.map(post =>
    post.id === 'ring-b' ? { ...post, lines: post.lines.map(one => ({ ...one, reportsTo: 'director' })) } : post,
  ),
};
const plans = [{ id: 'standard' }];
const made = (change: HouseChange, from: Directory = directory): Directory => {
  const found = editsOf(from, change, plans);
  if (!found.ok) throw new Error(found.fault.code);
  const now = edited(from, found.edits);
  if (!now.ok) throw new Error(now.stale.join());
  return now.directory;
};
const fault = (change: HouseChange, from: Directory = directory) => {
  const found = editsOf(from, change, plans);
  return found.ok ? null : found.fault;
};
const record = (from: string, set: Extract<HouseChange, { what: 'record' }>['set'], of = 'ina'): HouseChange => ({
  what: 'record',
  person: person(of),
  from: date(from),
  set,
});
const line = (post: string, reportsTo: string | null, from = '2026-03-01'): HouseChange => ({
  what: 'line',
  post,
  from: date(from),
  reportsTo,
});
const on = (house: Directory, of: string, day: string) => {
  const found = house.people.find(one => one.id === of);
  return found && recordOn(found, date(day));
};
/** The same house, whatever the order in which its lists are kept. */
const sorted = (house: Directory) =>
  JSON.parse(JSON.stringify(house), (_, value) =>
    Array.isArray(value) ? value.toSorted((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1)) : value,
  );

describe('a record changed from a day on', () => {
  test('holds from that day, and what was before stays for the days before', () => {
    const house = made(record('2026-04-01', { fte: 0.5 }));
    expect(on(house, 'ina', '2026-03-31')?.fte).toBe(on(directory, 'ina', '2026-03-31')?.fte);
    expect(on(house, 'ina', '2026-04-01')?.fte).toBe(0.5);
  });
  test('what is planned for later keeps what it says of other things', () => {
    const later = made(record('2026-06-01', { fte: 0.5 }));
    const house = made(record('2026-04-01', { department: directory.departments.at(-1)?.id }), later);
    expect(on(house, 'ina', '2026-06-01')).toMatchObject({ fte: 0.5, department: directory.departments.at(-1)?.id });
  });
  test.each<[string, HouseChange, object]>([
    ['nobody', record('2026-04-01', { fte: 0.5 }, 'nobody'), { code: 'not on file', field: 'person' }],
    ['a place that is not there', record('2026-04-01', { place: 'moon' }), { code: 'not on file', field: 'place' }],
    ['a plan that is not there', record('2026-04-01', { plan: 'moon' }), { code: 'not on file', field: 'plan' }],
    ['before joining', record('1990-01-01', { fte: 0.5 }), { code: 'before joining', field: 'from' }],
    ['what is so already', record('2026-04-01', {}), { code: 'nothing changes' }],
  ])('%s is refused at its field', (_, change, expected) => {
    expect(fault(change)).toMatchObject(expected);
  });
});

describe('posts, lines and roles', () => {
  const [top, under] = (() => {
    const below = directory.posts.find(post => post.lines.some(one => one.reportsTo !== null));
    return [below?.lines[0]?.reportsTo ?? '', below?.id ?? ''];
  })();
  test('a line that closes a circle is refused, with the day and the posts', () => {
    expect(fault(line(top, under))).toMatchObject({
      code: 'circle',
      day: '2026-03-01',
      posts: expect.arrayContaining([top]),
    });
    expect(fault(line(under, under))).toMatchObject({ code: 'circle' });
    expect(fault(line(under, top))).toMatchObject({ code: 'nothing changes' });
  });
  test('a line that would close a circle only later is refused for that later day', () => {
    const house = made(line(under, null, '2026-03-01'));
    const again = made(line(under, top, '2026-09-01'), house);
    expect(fault(line(top, under, '2026-04-01'), again)).toMatchObject({ code: 'circle', day: '2026-09-01' });
  });
  test('a post has one main holder on a day; whoever takes another leaves the old one on the day before', () => {
    const holding = directory.holdings.find(one => one.main && one.to === null);
    const other = directory.people.find(one => one.id !== holding?.person && one.left === null)?.id as PersonId;
    const takes = (post: string, from = '2026-05-01'): HouseChange => ({
      what: 'post',
      person: other,
      from: date(from),
      post,
    });
    expect(fault(takes(holding?.post ?? ''))).toMatchObject({ code: 'post is held', by: holding?.person });
    const free = { ...(directory.posts[0] as Directory['posts'][number]), id: 'free', title: 'Free', lines: [] };
    const house = made(takes('free'), { ...directory, posts: [...directory.posts, free] });
    const own = house.holdings.filter(one => one.person === other && one.main);
    expect(own.filter(one => one.to === null)).toMatchObject([{ post: 'free', from: '2026-05-01' }]);
    for (const one of own) if (one.post !== 'free') expect(one.to).toBe('2026-04-30');
  });
  test('a role is given for a place, and taken back', () => {
    const role = { what: 'role', role: 'Diver', person: person('ina'), place: null, department: null } as const;
    const house = made({ ...role, held: true });
    expect(house.roles).toContainEqual({ role: 'Diver', person: 'ina' });
    expect(fault({ ...role, held: true }, house)).toMatchObject({ code: 'nothing changes' });
    expect(sorted(made({ ...role, held: false }, house))).toEqual(sorted(directory));
    expect(fault({ ...role, place: 'moon', held: true })).toMatchObject({ code: 'not on file', field: 'place' });
  });
});

describe('people who come and go', () => {
  const [first] = directory.people;
  const coming = (more: object = {}): HouseChange => ({
    what: 'comes',
    person: {
      id: person('mika'),
      name: 'Mika Ødegård',
      mail: 'mika@house.example',
      joined: date('2026-03-13'),
      ...(recordOn(first as Directory['people'][number], date('2026-01-01')) as object as {
        place: string;
        department: string;
        pattern: string;
        fte: number;
        plan: null;
      }),
      ...more,
    } as never,
    post: null,
  });
  test('a mail address belongs to one of them', () => {
    const { from: _, ...change } = coming() as { from?: string } & HouseChange;
    expect(
      fault({ ...change, person: { ...(change as { person: object }).person, mail: first?.mail } } as never),
    ).toMatchObject({ code: 'taken', field: 'mail' });
  });
  test('nobody leaves before they came', () => {
    const leaves = { what: 'last day', person: person('ina'), left: date('1980-01-01') } as const;
    expect(fault(leaves)).toMatchObject({ code: 'leaves before joining', field: 'left' });
    expect(made({ ...leaves, left: date('2026-12-31') }).people.find(one => one.id === 'ina')?.left).toBe('2026-12-31');
  });
  test.each([
    ['Mika Ødegård', 'mika-odegard'],
    ['李小龙', 'person'],
    ['  ', 'person'],
  ])('an id is made of %s', (name, id) => {
    expect(freeId(directory, name)).toBe(id);
  });
  test('two of one name have two ids', () => {
    expect(
      freeId({ ...directory, people: [{ ...(first as Directory['people'][number]), id: person('ada') }] }, 'Ada'),
    ).toBe('ada-2');
  });
});

describe('laws', () => {
  const ids = directory.people.filter(one => one.left === null).map(one => one.id);
  const day = fc.integer({ min: 0, max: 300 }).map(n => addDays(date('2026-02-01'), n));
  const place = fc.constantFrom(...directory.places.map(one => one.id));
  const change: fc.Arbitrary<HouseChange> = fc.oneof(
    fc.record({
      what: fc.constant('record' as const),
      person: fc.constantFrom(...ids),
      from: day,
      set: fc.record({ place, fte: fc.constantFrom(0.5, 0.6, 0.8, 1) }, { requiredKeys: [] }),
    }),
    fc.record({ what: fc.constant('last day' as const), person: fc.constantFrom(...ids), left: fc.option(day) }),
    fc.record({
      what: fc.constant('post' as const),
      person: fc.constantFrom(...ids),
      from: day,
      post: fc.constantFrom(...directory.posts.map(one => one.id)),
    }),
    fc.record({
      what: fc.constant('line' as const),
      post: fc.constantFrom(...directory.posts.map(one => one.id)),
      from: day,
      reportsTo: fc.option(fc.constantFrom(...directory.posts.map(one => one.id))),
    }),
  );
  test('a change and its taking back leave the house as it was, after any number of others', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 8 }), changes => {
        let house = directory;
        const stack: { before: Directory; back: ReturnType<typeof reversed> }[] = [];
        for (const one of changes) {
          const found = editsOf(house, one, plans);
          if (!found.ok) continue;
          const now = edited(house, found.edits);
          if (!now.ok) throw new Error(now.stale.join());
          stack.push({ before: house, back: reversed(found.edits) });
          house = now.directory;
        }
        for (const { before, back } of stack.toReversed()) {
          const now = edited(house, back);
          expect(now.ok).toBe(true);
          if (now.ok) house = now.directory;
          expect(sorted(house)).toEqual(sorted(before));
        }
      }),
    );
  });
  test('no change leaves a circle: every line ends on every day', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 12 }), day, (changes, on) => {
        let house = directory;
        for (const one of changes) {
          const found = editsOf(house, one, plans);
          const now = found.ok ? edited(house, found.edits) : null;
          if (now?.ok) house = now.directory;
        }
        const index = indexDirectory(house);
        for (const { id } of house.people) {
          const found = managerOf(index, id, on);
          expect(JSON.stringify(found)).not.toContain('circle');
        }
      }),
    );
  });
  test('what concerns different things may be entered in any order', () => {
    fc.assert(
      fc.property(day, day, fc.constantFrom(0.5, 0.6), place, (a, b, fte, where) => {
        const hours = record(a, { fte });
        const moves = record(b, { place: where });
        fc.pre(editsOf(directory, moves, plans).ok);
        expect(sorted(made(moves, made(hours)))).toEqual(sorted(made(hours, made(moves))));
      }),
    );
  });
  test('edits that somebody else was faster with are told, and change nothing', () => {
    const mine = editsOf(directory, record('2026-04-01', { fte: 0.5 }), plans);
    const theirs = made(record('2026-04-01', { fte: 0.8 }));
    expect(mine.ok && edited(theirs, mine.edits)).toEqual({ ok: false, stale: ['record ina 2026-04-01'] });
  });
});

describe('a secondment', () => {
  const places = [...directory.places, { id: 'hollin', name: 'Hollin Quay', zone: 'Europe/Oslo', calendar: 'ovay' }];
  const posts = [
    ...directory.posts,
    {
      id: 'quay',
      title: 'Quay hand',
      department: 'observatory',
      place: 'hollin',
      lines: [{ from: date('2020-01-01'), reportsTo: 'director' }],
    },
  ];
  const file = { ...directory, places, posts } as OnFile;
  const plans = [{ id: 'standard', unit: 'days' as const }];
  const seconded = {
    what: 'seconded',
    person: 'ina',
    from: '2026-03-02',
    to: '2026-05-29',
    place: 'hollin',
    post: 'quay',
  };
  const made = (own: OnFile, more: object = {}) =>
    editsOf(own, { ...seconded, ...more } as unknown as HouseChange, plans);
  const on = (own: OnFile, day: string) => {
    const index = indexDirectory(own);
    const ina = index.person(person('ina'));
    const manager = managerOf(index, person('ina'), date(day));
    return [ina && recordOn(ina, date(day)).place, 'person' in manager ? manager.person.id : null];
  };
  test('is at another place under another manager, and back by itself; taken back nothing is left of it', () => {
    const found = made(file);
    if (!found.ok) throw new Error(found.fault.code);
    const now = edited(file, found.edits);
    if (!now.ok) throw new Error(String(now.stale));
    expect(['2026-03-01', '2026-03-02', '2026-05-29', '2026-05-30'].map(day => on(now.directory, day))).toEqual([
      ['ovay', 'tom'],
      ['hollin', 'dora'],
      ['hollin', 'dora'],
      ['ovay', 'tom'],
    ]);
    const back = edited(now.directory, reversed(found.edits));
    expect(back.ok && back.directory.people).toEqual(file.people);
    expect(
      back.ok && back.directory.holdings.toSorted((a, b) => (a.person + a.post < b.person + b.post ? -1 : 1)),
    ).toEqual(file.holdings.toSorted((a, b) => (a.person + a.post < b.person + b.post ? -1 : 1)));
  });
  test('goes back to what was planned for then, and not at all where they leave before', () => {
    const planned = editsOf(
      file,
      { what: 'record', person: 'ina', from: '2026-05-01', set: { fte: 0.5 } } as unknown as HouseChange,
      plans,
    );
    const later = planned.ok ? edited(file, planned.edits) : null;
    if (!later?.ok) throw new Error('not planned');
    const found = made(later.directory, { post: null });
    const now = found.ok ? edited(later.directory, found.edits) : null;
    if (!now?.ok) throw new Error('not seconded');
    const ina = now.directory.people.find(one => one.id === 'ina');
    expect(ina?.records.map(one => [one.from, one.place, one.fte]).slice(1)).toEqual([
      ['2026-03-02', 'hollin', 1],
      ['2026-05-01', 'hollin', 0.5],
      ['2026-05-30', 'ovay', 0.5],
    ]);
    const leaves = {
      ...file,
      people: file.people.map(one => (one.id === 'ina' ? { ...one, left: date('2026-05-29') } : one)),
    };
    const last = made(leaves);
    expect(last.ok && last.edits.some(({ after }) => after?.kind === 'record' && after.from === '2026-05-30')).toBe(
      false,
    );
  });
  test.each<[object, string]>([
    [{ to: '2026-03-01' }, 'to'],
    [{ place: 'moon' }, 'place'],
    [{ post: 'moon' }, 'post'],
    [{ person: 'nobody' }, 'person'],
    [{ from: '1999-01-01' }, 'from'],
  ])('that cannot be is told at its place: %j', (more, field) => {
    const found = made(file, more);
    expect(!found.ok && found.fault.field).toBe(field);
  });
});
