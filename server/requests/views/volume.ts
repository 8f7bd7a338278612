/** Requests of one workflow added up: how many, and their amounts, by department, person, month or a field of the form. */
import { type AskVolume, type VolumeView, volumeBy } from '@north-pebble/contract';
import { answerWords, type Field } from '@north-pebble/core/form';
import { isAmount } from '@north-pebble/core/formula';
import { type PersonId, recordOn, todayFor, zoneFor } from '@north-pebble/core/people';
import { type CivilDate, civilDateAt, type Instant, toDay, toInstant, wallClock } from '@north-pebble/core/time';
import { type Definition, figuresForEverybody, isForEverybody, isGuarded, naming } from '@north-pebble/core/workflow';
import { and, desc, eq, gte, isNotNull, isNull, lt, sql } from 'drizzle-orm';
import { workflowRights } from '../../access/index.ts';
import { tables as t } from '../../database/index.ts';
import { type House, loadDefinition, type Moment, rulesFor } from '../../house/index.ts';
import { type Caller, notFound, refusedField } from '../../http/index.ts';

/** The newest of them, where there are very many. */
const mostLookedAt = 20_000;

const grouping: readonly Field['kind'][] = ['pick', 'choice', 'yes/no', 'person', 'text'];
const numeric: readonly Field['kind'][] = ['money', 'whole number', 'decimal', 'scale'];
const byWords = { department: 'Department', person: 'Person', month: 'Month' } as const;

/** What only some may read is added up for nobody. */
const offersOf = (definition: Definition, { lists }: Moment) => ({
  by: [
    ...volumeBy.map(id => ({ id: id as string, label: byWords[id] as string })),
    ...definition.form.fields
      .filter(field => grouping.includes(field.kind) && isForEverybody(definition, field))
      .map(({ id, label }) => ({ id, label })),
  ],
  of: [
    ...figuresForEverybody(definition, lists)
      .filter(figure => ['money', 'number', 'days', 'hours'].includes(figure.unit))
      .map(f => ({ id: f.id, label: f.name })),
    ...definition.form.fields
      .filter(
        field =>
          numeric.includes(field.kind) &&
          (isForEverybody(definition, field) || (field.askerReads && !isGuarded(field))),
      )
      .map(({ id, label }) => ({ id, label })),
  ],
});

type Row = {
  asker: string;
  subject: string | null;
  outside: string | null;
  askedAt: Instant;
  group: unknown;
  parts: unknown[];
};

/** A field of money holds a number, in the currency of the field. */
const currencyFor = ({ form }: Definition, id: string): string | null => {
  const field = form.fields.find(one => one.id === id);
  return field?.kind === 'money' ? field.currency : null;
};

const parsed = (value: unknown): unknown => {
  if (typeof value !== 'string') return value;
  try {
    return JSON.parse(value);
  } catch {
    return value;
  }
};

/** Sums by currency; a plain number has none. */
class Adding {
  readonly #sums = new Map<string, Map<string | null, { sum: number; held: number }>>();
  readonly #currencies: readonly (string | null)[];
  requests = 0;
  constructor(currencies: readonly (string | null)[]) {
    this.#currencies = currencies;
  }
  add(ids: readonly string[], parts: readonly unknown[]): void {
    this.requests++;
    ids.forEach((id, n) => {
      const value = parts[n];
      const [currency, amount] = isAmount(value)
        ? [value.currency, value.amount]
        : [this.#currencies[n] ?? null, value];
      if (typeof amount !== 'number') return;
      const sums = this.#sums.get(id) ?? new Map<string | null, { sum: number; held: number }>();
      const { sum, held } = sums.get(currency) ?? { sum: 0, held: 0 };
      sums.set(currency, { sum: sum + amount, held: held + 1 });
      this.#sums.set(id, sums);
    });
  }
  get sums(): VolumeView['total']['sums'] {
    return Object.fromEntries(
      [...this.#sums].map(([id, sums]) => [
        id,
        // Hundredths that binary numbers do not hold are put right at the end, once.
        [...sums].map(([currency, { sum, held }]) => ({ currency, sum: Math.round(sum * 1e6) / 1e6, held })),
      ]),
    );
  }
}

export async function volumeView(house: House, caller: Caller, ask: AskVolume): Promise<VolumeView> {
  const { db } = house;
  const [live] = await db
    .select({ version: t.workflows.liveVersion, permissions: t.workflows.permissions })
    .from(t.workflows)
    .where(and(eq(t.workflows.id, ask.workflow), isNull(t.workflows.archivedAt)));
  // Whoever may not see a workflow learns nothing of its shape from sums either.
  if (!live?.version || !workflowRights(caller, live.permissions).see) throw notFound();
  const definition = await loadDefinition(db, ask.workflow, live.version);
  const moment = await house.moment(db);
  const offers = offersOf(definition, moment);
  if (!offers.by.some(one => one.id === ask.by)) throw refusedField('by', 'Requests are not told apart by this.');
  const strange = ask.of.find(id => !offers.of.some(one => one.id === id));
  if (strange !== undefined) throw refusedField('of', 'This cannot be added up.');
  const zone = zoneFor(moment.index, caller.id, moment.now);
  const begins = (day: CivilDate, later = 0) => toInstant(wallClock(toDay(day) + later, 0, zone));
  const isField = !(volumeBy as readonly string[]).includes(ask.by);
  const at = (id: string) =>
    sql<unknown>`json_extract(${t.requests.state}, ${definition.figures.some(f => f.id === id) ? `$.figures."${id}"` : `$.answers."${id}"`})`;
  const rows = await db
    .select({
      asker: t.requests.asker,
      subject: t.requests.subject,
      outside: sql<string | null>`json_value(${t.requests.state}, '$.outside.name')`,
      askedAt: t.requests.askedAt,
      group: isField ? at(ask.by) : sql<unknown>`null`,
      ...Object.fromEntries(ask.of.map((id, n) => [`part${n}`, at(id)])),
    })
    .from(t.requests)
    .where(
      and(
        isNotNull(t.requests.id),
        eq(t.requests.workflow, ask.workflow),
        ask.from ? gte(t.requests.askedAt, begins(ask.from)) : undefined,
        ask.to ? lt(t.requests.askedAt, begins(ask.to, 1)) : undefined,
      ),
    )
    .orderBy(desc(t.requests.number))
    .limit(mostLookedAt + 1);
  const groups = new Map<string, Adding>();
  const currencies = ask.of.map(id => currencyFor(definition, id));
  const total = new Adding(currencies);
  const groupOf = grouper(definition, ask.by, moment, await rulesFor(db, moment.index), zone);
  for (const found of rows.slice(0, mostLookedAt) as unknown as (Row & Record<string, unknown>)[]) {
    const parts = ask.of.map((_, n) => parsed(found[`part${n}`]));
    const group = groupOf({ ...found, group: parsed(found.group), parts });
    const adding = groups.get(group) ?? new Adding(currencies);
    groups.set(group, adding);
    adding.add(ask.of, parts);
    total.add(ask.of, parts);
  }
  return {
    rows: [...groups]
      .map(([group, adding]) => ({ group, requests: adding.requests, sums: adding.sums }))
      .toSorted((a, b) =>
        ask.by === 'month' ? b.group.localeCompare(a.group) : b.requests - a.requests || a.group.localeCompare(b.group),
      ),
    total: { requests: total.requests, sums: total.sums },
    ...offers,
    lookedAt: rows.length > mostLookedAt ? mostLookedAt : null,
  };
}

function grouper(
  definition: Definition,
  by: string,
  { index, lists, now }: Moment,
  rules: Awaited<ReturnType<typeof rulesFor>>,
  zone: string,
): (row: Row) => string {
  const whom = (row: Row) => index.person((row.subject ?? row.asker) as PersonId);
  switch (by) {
    case 'month':
      return row => civilDateAt(row.askedAt, zone).slice(0, 7);
    case 'person':
      return row => row.outside ?? whom(row)?.name ?? row.asker;
    case 'department':
      return row => {
        const person = row.outside === null ? whom(row) : undefined;
        if (!person) return 'From outside';
        const { department } = recordOn(person, todayFor(index, person.id, row.askedAt as Instant));
        return index.department(department)?.name ?? department;
      };
    default: {
      const field = definition.form.fields.find(one => one.id === by);
      const names = naming({ index, lists, book: { ...rules, today: civilDateAt(now, zone) } });
      return row => {
        const empty = row.group === null || row.group === undefined || row.group === '';
        return empty || !field ? 'Nothing' : answerWords(field, row.group as never, names);
      };
    }
  }
}
