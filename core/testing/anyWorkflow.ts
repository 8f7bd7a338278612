/** Workflows made at random over the small house, of every verb and every kind of rule: some sound, many not. */
import fc from 'fast-check';
import type { PeopleRule, SingleRule } from '../people/index.ts';
import {
  type AtLimit,
  type Attachment,
  type Definition,
  type Go,
  type InPlan,
  type Limit,
  type Outcome,
  provisions,
  type RecordEffect,
  type Step,
  type Until,
} from '../workflow/index.ts';
import { annualLeave, person } from './house.ts';

/** A form with a field of each kind that steps can name. */
export const base: Definition = {
  ...annualLeave,
  form: {
    fields: [
      ...annualLeave.form.fields,
      { kind: 'person', id: 'lead', label: 'Lead', required: false },
      { kind: 'money', id: 'amount', label: 'Amount', currency: 'EUR', required: true },
      { kind: 'date', id: 'start', label: 'Start date', required: true },
      { kind: 'document', id: 'paper', label: 'Signed paper', expires: false, required: false },
      { kind: 'pick', id: 'post', label: 'Post', list: 'posts', required: false },
      { kind: 'yes/no', id: 'urgent', label: 'Urgent', required: true },
    ],
  },
};

const whose = fc.constantFrom<{ of?: 'subject' | { field: string } }>({}, { of: 'subject' }, { of: { field: 'lead' } });

/** The same, and a department or place of a post. */
const whoseUnit = fc.oneof(whose, fc.constant<{ of?: { post: string } }>({ of: { post: 'post' } }));

export const anyRule: fc.Arbitrary<SingleRule> = fc.oneof(
  fc.constant<SingleRule>({ kind: 'asker' }),
  fc.constant<SingleRule>({ kind: 'subject' }),
  fc.constant<SingleRule>({ kind: 'person', person: person('tom') }),
  fc.constant<SingleRule>({ kind: 'person in', field: 'lead' }),
  fc
    .tuple(fc.integer({ min: 1, max: 4 }), whose)
    .map(([levels, of]): SingleRule => ({ kind: 'manager', levels, ...of })),
  fc
    .tuple(fc.integer({ min: 1, max: 4 }), whose)
    .map(([levels, of]): SingleRule => ({ kind: 'managers', levels, ...of })),
  fc
    .tuple(
      fc.constantFrom('grade' as const, 'spending limit' as const),
      fc.constantFrom('3', 'Amount', 'Amount * 2'),
      whose,
    )
    .map(([what, least, of]): SingleRule => ({ kind: 'manager with', what, least, ...of })),
  whoseUnit.map((of): SingleRule => ({ kind: 'head of department', ...of })),
  whoseUnit.map((of): SingleRule => ({ kind: 'head of place', ...of })),
  whose.map((of): SingleRule => ({ kind: 'dotted-line manager', ...of })),
  fc.constantFrom('lead', 'director', 'empty').map((post): SingleRule => ({ kind: 'post', post })),
  fc.constant<SingleRule>({ kind: 'post in', field: 'post' }),
  fc.tuple(fc.constantFrom({}, { within: 'place' as const }, { within: 'department' as const }), whoseUnit).map(
    ([within, of]): SingleRule => ({
      kind: 'role',
      role: 'HR partner',
      ...within,
      ...('within' in within ? of : {}),
    }),
  ),
  fc.constantFrom<SingleRule>({ kind: 'everyone' }, { kind: 'everyone', place: 'ovay' }),
);

export const anyPeople: fc.Arbitrary<PeopleRule> = fc
  .tuple(anyRule, fc.array(anyRule, { maxLength: 2 }), fc.array(anyRule, { maxLength: 1 }))
  .map(([first, otherwise, except]) => ({ first, otherwise, ...(except.length > 0 ? { except } : {}) }));

const conditions = fc.constantFrom(
  'Days > 2',
  'Others away = 0',
  'Days <= 5 and Others away < 3',
  'Kind = "Annual leave"',
  'Urgent = true',
  'Start date > date("2026-03-01")',
  'Days * 2 > 4 or Urgent',
  'not(Urgent)',
);
const amount = fc.oneof(
  fc.integer({ min: 1, max: 9 }).map(workingDays => ({ workingDays })),
  fc.integer({ min: 1, max: 30 }).map(workingHours => ({ workingHours })),
);
const names = fc.constantFrom('Approve', 'Agree', 'Send back', 'Decline', 'Not now', 'Say “yes”', 'A: b; c');

const anyLimit = (outcomes: readonly string[]): fc.Arbitrary<Limit | null> =>
  fc.option(
    fc.record({
      within: fc.oneof(
        amount,
        fc.integer({ min: 0, max: 9 }).map(workingDaysBefore => ({ workingDaysBefore, field: 'start' })),
        fc.constant({ byPlan: true as const }),
      ),
      remind: fc.option(
        fc
          .tuple(amount, fc.option(amount), fc.integer({ min: 1, max: 4 }))
          .map(([after, every, atMost]) => ({ after, ...(every ? { every } : {}), atMost })),
      ),
      atLimit: fc.oneof(
        fc.constantFrom<AtLimit>('wait', 'pass up'),
        anyPeople.map((passTo): AtLimit => ({ passTo })),
        anyPeople.map((tell): AtLimit => ({ tell })),
        ...(outcomes.length > 0 ? [fc.constantFrom(...outcomes).map((take): AtLimit => ({ take }))] : []),
      ),
    }),
  );

/** A place in the plan: what it names by `after` may come later, or not at all. */
const anyPlan = (others: readonly string[]): fc.Arbitrary<{ plan?: InPlan }> =>
  fc.oneof(
    { weight: 2, arbitrary: fc.constant({}) },
    {
      weight: 1,
      arbitrary: fc
        .record({
          takes: fc.integer({ min: 1, max: 9 }),
          daysBefore: fc.option(fc.integer({ min: 1, max: 9 })),
          after: fc.option(fc.uniqueArray(fc.constantFrom(...others, 'nowhere'), { minLength: 1, maxLength: 2 })),
        })
        .map(({ takes, daysBefore, after }) => ({
          plan: { takes, ...(daysBefore ? { daysBefore } : {}), ...(after ? { after } : {}) },
        })),
    },
  );

type Ahead = { steps: readonly string[]; decided: readonly string[] };

const anyGo = ({ steps }: Ahead): fc.Arbitrary<Go> =>
  fc.oneof(
    { weight: 4, arbitrary: fc.constant<Go>({ to: 'next' }) },
    { weight: 1, arbitrary: fc.constantFrom(...steps).map((step): Go => ({ to: 'step', step })) },
    { weight: 2, arbitrary: fc.constantFrom('approved', 'declined').map((closing): Go => ({ to: 'close', closing })) },
  );

const anyOutcomes = (ahead: Ahead): fc.Arbitrary<Outcome[]> =>
  fc.uniqueArray(names, { minLength: 1, maxLength: 3 }).chain(labels =>
    fc.tuple(
      ...labels.map((label, i) =>
        fc
          .record({
            tone: fc.constantFrom('good' as const, 'bad' as const),
            note: fc.constantFrom('none' as const, 'may' as const, 'must' as const),
            go: anyGo(ahead),
            rework: fc.boolean(),
            fields: fc.uniqueArray(fc.constantFrom('dates', 'remark', 'amount'), { minLength: 1, maxLength: 2 }),
            resume: fc.constantFrom(...ahead.steps),
            whom: fc.option(fc.constantFrom(...(ahead.decided.length > 0 ? ahead.decided : ['none']))),
            atMost: fc.integer({ min: 1, max: 4 }),
            needs: fc.option(fc.constant<string[]>(['remark'])),
          })
          .map(({ tone, note, go, rework, fields: open, resume, whom, atMost, needs }): Outcome => {
            const common = { id: `o${i}`, label, note, ...(needs ? { needs } : {}) };
            if (!rework) return { ...common, tone, leads: go };
            const by = whom && whom !== 'none' ? { whom } : {};
            return { ...common, tone: 'rework', leads: { to: 'rework', ...by, fields: open, resume, atMost } };
          }),
      ),
    ),
  );

const anyUntil: fc.Arbitrary<Until> = fc.oneof(
  fc.constantFrom<Until>({ kind: 'date', formula: 'Start date' }, { kind: 'date', formula: 'add days(Start date, 3)' }),
  fc
    .tuple(fc.integer({ min: 0, max: 5 }), fc.constantFrom({}, { at: '17:00' }))
    .map(([workingDays, at]): Until => ({ kind: 'before', workingDays, field: 'start', ...at })),
  fc.constant<Until>({ kind: 'date', formula: 'Start date', at: '08:30' }),
  amount.map((a): Until => ({ kind: 'time', amount: a })),
  fc.constant<Until>({ kind: 'document', field: 'paper' }),
  fc
    .tuple(amount, fc.integer({ min: 1, max: 20 }))
    .map(([every, atMost]): Until => ({ kind: 'document', field: 'paper', remind: { every, atMost } })),
);
const values = fc.constantFrom<{ name: string; formula: string }[]>(
  [{ name: 'Name', formula: 'Remark' }],
  [
    { name: 'Days', formula: 'Days' },
    { name: 'When', formula: 'Start date' },
  ],
);
const anyEffect: fc.Arbitrary<RecordEffect> = fc.oneof(
  fc.boolean().map((planner): RecordEffect => ({ kind: 'book leave', span: 'dates', type: 'kind', planner })),
  fc.constant<RecordEffect>({ kind: 'planner', span: 'dates', label: 'Away' }),
  fc.constantFrom<RecordEffect>(
    { kind: 'adjust', type: 'kind', amount: '-Days' },
    { kind: 'adjust', type: 'kind', amount: 'Days', holder: 'lead' },
  ),
  fc.constant<RecordEffect>({ kind: 'person', property: 'post', formula: 'Post' }),
  values.map((v): RecordEffect => ({ kind: 'add row', list: 'open posts', values: v })),
  values.map((v): RecordEffect => ({ kind: 'change row', row: 'post', values: v })),
  fc.constant<RecordEffect>({ kind: 'set', field: 'remark', formula: '"seen"' }),
  values.map((v): RecordEffect => ({ kind: 'open', workflow: 'annual-leave', values: v })),
);

const when = fc.option(conditions, { freq: 3 });

function anyFlat(id: string, ahead: Ahead): fc.Arbitrary<Step> {
  return fc.oneof(
    fc
      .record({
        when,
        rows: fc.array(fc.tuple(conditions, anyGo(ahead), fc.boolean()), { minLength: 1, maxLength: 3 }),
        otherwise: fc.option(anyGo(ahead), { freq: 6 }),
      })
      .map(
        ({ rows, ...rest }): Step => ({
          verb: 'Choose',
          id,
          ...rest,
          rows: rows.map(([condition, go, sets], i) => ({
            id: `row-${i + 1}`,
            condition,
            ...(sets ? { sets: [{ field: 'remark', formula: '"chosen"' }] } : {}),
            go,
          })),
        }),
      ),
    {
      weight: 3,
      arbitrary: anyOutcomes(ahead).chain(outcomes =>
        fc
          .record({
            when,
            who: anyPeople,
            count: fc.option(
              fc.constantFrom('everyone' as const, 'majority' as const, 'in turn' as const, { atLeast: 1 }),
            ),
            whenAway: fc.constantFrom('waits' as const, 'goes up' as const),
            once: fc.boolean(),
            undecided: fc.option(fc.constantFrom(...outcomes.map(o => o.id))),
            limit: anyLimit(outcomes.map(o => o.id)),
            planned: anyPlan(ahead.steps),
          })
          .map(
            ({ count, once, undecided, planned, ...rest }): Step => ({
              verb: 'Decide',
              id,
              ...rest,
              ...(count ? { count } : {}),
              ...(count && count !== 'in turn' && undecided ? { undecided } : {}),
              ...(once ? { once: true as const } : {}),
              ...planned,
              outcomes,
            }),
          ),
      ),
    },
    {
      weight: 2,
      arbitrary: fc
        .record({
          when,
          who: anyPeople,
          pool: fc.boolean(),
          whenAway: fc.constantFrom('waits' as const, 'goes up' as const),
          task: fc.constantFrom('Book the crossing', 'Lay out the keys'),
          checklist: fc.option(
            fc.constant<{ id: string; label: string }[]>([
              { id: 'keys', label: 'Keys' },
              { id: 'badge', label: 'Badge' },
            ]),
          ),
          limit: anyLimit([]),
          planned: anyPlan(ahead.steps),
          couldNot: fc.option(anyGo(ahead)),
        })
        .map(
          ({ pool, checklist, couldNot, planned, ...rest }): Step => ({
            verb: 'Do',
            id,
            ...rest,
            ...(pool ? { pool: true as const } : {}),
            ...(checklist ? { checklist } : {}),
            ...(couldNot ? { couldNot } : {}),
            ...planned,
          }),
        ),
    },
    fc.record({ when, until: anyUntil }).map((rest): Step => ({ verb: 'Hold', id, ...rest })),
    fc.record({ when, effect: anyEffect }).map((rest): Step => ({ verb: 'Record', id, ...rest })),
    fc
      .record({
        when,
        connection: fc.constantFrom('Directory', 'Stores'),
        action: fc.constantFrom(...provisions),
        values,
        until: fc.boolean(),
      })
      .map(
        ({ until, ...rest }): Step => ({
          verb: 'Provision',
          id,
          ...rest,
          ...(until ? { removeOn: 'Start date' } : {}),
        }),
      ),
    fc
      .record({
        when,
        to: fc.array(anyPeople, { minLength: 1, maxLength: 2 }),
        message: fc.constantFrom('yes', 'no'),
        address: fc.boolean(),
        attach: fc.option(
          fc.constantFrom<Attachment[]>(
            [{ what: 'invitation', of: 'dates', title: 'Away' }],
            [{ what: 'invitation', of: 'start', title: 'A “start”' }],
          ),
        ),
      })
      .map(
        ({ address, attach, ...rest }): Step => ({
          verb: 'Tell',
          id,
          ...rest,
          ...(address ? { addresses: ['ferry@selkie.example'] } : {}),
          ...(attach ? { attach } : {}),
        }),
      ),
  );
}

/** Counted back from the start date, at the place of the post, with somebody to be told. */
const countsBack: Definition['countsBack'] = {
  field: 'start',
  place: 'post',
  tightWithin: 1,
  alert: { workingDays: 4, tell: { first: { kind: 'role', role: 'HR partner' }, otherwise: [] } },
};

/** Some steps and a closing; lanes one level deep. */
export const anyWorkflow: fc.Arbitrary<Definition> = fc.integer({ min: 1, max: 5 }).chain(n => {
  const ids = Array.from({ length: n }, (_, i) => `s${i}`);
  const ahead: Ahead = { steps: [...ids, 'end'], decided: [] };
  const steps = ids.map(id =>
    fc.oneof(
      { weight: 5, arbitrary: anyFlat(id, ahead) },
      {
        weight: 1,
        arbitrary: fc
          .record({
            when,
            needs: fc.constantFrom('all' as const, 'any' as const, 2),
            lanes: fc.tuple(
              fc
                .array(fc.constant(0), { maxLength: 2 })
                .chain(k => fc.tuple(...k.map((_, i) => anyFlat(`${id}a${i}`, ahead)))),
              fc
                .array(fc.constant(0), { maxLength: 2 })
                .chain(k => fc.tuple(...k.map((_, i) => anyFlat(`${id}b${i}`, ahead)))),
            ),
          })
          .map(
            ({ lanes: [a, b], ...rest }): Step => ({
              verb: 'Split',
              id,
              ...rest,
              lanes: [
                { id: 'stores', name: 'Stores', steps: a },
                { id: 'systems', name: 'Systems', steps: b },
              ],
            }),
          ),
      },
    ),
  );
  return fc.tuple(fc.boolean(), ...steps).map(([counts, ...middle]) => ({
    ...base,
    ...(counts ? { countsBack } : {}),
    steps: [{ verb: 'Ask' as const, id: 'ask' }, ...middle, { verb: 'Close' as const, id: 'end', closing: 'approved' }],
  }));
});

export const anyAnswers = fc.record({
  kind: fc.constant('sick'),
  dates: fc
    .constantFrom('2026-02-09', '2026-03-02')
    .map(from => ({ from: { date: from, half: 'am' }, to: { date: '2026-03-06', half: 'pm' } })),
  remark: fc.constantFrom('', 'Rowing'),
  lead: fc.constantFrom(null, 'tom', 'per'),
  amount: fc.constantFrom(1, 250, 9000),
  start: fc.constantFrom('2026-02-16', '2026-05-04'),
  paper: fc.constant(null),
  post: fc.constantFrom(null, 'lead', 'empty'),
  urgent: fc.boolean(),
});
