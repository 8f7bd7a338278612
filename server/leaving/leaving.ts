/** Who comes and who leaves, and what a leaver holds that others must have: handed over together. */
import { randomUUID } from 'node:crypto';
import type { HandedOver, HandOver, HandOverView, MovesView } from '@north-pebble/contract';
import type { OneChange } from '@north-pebble/core/facts';
import {
  type DirectoryIndex,
  holderOf,
  isEmployed,
  isHeldOn,
  mainPost,
  type PersonId,
  type Post,
  personName,
  recordOn,
  reportsTo,
  todayFor,
} from '@north-pebble/core/people';
import { addDays, type CivilDate, fullDate, rangeWords } from '@north-pebble/core/time';
import { type Command, isOpen } from '@north-pebble/core/workflow';
import { and, eq, inArray, isNull, or } from 'drizzle-orm';
import { inLedger, inTransaction, tables as t, waiting } from '../database/index.ts';
import { type House, loadDefinition, raiseDirectoryVersion } from '../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../http/index.ts';
import { previewChange, saveChange } from '../records/index.ts';
import { accessOf, command, loadRequest } from '../requests/index.ts';

type Item = HandOverView['items'][number];

/** How far back and ahead comings and leavings are listed. */
const back = 60;
const ahead = 400;

export async function movesView(house: House, caller: Caller): Promise<MovesView> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const near = (day: CivilDate) => day >= addDays(today, -back) && day <= addDays(today, ahead);
  const lineOf = (id: PersonId, day: CivilDate) => {
    const found = index.person(id);
    const record = found && recordOn(found, day);
    return {
      person: { id, name: personName(index, id) },
      day,
      post: mainPost(index, id, day)?.title ?? null,
      place: index.place(record?.place ?? '')?.name ?? '',
    };
  };
  const { people } = index.directory;
  const leavers = people.filter(one => one.left !== null && near(one.left));
  const leaves = await Promise.all(
    leavers.map(async one => ({
      ...lineOf(one.id, one.left as CivilDate),
      open: (await itemsOf(house, index, one.id, today)).length,
    })),
  );
  const byDay = <T extends { day: CivilDate }>(all: T[]) => all.sort((a, b) => (a.day < b.day ? -1 : 1));
  return {
    today,
    comes: byDay(people.filter(one => near(one.joined) && one.joined >= today).map(one => lineOf(one.id, one.joined))),
    leaves: byDay(leaves),
  };
}

async function itemsOf(house: House, index: DirectoryIndex, person: PersonId, today: CivilDate): Promise<Item[]> {
  const { db } = house;
  const left = index.person(person)?.left ?? null;
  const after = left === null ? today : addDays(left, 1);
  const tasks = await db
    .select({ id: t.tasks.id, request: t.tasks.request, title: t.requests.title })
    .from(t.tasks)
    .innerJoin(t.requests, eq(t.requests.id, t.tasks.request))
    .where(and(eq(t.tasks.holder, person), eq(t.tasks.open, true)));
  const requests = await db
    .select({ id: t.requests.id, title: t.requests.title })
    .from(t.requests)
    .where(
      and(
        inArray(t.requests.status, ['open', 'rework', 'stuck']),
        or(eq(t.requests.owner, person), and(eq(t.requests.asker, person), isNull(t.requests.owner))),
      ),
    );
  const own = index.directory.posts.filter(post =>
    index
      .holdingsOfPost(post.id)
      .some(one => one.person === person && one.main && (one.to === null || one.to >= today)),
  );
  const workflows = await db.select().from(t.workflows);
  const kept = workflows.filter(row => Object.values(row.permissions ?? {}).some(all => all.includes(person)));
  const names = new Map<string, string>();
  for (const row of kept)
    names.set(row.id, row.draft?.name ?? (await loadDefinition(db, row.id, row.liveVersion ?? 1)).name);
  const whereOf = (id: string | null | undefined, all: readonly { id: string; name: string }[]) =>
    id ? ` for ${all.find(one => one.id === id)?.name ?? id}` : '';
  const { places, departments, roles, covers } = index.directory;
  /** Posts of one title are told apart by who holds them. */
  const standingOf = (post: Post) => {
    const found = holderOf(index, post, after);
    return 'person' in found ? `held by ${found.person.name}` : 'vacant';
  };
  return [
    ...tasks.map(
      (one): Item => ({
        what: 'task',
        id: one.id,
        title: one.title,
        otherwise: 'It stays with them until somebody is named.',
        link: `/requests/${one.request}`,
      }),
    ),
    ...requests.flatMap(({ id, title }): Item[] =>
      id === null
        ? []
        : [
            {
              what: 'request',
              id,
              title: `Owns ${title}`,
              otherwise: 'It goes to whom its workflow names, else to HR operations.',
              link: `/requests/${id}`,
            },
          ],
    ),
    ...roles
      .filter(one => one.person === person && isHeldOn(one, after))
      .map(
        (one): Item => ({
          what: 'role',
          id: JSON.stringify([one.role, one.place ?? null, one.department ?? null]),
          title: `${one.role}${whereOf(one.place, places)}${whereOf(one.department, departments)}`,
          otherwise: 'What is asked of the role goes to the others who have it, or to nobody.',
          link: null,
        }),
      ),
    ...covers
      .filter(one => one.by === person && one.to >= after)
      .map(
        (one): Item => ({
          what: 'cover',
          id: `${one.person} ${one.from}`,
          title: `Stands in for ${personName(index, one.person)}, ${rangeWords(one.from, one.to, Number.NaN)}`,
          otherwise: 'Nobody stands in.',
          link: null,
        }),
      ),
    ...(await house.lists(db))
      .filter(one => one.owners?.includes(person))
      .map(
        (one): Item => ({
          what: 'list',
          id: one.id,
          title: `Owns the list ${one.name}`,
          otherwise: 'HR operations edits it alone.',
          link: '/house/lists',
        }),
      ),
    ...kept.map(
      (row): Item => ({
        what: 'workflow',
        id: row.id,
        title: `Is named among those who keep or see ${names.get(row.id) ?? row.id}`,
        otherwise: 'Those who are named beside them keep it.',
        link: `/workflows/${row.id}`,
      }),
    ),
    ...own.flatMap(post =>
      index.postsUnder(post.id).flatMap((under): Item[] =>
        reportsTo(under, after) === post.id
          ? [
              {
                what: 'report',
                id: under.id,
                title: `${under.title}, ${standingOf(under)}, reports to ${post.title}`,
                otherwise: 'While the post is vacant, what comes to it goes up the line.',
                link: '/people/lines',
              },
            ]
          : [],
      ),
    ),
  ];
}

export async function handOverView(house: House, caller: Caller, person: PersonId): Promise<HandOverView> {
  const { index, now } = await house.moment(house.db);
  const found = index.person(person);
  if (!found) throw notFound();
  const today = todayFor(index, caller.id, now);
  return {
    person: { id: person, name: found.name },
    left: found.left,
    today,
    items: await itemsOf(house, index, person, today),
    access: await accessOf(house.db, person),
  };
}

/** Facts go together in one change; each task is a command of its request, and says why where it cannot be. */
export async function handOver(house: House, caller: Caller, person: PersonId, input: HandOver): Promise<HandedOver> {
  const { db } = house;
  const { index, now, lists } = await house.moment(db);
  const from = index.person(person);
  const to = index.person(input.to);
  if (!from) throw notFound();
  const today = todayFor(index, caller.id, now);
  const after = from.left === null || from.left < today ? today : addDays(from.left, 1);
  if (!to || to.id === person || !isEmployed(to, after))
    throw refusedField('to', `Choose somebody who works here on ${fullDate(after)}.`);
  if (person === caller.id || to.id === caller.id)
    throw new ProblemError('not allowed', 'What is yours, or becomes yours, is handed over by somebody else.');
  const all = await itemsOf(house, index, person, today);
  const wanted = input.items.map(({ what, id }) => {
    const item = all.find(one => one.what === what && one.id === id);
    if (!item) throw new ProblemError('stale', 'Some of it is theirs no more. Look at what is left.');
    return item;
  });
  const stayed: HandedOver['stayed'][number][] = [];
  const stays = ({ what, id, title }: Item, why: string) => stayed.push({ what, id, title, why });
  const changes: OneChange[] = [];
  const post = mainPost(index, to.id, after);
  for (const item of wanted) {
    if (item.what === 'role') {
      const [role, place, department] = JSON.parse(item.id) as [string, string | null, string | null];
      const held = index.directory.roles.find(
        one =>
          one.role === role &&
          one.person === person &&
          (one.place ?? null) === place &&
          (one.department ?? null) === department,
      );
      const own = { what: 'role', role, place, department } as const;
      // Whoever leaves has it until the last day; the other has it from the day after.
      changes.push({ ...own, person, from: held?.from ?? null, to: addDays(after, -1), held: true });
      changes.push({ ...own, person: to.id, from: after, to: held?.to ?? null, held: true });
    }
    if (item.what === 'list') {
      const list = lists.find(one => one.id === item.id);
      if (!list) continue;
      const owners = [...new Set([...(list.owners ?? []).filter(one => one !== person), to.id])];
      changes.push({ what: 'list', list: { id: list.id, name: list.name, columns: [...list.columns], owners } });
    }
    if (item.what === 'report') {
      if (!post) stays(item, `${to.name} holds no post that it could report to.`);
      else if (post.id === item.id) stays(item, 'A post does not report to itself.');
      else changes.push({ what: 'line', post: item.id, from: after, reportsTo: post.id });
    }
  }
  if (changes.length > 0) {
    const change = { what: 'several', changes } as const;
    const { digest } = await previewChange(house, caller, change);
    await saveChange(house, caller, { change, reason: input.reason, digest });
  }
  await inTransaction(db, async tx => {
    const covers = wanted.filter(one => one.what === 'cover');
    for (const item of covers) {
      const [whose = '', day = ''] = item.id.split(' ');
      const barred = whose === to.id ? 'Nobody stands in for themselves.' : null;
      if (barred) {
        stays(item, barred);
        continue;
      }
      await tx
        .update(t.covers)
        .set({ by: to.id, setBy: caller.id })
        .where(and(eq(t.covers.person, whose), eq(t.covers.from, day), eq(t.covers.by, person)));
      await inLedger(tx, { what: 'cover', keys: [{ person: whose, from: day }] });
    }
    if (covers.length > 0) await raiseDirectoryVersion(tx);
    const workflows = wanted.filter(one => one.what === 'workflow').map(one => one.id);
    const rows =
      workflows.length === 0
        ? []
        : await tx.select().from(t.workflows).where(inArray(t.workflows.id, workflows)).for('update');
    for (const { id, permissions } of rows) {
      if (!permissions) continue;
      const instead = (all: string[]) =>
        all.includes(person) ? [...new Set(all.map(one => (one === person ? to.id : one)))] : all;
      const { edit, publish, see } = permissions;
      await tx
        .update(t.workflows)
        .set({ permissions: { edit: instead(edit), publish: instead(publish), see: instead(see) } })
        .where(eq(t.workflows.id, id));
    }
    await inLedger(tx, { what: 'workflow', keys: rows.map(({ id }) => ({ id })) });
  });
  for (const item of wanted.filter(one => one.what === 'task')) {
    const why = await giveTask(house, caller, item, to.id, input.reason);
    if (why !== null) stays(item, why);
  }
  for (const item of wanted.filter(one => one.what === 'request')) {
    const why = await giveRequest(house, caller, item.id, to.id, input.reason);
    if (why !== null) stays(item, why);
  }
  const done = wanted.filter(item => !stayed.some(one => one.what === item.what && one.id === item.id));
  if (done.length > 0) {
    const date = fullDate(after);
    await db.insert(t.effects).values({
      key: `hand over:${randomUUID()}`,
      ...waiting,
      writtenAt: now,
      payload: {
        to: to.id,
        subject: `What ${from.name} hands over to you`,
        body: [
          `${personName(index, caller.id)} gave you what ${from.name} held. Roles and reporting lines are yours from ${date}, the rest at once.`,
          done.map(item => `- ${item.title}`).join('\n'),
          `Why: ${input.reason}`,
        ].join('\n\n'),
      },
    });
    house.wake();
  }
  return { done: done.length, stayed };
}

/** @returns why the task stays; nothing once it is theirs */
async function giveTask(house: House, caller: Caller, item: Item, to: PersonId, note: string): Promise<string | null> {
  const request = item.link?.split('/').at(-1) ?? '';
  const stored = await loadRequest(house.db, request);
  const task = stored?.state.tasks.find(one => one.id === item.id);
  if (!stored || !task) return 'It is open no more.';
  return tried(house, caller, request, {
    ...{ kind: 'appoint', seen: stored.state.version },
    ...{ step: task.step, task: task.id, to, note },
  });
}

/** @returns why the request stays; nothing once they look after it */
async function giveRequest(
  house: House,
  caller: Caller,
  request: string,
  to: PersonId,
  note: string,
): Promise<string | null> {
  const stored = await loadRequest(house.db, request);
  if (!stored || !isOpen(stored.state)) return 'It is open no more.';
  return tried(house, caller, request, { kind: 'change owner', seen: stored.state.version, to, note });
}

/** @returns why a command is refused; nothing where it was carried out */
async function tried(house: House, caller: Caller, request: string, wanted: Command): Promise<string | null> {
  try {
    await command(house, caller, request, { id: randomUUID(), command: wanted });
    return null;
  } catch (fault) {
    if (fault instanceof ProblemError) return fault.message;
    throw fault;
  }
}
