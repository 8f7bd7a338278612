import { describe, expect, test } from '@jest/globals';
import { base } from '../../testing/anyWorkflow.ts';
import { annualLeave, date, index, withDirectory } from '../../testing/house.ts';
import { type Definition, findings, type Path, type Step, type Surroundings, setAt, withPosts } from '../index.ts';

const around: Surroundings = {
  people: { index, days: [date('2026-02-02')] },
  lists: withPosts(index),
  leaveTypes: ['annual', 'sick'],
  workflows: ['annual'],
};
const at = (definition: Definition, id: string) => definition.steps.findIndex(s => s.id === id);
const change = (path: Path, value: unknown, definition: Definition = base) => setAt(definition, path, value);
const put = (...steps: unknown[]): Definition => ({
  ...base,
  steps: [...base.steps.slice(0, 4), ...(steps as Step[]), ...base.steps.slice(4)],
});
const rows = (...conditions: string[]) =>
  conditions.map((condition, i) => ({
    id: `r${i}`,
    condition,
    go: i % 2 ? { to: 'next' } : { to: 'close', closing: 'approved' },
  }));
const person = { first: { kind: 'manager', levels: 1 }, otherwise: [] };
const decide = (more: object) => ({
  verb: 'Decide',
  id: 'more',
  when: null,
  who: person,
  whenAway: 'waits',
  limit: null,
  outcomes: [{ id: 'yes', label: 'Yes', tone: 'good', note: 'none', leads: { to: 'next' } }],
  ...more,
});
const task = (more: object) => ({
  verb: 'Do',
  id: 'more',
  when: null,
  who: person,
  whenAway: 'waits',
  task: 'It',
  limit: null,
  ...more,
});
const before = (days: number) => ({
  within: { workingDaysBefore: days, field: 'start' },
  remind: null,
  atLimit: 'wait',
});
const manager = at(base, 'manager');

const back = (more: object = {}) => ({
  id: 'back',
  label: 'Back',
  tone: 'rework',
  note: 'none',
  leads: { to: 'rework', fields: ['remark'], resume: 'more', atMost: 1, ...more },
});
const onwards = { id: 'yes', label: 'Yes', tone: 'good', note: 'none', leads: { to: 'next' } };

/** Each finding with a definition that has it; the sample, and the named one, have it not. */
const paper = base.form.fields.findIndex(f => f.id === 'paper');
const puts = {
  verb: 'Record',
  id: 'puts',
  when: null,
  effect: { kind: 'add person', values: [{ name: 'name', formula: 'Remark' }] },
};
const table: [string, Definition, level: 'stops' | 'warns', sound?: Definition][] = [
  [
    'Step 5 goes by where the asker works',
    change(['opening'], { forWhom: ['self', 'report'] }, put(decide({ who: person }))),
    'warns',
    change(
      ['opening'],
      { forWhom: ['self', 'report'] },
      put(decide({ who: { ...person, first: { ...person.first, of: 'subject' } } })),
    ),
  ],
  [
    'Step 6 goes by where the asker works',
    put(puts, decide({ who: { first: { kind: 'role', role: 'HR partner', within: 'place' }, otherwise: [] } })),
    'warns',
    put(
      puts,
      decide({
        who: { first: { kind: 'role', role: 'HR partner', within: 'place', of: { post: 'post' } }, otherwise: [] },
      }),
    ),
  ],
  [
    'There is no role “Nurse”',
    change(['ownedNext'], { first: { kind: 'role', role: 'Nurse' }, otherwise: [] }),
    'stops',
    change(['ownedNext'], { first: { kind: 'role', role: 'HR partner' }, otherwise: [] }),
  ],
  [
    'Every outcome here sends it back',
    put(decide({ outcomes: [back()] })),
    'stops',
    put(decide({ outcomes: [back(), onwards] })),
  ],
  [
    'Nobody holds the role Nurse that may read “Signed paper”',
    change(['form', 'fields', paper, 'readers'], ['HR partner', 'Nurse']),
    'warns',
    change(['form', 'fields', paper, 'readers'], ['HR partner']),
  ],
  [
    '“Fine” in a reply means more than one outcome of step 3',
    change(['phrases'], { Approve: ['Fine'], Decline: ['fine'] }),
    'stops',
    change(['phrases'], { Approve: ['Fine'], Decline: ['Not now'] }),
  ],
  ['“Perhaps” is no outcome any more', change(['phrases'], { Perhaps: ['Maybe'] }), 'warns'],
  [
    '“Approved” cannot tell Signed paper',
    change(['messages', 0, 'body'], 'See {Signed paper}.'),
    'warns',
    change(['messages', 0, 'body'], 'See {request}.'),
  ],
  [
    'It does not say what happens if they do not agree',
    put(decide({ count: 'majority', outcomes: [onwards, back()] })),
    'warns',
    put(decide({ count: 'majority', undecided: 'yes', outcomes: [onwards, back()] })),
  ],
  [
    'If they do not agree, an outcome is taken that is not there',
    put(decide({ count: 'majority', undecided: 'nothing', outcomes: [onwards, back()] })),
    'stops',
    put(decide({ count: 'majority', undecided: 'yes', outcomes: [onwards, back()] })),
  ],
  [
    'This is too much work',
    change(['figures', 0, 'formula'], 'count(for i in 1..9000, j in 1..9000 return i)'),
    'stops',
    change(['figures', 0, 'formula'], 'count(for i in 1..9 return i)'),
  ],
  [
    '“Urgent” is never “42”',
    put({ verb: 'Record', id: 'more', when: null, effect: { kind: 'set', field: 'urgent', formula: '42' } }),
    'stops',
    put({ verb: 'Record', id: 'more', when: null, effect: { kind: 'set', field: 'urgent', formula: 'true' } }),
  ],
  [
    '“Kind” is never “anual”',
    put({ verb: 'Record', id: 'more', when: null, effect: { kind: 'set', field: 'kind', formula: '"anual"' } }),
    'stops',
    put({ verb: 'Record', id: 'more', when: null, effect: { kind: 'set', field: 'kind', formula: '"annual"' } }),
  ],
  [
    'No outcome here counts as in favour',
    put(
      decide({
        count: { atLeast: 1 },
        outcomes: [{ id: 'no', label: 'No', tone: 'bad', note: 'none', leads: { to: 'next' } }],
      }),
    ),
    'stops',
    put(decide({ count: { atLeast: 1 } })),
  ],
  [
    'Row 2 can never match',
    put({ verb: 'Choose', id: 'more', when: null, rows: rows('Days > 2', 'Days > 5'), otherwise: { to: 'next' } }),
    'stops',
    put({ verb: 'Choose', id: 'more', when: null, rows: rows('Days > 5', 'Days > 2'), otherwise: { to: 'next' } }),
  ],
  [
    'Some requests match no row',
    put({ verb: 'Choose', id: 'more', when: null, rows: rows('Days > 2', 'Days < 2'), otherwise: null }),
    'stops',
    put({ verb: 'Choose', id: 'more', when: null, rows: rows('Days > 2', 'Days <= 2'), otherwise: null }),
  ],
  [
    'Rows 1 and 2 overlap',
    put({ verb: 'Choose', id: 'more', when: null, rows: rows('Days > 2', 'Days < 5'), otherwise: { to: 'next' } }),
    'warns',
    put({ verb: 'Choose', id: 'more', when: null, rows: rows('Days > 5', 'Days < 5'), otherwise: { to: 'next' } }),
  ],
  ['This condition can never hold', change(['steps', at(base, 'above'), 'when'], 'Days > 5 and Days < 2'), 'stops'],
  [
    'This divides by nothing',
    change(['steps', at(base, 'above'), 'when'], 'Days / 0 > 1'),
    'stops',
    change(['steps', at(base, 'above'), 'when'], 'Days / 2 > 1'),
  ],
  [
    '“Remark” is needed, and nobody can fill it in',
    { ...change(['form', 'fields', 2, 'required'], true), access: { ask: { remark: 'hidden' } } },
    'stops',
    {
      ...change(['form', 'fields', 2, 'required'], true),
      access: { ask: { remark: 'hidden' }, manager: { remark: 'required' } },
    },
  ],
  [
    '“Approve” needs Remark, which cannot be filled in here',
    change(['steps', manager, 'outcomes', 0, 'needs'], ['remark']),
    'stops',
    { ...change(['steps', manager, 'outcomes', 0, 'needs'], ['remark']), access: { manager: { remark: 'editable' } } },
  ],
  [
    'Step 5 comes before the decision that it depends on',
    {
      ...base,
      steps: [base.steps[0], base.steps[4], ...base.steps.slice(1, 4), base.steps[5]].map((s, i) =>
        i === 1 ? { ...s, id: 'record' } : s,
      ),
    },
    'stops',
  ],
  [
    '“Thing” stands in a section that is not there',
    change(['form', 'fields', 2], { kind: 'text', id: 'thing', label: 'Thing', required: false, section: 'gone' }),
    'stops',
  ],
  [
    'There is no list “Tides”',
    change(['figures', 0, 'formula'], 'if row of("Tides", "low").Depth = 3 then 1 else 2'),
    'stops',
    change(['figures', 0, 'formula'], 'if row of("posts", "low").Depth = 3 then 1 else 2'),
  ],
  [
    'There is no list “Rates”',
    change(['figures', 0], {
      id: 'paid',
      name: 'Paid',
      unit: 'money',
      formula: 'in currency(money(3, "NOK"), "EUR", today())',
    }),
    'stops',
    change(['figures', 0], { id: 'paid', name: 'Paid', unit: 'money', formula: 'money(3, "EUR")' }),
  ],
  ['There is no list “boats”', change(['form', 'fields', 7, 'list'], 'boats'), 'stops'],
  [
    '“Post” depends on a field that is not there',
    change(['form', 'fields', 7, 'where'], { column: 'place', field: 'gone' }),
    'stops',
    change(['form', 'fields', 7, 'where'], { column: 'place', field: 'remark' }),
  ],
  [
    '“Remark” is taken from a field that is not there',
    change(['form', 'fields', 2, 'start'], { from: 'picked', field: 'gone', column: 'x' }),
    'stops',
  ],
  ['Two entries have the id “kind”', change(['figures', 0, 'id'], 'kind'), 'stops'],
  ['“A.b” cannot be used in formulas', change(['form', 'fields', 2, 'label'], 'A.b'), 'stops'],
  ['Access is set for a step that is not there', { ...base, access: { gone: { remark: 'hidden' } } }, 'warns'],
  [
    '“Yes” stands twice',
    put(
      decide({
        outcomes: [0, 1].map(i => ({ id: `o${i}`, label: 'Yes', tone: 'good', note: 'none', leads: { to: 'next' } })),
      }),
    ),
    'stops',
    put(decide({})),
  ],
  [
    'At the limit an outcome is taken that is not there',
    put(decide({ limit: { within: { workingDays: 1 }, remind: null, atLimit: { take: 'gone' } } })),
    'stops',
    put(decide({ limit: { within: { workingDays: 1 }, remind: null, atLimit: { take: 'yes' } } })),
  ],
  [
    '“Remark” is not the date that the limit is counted from',
    put(task({ limit: { within: { workingDaysBefore: 1, field: 'remark' }, remind: null, atLimit: 'wait' } })),
    'stops',
    put(task({ limit: before(1) })),
  ],
  [
    'Step 6 is due before step 5, which comes first',
    put(task({ limit: before(1) }), task({ id: 'later', limit: before(5) })),
    'warns',
    put(task({ limit: before(5) }), task({ id: 'later', limit: before(1) })),
  ],
  [
    '3 of 1 lanes can never be done',
    put({
      verb: 'Split',
      id: 'more',
      when: null,
      needs: 3,
      lanes: [{ id: 'a', name: 'A', steps: [task({ id: 'inner' })] }],
    }),
    'stops',
  ],
  [
    'Nothing happens in “A”',
    put({ verb: 'Split', id: 'more', when: null, needs: 'all', lanes: [{ id: 'a', name: 'A', steps: [] }] }),
    'warns',
  ],
  [
    '“Approve” leads nowhere',
    setAt(
      put({
        verb: 'Split',
        id: 'more',
        when: null,
        needs: 'all',
        lanes: [{ id: 'a', name: 'A', steps: [task({ id: 'inner' })] }],
      }),
      ['steps', manager, 'outcomes', 0, 'leads'],
      { to: 'step', step: 'inner' },
    ),
    'stops',
  ],
  [
    'There is no request to wait for',
    put({ verb: 'Hold', id: 'more', when: null, until: { kind: 'requests' } }),
    'stops',
    put(
      { verb: 'Record', id: 'opens', when: null, effect: { kind: 'open', workflow: 'annual', values: [] } },
      { verb: 'Hold', id: 'more', when: null, until: { kind: 'requests' } },
    ),
  ],
  [
    '“Remark” is not the document that is waited for',
    put({ verb: 'Hold', id: 'more', when: null, until: { kind: 'document', field: 'remark' } }),
    'stops',
    put({ verb: 'Hold', id: 'more', when: null, until: { kind: 'document', field: 'paper' } }),
  ],
  [
    'There is no workflow “annul”',
    put({ verb: 'Record', id: 'more', when: null, effect: { kind: 'open', workflow: 'annul', values: [] } }),
    'stops',
  ],
  [
    'There is no role “HR partnr”',
    put(decide({ who: { first: { kind: 'role', role: 'HR partnr' }, otherwise: [] } })),
    'stops',
    put(decide({ who: { first: { kind: 'role', role: 'HR partner' }, otherwise: [] } })),
  ],
  ['There is no post “leed”', put(decide({ who: { first: { kind: 'post', post: 'leed' }, otherwise: [] } })), 'stops'],
  [
    'It names a step that nobody decides',
    put(decide({ who: { first: { kind: 'decided', step: 'ask' }, otherwise: [] } })),
    'stops',
    put(decide({ who: { first: { kind: 'decided', step: 'manager' }, otherwise: [] } })),
  ],
  [
    '“Remark” is not a person',
    put(decide({ who: { first: { kind: 'person in', field: 'remark' }, otherwise: [] } })),
    'stops',
    put(decide({ who: { first: { kind: 'person in', field: 'lead' }, otherwise: [] } })),
  ],
  [
    '1 person would decide their own request at 5',
    put(decide({ who: { first: { kind: 'post', post: 'lead' }, otherwise: [] } })),
    'warns',
  ],
  ['Nobody is told', put({ verb: 'Tell', id: 'more', when: null, to: [], message: 'yes' }), 'stops'],
  [
    '“Approved” tells what its reader may not see',
    {
      ...put({ verb: 'Tell', id: 'more', when: null, to: [person], message: 'yes' }),
      access: { manager: { dates: 'hidden' } },
    },
    'warns',
    put({ verb: 'Tell', id: 'more', when: null, to: [person], message: 'yes' }),
  ],
  [
    '“Approved” takes Dates out of the house',
    {
      ...put({ verb: 'Tell', id: 'more', when: null, to: [], addresses: ['a@selkie.example'], message: 'yes' }),
      access: { above: { dates: 'hidden' } },
    },
    'warns',
  ],
  ['The form asks nothing', change(['form', 'fields'], []), 'warns'],
  ['Nobody reads “Remark”', { ...base, steps: [base.steps[0], base.steps[4], base.steps[5]] }, 'warns'],
  ['Nobody uses “Others away”', { ...base, steps: [base.steps[0], base.steps[4], base.steps[5]] }, 'warns'],
];

const titles = (definition: Definition) => findings(definition, around).map(f => `${f.level}: ${f.title}`);

describe('each finding', () => {
  test.each(table)('%s', (title, having, level, sound = base) => {
    const found = `${level}: ${title}`;
    const wanted = title.startsWith('Step 5 comes before')
      ? `${level}: Step 2 comes before the decision that it depends on`
      : found;
    expect(titles(having)).toContain(wanted);
    expect(titles(sound)).not.toContain(wanted);
  });

  test('limits longer than the notice that is asked for', () => {
    const noticed = (days: number): Definition => ({
      ...annualLeave,
      figures: [
        ...annualLeave.figures,
        { id: 'notice', name: 'Notice', formula: 'days of notice(Dates)', unit: 'number' },
      ],
      form: {
        fields: annualLeave.form.fields.map(f =>
          f.id === 'dates' ? { ...f, checks: [{ formula: `Notice >= ${days}`, message: 'Earlier.' }] } : f,
        ),
      },
    });
    expect(titles(noticed(1))).toContain('warns: The limits are longer than the notice given');
    expect(titles(noticed(14))).not.toContain('warns: The limits are longer than the notice given');
  });

  test('a boundary that no sample covers, until one does', () => {
    const title = 'warns: Days of exactly 2 was never tried';
    const tried = (samples: Record<string, unknown>[]) =>
      findings(annualLeave, { samples }).map(f => `${f.level}: ${f.title}`);
    expect(tried([{ Days: 3 }])).toContain(title);
    expect(tried([{ Days: 3 }, { Days: 2 }])).not.toContain(title);
    expect(tried([])).not.toContain(title);
  });

  test('people are tried on every day that is asked for, and each is named with the day', () => {
    const later = withDirectory({
      people: index.directory.people.map(p => (p.id === 'con' ? { ...p, left: date('2026-03-01') } : p)),
    });
    const days = [date('2026-02-02'), date('2026-04-01')];
    const found = findings(annualLeave, { people: { index: later, days } }).find(f =>
      f.id.startsWith('people:steps.2'),
    );
    expect(found?.people?.filter(p => p.person === 'con').map(p => p.day)).toEqual(['2026-02-02']);
    expect(found?.people?.filter(p => p.person === 'dora').map(p => p.day)).toEqual(days);
  });

  test('every fix that is offered takes its finding away', () => {
    for (const [, having] of table) {
      for (const finding of findings(having, around)) {
        if (!finding.fix) continue;
        const mended = setAt(having, finding.fix.path, finding.fix.value);
        expect(findings(mended, around).filter(f => f.id === finding.id && f.title === finding.title)).toEqual([]);
      }
    }
  });
});
