/** The register of papers: who may see which, what is shown of it, and looks that are kept. */
import { type FindPapers, may, type PaperRow, type PaperRulesInput, type PapersView } from '@north-pebble/contract';
import { masked } from '@north-pebble/core/form';
import {
  byMonth,
  forgottenOn,
  type KeptPaper,
  monthShown,
  type PaperRules,
  usualRules,
} from '@north-pebble/core/papers';
import { type DirectoryIndex, latestDay, type PersonId, todayFor } from '@north-pebble/core/people';
import { type CivilDate, type Instant, toDay } from '@north-pebble/core/time';
import { workplaceOf } from '@north-pebble/core/workflow';
import { and, asc, count, desc, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import { maySeePaper, type Workplace } from '../access/index.ts';
import { type Executor, inLedger, inTransaction, tables as t } from '../database/index.ts';
import { type House, loadDefinition } from '../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../http/index.ts';

export type Paper = typeof t.papers.$inferSelect;

export async function rulesByKind(db: Executor): Promise<Map<string, PaperRules>> {
  const rows = await db.select().from(t.paperRules).orderBy(asc(t.paperRules.kind));
  return new Map(rows.map(row => [row.kind, row.rules]));
}

/** The day on which a request was withdrawn: whoever was to come and did not is not waited for. */
export const withdrawnOn = (request: { status: string; closedAt: string | null } | null): CivilDate | null =>
  request?.status === 'withdrawn' ? ((request.closedAt?.slice(0, 10) as CivilDate | undefined) ?? null) : null;

export const keptOf = (paper: Paper, index: DirectoryIndex, never: CivilDate | null): KeptPaper => ({
  kind: paper.kind,
  keptOn: paper.keptOn as CivilDate,
  expires: paper.expires as CivilDate | null,
  replacedOn: paper.replacedOn as CivilDate | null,
  leftOn: (paper.person === null ? never : index.person(paper.person as PersonId)?.left) ?? null,
  asked: paper.renewal !== null,
  reminded: paper.reminded,
});

/** A paper runs out soon when the new one is to be asked for by now. */
function stateOf(paper: Paper, rules: PaperRules, today: CivilDate): PaperRow['state'] {
  if (paper.forgottenOn !== null) return 'thrown away';
  if (paper.replacedOn !== null) return 'replaced';
  if (paper.expires === null) return 'good';
  const left = toDay(paper.expires as CivilDate) - toDay(today);
  return left < 0 ? 'ran out' : left <= rules.askBefore ? 'runs out' : 'good';
}

const mostRows = 300;

export async function papersView(house: House, caller: Caller, query: FindPapers): Promise<PapersView> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const all = await db
    .select({
      paper: t.papers,
      number: t.paperNumbers.number,
      request: { status: t.requests.status, closedAt: t.requests.closedAt },
    })
    .from(t.papers)
    .leftJoin(t.requests, eq(t.requests.id, t.papers.request))
    .leftJoin(t.paperNumbers, eq(t.paperNumbers.file, t.papers.file))
    .orderBy(asc(t.papers.expires), asc(t.papers.id));
  const workplaces = await workplacesOf(
    house,
    all.flatMap(({ paper }) => (paper.person === null ? [paper.request] : [])),
  );
  const seen = all.filter(({ paper }) => maySeePaper(caller, ofPaper(paper, workplaces), index, today));
  const current = seen.filter(({ paper }) => paper.forgottenOn === null && paper.replacedOn === null);
  const words = query.words.toLowerCase();
  const inMonth = (expires: string | null) =>
    query.month === '' || (expires !== null && monthShown(expires as CivilDate, today) === query.month);
  const found = (query.which === 'now' ? current : seen).filter(
    ({ paper }) =>
      (query.kind === '' || paper.kind === query.kind) &&
      inMonth(paper.expires) &&
      (words === '' || `${paper.holder} ${paper.kind}`.toLowerCase().includes(words)),
  );
  // What never runs out stands last.
  found.sort((a, b) => (a.paper.expires ?? '9').localeCompare(b.paper.expires ?? '9'));
  const rules = await rulesByKind(db);
  const shown = found.slice(0, mostRows);
  const looks = await looksOf(
    db,
    shown.map(({ paper }) => paper.id),
  );
  return {
    today,
    rows: shown.map(({ paper, number, request }) => {
      const own = rules.get(paper.kind) ?? usualRules(paper.kind);
      return {
        id: paper.id,
        holder: paper.holder,
        isMine: paper.person === caller.id,
        person: paper.person as PersonId | null,
        kind: paper.kind,
        number: number === null ? null : masked(number),
        issued: paper.issued as CivilDate | null,
        expires: paper.expires as CivilDate | null,
        keptOn: paper.keptOn as CivilDate,
        request: paper.request,
        state: stateOf(paper, own, today),
        replacedOn: paper.replacedOn as CivilDate | null,
        forgottenOn: paper.forgottenOn as CivilDate | null,
        forgetOn: paper.forgottenOn === null ? forgottenOn(keptOf(paper, index, withdrawnOn(request)), own) : null,
        renewal: paper.renewal,
        looks: looks.get(paper.id) ?? 0,
      };
    }),
    more: found.length - shown.length,
    months: byMonth(
      current.map(({ paper }) => ({ expires: paper.expires as CivilDate | null })),
      today,
    ),
    kinds: [...new Set(seen.map(({ paper }) => paper.kind))].sort(),
    rules: [...new Set([...seen.map(({ paper }) => paper.kind), ...rules.keys()])]
      .sort()
      .map(kind => rules.get(kind) ?? usualRules(kind)),
    workflows: may(caller, 'rule papers') ? await renewals(house) : [],
    mayRule: may(caller, 'rule papers'),
  };
}

async function looksOf(db: Executor, ids: readonly number[]): Promise<Map<number, number>> {
  if (ids.length === 0) return new Map();
  const rows = await db
    .select({ paper: t.paperLooks.paper, n: count() })
    .from(t.paperLooks)
    .where(inArray(t.paperLooks.paper, [...ids]))
    .groupBy(t.paperLooks.paper);
  return new Map(rows.map(row => [row.paper, row.n]));
}

/** Live workflows, to choose in which one a new paper is asked for. */
async function renewals({ db }: House): Promise<{ id: string; name: string }[]> {
  const rows = await db
    .select({ id: t.workflows.id, version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(and(isNotNull(t.workflows.liveVersion), isNull(t.workflows.archivedAt)));
  const found = await Promise.all(
    rows.map(async ({ id, version }) => ({ id, name: (await loadDefinition(db, id, version ?? 0)).name })),
  );
  return found.sort((a, b) => a.name.localeCompare(b.name));
}

const ofPaper = (paper: Paper, workplaces: ReadonlyMap<string, Workplace>) => ({
  person: paper.person as PersonId | null,
  workplace: workplaces.get(paper.request),
});

/** Where those will work who are not on file yet, by the request with which their papers came. */
async function workplacesOf(house: House, requests: readonly string[]): Promise<Map<string, Workplace>> {
  if (requests.length === 0) return new Map();
  const { db } = house;
  const { index, lists, now } = await house.moment(db);
  const rows = await db
    .select({
      id: t.requests.id,
      workflow: t.requests.workflow,
      version: t.requests.workflowVersion,
      state: t.requests.state,
    })
    .from(t.requests)
    .where(inArray(t.requests.id, [...new Set(requests)]));
  const day = latestDay(index, now);
  const found = await Promise.all(
    rows.map(async ({ id, workflow, version, state }) => {
      const definition = await loadDefinition(db, workflow, version);
      return [id ?? '', workplaceOf(definition, state.answers, { index, lists }, day)] as const;
    }),
  );
  return new Map(found);
}

/** A paper that the caller may see; whoever may not is not even told that it exists. */
export async function paperFor(house: House, caller: Caller, id: number): Promise<Paper> {
  const [paper] = await house.db.select().from(t.papers).where(eq(t.papers.id, id));
  const { index, now } = await house.moment(house.db);
  if (!paper) throw notFound();
  const workplaces = await workplacesOf(house, paper.person === null ? [paper.request] : []);
  if (!maySeePaper(caller, ofPaper(paper, workplaces), index, todayFor(index, caller.id, now))) throw notFound();
  return paper;
}

/** Keeps that somebody looked, before they see it; one’s own papers are looked at by oneself. */
export async function keepLook(house: House, caller: Caller, paper: Paper, what: 'number' | 'file'): Promise<void> {
  if (paper.person === caller.id && !caller.seenBy) return;
  const at = await house.now(house.db);
  await inTransaction(house.db, async tx => {
    const [{ insertId: id }] = await tx
      .insert(t.paperLooks)
      .values({ paper: paper.id, person: caller.seenBy ?? caller.id, what, at });
    await inLedger(tx, { what: 'look at a paper', keys: [{ id }] });
  });
}

export async function numberOf(house: House, caller: Caller, id: number): Promise<{ number: string | null }> {
  const paper = await paperFor(house, caller, id);
  const [row] = await house.db.select().from(t.paperNumbers).where(eq(t.paperNumbers.file, paper.file));
  if (row) await keepLook(house, caller, paper, 'number');
  return { number: row?.number ?? null };
}

export async function looksAt(house: House, caller: Caller, id: number) {
  await paperFor(house, caller, id);
  const index = await house.directory(house.db);
  const rows = await house.db
    .select()
    .from(t.paperLooks)
    .where(eq(t.paperLooks.paper, id))
    .orderBy(desc(t.paperLooks.id))
    .limit(100);
  return rows.map(({ person, what, at }) => ({
    who: index.person(person as PersonId)?.name ?? person,
    what,
    at: at as Instant,
  }));
}

export async function setRules(house: House, input: PaperRulesInput): Promise<void> {
  const rules: PaperRules = { ...input, remindBefore: [...new Set(input.remindBefore)].sort((a, b) => b - a) };
  await house.db.insert(t.paperRules).values({ kind: rules.kind, rules }).onDuplicateKeyUpdate({ set: { rules } });
}

/**
 * Papers of somebody who came and is on file now become theirs: all that were given with the same request under the same
 * name. Papers of somebody on file stay where they are, so nobody can take another's.
 */
export async function setHolder(house: House, caller: Caller, id: number, person: PersonId): Promise<void> {
  const paper = await paperFor(house, caller, id);
  const { index, now } = await house.moment(house.db);
  const holder = index.person(person);
  if (!holder) throw refusedField('person', 'Nobody on file has this name.');
  const theirs = { person, workplace: undefined };
  if (!maySeePaper(caller, theirs, index, todayFor(index, caller.id, now)) || person === caller.id)
    throw new ProblemError('not allowed', 'Whose papers these are is said by those who look after that person.');
  await inTransaction(house.db, async tx => {
    const rows = await tx
      .select({ id: t.papers.id })
      .from(t.papers)
      .where(and(eq(t.papers.request, paper.request), eq(t.papers.holder, paper.holder), isNull(t.papers.person)))
      .for('update');
    if (!rows.some(row => row.id === id))
      throw new ProblemError('stale', 'Somebody has said already whose this is. Look at it as it is now.');
    const ids = rows.map(row => row.id);
    await tx.update(t.papers).set({ person, holder: holder.name }).where(inArray(t.papers.id, ids));
    const looks: { id: number }[] = [];
    for (const one of ids) {
      const [{ insertId: look }] = await tx
        .insert(t.paperLooks)
        .values({ paper: one, person: caller.id, what: 'holder' as const, at: now });
      looks.push({ id: look });
    }
    await inLedger(tx, { what: 'look at a paper', keys: looks });
  });
}
