import { describe, expect, test } from '@jest/globals';
import { annualLeave, date, index, person, withDirectory } from '../../testing/house.ts';
import {
  aloud,
  type Definition,
  findings,
  type Path,
  procedure,
  readDefinition,
  setAt,
  stopsPublishing,
} from '../index.ts';

const people = { people: { index, days: [date('2026-02-02')] } };
const step = (id: string) => annualLeave.steps.findIndex(s => s.id === id);
const changed = (path: Path, value: unknown): Definition => setAt(annualLeave, path, value);
const titles = (definition: Definition) => findings(definition).map(f => f.title);

describe('findings', () => {
  test('a sound workflow has none that stop it', () => {
    expect(stopsPublishing(findings(annualLeave, people))).toBe(false);
  });

  test.each<[string, Path, unknown, string]>([
    ['a misspelt name', ['steps', step('choose'), 'rows', 0, 'condition'], 'Dys <= 2', '“Dys”'],
    ['a type error', ['steps', step('choose'), 'rows', 0, 'condition'], 'Days = "two"', '“Days = "two"”'],
    ['an empty condition', ['steps', step('above'), 'when'], '', 'A formula is not complete'],
    ['a table without otherwise', ['steps', step('choose'), 'otherwise'], null, 'Some requests match no row'],
    [
      'an outcome to a step that is gone',
      ['steps', step('manager'), 'outcomes', 0, 'leads'],
      { to: 'step', step: 'x' },
      '“Approve” leads nowhere',
    ],
    ['a name used twice', ['figures', 0, 'name'], 'Kind', '“Kind” is used twice'],
    ['an unknown insertion', ['messages', 0, 'body'], 'Dear {Aksker}', '“Aksker” in the message “Approved”'],
    ['a closing nobody is told of', ['closings', 1, 'message'], null, 'The asker is not told of “Declined”'],
    [
      'a field that is not in the form',
      ['steps', step('manager'), 'outcomes', 1, 'leads', 'fields'],
      ['gone'],
      '“Send back” opens a field that is not in the form',
    ],
    ['leave without dates', ['steps', step('record'), 'effect', 'span'], 'remark', '“Remark” is not a span of leave'],
    ['no first step', ['steps'], annualLeave.steps.slice(1), 'Nobody asks'],
  ])('%s is found', (_, path, value, title) => {
    expect(titles(annualLeave)).not.toContain(title);
    expect(titles(changed(path, value))).toContain(title);
  });

  test('steps never reached, ends without a closing and circles without people are found', () => {
    const skip = changed(['steps', step('choose'), 'otherwise'], { to: 'step', step: 'record' });
    expect(titles(skip)).toContain('Step 3 is never reached');
    expect(titles({ ...annualLeave, steps: annualLeave.steps.slice(0, -1) })).toContain(
      'After step 5 there is nothing',
    );
    const circle = changed(['steps', step('choose'), 'otherwise'], { to: 'step', step: 'ask' });
    expect(titles(circle)).toContain('Step 2 goes round in a circle');
    const shut = changed(
      ['steps'],
      [annualLeave.steps[0], { verb: 'Choose', id: 'a', when: null, rows: [], otherwise: { to: 'step', step: 'a' } }],
    );
    expect(titles(shut)).toContain('No way out of step 2');
  });

  test('people who would get stuck are named with the reason, and a fallback mends it', () => {
    const [found] = findings(annualLeave, people).filter(f => f.id.startsWith('people:steps.2'));
    expect(found).toMatchObject({ level: 'warns', title: '3 of 8 people would get stuck at 3' });
    expect(found.people?.map(p => p.name).sort()).toEqual(['Con Tractor', 'Dora Quill', 'Rin Round']);
    const mended = setAt(annualLeave, found.fix!.path, found.fix!.value);
    expect(
      findings(mended, people)
        .find(f => f.id.startsWith('people:steps.2'))
        ?.people?.map(p => p.person),
    ).toEqual(['dora']);
  });

  test('a rule that finds nobody for anyone stops publishing', () => {
    const nobody = changed(['steps', step('manager'), 'who'], {
      first: { kind: 'post', post: 'empty' },
      otherwise: [],
    });
    const without = { people: { ...people.people, index: withDirectory({ roles: [] }) } };
    expect(findings(nobody, without).find(f => f.id.startsWith('people:steps.2'))).toMatchObject({ level: 'stops' });
  });

  test('a misspelt name is mended with one change', () => {
    const wrong = changed(['steps', step('choose'), 'rows', 0, 'condition'], 'Balance aftr < 0');
    const [found] = findings(wrong).filter(f => f.level === 'stops');
    expect(found.fix?.label).toBe('Change to “Balance after”');
    expect(findings(setAt(wrong, found.fix!.path, found.fix!.value)).some(f => f.level === 'stops')).toBe(false);
  });
});

describe('the written procedure', () => {
  const lines = procedure(annualLeave, index);

  test('reads like the policy', () => {
    expect(lines.map(l => aloud(l.sentence))).toEqual([
      'The asker fills in Kind, Dates, Remark.',
      'By the first line that holds.',
      'the asker’s line manager decides within 2 working days.',
      'When Days is over 10, the manager above the asker’s line manager, else anyone with the role HR partner decides with no limit.',
      'Book Dates as leave of the chosen Kind; put them on the team’s planner.',
      'The request ends as Approved and the asker gets “Approved”.',
    ]);
    expect(lines[1].rows.map(r => aloud(r.phrases))).toEqual([
      'Days is at most 2 and Others away is 0: go to 5',
      'Otherwise: go on',
    ]);
    expect(lines[2].rows.map(r => `${r.label}: ${aloud(r.phrases)}`)).toEqual([
      'Approve: go on',
      'Send back: note needed; the asker may change Dates; again from 2, at most 3 times',
      'Decline: note needed; close as Declined',
    ]);
  });

  test('every phrase that can be changed says where it stands', () => {
    const edits = lines
      .flatMap(l => [...l.sentence, ...l.rows.flatMap(r => r.phrases)])
      .flatMap(p => (p.edit ? [p.edit] : []));
    expect(new Set(edits.map(e => e.kind))).toEqual(
      new Set([
        'formula',
        'comparator',
        'value',
        'people',
        'limit',
        'go',
        'fields',
        'count',
        'outcome',
        'choice',
        'effect',
      ]),
    );
    for (const edit of edits) {
      const same = edit.kind === 'people' ? edit.rule : edit.kind === 'limit' ? edit.limit : undefined;
      if (same !== undefined) expect(setAt(annualLeave, edit.path, same)).toEqual(annualLeave);
    }
  });

  test('people are named in the words of the directory', () => {
    const named = changed(['steps', step('manager'), 'who'], {
      first: { kind: 'person', person: person('tom') },
      otherwise: [{ kind: 'head of department' }, { kind: 'post', post: 'director' }, { kind: 'manager', levels: 3 }],
    });
    expect(aloud(procedure(named, index)[2].sentence)).toContain(
      'Tom Lund, else the head of the asker’s department, else the Director, else the manager 3 levels above the asker',
    );
  });
});

describe('reading a definition', () => {
  test('what was written is read back the same', () => {
    expect(readDefinition(JSON.parse(JSON.stringify(annualLeave)))).toEqual({ ok: true, definition: annualLeave });
  });

  test('an unknown verb is said with its place and the verbs there are', () => {
    const read = readDefinition(changed(['steps', 2, 'verb'], 'Ponder'));
    if (read.ok) throw new Error('was read');
    expect(read.faults[0].path).toEqual(['steps', 2, 'verb']);
    expect(read.faults[0].message).toContain('“Ponder” is not a verb of a step. The verbs are Ask, Choose, Decide');
  });

  test.each([[null], [[]], ['text'], [{}], [{ ...annualLeave, formatVersion: 99 }]])('%p is no workflow', input => {
    expect(readDefinition(input).ok).toBe(false);
  });
});
