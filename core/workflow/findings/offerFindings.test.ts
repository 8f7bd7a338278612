/** What a connection can be asked to do, against what a step asks of it. */
import { expect, test } from '@jest/globals';
import { flow } from '../../testing/run.ts';
import type { Absent, Offers } from '../index.ts';
import { findings } from './findings.ts';

const directory: Offers = {
  'add to group': [
    { name: 'group', label: 'the group', needed: true },
    { name: 'person', label: 'whose it is', needed: false },
  ],
  call: null,
};
const provision = (more: object) => ({
  verb: 'Provision',
  id: 'p',
  when: null,
  connection: 'Directory',
  action: 'add to group',
  values: [
    { name: 'group', formula: 'Remark' },
    { name: 'person', formula: 'Asker' },
  ],
  ...more,
});
const found = (more: object, offers: Record<string, Offers> = { Directory: directory }) =>
  findings(flow(provision(more)), { connections: ['Directory'], offers })
    .filter(one => /^(?:not offered|value)/.test(one.id))
    .map(one => [one.level, one.title, one.fix?.value]);

test.each<[string, object, unknown[]]>([
  ['all that it needs, and nothing else', {}, []],
  [
    'something that it does not do',
    { action: 'create space' },
    [['stops', 'Directory does not create space', 'add to group']],
  ],
  [
    'without what it needs',
    { values: [{ name: 'person', formula: 'Asker' }] },
    [['stops', 'Step 2 does not say all that Directory needs', undefined]],
  ],
  [
    'with a slip in a name',
    {
      values: [
        { name: 'group', formula: 'Remark' },
        { name: 'preson', formula: 'Asker' },
      ],
    },
    [['warns', 'Directory takes no “preson”', 'person']],
  ],
  ['of something that takes any value', { action: 'call', values: [{ name: 'moon', formula: '1' }] }, []],
  ['of a connection that is not known here', { connection: 'Payroll', values: [] }, []],
])('a step %s', (_, more, expected) => {
  expect(found(more)).toEqual(expected);
});

test('a group that the system outside does not know stops it, and takes the nearest instead', () => {
  const named = { values: [{ name: 'group', formula: '"Consols"' }] };
  const around = (absent: readonly Absent[]) => ({
    connections: ['Directory'],
    offers: { Directory: offering },
    absent,
  });
  const offering: Offers = { 'add to group': [{ name: 'group', label: 'the group', needed: true, from: 'groups' }] };
  const one = { connection: 'Directory', from: 'groups', name: 'Consols', near: 'Consoles' } as const;
  const what = (absent: readonly Absent[]) =>
    findings(flow(provision(named)), around(absent))
      .filter(found => found.id.startsWith('not there'))
      .map(found => [found.level, found.title, found.fix?.value]);
  expect(what([])).toEqual([]);
  expect(what([one])).toEqual([['stops', 'Directory has no group “Consols”', '"Consoles"']]);
  expect(what([{ ...one, near: null }])).toEqual([['stops', 'Directory has no group “Consols”', undefined]]);
  expect(
    what([
      { ...one, from: 'spaces' },
      { ...one, connection: 'Elsewhere' },
    ]),
  ).toEqual([]);
});
